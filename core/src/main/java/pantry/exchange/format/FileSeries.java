package pantry.exchange.format;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.base.NaturalOrder;

/**
 * Files that are one thing in several states, such as {@code door_shut} and {@code door_open}, or at several levels of detail,
 * such as {@code rock_LOD0} and {@code rock_LOD1}, told by their names: of one folder and one format, and the same but for that
 * word at the end. The words are common practice.
 *
 * @param set of variants that they become: {@link #STATE} or {@link #DETAIL}
 * @param title what all names have in common, as a title
 * @param members the files by the names of their variants; the first is shown where nothing is chosen
 */
public record FileSeries(String set, String title, Map<String, Path> members) {
    /** The variant set of states. */
    public static final String STATE = "state";

    /** The variant set of levels of detail, the same as of those that Pantry makes. */
    public static final String DETAIL = "detail";

    /** The finest level of detail. */
    private static final String FULL = "full";

    private static final int MOST_BESIDE = 5000;
    private static final int MOST_MEMBERS = 16;

    /** States that a thing may have, each with those that it has instead; the usual one first. */
    private static final List<List<String>> STATES = List.of(
            List.of("shut", "closed", "ajar", "open"),
            List.of("off", "unlit", "on", "lit"),
            List.of("empty", "half", "full"),
            List.of("intact", "damaged", "broken", "destroyed"),
            List.of("folded", "unfolded"),
            List.of("lowered", "raised"),
            List.of("retracted", "extended"),
            List.of("stowed", "deployed"),
            List.of("clean", "dirty"));

    public FileSeries {
        // In their order, which copies of maps do not keep.
        members = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(members));
    }

    /**
     * What a file's name tells.
     *
     * @param kind which list of states its word is of, or {@link #LEVEL}; {@link #PLAIN} where no word tells anything
     * @param rank in its order
     */
    private record Named(Path file, String base, int kind, int rank, String variant) {
        static final int PLAIN = -2;
        static final int LEVEL = -1;

        static Named of(Path file) {
            String stem = Names.stem(file.getFileName().toString()).replaceAll("(?<=[a-z])(?=[A-Z])", "_");
            List<String> words =
                    new ArrayList<>(List.of(stem.toLowerCase(Locale.ROOT).split("[_\\-.\\s]+")));
            String last = words.removeLast();
            if (last.matches("[0-9]{1,2}")
                    && !words.isEmpty()
                    && words.getLast().equals("lod")) {
                last = words.removeLast() + last;
            }
            String base = String.join(" ", words).strip();
            if (!base.isEmpty() && last.matches("lod[0-9]{1,2}")) {
                int level = Integer.parseInt(last.substring(3));
                return new Named(file, base, LEVEL, level, level == 0 ? FULL : "lod" + level);
            }
            for (int kind = 0; kind < STATES.size() && !base.isEmpty(); kind++) {
                int rank = STATES.get(kind).indexOf(last);
                if (rank >= 0) {
                    return new Named(file, base, kind, rank, last);
                }
            }
            return new Named(file, (base + " " + last).strip(), PLAIN, 0, FULL);
        }

        List<String> key(int as) {
            return List.of(
                    String.valueOf(file.toAbsolutePath().getParent()),
                    base,
                    Names.ending(file.getFileName().toString()),
                    String.valueOf(as));
        }
    }

    /** The file that stands for all. */
    public Path leader() {
        return members.values().iterator().next();
    }

    /** The name of the leader's variant. */
    public String own() {
        return members.keySet().iterator().next();
    }

    /** All files, the leader first. */
    public List<Path> files() {
        return List.copyOf(members.values());
    }

    /** The series that a file leads, with what lies beside it; empty where it leads none. */
    public static Optional<FileSeries> around(Path file) {
        Path folder = file.toAbsolutePath().getParent();
        if (folder == null) {
            return Optional.empty();
        }
        String ending = Names.ending(file.getFileName().toString());
        String begins = Named.of(file).base().split(" ", -1)[0];
        try (Stream<Path> beside = Files.list(folder)) {
            List<Path> files = beside.filter(
                            each -> each.getFileName().toString().regionMatches(true, 0, begins, 0, begins.length()))
                    .filter(each -> Names.ending(each.getFileName().toString()).equals(ending))
                    .filter(each -> Files.isRegularFile(each, LinkOption.NOFOLLOW_LINKS))
                    .limit(MOST_BESIDE)
                    .toList();
            return among(files).stream()
                    .filter(series -> series.leader().getFileName().equals(file.getFileName()))
                    .findFirst();
        } catch (IOException e) {
            // What lies beside it cannot be told; the file itself can be read all the same.
            return Optional.empty();
        }
    }

    /** The series that some files make; each file is of one at most. */
    public static List<FileSeries> among(List<Path> files) {
        Map<List<String>, List<Named>> alike = new LinkedHashMap<>();
        List<Named> plain = new ArrayList<>();
        files.stream()
                .sorted(Comparator.comparing(Path::toString, NaturalOrder.BY_NAME))
                .map(Named::of)
                .forEach(named -> {
                    if (named.kind() == Named.PLAIN) {
                        plain.add(named);
                    } else {
                        alike.computeIfAbsent(named.key(named.kind()), key -> new ArrayList<>())
                                .add(named);
                    }
                });
        // Beside rock_LOD1, rock is the finest level.
        plain.forEach(named -> {
            List<Named> levels = alike.get(named.key(Named.LEVEL));
            if (levels != null && levels.stream().noneMatch(level -> level.rank() == 0)) {
                levels.add(named);
            }
        });
        return alike.values().stream().flatMap(some -> of(some).stream()).toList();
    }

    private static Optional<FileSeries> of(List<Named> some) {
        List<Named> ordered = some.stream()
                .sorted(Comparator.comparingInt(Named::rank))
                .limit(MOST_MEMBERS)
                .toList();
        Map<String, Path> members = new LinkedHashMap<>();
        ordered.forEach(named -> members.putIfAbsent(named.variant(), named.file()));
        Named first = ordered.getFirst();
        boolean levels = some.stream().anyMatch(named -> named.kind() == Named.LEVEL);
        if (members.size() < 2 || levels && first.rank() != 0) {
            return Optional.empty();
        }
        String title = first.base().substring(0, 1).toUpperCase(Locale.ROOT)
                + first.base().substring(1);
        return Optional.of(new FileSeries(levels ? DETAIL : STATE, title, members));
    }
}
