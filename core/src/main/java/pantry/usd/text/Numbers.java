package pantry.usd.text;

import java.math.BigDecimal;
import java.math.MathContext;

/** The shortest decimals that read back to the same bits (Java's own conversion since release 19). */
final class Numbers {
    private Numbers() {}

    static String of(double value, boolean single) {
        if (Double.isNaN(value)) {
            return "nan";
        }
        if (Double.isInfinite(value)) {
            return value > 0 ? "inf" : "-inf";
        }
        if (value == Math.rint(value) && Math.abs(value) < 1e7) {
            return value == 0 && 1 / value < 0 ? "-0" : Integer.toString((int) value);
        }
        String text = single ? Float.toString((float) value) : Double.toString(value);
        return text.replace(".0E", "e").replace("E", "e");
    }

    /** The shortest decimal that reads back to the same half-precision number. */
    static String half(float value) {
        short bits = Float.floatToFloat16(value);
        if (Float.isFinite(value) && value != Math.rint(value)) {
            for (int digits = 1; digits <= 5; digits++) {
                BigDecimal rounded = new BigDecimal(value).round(new MathContext(digits));
                if (Float.floatToFloat16(rounded.floatValue()) == bits) {
                    return rounded.toString().replace('E', 'e');
                }
            }
        }
        return of(value, true);
    }

    /** Appends a single-precision number; the usual ones without a text of their own. */
    static void append(StringBuilder text, float value) {
        if (value == (int) value && Math.abs(value) < 1e7f && (value != 0 || 1 / value > 0)) {
            text.append((int) value);
        } else if (Math.abs(value) >= 1e-3f && Math.abs(value) < 1e7f) {
            // Java writes these without an exponent, and those that are not whole without a needless ".0".
            text.append(value);
        } else {
            text.append(of(value, true));
        }
    }
}
