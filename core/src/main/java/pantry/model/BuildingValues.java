package pantry.model;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.Names;

/** What a building's file says of its parts (IFC), among what is kept of it as {@link CustomValue}s. */
public final class BuildingValues {
    /** The name of the value by which a part says what it is: {@code wall}, {@code building storey}. */
    public static final String KIND = "kind";

    /** The name of the value with the identifier that a part has in every file of the building. */
    public static final String IDENTIFIER = "identifier";

    private static final String STOREY = "building storey";

    /** What holds parts, or is none. */
    private static final Set<String> AROUND = Set.of("project", "site", "building", STOREY, "opening", "space");

    private BuildingValues() {}

    /** The kinds of its parts, those first of which there are most; none of what is no building. */
    public static List<String> kinds(List<CustomValue> values) {
        return parts(values).entrySet().stream()
                .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
                .map(Map.Entry::getKey)
                .toList();
    }

    /** What is told of a building on a card: its storeys, in the file's order, and how many parts of each kind it has. */
    public static Map<String, String> told(List<CustomValue> values) {
        Map<String, String> told = new LinkedHashMap<>();
        String storeys = of(values)
                .filter(value -> value.value().equals(STOREY))
                .map(CustomValue::object)
                .collect(Collectors.joining(", "));
        String parts = parts(values).entrySet().stream()
                .map(kind -> Names.counted(kind.getValue(), kind.getKey()))
                .collect(Collectors.joining(", "));
        if (!storeys.isEmpty()) {
            told.put("storeys", storeys);
        }
        if (!parts.isEmpty()) {
            told.put("parts", parts);
        }
        return told;
    }

    private static Map<String, Integer> parts(List<CustomValue> values) {
        Map<String, Integer> parts = new TreeMap<>();
        of(values)
                .filter(value -> !AROUND.contains(value.value().toString()))
                .forEach(value -> parts.merge(value.value().toString(), 1, Integer::sum));
        return parts;
    }

    /** What its parts say that they are; files of other things may say a kind, but hardly with an identifier. */
    private static Stream<CustomValue> of(List<CustomValue> values) {
        Set<String> identified = values.stream()
                .filter(value -> value.name().equals(IDENTIFIER))
                .map(CustomValue::object)
                .collect(Collectors.toSet());
        return values.stream().filter(value -> value.name().equals(KIND) && identified.contains(value.object()));
    }
}
