package pantry.base;

import java.text.Normalizer;
import java.util.Locale;
import java.util.function.Predicate;

/** Turns what people write into names that files and USD prims can carry. */
public final class Names {
    private Names() {}

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
        return slug.isEmpty() ? "unnamed" : slug;
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
}
