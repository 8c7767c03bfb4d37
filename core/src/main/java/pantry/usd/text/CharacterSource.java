package pantry.usd.text;

import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import org.jspecify.annotations.Nullable;
import pantry.base.DecimalReader;
import pantry.usd.UsdException;

/**
 * The characters of a layer with a position: skips blanks and comments, reads words, texts and numbers, and says where
 * something was not as expected.
 *
 * <p>Works on bytes: everything with a meaning in the format is ASCII, and only quoted texts are decoded.
 */
final class CharacterSource {
    private final byte[] bytes;
    private final DecimalReader decimals = new DecimalReader();
    private final String file;
    private int at;
    private AssetListener onAsset = (path, from, to) -> {};

    // Names and types come again and again: one text stands for all that were read of a kind.
    private static final int SLOTS = 4096;

    private static final int LONGEST_KEPT = 48;
    private final @Nullable String[] kept = new String[SLOTS];

    CharacterSource(byte[] bytes, String file) {
        this.bytes = bytes;
        this.file = file;
    }

    int position() {
        return at;
    }

    /** The text between two positions. */
    String between(int from, int to) {
        int length = to - from;
        if (length > LONGEST_KEPT) {
            return new String(bytes, from, length, StandardCharsets.UTF_8);
        }
        int hash = length;
        for (int i = from; i < to; i++) {
            hash = 31 * hash + bytes[i];
        }
        int slot = (hash ^ hash >>> 15) & SLOTS - 1;
        String known = kept[slot];
        if (known != null && is(known, from, length)) {
            return known;
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        kept[slot] = text;
        return text;
    }

    private boolean is(String known, int from, int length) {
        if (known.length() != length) {
            return false;
        }
        for (int i = 0; i < length; i++) {
            if (known.charAt(i) != bytes[from + i]) {
                return false;
            }
        }
        return true;
    }

    boolean atEnd() {
        skipBlanks();
        return at >= bytes.length;
    }

    /** The next character that is not blank; 0 at the end. */
    char peek() {
        skipBlanks();
        return at < bytes.length ? (char) (bytes[at] & 0xff) : 0;
    }

    /** The character directly at the position, blank or not; 0 at the end. */
    char here() {
        return at < bytes.length ? (char) (bytes[at] & 0xff) : 0;
    }

    /** Takes the character where it comes next. */
    boolean take(char c) {
        if (peek() == c && at < bytes.length) {
            at++;
            return true;
        }
        return false;
    }

    void expect(char c, String where) {
        if (!take(c)) {
            throw expected("'" + c + "' " + where);
        }
    }

    // The positions in these loops are local: a field would be written back with every byte.

    private void skipBlanks() {
        byte[] in = bytes;
        int next = at;
        while (next < in.length) {
            byte b = in[next];
            if (b > '#' && b != ';' && b != '/') {
                break;
            }
            if (b == ' ' || b == '\n' || b == '\t' || b == '\r' || b == ';') {
                next++;
            } else if (b == '#' || b == '/' && next + 1 < in.length && in[next + 1] == '/') {
                while (next < in.length && in[next] != '\n') {
                    next++;
                }
            } else {
                break;
            }
        }
        at = next;
    }

    /** The first line, which says what the file is. */
    String headerLine() {
        int end = 0;
        while (end < bytes.length && end < 200 && bytes[end] != '\n') {
            end++;
        }
        at = end;
        return between(0, end).strip();
    }

    /** A word of letters, digits, underscores, colons and dots as names, types and keywords have them; may be empty. */
    String word() {
        skipBlanks();
        int start = at;
        while (at < bytes.length && isWord(bytes[at])) {
            at++;
        }
        return between(start, at);
    }

    private static boolean isWord(byte b) {
        return b >= 'a' && b <= 'z'
                || b >= 'A' && b <= 'Z'
                || b >= '0' && b <= '9'
                || b == '_'
                || b == ':'
                || b == '.'
                || b == '|'
                || b < 0;
    }

    /** A quoted text: single or double quotes, once or three times. */
    String quoted() {
        char quote = peek();
        if (quote != '"' && quote != '\'') {
            throw expected("a quoted text");
        }
        int start = at;
        boolean triple = at + 2 < bytes.length && bytes[at + 1] == quote && bytes[at + 2] == quote;
        at += triple ? 3 : 1;
        int from = at;
        boolean escapes = false;
        while (at < bytes.length) {
            byte b = bytes[at];
            if (b == '\\') {
                escapes = true;
                at += 2;
            } else if (b == quote
                    && (!triple || at + 2 < bytes.length && bytes[at + 1] == quote && bytes[at + 2] == quote)) {
                String text = between(from, at);
                at += triple ? 3 : 1;
                return escapes ? unescape(text) : text;
            } else if (b == '\n' && !triple) {
                break;
            } else {
                at++;
            }
        }
        at = start;
        throw problem("the text that starts here does not end");
    }

    private String unescape(String text) {
        StringBuilder plain = new StringBuilder(text.length());
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c != '\\' || i + 1 >= text.length()) {
                plain.append(c);
                continue;
            }
            char escaped = text.charAt(++i);
            switch (escaped) {
                case 'n' -> plain.append('\n');
                case 't' -> plain.append('\t');
                case 'r' -> plain.append('\r');
                case 'x' -> {
                    if (i + 2 < text.length()) {
                        plain.append((char) hex(text.substring(i + 1, i + 3)));
                        i += 2;
                    }
                }
                default -> plain.append(escaped);
            }
        }
        return plain.toString();
    }

    private int hex(String digits) {
        try {
            return Integer.parseInt(digits, 16);
        } catch (NumberFormatException e) {
            throw problem("\\x" + digits + " is not two hexadecimal digits");
        }
    }

    /** Told of every asset path that is read, and of the bytes that it stands in, with its at-signs. */
    interface AssetListener {
        void read(String path, int from, int to);
    }

    void setOnAsset(AssetListener listener) {
        onAsset = listener;
    }

    /** An asset path between at-signs, single or triple. */
    String asset() {
        peek();
        int start = at;
        boolean triple = at + 2 < bytes.length && bytes[at + 1] == '@' && bytes[at + 2] == '@';
        at += triple ? 3 : 1;
        int from = at;
        while (at < bytes.length) {
            if (bytes[at] == '@'
                    && (!triple
                            || at + 2 < bytes.length
                                    && bytes[at + 1] == '@'
                                    && bytes[at + 2] == '@'
                                    && bytes[at - 1] != '\\')) {
                String between = between(from, at);
                at += triple ? 3 : 1;
                String path = triple ? between.replace("\\@@@", "@@@") : between;
                onAsset.read(path, start, at);
                return path;
            }
            if (bytes[at] == '\n') {
                break;
            }
            at++;
        }
        at = start;
        throw problem("the asset path that starts here does not end");
    }

    /** The text between angle brackets. */
    String bracketed() {
        expect('<', "before a path");
        int from = at;
        while (at < bytes.length && bytes[at] != '>' && bytes[at] != '\n') {
            at++;
        }
        String path = between(from, at).strip();
        expect('>', "after a path");
        return path;
    }

    /** Takes {@code <>} where it comes next. */
    boolean takeEmptyBrackets() {
        int start = at;
        if (take('<') && take('>')) {
            return true;
        }
        at = start;
        return false;
    }

    /** A number, correctly rounded to double precision. */
    double number() {
        skipBlanks();
        double value = decimals.read(bytes, at);
        if (decimals.end() > at) {
            at = decimals.end();
            return value;
        }
        boolean signed = at < bytes.length && (bytes[at] == '-' || bytes[at] == '+');
        boolean negative = signed && bytes[at] == '-';
        int start = at;
        at += signed ? 1 : 0;
        if (peek() >= '0' && peek() <= '9') {
            at = start;
            throw problem("a number's exponent has no digits");
        }
        return special(start, negative);
    }

    private double special(int start, boolean negative) {
        int from = at;
        while (at < bytes.length && bytes[at] >= 'a' && bytes[at] <= 'z') {
            at++;
        }
        switch (between(from, at)) {
            case "inf" -> {
                return negative ? Double.NEGATIVE_INFINITY : Double.POSITIVE_INFINITY;
            }
            case "nan" -> {
                return Double.NaN;
            }
            default -> {
                at = start;
                throw expected("a number");
            }
        }
    }

    /** A number rounded once to single precision. */
    float single() {
        int start = at;
        double value = number();
        // A double exactly between two floats may stand for a decimal that is not: let the decimal decide.
        if ((Double.doubleToRawLongBits(value) & 0x1fff_ffffL) == 0x1000_0000L) {
            return Float.parseFloat(between(start, at).replaceAll("(?s)^(\\s|[;]|#[^\\n]*\\n)*", ""));
        }
        return (float) value;
    }

    /**
     * A whole number; one written with a fraction of zero is taken too.
     *
     * @param from the smallest that the type holds, {@code to} the largest; 64-bit numbers without sign, for which
     *     {@code to} is -1, come as the same bits
     */
    long integer(long from, long to) {
        skipBlanks();
        int start = at;
        boolean negative = false;
        if (at < bytes.length && (bytes[at] == '-' || bytes[at] == '+')) {
            negative = bytes[at++] == '-';
        }
        long value = 0;
        int first = at;
        while (at < bytes.length && bytes[at] >= '0' && bytes[at] <= '9') {
            value = value * 10 + (bytes[at++] - '0');
        }
        if (at == first) {
            at = start;
            throw expected("a whole number");
        }
        if (at < bytes.length && (bytes[at] == '.' || bytes[at] == 'e' || bytes[at] == 'E')) {
            at = start;
            double number = number();
            if (number != Math.rint(number)) {
                at = start;
                throw expected("a whole number");
            }
            value = (long) number;
            negative = false;
        } else if (at - first > 18) {
            return large(start, from, to);
        }
        value = negative ? -value : value;
        boolean unsigned = to == -1;
        if (value < from || !unsigned && value > to) {
            at = start;
            throw problem("the number " + value + " does not fit its type");
        }
        return value;
    }

    private long large(int start, long from, long to) {
        BigInteger number = new BigInteger(between(start, at).replace("+", ""));
        BigInteger largest = to == -1 ? BigInteger.TWO.pow(64).subtract(BigInteger.ONE) : BigInteger.valueOf(to);
        if (number.compareTo(BigInteger.valueOf(from)) < 0 || number.compareTo(largest) > 0) {
            at = start;
            throw problem("the number " + number + " does not fit its type");
        }
        return number.longValue();
    }

    /** Passes over one value of any kind, brackets balanced, and returns it as written. */
    String raw() {
        peek();
        int start = at;
        int depth = 0;
        do {
            char c = peek();
            switch (c) {
                case 0 -> {
                    at = start;
                    throw problem("the value that starts here does not end");
                }
                case '(', '[', '{' -> {
                    depth++;
                    at++;
                }
                case ')', ']', '}' -> {
                    depth--;
                    at++;
                }
                case '"', '\'' -> quoted();
                case '@' -> asset();
                case '<' -> bracketed();
                default -> {
                    if (word().isEmpty()) {
                        at++;
                        if (c == '-' || c == '+') {
                            word();
                        }
                    }
                }
            }
        } while (depth > 0);
        return between(start, at);
    }

    void back(int position) {
        at = position;
    }

    UsdException expected(String what) {
        skipBlanks();
        String found;
        if (at >= bytes.length) {
            found = "the end of the file";
        } else {
            int end = at;
            while (end < bytes.length && end - at < 24 && bytes[end] > ' ') {
                end++;
            }
            found = "\"" + between(at, Math.max(end, at + 1)) + "\"";
        }
        return problem("expected " + what + ", found " + found);
    }

    UsdException problem(String message) {
        int line = 1;
        int lineStart = 0;
        for (int i = 0; i < Math.min(at, bytes.length); i++) {
            if (bytes[i] == '\n') {
                line++;
                lineStart = i + 1;
            }
        }
        int column = between(lineStart, Math.min(at, bytes.length)).length() + 1;
        return new UsdException(file, "line " + line + ", column " + column, message, null);
    }
}
