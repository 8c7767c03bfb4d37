package pantry.base;

import java.nio.charset.StandardCharsets;

/**
 * Reads decimal numbers out of bytes, correctly rounded to double precision, without a text of their own where that
 * can be. Not for use by several threads.
 */
public final class DecimalReader {
    private static final double[] TENS = {
        1e0, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15, 1e16, 1e17, 1e18, 1e19,
        1e20, 1e21, 1e22
    };
    private static final int MOST_DIGITS = 18;
    private static final long EXACT = 1L << 53;

    private int end;

    /** Where the last number ended; where it began, if there was none. */
    public int end() {
        return end;
    }

    /**
     * Reads a number: an optional sign, digits with at most one point among them, an optional exponent.
     *
     * @param at where it begins
     * @return the number; not a number, with {@link #end} where it began, if there is none
     */
    public double read(byte[] in, int at) {
        int next = at;
        boolean negative = false;
        if (next < in.length && (in[next] == '-' || in[next] == '+')) {
            negative = in[next++] == '-';
        }
        long mantissa = 0;
        int exponent = 0;
        int first = next;
        int digit;
        while (next < in.length && (digit = in[next] - '0') >= 0 && digit <= 9) {
            mantissa = mantissa * 10 + digit;
            next++;
        }
        int seen = next - first;
        if (next < in.length && in[next] == '.') {
            int fraction = ++next;
            while (next < in.length && (digit = in[next] - '0') >= 0 && digit <= 9) {
                mantissa = mantissa * 10 + digit;
                next++;
            }
            exponent = fraction - next;
            seen -= exponent;
        }
        if (seen == 0) {
            end = at;
            return Double.NaN;
        }
        if (next < in.length && (in[next] == 'e' || in[next] == 'E')) {
            int power = exponent(in, next + 1);
            if (end == next + 1) {
                end = at;
                return Double.NaN;
            }
            exponent += power;
            next = end;
        }
        end = next;
        // Exact by Clinger's fast path (W. D. Clinger, How to read floating point numbers accurately, PLDI 1990):
        // mantissa and power of ten are both exact doubles, so one division or product rounds once.
        if (seen <= MOST_DIGITS && mantissa <= EXACT && exponent >= -22 && exponent <= 22) {
            double value = exponent < 0 ? mantissa / TENS[-exponent] : mantissa * TENS[exponent];
            return negative ? -value : value;
        }
        return Double.parseDouble(new String(in, at, next - at, StandardCharsets.US_ASCII));
    }

    private int exponent(byte[] in, int at) {
        int next = at;
        boolean negative = false;
        if (next < in.length && (in[next] == '-' || in[next] == '+')) {
            negative = in[next++] == '-';
        }
        int exponent = 0;
        int first = next;
        while (next < in.length && in[next] >= '0' && in[next] <= '9') {
            exponent = Math.min(99_999, exponent * 10 + (in[next++] - '0'));
        }
        end = next == first ? at : next;
        return negative ? -exponent : exponent;
    }
}
