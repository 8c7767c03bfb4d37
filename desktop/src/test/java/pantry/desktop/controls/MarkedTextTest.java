package pantry.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which letters of a name are marked; marked ones stand in brackets. */
class MarkedTextTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Lattice mast 9 m | mas       | Lattice [mas]t 9 m",
                "Lattice mast 9 m | lat mast  | [Lat]tice [mast] 9 m",
                "Mast, mastless   | mast mas  | [Mast], [mast]less",
                "Topmast          | mast      | Topmast",
                "Lattice mast     | nosuch    | Lattice mast",
                "Straße 9         | stra      | [Stra]ße 9",
                "9 m mast         | 9         | [9] m mast"
            })
    void beginningsOfWordsAreMarked(String text, String words, String shown) {
        assertThat(MarkedText.pieces(text, List.of(words.split(" "))).stream()
                        .map(piece -> piece.marked() ? "[" + piece.text() + "]" : piece.text())
                        .collect(Collectors.joining()))
                .isEqualTo(shown);
    }
}
