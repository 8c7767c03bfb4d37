package pantry.workpiece;

import java.util.List;
import java.util.Locale;

/** Counts and lengths as people read them. */
public final class DisplayText {
    private DisplayText() {}

    /** {@code 1 face}, {@code 12 faces}, {@code 3 glasses}. */
    public static String count(long count, String one) {
        String many = one.endsWith("s") || one.endsWith("x")
                ? one + "es"
                : one.endsWith("y") && !one.endsWith("ey") ? one.substring(0, one.length() - 1) + "ies" : one + "s";
        return number(count) + " " + (count == 1 ? one : many);
    }

    /** With thin spaces between thousands. */
    public static String number(long count) {
        return String.format(Locale.ROOT, "%,d", count).replace(',', '\u202f');
    }

    /** A length in the unit that suits it. */
    public static String length(double metres) {
        double size = Math.abs(metres);
        return size < 0.001
                ? String.format(Locale.ROOT, "%.3f mm", metres * 1000)
                : size < 1
                        ? String.format(Locale.ROOT, "%.1f mm", metres * 1000)
                        : String.format(Locale.ROOT, "%.2f m", metres);
    }

    /** At most three of some names. */
    public static String some(List<String> names) {
        List<String> few = names.subList(0, Math.min(3, names.size()));
        return String.join(", ", few) + (names.size() > 3 ? " and " + (names.size() - 3) + " more" : "");
    }
}
