package pantry.usd.binary;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import net.jpountz.lz4.LZ4Compressor;
import net.jpountz.lz4.LZ4Exception;
import net.jpountz.lz4.LZ4Factory;
import net.jpountz.lz4.LZ4SafeDecompressor;

/**
 * How the format packs bytes and whole numbers.
 *
 * <p>Bytes: the number of chunks, then each chunk as LZ4 blocks; 0 says that there is one without a size. Numbers: the
 * commonest difference between neighbours, two bits for each number that say how wide its difference is (none, since it
 * is the commonest, or a quarter, half or all of the width), the differences; and all that packed as bytes.
 */
final class Packing {
    /** Four two-bit codes that all say: by the common step; by a step of one byte. Most fours are one of these. */
    private static final int ALL_COMMON = 0;

    private static final int ALL_BYTES = 0b01010101;

    private static final VarHandle SHORTS =
            MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);

    /** What one byte of LZ4 can unpack to at most, after the LZ4 block format's description of lengths. */
    private static final int MOST_EXPANSION = 255;

    /** So many numbers are worth a table of all short differences. */
    private static final int MANY = 10_000;

    private static final int LARGEST_CHUNK = 0x7E00_0000;

    private static final LZ4SafeDecompressor UNPACK = LZ4Factory.safeInstance().safeDecompressor();
    private static final LZ4Compressor PACK = LZ4Factory.safeInstance().fastCompressor();

    private Packing() {}

    /**
     * Unpacks bytes.
     *
     * @param packedSize how many bytes are to be read
     * @param most how many bytes may come out
     * @return as many bytes as came out
     */
    static byte[] unpack(Bytes in, long packedSize, long most) {
        if (packedSize < 1 || packedSize > in.size() - in.position() || packedSize > Integer.MAX_VALUE - 8) {
            throw in.problem("a packed size of " + Long.toUnsignedString(packedSize) + " is more than the file has");
        }
        long capacity = Math.min(most, packedSize * MOST_EXPANSION);
        if (capacity < 0 || capacity > Integer.MAX_VALUE - 8) {
            throw in.problem("a table of more than 2 GB is not read");
        }
        byte[] packed = in.bytes((int) packedSize);
        byte[] out = new byte[(int) capacity];
        int length = 0;
        try {
            int chunks = packed[0] & 0xff;
            if (chunks == 0) {
                length = UNPACK.decompress(packed, 1, packed.length - 1, out, 0, out.length);
            } else {
                ByteBuffer sizes = ByteBuffer.wrap(packed).order(ByteOrder.LITTLE_ENDIAN);
                int at = 1;
                for (int i = 0; i < chunks; i++) {
                    if (at + 4 > packed.length) {
                        throw in.problem("a packed chunk is cut off");
                    }
                    int size = sizes.getInt(at);
                    at += 4;
                    if (size < 0 || size > packed.length - at) {
                        throw in.problem("a packed chunk is larger than what holds it");
                    }
                    length += UNPACK.decompress(packed, at, size, out, length, out.length - length);
                    at += size;
                }
            }
        } catch (LZ4Exception | IndexOutOfBoundsException e) {
            throw in.problem("packed bytes do not unpack to what they should");
        }
        return length == out.length ? out : Arrays.copyOf(out, length);
    }

    static byte[] pack(byte[] plain, int length) {
        if (length > LARGEST_CHUNK) {
            throw new IllegalArgumentException("more than one chunk is not written");
        }
        byte[] packed = new byte[1 + PACK.maxCompressedLength(length)];
        int size = PACK.compress(plain, 0, length, packed, 1, packed.length - 1);
        return Arrays.copyOf(packed, size + 1);
    }

    /** Reads the packed size and so many 32-bit numbers. */
    static int[] integers(Bytes in, int count) {
        byte[] coded = coded(in, count, 4);
        int codes = 4;
        int at = codes + (int) ((count * 2L + 7) / 8);
        check(in, count, coded, at);
        int common = (int) INTS.get(coded, 0);
        int[] numbers = new int[count];
        int number = 0;
        try {
            for (int i = 0; i < count; ) {
                int four = coded[codes + (i >> 2)] & 0xff;
                int end = Math.min(count, i + 4);
                if (four == ALL_COMMON) {
                    while (i < end) {
                        numbers[i++] = number += common;
                    }
                } else if (four == ALL_BYTES) {
                    while (i < end) {
                        numbers[i++] = number += coded[at++];
                    }
                } else {
                    for (; i < end; i++, four >>= 2) {
                        switch (four & 3) {
                            case 0 -> number += common;
                            case 1 -> number += coded[at++];
                            case 2 -> {
                                number += (short) SHORTS.get(coded, at);
                                at += 2;
                            }
                            default -> {
                                number += (int) INTS.get(coded, at);
                                at += 4;
                            }
                        }
                        numbers[i] = number;
                    }
                }
            }
        } catch (IndexOutOfBoundsException e) {
            throw in.problem("coded numbers are cut off");
        }
        return numbers;
    }

    /** Reads the packed size and so many 64-bit numbers. */
    static long[] longs(Bytes in, int count) {
        byte[] coded = coded(in, count, 8);
        int codes = 8;
        int at = codes + (int) ((count * 2L + 7) / 8);
        check(in, count, coded, at);
        ByteBuffer data = ByteBuffer.wrap(coded).order(ByteOrder.LITTLE_ENDIAN);
        long common = data.getLong(0);
        long[] numbers = new long[count];
        long number = 0;
        try {
            for (int i = 0; i < count; i++) {
                switch (coded[codes + (i >> 2)] >> ((i & 3) * 2) & 3) {
                    case 0 -> number += common;
                    case 1 -> {
                        number += data.getShort(at);
                        at += 2;
                    }
                    case 2 -> {
                        number += data.getInt(at);
                        at += 4;
                    }
                    default -> {
                        number += data.getLong(at);
                        at += 8;
                    }
                }
                numbers[i] = number;
            }
        } catch (IndexOutOfBoundsException e) {
            throw in.problem("coded numbers are cut off");
        }
        return numbers;
    }

    private static byte[] coded(Bytes in, int count, int width) {
        long packedSize = in.whole();
        return unpack(in, packedSize, width + (count * 2L + 7) / 8 + (long) count * width);
    }

    private static void check(Bytes in, int count, byte[] coded, int start) {
        if (coded.length < start) {
            throw in.problem(count + " numbers are announced, but their code has only " + coded.length + " bytes");
        }
    }

    /** Codes and packs 32-bit numbers; the size is not put in front. */
    static byte[] packed(int[] numbers) {
        int common = commonestStep(numbers);
        int previous = 0;
        int codes = (int) ((numbers.length * 2L + 7) / 8);
        ByteBuffer out = ByteBuffer.allocate(4 + codes + numbers.length * 4).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(common).position(4 + codes);
        previous = 0;
        for (int i = 0; i < numbers.length; i++) {
            int difference = numbers[i] - previous;
            previous = numbers[i];
            int code;
            if (difference == common) {
                code = 0;
            } else if (difference == (byte) difference) {
                code = 1;
                out.put((byte) difference);
            } else if (difference == (short) difference) {
                code = 2;
                out.putShort((short) difference);
            } else {
                code = 3;
                out.putInt(difference);
            }
            out.array()[4 + (i >> 2)] |= (byte) (code << (i & 3) * 2);
        }
        return pack(out.array(), out.position());
    }

    /** The commonest difference between neighbours. Short ones, which most are, are counted without a map where they are many. */
    private static int commonestStep(int[] numbers) {
        int[] near = numbers.length < MANY ? new int[0] : new int[1 << Short.SIZE];
        Map<Integer, Integer> frequency = new HashMap<>();
        int previous = 0;
        for (int number : numbers) {
            int difference = number - previous;
            previous = number;
            if (near.length > 0 && difference == (short) difference) {
                near[difference & 0xffff]++;
            } else {
                frequency.merge(difference, 1, Integer::sum);
            }
        }
        for (int i = 0; i < near.length; i++) {
            if (near[i] > 0) {
                frequency.put((int) (short) i, near[i]);
            }
        }
        return commonest(frequency, 0);
    }

    /** Codes and packs 64-bit numbers; the size is not put in front. */
    static byte[] packed(long[] numbers) {
        Map<Long, Integer> frequency = new HashMap<>();
        long previous = 0;
        for (long number : numbers) {
            frequency.merge(number - previous, 1, Integer::sum);
            previous = number;
        }
        long common = commonest(frequency, 0L);
        int codes = (int) ((numbers.length * 2L + 7) / 8);
        ByteBuffer out = ByteBuffer.allocate(8 + codes + numbers.length * 8).order(ByteOrder.LITTLE_ENDIAN);
        out.putLong(common).position(8 + codes);
        previous = 0;
        for (int i = 0; i < numbers.length; i++) {
            long difference = numbers[i] - previous;
            previous = numbers[i];
            int code;
            if (difference == common) {
                code = 0;
            } else if (difference == (short) difference) {
                code = 1;
                out.putShort((short) difference);
            } else if (difference == (int) difference) {
                code = 2;
                out.putInt((int) difference);
            } else {
                code = 3;
                out.putLong(difference);
            }
            out.array()[8 + (i >> 2)] |= (byte) (code << (i & 3) * 2);
        }
        return pack(out.array(), out.position());
    }

    /** The commonest difference; of several, the largest, so that the result is always the same. */
    private static <N extends Comparable<N>> N commonest(Map<N, Integer> frequency, N otherwise) {
        N best = otherwise;
        int most = 0;
        for (Map.Entry<N, Integer> entry : frequency.entrySet()) {
            if (entry.getValue() > most
                    || entry.getValue() == most && entry.getKey().compareTo(best) > 0) {
                best = entry.getKey();
                most = entry.getValue();
            }
        }
        return best;
    }
}
