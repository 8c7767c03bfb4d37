package pantry.usd.binary;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;

/** Writes to a file one thing after the other, least significant byte first, and knows where it is. */
final class Sink {
    private final FileChannel channel;
    private final ByteBuffer buffer = ByteBuffer.allocate(1 << 16).order(ByteOrder.LITTLE_ENDIAN);
    private long flushed;

    Sink(FileChannel channel) {
        this.channel = channel;
    }

    long position() {
        return flushed + buffer.position();
    }

    void flush() throws IOException {
        buffer.flip();
        while (buffer.hasRemaining()) {
            flushed += channel.write(buffer);
        }
        buffer.clear();
    }

    private void room(int bytes) throws IOException {
        if (buffer.remaining() < bytes) {
            flush();
        }
    }

    /** Passes on to the next multiple of eight. */
    void align() throws IOException {
        while (position() % 8 != 0) {
            room(1);
            buffer.put((byte) 0);
        }
    }

    void bytes(byte[] bytes) throws IOException {
        bytes(bytes, bytes.length);
    }

    void bytes(byte[] bytes, int length) throws IOException {
        for (int from = 0; from < length; ) {
            room(1);
            int count = Math.min(length - from, buffer.remaining());
            buffer.put(bytes, from, count);
            from += count;
        }
    }

    void integer(int number) throws IOException {
        room(4);
        buffer.putInt(number);
    }

    void whole(long number) throws IOException {
        room(8);
        buffer.putLong(number);
    }

    void half(float number) throws IOException {
        room(2);
        buffer.putShort(Float.floatToFloat16(number));
    }

    void single(float number) throws IOException {
        room(4);
        buffer.putFloat(number);
    }

    void real(double number) throws IOException {
        room(8);
        buffer.putDouble(number);
    }

    /** Puts a number at a place that was passed before. */
    void patch(long position, long number) throws IOException {
        flush();
        ByteBuffer patch = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
        patch.putLong(number).flip();
        channel.write(patch, position);
    }
}
