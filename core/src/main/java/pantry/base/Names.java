package pantry.base;

import java.text.Normalizer;
import java.util.Locale;
import java.util.function.Predicate;
import java.util.regex.Pattern;

/** Turns what people write into names that files and USD prims can carry. */
public final class Names {
    private static final int LONGEST_SLUG = 80;
    private static final int LONGEST_TITLE = 120;

    /** Windows keeps these for devices, whatever ending follows. */
    private static final Pattern RESERVED =
            Pattern.compile("(con|prn|aux|nul|com[0-9]|lpt[0-9])(\\..*)?", Pattern.CASE_INSENSITIVE);

    private Names() {}

    /** What a library calls its own folders and files; nothing else may be called so where it keeps assets. */
    private static final Pattern KEPT_BY_LIBRARIES =
            Pattern.compile("v\\d{3,9}|data|uses|source|incoming|journal|reservations|trash", Pattern.CASE_INSENSITIVE);

    private static final int LONGEST_NAME = 200;

    /** Whether a library would take a folder of this name for one of its own. */
    public static boolean isKeptByLibraries(String name) {
        return KEPT_BY_LIBRARIES.matcher(name).matches();
    }

    /**
     * A name that people give to an asset, a shelf, a library: composed (NFC) and trimmed.
     *
     * @throws PantryException where nothing is left, where it is longer than 200 characters, or where it has characters
     *     that cannot be seen: controls, line ends, marks of direction
     */
    public static String given(String written) {
        String name = Normalizer.normalize(written, Normalizer.Form.NFC).strip();
        if (name.isEmpty()) {
            throw new PantryException("a name needs at least one character that can be seen");
        }
        if (!Printable.of(name).equals(name) || name.codePoints().anyMatch(Names::isInvisible)) {
            throw new PantryException(
                    "\"" + Printable.of(name)
                            + "\" cannot be a name: it has line ends, marks of direction or other characters that cannot be seen");
        }
        int length = name.codePointCount(0, name.length());
        if (length > LONGEST_NAME) {
            throw new PantryException("a name of " + length + " characters is too long; it may have " + LONGEST_NAME);
        }
        return name;
    }

    private static boolean isInvisible(int point) {
        int type = Character.getType(point);
        return type == Character.CONTROL
                || type == Character.FORMAT
                || type == Character.SURROGATE
                || type == Character.PRIVATE_USE
                || type == Character.UNASSIGNED;
    }

    /**
     * A name for a folder or file: lower-case ASCII letters, digits and single hyphens, never empty.
     *
     * @return for instance {@code "mast-9-m"} for {@code "Mast, 9 m"}
     */
    public static String slug(String name) {
        String slug = ascii(name)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9]+", "-")
                .replaceAll("^-|-$", "");
        if (slug.length() > LONGEST_SLUG) {
            slug = slug.substring(0, LONGEST_SLUG).replaceAll("-$", "");
        }
        boolean taken = RESERVED.matcher(slug).matches() || isKeptByLibraries(slug);
        return slug.isEmpty() ? "unnamed" : taken ? slug + "-1" : slug;
    }

    /**
     * A name as a person reads it, cleaned so that every file system and every other program takes it: composed
     * Unicode (NFC), no control or invisible characters, none of {@code < > : " / \ | ? *}, no dots or blanks at the
     * ends, not one of the names that some systems keep for devices, at most {@value #LONGEST_TITLE} characters.
     */
    public static String title(String name) {
        String title = Normalizer.normalize(name, Normalizer.Form.NFC)
                .replaceAll("[\\p{Cc}\\p{Cf}\\p{Co}\\p{Cn}\\p{Cs}]", "")
                .replaceAll("[<>:\"/\\\\|?*]+", " ")
                .replaceAll("\\s+", " ")
                .replaceAll("^[ .]+|[ .]+$", "");
        if (title.codePointCount(0, title.length()) > LONGEST_TITLE) {
            title = title.substring(0, title.offsetByCodePoints(0, LONGEST_TITLE))
                    .replaceAll("[ .]+$", "");
        }
        return title.isEmpty() ? "Unnamed" : RESERVED.matcher(title).matches() ? title + " 1" : title;
    }

    /**
     * A prim name: ASCII letters, digits and underscores, not starting with a digit, never empty.
     *
     * @return for instance {@code "Mast_9_m"} for {@code "Mast, 9 m"}
     */
    public static String identifier(String name) {
        String identifier = ascii(name).replaceAll("[^A-Za-z0-9_]+", "_").replaceAll("^_+|_+$", "");
        if (identifier.isEmpty()) {
            return "Unnamed";
        }
        return Character.isDigit(identifier.charAt(0)) ? "_" + identifier : identifier;
    }

    /** The name itself where it is free, else the name with the lowest number from 2 that makes it so. */
    public static String free(String name, Predicate<String> taken) {
        return free(name, "_", taken);
    }

    /** As above, with what stands between name and number. */
    public static String free(String name, String separator, Predicate<String> taken) {
        if (!taken.test(name)) {
            return name;
        }
        for (int number = 2; ; number++) {
            String numbered = name + separator + number;
            if (!taken.test(numbered)) {
                return numbered;
            }
        }
    }

    /** A file's name without its last ending. */
    public static String stem(String fileName) {
        int dot = fileName.lastIndexOf('.');
        return dot <= 0 ? fileName : fileName.substring(0, dot);
    }

    /** A file's last ending in lower case, without the dot; empty where there is none. */
    public static String ending(String fileName) {
        int dot = fileName.lastIndexOf('.');
        return dot < 0 ? "" : fileName.substring(dot + 1).toLowerCase(Locale.ROOT);
    }

    private static String ascii(String name) {
        return Normalizer.normalize(name, Normalizer.Form.NFD).replaceAll("\\p{M}+", "");
    }

    /** A number of things in words: "1 object", "12 objects". */
    public static String counted(long count, String thing) {
        return count == 1 ? "1 " + thing : count + " " + thing + "s";
    }
}
