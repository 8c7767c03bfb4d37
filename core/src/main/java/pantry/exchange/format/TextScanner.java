package pantry.exchange.format;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import pantry.base.DecimalReader;
import pantry.base.IoProblems;

/** Walks through the lines, words and numbers of a text file, and says where something was not as expected. */
public final class TextScanner {
    private static final long MOST_BYTES = Integer.MAX_VALUE - 16L;

    private final Path file;
    private final byte[] bytes;
    private final DecimalReader decimals = new DecimalReader();
    private int at;

    public TextScanner(Path file, byte[] bytes) {
        this.file = file;
        this.bytes = bytes;
    }

    /**
     * All bytes of a file.
     *
     * @throws ExchangeException where the file is larger than can be read, or cannot be read
     */
    public static byte[] bytes(Path file) {
        try {
            if (Files.size(file) > MOST_BYTES) {
                throw new ExchangeException(file, "is larger than the 2 GiB that can be read");
            }
            return Files.readAllBytes(file);
        } catch (IOException e) {
            throw new ExchangeException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** All bytes of a text file, as UTF-8 without a mark at the beginning. */
    public static byte[] text(Path file) {
        byte[] bytes = bytes(file);
        int first = bytes.length < 2 ? 0 : (bytes[0] & 0xff) << 8 | bytes[1] & 0xff;
        if (first == 0xfeff || first == 0xfffe) {
            return new String(bytes, StandardCharsets.UTF_16).getBytes(StandardCharsets.UTF_8);
        }
        boolean marked = first == 0xefbb && bytes.length > 2 && (bytes[2] & 0xff) == 0xbf;
        return marked ? java.util.Arrays.copyOfRange(bytes, 3, bytes.length) : bytes;
    }

    public byte[] bytes() {
        return bytes;
    }

    public int position() {
        return at;
    }

    public void moveTo(int position) {
        at = position;
    }

    public boolean atEnd() {
        return at >= bytes.length;
    }

    /** Passes blanks within a line; a backslash before the line's end joins the next line to it. */
    public void skipBlanks() {
        while (at < bytes.length) {
            byte b = bytes[at];
            if (b == ' ' || b == '\t') {
                at++;
            } else if (b == '\\' && joins()) {
                at += bytes[at + 1] == '\r' ? 3 : 2;
            } else {
                return;
            }
        }
    }

    private boolean joins() {
        return at + 1 < bytes.length && bytes[at + 1] == '\n'
                || at + 2 < bytes.length && bytes[at + 1] == '\r' && bytes[at + 2] == '\n';
    }

    /** Whether nothing more stands on the line. */
    public boolean atLineEnd() {
        skipBlanks();
        return at >= bytes.length || bytes[at] == '\n' || bytes[at] == '\r';
    }

    /** Passes the rest of the line and its end. */
    public void nextLine() {
        while (at < bytes.length && bytes[at] != '\n') {
            // Old Macintosh files end their lines with a carriage return alone.
            if (bytes[at] == '\r' && (at + 1 >= bytes.length || bytes[at + 1] != '\n')) {
                break;
            }
            at++;
        }
        at++;
    }

    /** The next word of the line; empty where there is none. */
    public String word() {
        skipBlanks();
        int start = at;
        while (at < bytes.length && bytes[at] > ' ') {
            at++;
        }
        return new String(bytes, start, at - start, StandardCharsets.UTF_8);
    }

    /** The next word of the file, on whatever line. */
    public String wordAnywhere() {
        while (at < bytes.length && bytes[at] <= ' ' && bytes[at] >= 0) {
            at++;
        }
        return word();
    }

    /** The rest of the line without blanks around it. */
    public String rest() {
        skipBlanks();
        int start = at;
        while (at < bytes.length && bytes[at] != '\n' && bytes[at] != '\r') {
            at++;
        }
        return new String(bytes, start, at - start, StandardCharsets.UTF_8).strip();
    }

    /** The character that comes next, 0 at the end. */
    public char peek() {
        return at < bytes.length ? (char) (bytes[at] & 0xff) : 0;
    }

    public void skip() {
        at++;
    }

    /** Whether a number comes next on the line. */
    public boolean hasNumber() {
        skipBlanks();
        char c = peek();
        return c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.';
    }

    /**
     * A number of the line.
     *
     * @throws ExchangeException where there is none, or one that is not finite
     */
    public float number() {
        skipBlanks();
        double value = decimals.read(bytes, at);
        if (decimals.end() == at) {
            throw wrong("a number is expected; \"" + glance() + "\" is not a number");
        }
        at = decimals.end();
        if (Double.isInfinite(value) || Math.abs(value) > Float.MAX_VALUE) {
            throw wrong("a number is too large");
        }
        return (float) value;
    }

    /** A whole number of the line. */
    public int whole() {
        skipBlanks();
        int start = at;
        boolean negative = peek() == '-';
        if (negative || peek() == '+') {
            at++;
        }
        long value = 0;
        int first = at;
        while (at < bytes.length && bytes[at] >= '0' && bytes[at] <= '9' && value < Integer.MAX_VALUE) {
            value = value * 10 + bytes[at++] - '0';
        }
        if (at == first || value > Integer.MAX_VALUE) {
            at = start;
            throw wrong("a whole number is expected, not \"" + glance() + "\"");
        }
        return (int) (negative ? -value : value);
    }

    private String glance() {
        int end = at;
        while (end < bytes.length && end < at + 20 && bytes[end] != '\n' && bytes[end] != '\r') {
            end++;
        }
        return end == at ? "the line's end" : new String(bytes, at, end - at, StandardCharsets.UTF_8);
    }

    /** A failure at this place. */
    public ExchangeException wrong(String message) {
        int line = 1;
        for (int i = 0; i < at && i < bytes.length; i++) {
            if (bytes[i] == '\n') {
                line++;
            }
        }
        return new ExchangeException(file, "line " + line, message);
    }
}
