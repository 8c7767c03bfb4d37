package pantry.testing;

import java.util.Arrays;
import java.util.List;
import java.util.Random;

/** Damages files as discs, transfers and ill will do: bytes changed, cut off, put in, left out, and figures that lie. */
public final class Mutations {
    private static final long[] FIGURES = {
        0, 1, -1, 0x7f, 0xff, 0x7fff, 0xffff, 0x7fffffffL, 0xffffffffL, 0x7fffffffffffffffL, 1L << 48, 1L << 62
    };

    private final Random random;
    private final List<byte[]> seeds;

    /** @param seeds the files to start from, parts of which are mixed too */
    public Mutations(Random random, List<byte[]> seeds) {
        this.random = random;
        this.seeds = seeds;
    }

    /** A damaged copy of one of the seeds. */
    public byte[] next() {
        byte[] bytes = seeds.get(random.nextInt(seeds.size())).clone();
        for (int i = 0; i <= random.nextInt(4); i++) {
            bytes = bytes.length == 0 ? bytes : damaged(bytes);
        }
        return bytes;
    }

    private byte[] damaged(byte[] bytes) {
        int at = random.nextInt(bytes.length);
        switch (random.nextInt(8)) {
            case 0 -> bytes[at] = (byte) random.nextInt(256);
            case 1 -> bytes[at] ^= (byte) (1 << random.nextInt(8));
            case 2 -> figure(bytes, at, random.nextBoolean() ? 4 : 8);
            case 3 -> figure(bytes, at & ~7, 8);
            case 4 -> {
                return Arrays.copyOf(bytes, at);
            }
            case 5 -> {
                return spliced(bytes, at, Math.min(bytes.length, at + 1 + random.nextInt(40)), new byte[0]);
            }
            case 6 -> {
                byte[] other = seeds.get(random.nextInt(seeds.size()));
                int from = random.nextInt(other.length);
                return spliced(
                        bytes,
                        at,
                        at,
                        Arrays.copyOfRange(other, from, Math.min(other.length, from + 1 + random.nextInt(60))));
            }
            default -> {
                int end = Math.min(bytes.length, at + 1 + random.nextInt(12));
                Arrays.fill(bytes, at, end, (byte) (random.nextBoolean() ? random.nextInt(256) : 0xff));
            }
        }
        return bytes;
    }

    /** Little-endian, as the binary format has them. */
    private void figure(byte[] bytes, int at, int width) {
        long figure = random.nextBoolean() ? FIGURES[random.nextInt(FIGURES.length)] : random.nextInt(bytes.length * 2);
        for (int i = 0; i < width && at + i < bytes.length; i++) {
            bytes[at + i] = (byte) (figure >>> 8 * i);
        }
    }

    private static byte[] spliced(byte[] bytes, int from, int to, byte[] middle) {
        byte[] result = new byte[bytes.length - (to - from) + middle.length];
        System.arraycopy(bytes, 0, result, 0, from);
        System.arraycopy(middle, 0, result, from, middle.length);
        System.arraycopy(bytes, to, result, from + middle.length, bytes.length - to);
        return result;
    }
}
