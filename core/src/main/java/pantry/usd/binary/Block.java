package pantry.usd.binary;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/** A value's bytes while it is put together. */
final class Block {
    private ByteBuffer bytes = ByteBuffer.allocate(64).order(ByteOrder.LITTLE_ENDIAN);

    private void room(int count) {
        if (bytes.remaining() < count) {
            ByteBuffer larger =
                    ByteBuffer.allocate(bytes.capacity() * 2 + count).order(ByteOrder.LITTLE_ENDIAN);
            bytes = larger.put(bytes.flip());
        }
    }

    Block oneByte(int number) {
        room(1);
        bytes.put((byte) number);
        return this;
    }

    Block integer(int number) {
        room(4);
        bytes.putInt(number);
        return this;
    }

    Block whole(long number) {
        room(8);
        bytes.putLong(number);
        return this;
    }

    Block half(double number) {
        room(2);
        bytes.putShort(Float.floatToFloat16((float) number));
        return this;
    }

    Block single(double number) {
        room(4);
        bytes.putFloat((float) number);
        return this;
    }

    Block real(double number) {
        room(8);
        bytes.putDouble(number);
        return this;
    }

    /** A value that was written before: the distance to its field value, which follows directly. */
    Block nested(ValueRep rep) {
        return whole(8).whole(rep.bits());
    }

    byte[] finish() {
        return Arrays.copyOf(bytes.array(), bytes.position());
    }
}
