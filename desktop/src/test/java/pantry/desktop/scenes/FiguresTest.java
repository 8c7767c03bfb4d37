package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FiguresTest {
    @ParameterizedTest
    @CsvSource({"2.5,2.5", "'2,5',2.5", "-3,-3", "+0.5,4.5", "+-1,3", "*2,8", "' * 0.5',2", "1e2,100"})
    void figuresAreTakenPlainAddedOrMultiplied(String typed, double result) {
        assertThat(Figures.typed(typed, 4)).contains(result);
    }

    @ParameterizedTest
    @CsvSource({"''", "abc", "NaN", "+", "1/0", "*Infinity"})
    void whatIsNoFigureIsNotTaken(String typed) {
        assertThat(Figures.typed(typed, 4)).isEmpty();
    }

    @Test
    void figuresAreShownWithoutNeedlessZeros() {
        assertThat(Figures.show(1.5)).isEqualTo("1.5");
        assertThat(Figures.show(-0.0001)).isEqualTo("0");
        assertThat(Figures.show(12)).isEqualTo("12");
    }
}
