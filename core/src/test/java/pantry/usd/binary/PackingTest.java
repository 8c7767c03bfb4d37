package pantry.usd.binary;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.lang.foreign.MemorySegment;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Label;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.usd.UsdException;

/** The coding of whole numbers by their differences, and LZ4 around it, read back as they were written. */
@DisplayName("Packed numbers")
class PackingTest {
    /** What is packed, with its size in front, as the tables of a layer have it. */
    private static Bytes sized(byte[] packed) {
        ByteBuffer whole = ByteBuffer.allocate(8 + packed.length).order(ByteOrder.LITTLE_ENDIAN);
        whole.putLong(packed.length).put(packed);
        return new Bytes(MemorySegment.ofArray(whole.array()), "numbers.usdc");
    }

    @Property
    @Label("are the same whatever they are, of 32 bits")
    void integers(@ForAll @Size(min = 1, max = 300) int[] numbers) {
        assertThat(Packing.integers(sized(Packing.packed(numbers)), numbers.length))
                .isEqualTo(numbers);
    }

    @Property
    @Label("are the same whatever they are, of 64 bits")
    void longs(@ForAll @Size(min = 1, max = 300) long[] numbers) {
        assertThat(Packing.longs(sized(Packing.packed(numbers)), numbers.length))
                .isEqualTo(numbers);
    }

    @Property
    @Label("that go on by small steps take about a quarter of a byte each, before LZ4 makes less of them")
    void smallSteps(
            @ForAll @IntRange(min = 1, max = 100) int step, @ForAll @IntRange(min = 1000, max = 20_000) int count) {
        int[] numbers = IntStream.range(0, count).map(i -> i * step).toArray();
        byte[] packed = Packing.packed(numbers);
        assertThat(packed.length).isLessThan(count / 4 + 64);
        assertThat(Packing.integers(sized(packed), count)).isEqualTo(numbers);
    }

    @Test
    @DisplayName("at the ends of their range differ by more than the range, and are the same all the same")
    void extremes() {
        int[] numbers = {Integer.MIN_VALUE, Integer.MAX_VALUE, 0, -1, Integer.MAX_VALUE, Integer.MIN_VALUE, 1};
        assertThat(Packing.integers(sized(Packing.packed(numbers)), numbers.length))
                .isEqualTo(numbers);
        long[] longs = {Long.MIN_VALUE, Long.MAX_VALUE, 0, -1, Long.MAX_VALUE, Long.MIN_VALUE, 1};
        assertThat(Packing.longs(sized(Packing.packed(longs)), longs.length)).isEqualTo(longs);
        // Steps of one, two, four and eight bytes, one after another.
        long[] mixed =
                LongStream.of(0, 1, 200, 70_000, 5_000_000_000L, 3, 3, 3, 3, -9).toArray();
        assertThat(Packing.longs(sized(Packing.packed(mixed)), mixed.length)).isEqualTo(mixed);
    }

    @Test
    @DisplayName("that are many are told apart by the commonest step, near or far; of two the larger")
    void commonestOfMany() {
        assertThat(commonest(5, 100_000)).isEqualTo(100_000);
        assertThat(commonest(-7, 12)).isEqualTo(12);
        assertThat(commonest(-40_000, -3)).isEqualTo(-3);
        assertThat(commonest(-3, -3)).isEqualTo(-3);
    }

    /** What the code of 20,000 numbers calls their commonest step, where two take turns. */
    private static int commonest(int step, int other) {
        int[] numbers = new int[20_000];
        for (int i = 1; i < numbers.length; i++) {
            numbers[i] = numbers[i - 1] + (i % 2 == 0 ? step : other);
        }
        // As many of the one as of the other.
        numbers[0] = 0;
        int[] even = Arrays.copyOf(numbers, numbers.length - 1);
        byte[] packed = Packing.packed(even);
        assertThat(Packing.integers(sized(packed), even.length)).isEqualTo(even);
        Bytes in = sized(packed);
        byte[] code = Packing.unpack(in, in.whole(), 1 << 20);
        return ByteBuffer.wrap(code).order(ByteOrder.LITTLE_ENDIAN).getInt();
    }

    @Test
    @DisplayName("that are cut off, or of which more are asked for than there are, are refused with the file's name")
    void damaged() {
        byte[] packed = Packing.packed(IntStream.range(0, 500).map(i -> i * i).toArray());
        byte[] half = Arrays.copyOf(packed, packed.length / 2);
        assertThatThrownBy(() -> Packing.integers(sized(half), 500))
                .isInstanceOf(UsdException.class)
                .extracting(problem -> ((UsdException) problem).file())
                .asString()
                .contains("numbers.usdc");
        assertThatThrownBy(() -> Packing.integers(sized(packed), 5_000)).isInstanceOf(UsdException.class);
        Bytes tooLong = new Bytes(
                MemorySegment.ofArray(ByteBuffer.allocate(16)
                        .order(ByteOrder.LITTLE_ENDIAN)
                        .putLong(1_000_000)
                        .array()),
                "numbers.usdc");
        assertThatThrownBy(() -> Packing.integers(tooLong, 3))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("packed size");
    }
}
