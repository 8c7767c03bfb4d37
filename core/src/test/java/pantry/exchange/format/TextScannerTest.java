package pantry.exchange.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

@DisplayName("Lines, words and numbers of a text file")
class TextScannerTest {
    @TempDir
    private Path folder;

    private static TextScanner scanner(String text) {
        return new TextScanner(Path.of("part.obj"), text.getBytes(StandardCharsets.UTF_8));
    }

    @Test
    @DisplayName("are walked through one after another, over blanks, tabs, and any kind of line's end")
    void walking() {
        TextScanner in = scanner("v  1 -2.5\t3e1\r\nf 1/2\r\r\nlast");
        assertThat(in.word()).isEqualTo("v");
        assertThat(in.hasNumber()).isTrue();
        assertThat(in.number()).isEqualTo(1);
        assertThat(in.number()).isEqualTo(-2.5f);
        assertThat(in.number()).isEqualTo(30);
        assertThat(in.atLineEnd()).isTrue();
        assertThat(in.word()).as("a word is not of the next line").isEmpty();
        in.nextLine();
        assertThat(in.word()).isEqualTo("f");
        assertThat(in.whole()).isEqualTo(1);
        assertThat(in.peek()).isEqualTo('/');
        in.skip();
        assertThat(in.whole()).isEqualTo(2);
        assertThat(in.wordAnywhere()).isEqualTo("last");
        assertThat(in.wordAnywhere()).isEmpty();
        assertThat(in.atEnd()).isTrue();
        assertThat(in.peek()).isEqualTo('\0');
    }

    @Test
    @DisplayName("a backslash at a line's end joins the next line to it")
    void joined() {
        TextScanner in = scanner("f 1 \\\n 2 \\\r\n 3\nv 9");
        assertThat(in.word()).isEqualTo("f");
        assertThat(in.whole() + in.whole() + in.whole()).isEqualTo(6);
        assertThat(in.atLineEnd()).isTrue();
        in.nextLine();
        assertThat(in.rest()).isEqualTo("v 9");
    }

    @ParameterizedTest
    @CsvSource({"+7,7", "-0,0", ".5,0.5", "5.,5", "1e3,1000", "-1.25E-2,-0.0125", "0000012,12"})
    void numbersAreReadInEveryFormThatFilesHave(String written, float value) {
        assertThat(scanner(written).number()).isEqualTo(value);
    }

    @ParameterizedTest
    @ValueSource(strings = {"x", "", "nan", "--1", "1e99", "1e400"})
    void whatIsNoFiniteNumberIsRefusedWithItsLine(String written) {
        TextScanner in = scanner("first\nv " + written);
        in.nextLine();
        in.word();
        assertThatThrownBy(in::number).isInstanceOf(ExchangeException.class).satisfies(problem -> {
            ExchangeException wrong = (ExchangeException) problem;
            assertThat(wrong.file()).contains("part.obj");
            assertThat(wrong.place()).contains("line 2");
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"x1", "x", "", "99999999999"})
    void whatIsNoWholeNumberIsRefusedAndNothingIsPassed(String written) {
        TextScanner in = scanner(written);
        int before = in.position();
        assertThatThrownBy(in::whole).isInstanceOf(ExchangeException.class).hasMessageContaining("whole number");
        assertThat(in.position()).isEqualTo(before);
    }

    @Test
    @DisplayName("a file is read without the mark that some programs put before it; one that is not there is told")
    void files() throws Exception {
        Path marked = folder.resolve("marked.obj");
        Files.write(marked, new byte[] {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF, 'v', ' ', '1'});
        assertThat(new String(TextScanner.text(marked), StandardCharsets.UTF_8)).isEqualTo("v 1");
        assertThat(TextScanner.bytes(marked)).hasSize(6);
        assertThatThrownBy(() -> TextScanner.text(folder.resolve("gone.obj")))
                .isInstanceOf(ExchangeException.class)
                .hasMessageContaining("cannot be read");
    }
}
