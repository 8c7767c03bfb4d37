package pantry.base;

import java.util.Comparator;
import java.util.Locale;

/** Names in the order in which people count: whatever their case, and with numbers in them by their worth, 9 before 11. */
public final class NaturalOrder {
    /** The order; names that differ in case or in leading zeros alone follow each other by their signs. */
    public static final Comparator<String> BY_NAME =
            Comparator.comparing(NaturalOrder::key).thenComparing(Comparator.naturalOrder());

    private NaturalOrder() {}

    /** A text whose plain order is the natural order of names. */
    public static String key(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        StringBuilder key = new StringBuilder(lower.length() + 4);
        int at = 0;
        while (at < lower.length()) {
            int end = at;
            while (end < lower.length() && isDigit(lower.charAt(end))) {
                end++;
            }
            if (end == at) {
                key.append(lower.charAt(at++));
                continue;
            }
            while (at < end - 1 && lower.charAt(at) == '0') {
                at++;
            }
            // Of two numbers, the one with more digits is larger; its length stands before it, still below all letters.
            key.append((char) ('0' + Math.min(end - at, 'A' - '0' - 1))).append(lower, at, end);
            at = end;
        }
        return key.toString();
    }

    private static boolean isDigit(char sign) {
        return sign >= '0' && sign <= '9';
    }
}
