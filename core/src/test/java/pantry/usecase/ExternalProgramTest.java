package pantry.usecase;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;

class ExternalProgramTest {
    @TempDir
    private Path folder;

    @Test
    void aCommandHasItsOptionsAndWhatIsQuotedStaysTogether() {
        assertThat(ExternalProgram.of("modeller --new  -x").command()).containsExactly("modeller", "--new", "-x");
        assertThat(ExternalProgram.of("modeller --title 'my mast' \"a b\"").command())
                .containsExactly("modeller", "--title", "my mast", "a b");
        assertThatThrownBy(() -> ExternalProgram.of("  ")).isInstanceOf(PantryException.class);
    }

    @Test
    @DisabledOnOs(OS.WINDOWS)
    void aPathWithBlanksIsStartedWithTheFilesWholePathAndWithoutSecrets() throws Exception {
        Path place = Files.createDirectories(folder.resolve("my programs"));
        Path said = folder.resolve("said.txt");
        Path program = Files.writeString(
                place.resolve("look at.sh"), "#!/bin/sh\necho \"$1|$2\" > '" + said + "'\nenv >> '" + said + "'\n");
        assertThat(program.toFile().setExecutable(true)).isTrue();
        Path file = Files.writeString(folder.resolve("mast.obj"), "");
        Path here = Path.of("").toAbsolutePath();
        Process process = ExternalProgram.of(program + " --new").open(here.relativize(file));
        assertThat(process.waitFor()).isZero();
        assertThat(Files.readAllLines(said).getFirst()).isEqualTo("--new|" + file);
        assertThat(Files.readAllLines(said)).noneMatch(line -> line.matches("(?i)(PANTRY_|PGPASS|[^=]*SECRET).*"));
    }

    @Test
    void aProgramThatIsNotThereIsSaid() {
        assertThatThrownBy(() -> ExternalProgram.of("no-such-program-anywhere").open(folder.resolve("a.obj")))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("no-such-program-anywhere");
    }
}
