package pantry.desktop.receive;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a likeness is said to mean, by its figure and both heights. */
class LikenessPaneTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            1.0   | 2.0 | 2.0    | the same shape and size
            0.999 | 2.0 | 2.01   | the same shape and size
            1.0   | 2.0 | 0.5    | the same shape at another size
            1.0   | 2.0 | NaN    | the same shape, 2.00
            0.97  | 2.0 | 2.0    | resembles it, 97
            0.85  | 2.0 | 2000.0 | resembles it, 85
            """)
    void aLikenessSaysWhatItMeans(double likeness, double there, double here, String said) {
        assertThat(LikenessPane.words(likeness, there, here).replace('\u202f', ' '))
                .startsWith(said);
    }
}
