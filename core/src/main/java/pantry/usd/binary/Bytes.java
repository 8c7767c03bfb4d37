package pantry.usd.binary;

import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.nio.ByteOrder;
import pantry.usd.UsdException;

/** A place in a file's bytes, least significant byte first, that never leaves them. */
final class Bytes {
    static final ValueLayout.OfShort SHORT = ValueLayout.JAVA_SHORT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    static final ValueLayout.OfInt INT = ValueLayout.JAVA_INT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    static final ValueLayout.OfLong LONG = ValueLayout.JAVA_LONG_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    static final ValueLayout.OfFloat FLOAT = ValueLayout.JAVA_FLOAT_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);
    static final ValueLayout.OfDouble DOUBLE = ValueLayout.JAVA_DOUBLE_UNALIGNED.withOrder(ByteOrder.LITTLE_ENDIAN);

    final MemorySegment segment;
    private final String file;
    private long at;

    /** @param file as it is named in errors */
    Bytes(MemorySegment segment, String file) {
        this.segment = segment;
        this.file = file;
    }

    /** Another place in the same bytes. */
    Bytes at(long offset) {
        Bytes other = new Bytes(segment, file);
        other.at = offset;
        if (offset < 0 || offset > segment.byteSize()) {
            throw other.problem("an offset leads out of the file, which has " + segment.byteSize() + " bytes");
        }
        return other;
    }

    long position() {
        return at;
    }

    long size() {
        return segment.byteSize();
    }

    /** Passes over so many bytes and returns where they start. */
    long take(long count) {
        if (count < 0 || count > segment.byteSize() - at) {
            throw problem("the file ends too early: " + Long.toUnsignedString(count) + " bytes expected, "
                    + (segment.byteSize() - at) + " are there");
        }
        long from = at;
        at += count;
        return from;
    }

    int unsignedByte() {
        return segment.get(ValueLayout.JAVA_BYTE, take(1)) & 0xff;
    }

    int integer() {
        return segment.get(INT, take(4));
    }

    long whole() {
        return segment.get(LONG, take(8));
    }

    /** Reads a distance and goes as far from where it stands. */
    void skipDistance() {
        long start = at;
        long distance = whole();
        if (distance < 8 || distance > segment.byteSize() - start) {
            at = start;
            throw problem("a distance of " + distance + " bytes leads back or out of the file");
        }
        at = start + distance;
    }

    double real() {
        return segment.get(DOUBLE, take(8));
    }

    /**
     * A count of things that follow.
     *
     * @param bytesEach the fewest bytes that each of them takes
     */
    int count(long bytesEach) {
        long start = at;
        long count = whole();
        if (count < 0 || count > Integer.MAX_VALUE - 8 || count > (segment.byteSize() - at) / bytesEach) {
            at = start;
            throw problem("a count of " + Long.toUnsignedString(count) + " is more than the rest of the file can hold");
        }
        return (int) count;
    }

    byte[] bytes(int count) {
        byte[] bytes = new byte[count];
        MemorySegment.copy(segment, ValueLayout.JAVA_BYTE, take(count), bytes, 0, count);
        return bytes;
    }

    UsdException problem(String message) {
        return new UsdException(file, "byte " + at, message, null);
    }
}
