package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;

class ScratchTest {
    @TempDir
    Path folder;

    @Test
    @DisabledOnOs(OS.WINDOWS)
    void nobodyElseMayEnter() throws IOException {
        Path parent = Files.createDirectory(folder.resolve("scratch"));
        Files.setPosixFilePermissions(parent, PosixFilePermissions.fromString("rwxrwxrwx"));
        Scratch scratch = Scratch.open(parent);
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(parent)))
                .isEqualTo("rwx------");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(scratch.path())))
                .isEqualTo("rwx------");
        scratch.close();
        assertThat(scratch.path()).doesNotExist();
    }

    @Test
    void aLinkThatSomebodyMadeFirstIsNotUsed() throws IOException {
        Path elsewhere = Files.createDirectory(folder.resolve("elsewhere"));
        Path wanted = Files.createSymbolicLink(folder.resolve("scratch"), elsewhere);
        Scratch scratch = Scratch.open(wanted);
        assertThat(scratch.path().startsWith(wanted)).isFalse();
        assertThat(elsewhere).isEmptyDirectory();
        scratch.close();
    }

    @Test
    void whatAnEndedProcessLeftIsRemovedAndWhatARunningOneHoldsStays() throws IOException {
        Scratch running = Scratch.open(folder);
        Path left = Files.createDirectory(folder.resolve("left"));
        Files.writeString(folder.resolve("left.held"), "");
        Files.writeString(left.resolve("paint.png"), "unpacked");
        Scratch next = Scratch.open(folder);
        assertThat(left).doesNotExist();
        assertThat(running.path()).exists();
        next.close();
        running.close();
    }
}
