package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Every command tells how it is called, and refuses what it does not know with 2. */
class HelpTest {
    @TempDir
    private Path folder;

    static Set<String> commands() {
        try (Shell shell = new Shell(Path.of("target"))) {
            return shell.commands();
        }
    }

    @ParameterizedTest
    @MethodSource("commands")
    void everyCommandHasHelp(String command) {
        try (Shell shell = new Shell(folder)) {
            assertThat(shell.run(command, "--help")).isZero();
            assertThat(shell.printed()).contains("Usage: pantry " + command).contains("--json");
            assertThat(shell.run(command, "--no-such-option")).isEqualTo(2);
            assertThat(shell.said()).isNotBlank().doesNotContain("Exception");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "history X",
                "diff X",
                "reserve X",
                "release X",
                "ready X",
                "retire X",
                "trash X",
                "restore X",
                "card X",
                "tag X --add t",
                "move X --to S",
                "verify",
                "reindex",
                "upgrade",
                "shelf"
            })
    void aLibraryThatIsNoneIsSaidInOneLine(String line) {
        try (Shell shell = new Shell(folder)) {
            String[] words = (line + " --library " + folder.resolve("nowhere")).split(" ");
            assertThat(shell.run(words)).isEqualTo(1);
            assertThat(shell.said().strip().lines())
                    .singleElement()
                    .satisfies(said -> assertThat(said).contains("nowhere").contains("there is no such folder"));
            assertThat(shell.printed()).isEmpty();
        }
    }

    @Test
    void anAssetThatIsNotThereIsNamed() {
        try (Shell shell = new Shell(folder)) {
            String library = folder.resolve("library").toString();
            assertThat(shell.run("new-library", library, "--name", "Yard")).isZero();
            for (String command : new String[] {"history", "diff", "reserve", "release", "ready", "trash", "card"}) {
                assertThat(shell.run(command, "Ghost", "--library", library))
                        .as(command)
                        .isEqualTo(1);
                assertThat(shell.said()).contains("has no asset \"Ghost\"").contains("Shelf/Name");
            }
        }
    }
}
