package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

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
    @CsvSource({
        "0.31+2*0.5,1.31",
        "30cm,0.3",
        "'1,5 m',1.5",
        "1m+30cm,1.3",
        "(2 + 3) * 10mm,0.05",
        "6ft,1.8288",
        "+5cm,4.05",
        "*(1+1),8",
        "/4,1",
        "10-2-3,5",
        "45°,45",
        "2×3,6",
        "-2*-3,6",
        "-(1+1),-2"
    })
    void sumsAndUnitsAreWorkedOut(String typed, double result) {
        assertThat(Figures.typed(typed, 4))
                .hasValueSatisfying(figure -> assertThat(figure).isCloseTo(result, within(1e-9)));
    }

    @ParameterizedTest
    @CsvSource({"2+", "(1", "3 metres", "SQRT(4)", "5mmm", "1..2", "/0", "e", "\"1\""})
    void whatIsNoSumIsNotTaken(String typed) {
        assertThat(Figures.typed(typed, 4)).isEmpty();
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
