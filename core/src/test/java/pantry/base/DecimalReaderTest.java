package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Against Java's own conversion, which rounds correctly. */
class DecimalReaderTest {
    private final DecimalReader reader = new DecimalReader();

    private double read(String text) {
        return reader.read(text.getBytes(StandardCharsets.US_ASCII), 0);
    }

    @Property(seed = "20261125")
    void everyDoubleIsReadAsItIsWritten(@ForAll double number) {
        String text = Double.toString(number);
        assertThat(read(text)).isEqualTo(number);
        assertThat(reader.end()).isEqualTo(text.length());
    }

    @Property(seed = "20261125")
    void decimalsOfAnyLengthAreRoundedOnce(@ForAll long digits, @ForAll @IntRange(min = -320, max = 300) int exponent) {
        String text = digits + "." + Math.abs(digits >>> 3) + "e" + exponent;
        assertThat(read(text)).isEqualTo(Double.parseDouble(text));
    }

    @ParameterizedTest
    @CsvSource({
        "1.5abc, 1.5, 3",
        "-.5, -0.5, 3",
        "+7., 7, 3",
        "1e3, 1000, 3",
        "2E-2 3, 0.02, 4",
        "0000000000000000000000001, 1, 25",
        "123456789012345678901234567890, 123456789012345678901234567890, 30",
    })
    void aNumberEndsWhereItsCharactersEnd(String text, double number, int end) {
        assertThat(read(text)).isEqualTo(number);
        assertThat(reader.end()).isEqualTo(end);
    }

    @ParameterizedTest
    @CsvSource({"abc", "-", ".", "''", "1e", "1e+", "e5"})
    void whatIsNoNumberTakesNothing(String text) {
        assertThat(read(text)).isNaN();
        assertThat(reader.end()).isZero();
    }
}
