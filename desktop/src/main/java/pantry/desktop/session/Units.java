package pantry.desktop.session;

import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.util.Locale;

/** Figures as people read them: digits in groups, units behind. */
public final class Units {
    private static final String THIN = "\u202f";
    private static final MathContext FOUR_DIGITS = new MathContext(4, RoundingMode.HALF_UP);

    private Units() {}

    /** {@code 398 200}. */
    public static String count(long number) {
        return String.format(Locale.ROOT, "%,d", number).replace(",", THIN);
    }

    /** A count where there is little room: thousands are told as such, rounded down. */
    public static String brief(long number) {
        return number < 1000 ? String.valueOf(number) : number / 1000 + "k";
    }

    /** A number of things, for a person; the word takes an s for more than one. */
    public static String counted(long count, String word) {
        return count(count) + " " + word + (count == 1 ? "" : "s");
    }

    /** A length in the unit that suits it: {@code 1.82 m}, {@code 3.40 mm}, {@code 2.40 km}. */
    public static String length(double metres) {
        double size = Math.abs(metres);
        if (size >= 1000) {
            return String.format(Locale.ROOT, "%.2f%skm", metres / 1000, THIN);
        }
        if (size >= 0.0995 || size == 0) {
            String figure = size >= 99.95 ? "%.0f%sm" : size >= 9.995 ? "%.1f%sm" : "%.2f%sm";
            return String.format(Locale.ROOT, figure, metres, THIN);
        }
        if (size >= 0.01) {
            return String.format(Locale.ROOT, "%.1f%scm", metres * 100, THIN);
        }
        return String.format(Locale.ROOT, "%.2f%smm", metres * 1000, THIN);
    }

    /** Width, height and depth in one unit: {@code 1.20 × 0.90 × 0.80 m}. */
    public static String size(double width, double height, double depth) {
        double largest = Math.max(Math.abs(width), Math.max(Math.abs(height), Math.abs(depth)));
        if (largest >= 1000) {
            return triple("%.2f", width / 1000, height / 1000, depth / 1000, "km");
        }
        if (largest >= 0.5 || largest == 0) {
            return triple("%.2f", width, height, depth, "m");
        }
        if (largest >= 0.01) {
            return triple("%.1f", width * 100, height * 100, depth * 100, "cm");
        }
        return triple("%.2f", width * 1000, height * 1000, depth * 1000, "mm");
    }

    private static String triple(String figure, double width, double height, double depth, String unit) {
        return String.format(
                Locale.ROOT, figure + " × " + figure + " × " + figure + "%s%s", width, height, depth, THIN, unit);
    }

    /** An area in the unit that suits it: {@code 35.86 m²}, {@code 33 280 m²}, {@code 1.200 km²}. */
    public static String area(double squareMetres) {
        return power(squareMetres, 2, "²");
    }

    /** A volume in the unit that suits it: {@code 0.9952 m³}, {@code 12.50 cm³}. */
    public static String volume(double cubicMetres) {
        return power(cubicMetres, 3, "³");
    }

    /** In kilometres from one of them on, in centimetres below a tenth of a metre, each to the power. */
    private static String power(double figure, int power, String sign) {
        double size = Math.abs(figure);
        if (size >= Math.pow(1000, power)) {
            return fourDigits(figure / Math.pow(1000, power)) + THIN + "km" + sign;
        }
        return size >= Math.pow(0.1, power) || size == 0
                ? fourDigits(figure) + THIN + "m" + sign
                : fourDigits(figure * Math.pow(100, power)) + THIN + "cm" + sign;
    }

    /** Four digits that count, and none behind the point where there are more before it. */
    private static String fourDigits(double number) {
        if (number == 0) {
            return "0";
        }
        BigDecimal rounded = new BigDecimal(number).round(FOUR_DIGITS);
        int before = rounded.precision() - rounded.scale();
        if (before >= 4) {
            return count(rounded.longValue());
        }
        return before < -2
                ? "0.0000"
                : rounded.setScale(4 - before, RoundingMode.UNNECESSARY).toPlainString();
    }

    /** {@code 34.1 MB}. */
    public static String bytes(long bytes) {
        if (bytes < 1000) {
            return bytes + THIN + "B";
        }
        double size = bytes;
        for (String unit : new String[] {"kB", "MB", "GB"}) {
            size /= 1000;
            if (size < 999.5) {
                return String.format(Locale.ROOT, size < 10 ? "%.1f%s%s" : "%.0f%s%s", size, THIN, unit);
            }
        }
        return String.format(Locale.ROOT, "%.1f%sTB", size / 1000, THIN);
    }
}
