package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import pantry.model.AttachedData;
import pantry.model.AttachedData.Kind;
import pantry.usd.Value;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaWriter;

/**
 * Reads what prims carry besides what is drawn: UsdPhysics, sounds, scripts and other data of programs, as custom properties and
 * custom data.
 */
public final class UsdAttachedData {
    /** Names by which programs call what they run. */
    public static final Predicate<String> SCRIPTS = Pattern.compile(
                    "(?i).*(script|expression|callback|python|javascript).*")
            .asMatchPredicate();

    private static final String PHYSICS = "physics:";

    /** As much is told of a stage, and of a value. */
    private static final int MOST = 500;

    private static final int LONGEST = 400;

    private final List<AttachedData> found = new ArrayList<>();

    private UsdAttachedData() {}

    /** What a stage's prims carry, kind by kind, at most some hundred pieces. */
    public static List<AttachedData> of(Stage stage) {
        UsdAttachedData data = new UsdAttachedData();
        stage.forEachPrim(data::collect);
        return data.found.stream()
                .sorted(Comparator.comparing(AttachedData::kind))
                .limit(MOST)
                .toList();
    }

    private void collect(Prim prim) {
        if (found.size() >= MOST || prim.typeName().equals("Shader")) {
            // Shaders keep what formats say of images there.
            return;
        }
        physics(prim);
        if (prim.typeName().equals("SpatialAudio")) {
            add(
                    Kind.SOUND,
                    prim,
                    "sound",
                    prim.attribute("filePath").map(UsdAttachedData::text).orElse(""));
        }
        for (String name : prim.propertyNames()) {
            if (!name.startsWith(PHYSICS)) {
                prim.attribute(name)
                        .filter(Attribute::custom)
                        .ifPresent(
                                attribute -> add(kind(name), prim, UsdCustomValues.said(prim, name), text(attribute)));
            }
        }
        if (prim.metadata("customData").orElse(null)
                instanceof Value.Dictionary(Map<String, Value.Dictionary.Entry> entries)) {
            entries.forEach((name, entry) -> add(kind(name), prim, name, shortened(entry.type(), entry.value())));
        }
    }

    private static Kind kind(String name) {
        return SCRIPTS.test(name) ? Kind.SCRIPT : Kind.DATA;
    }

    private void physics(Prim prim) {
        List<String> what = new ArrayList<>();
        if (prim.typeName().startsWith("Physics")) {
            what.add(words(prim.typeName()));
        }
        prim.apiSchemas().stream()
                .filter(schema -> schema.startsWith("Physics"))
                .map(schema -> words(schema.replaceFirst("API(:.*)?$", "")))
                .forEach(what::add);
        String told = prim.propertyNames().stream()
                .filter(name -> name.startsWith(PHYSICS))
                .flatMap(name -> prim.attribute(name).stream()
                        .filter(attribute -> attribute.value().isPresent())
                        .map(attribute -> name.substring(PHYSICS.length()) + " " + text(attribute)))
                .collect(Collectors.joining(", "));
        if (!what.isEmpty() || !told.isEmpty()) {
            add(Kind.PHYSICS, prim, what.isEmpty() ? "physics" : String.join(", ", what), told);
        }
    }

    /** {@code PhysicsRevoluteJoint} as {@code revolute joint}. */
    private static String words(String schema) {
        return schema.substring("Physics".length())
                .replaceAll("(?<=[a-z])(?=[A-Z])", " ")
                .toLowerCase(java.util.Locale.ROOT);
    }

    private static String text(Attribute attribute) {
        return attribute
                .value()
                .map(value -> shortened(attribute.typeName(), value))
                .orElse("");
    }

    private static String shortened(String type, Value value) {
        String text = value instanceof Value.Text(String plain) ? plain : UsdaWriter.write(type, value);
        return text.length() <= LONGEST ? text : text.substring(0, LONGEST) + "…";
    }

    private void add(Kind kind, Prim prim, String name, String text) {
        found.add(new AttachedData(kind, prim.text("displayName").orElse(prim.name()), name, text));
    }
}
