package pantry.exchange.format;

import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
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

    private static final int LEVELS = 10;

    private static final String BETWEEN = "[_\\-. ]?";
    private static final Pattern LEVEL = Pattern.compile("(?i)(.+?)(" + BETWEEN + "lod" + BETWEEN + ")(0?[0-9])");

    /** The last word of a name: behind a sign between words, or where a large letter follows a small one. */
    private static final Pattern WORD = Pattern.compile("(.*?[_\\-. ]+|.*[a-z0-9](?=[A-Z]))([A-Za-z]+)");

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
     * What a file's name tells. Names of one series are the same in all but the word, letter by letter: so the others can be
     * looked for by their names, however many files lie there.
     *
     * @param before what stands in front of the word, or of the level's number
     * @param plain the name without the word, and without what sets it off
     * @param kind which list of states its word is of, or {@link #LEVEL_KIND}; {@link #PLAIN} where no word tells anything
     * @param rank in its order
     * @param spelling how the word is written
     * @param ending with its point
     */
    private record Named(
            Path file,
            String before,
            String plain,
            int kind,
            int rank,
            String variant,
            Spelling spelling,
            String ending) {
        static final int PLAIN = -2;
        static final int LEVEL_KIND = -1;

        static Named of(Path file) {
            String name = file.getFileName().toString();
            String stem = Names.stem(name);
            String ending = name.substring(stem.length());
            Matcher level = LEVEL.matcher(stem);
            if (level.matches()) {
                int number = Integer.parseInt(level.group(3));
                return new Named(
                        file,
                        level.group(1) + level.group(2),
                        level.group(1),
                        LEVEL_KIND,
                        number,
                        variant(number),
                        level.group(3).length() > 1 ? Spelling.PADDED : Spelling.SMALL,
                        ending);
            }
            Matcher word = WORD.matcher(stem);
            if (word.matches()) {
                String last = word.group(2).toLowerCase(Locale.ROOT);
                String plain = word.group(1).replaceAll("[_\\-. ]+$", "");
                Optional<Spelling> spelling = Spelling.of(word.group(2));
                for (int kind = 0; kind < STATES.size() && spelling.isPresent() && !plain.isEmpty(); kind++) {
                    int rank = STATES.get(kind).indexOf(last);
                    if (rank >= 0) {
                        return new Named(file, word.group(1), plain, kind, rank, last, spelling.get(), ending);
                    }
                }
            }
            return new Named(file, stem, stem, PLAIN, 0, FULL, Spelling.SMALL, ending);
        }

        private static String variant(int level) {
            return level == 0 ? FULL : "lod" + level;
        }

        private Path beside(String stem) {
            return file.resolveSibling(stem + ending);
        }

        /** The files that may be of its series, whether they are there or not. */
        Stream<Path> others() {
            if (kind >= 0) {
                return STATES.get(kind).stream().map(word -> beside(before + spelling.written(word)));
            }
            if (kind == LEVEL_KIND) {
                return Stream.concat(
                        Stream.of(beside(plain)),
                        IntStream.range(0, LEVELS).mapToObj(level -> beside(before + spelling.written("" + level))));
            }
            return Stream.of("_", "", "-", ".", " ")
                    .flatMap(off -> Stream.of("LOD", "lod", "Lod").map(word -> plain + off + word))
                    .flatMap(begun -> Stream.of("", "_", "-", ".", " ").map(between -> begun + between))
                    .flatMap(begun -> Stream.of("1", "01").map(first -> beside(begun + first)))
                    .filter(FileSeries::isThere)
                    .limit(1)
                    .flatMap(first -> of(first).others());
        }

        List<Object> key() {
            return List.of(String.valueOf(file.toAbsolutePath().getParent()), before, kind, spelling, ending);
        }
    }

    /** How a word is written. */
    private enum Spelling {
        SMALL,
        TITLE,
        LARGE,
        /** A number of two digits. */
        PADDED;

        static Optional<Spelling> of(String word) {
            String small = word.toLowerCase(Locale.ROOT);
            return Stream.of(SMALL, TITLE, LARGE)
                    .filter(spelling -> spelling.written(small).equals(word))
                    .findFirst();
        }

        /** @param word in small letters */
        String written(String word) {
            return switch (this) {
                case SMALL -> word;
                case TITLE -> word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1);
                case LARGE -> word.toUpperCase(Locale.ROOT);
                case PADDED -> "0" + word;
            };
        }
    }

    private static boolean isThere(Path file) {
        return Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS);
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

    /** The series that a file leads, with what lies beside it; empty where it leads none. Links are not followed. */
    public static Optional<FileSeries> around(Path file) {
        List<Path> there = Stream.concat(Stream.of(file), Named.of(file).others())
                .filter(FileSeries::isThere)
                .distinct()
                .toList();
        return among(there).stream()
                .filter(series -> series.leader().equals(file))
                .findFirst();
    }

    /** The series that some files make; each file is of one at most. */
    public static List<FileSeries> among(List<Path> files) {
        Map<List<Object>, List<Named>> alike = new LinkedHashMap<>();
        Map<Path, Named> plain = new HashMap<>();
        files.stream()
                .sorted(Comparator.comparing(Path::toString, NaturalOrder.BY_NAME))
                .map(Named::of)
                .forEach(named -> {
                    if (named.kind() == Named.PLAIN) {
                        plain.put(named.file(), named);
                    } else {
                        alike.computeIfAbsent(named.key(), key -> new ArrayList<>())
                                .add(named);
                    }
                });
        List<FileSeries> found = new ArrayList<>();
        alike.values().forEach(some -> {
            // Beside rock_LOD1, rock is the finest level.
            Named coarser = some.stream()
                    .min(Comparator.comparingInt(Named::rank))
                    .filter(least -> least.kind() == Named.LEVEL_KIND && least.rank() == 1)
                    .orElse(null);
            Named finest = coarser == null ? null : plain.remove(coarser.beside(coarser.plain()));
            if (finest != null) {
                some.add(finest);
            }
            of(some).ifPresent(found::add);
        });
        return found;
    }

    private static Optional<FileSeries> of(List<Named> some) {
        Map<String, Path> members = new LinkedHashMap<>();
        some.stream()
                .sorted(Comparator.comparingInt(Named::rank))
                .forEach(named -> members.put(named.variant(), named.file()));
        boolean levels = some.stream().anyMatch(named -> named.kind() == Named.LEVEL_KIND);
        if (members.size() < 2 || levels && !members.containsKey(FULL)) {
            return Optional.empty();
        }
        String title = some.getFirst()
                .plain()
                .replaceAll("(?<=[a-z])(?=[A-Z])", " ")
                .replaceAll("[_\\-. ]+", " ")
                .strip()
                .toLowerCase(Locale.ROOT);
        return Optional.of(new FileSeries(
                levels ? DETAIL : STATE,
                title.isEmpty() ? "Thing" : title.substring(0, 1).toUpperCase(Locale.ROOT) + title.substring(1),
                members));
    }
}
