package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.DisabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import pantry.testing.JavaProcess;

class HeldFolderTest {
    @TempDir
    Path folder;

    /** Another process, that removes what is abandoned. */
    static final class Sweeper {
        private Sweeper() {}

        public static void main(String[] arguments) throws IOException {
            HeldFolder.sweep(Path.of(arguments[0]), abandoned -> {});
        }
    }

    private void sweptByAnother() throws IOException, InterruptedException {
        assertThat(JavaProcess.start(Sweeper.class, folder.toString()).waitFor())
                .isZero();
    }

    private HeldFolder held(String name) throws IOException {
        HeldFolder made = HeldFolder.create(() -> folder.resolve(name));
        Files.writeString(made.path().resolve("work.txt"), "half done");
        return made;
    }

    @Test
    void aFolderIsHeldUntilItsProcessLetsGo() throws IOException, InterruptedException {
        HeldFolder ours = held("ours");
        sweptByAnother();
        assertThat(ours.path().resolve("work.txt")).exists();
        ours.abandon();
        sweptByAnother();
        assertThat(folder).isEmptyDirectory();
    }

    /** POSIX lets go of a lock as soon as the process closes any channel of its file: fcntl(2). */
    @Test
    void sweepingDoesNotLetGoOfWhatThisProcessHolds() throws IOException, InterruptedException {
        try (HeldFolder ours = held("ours")) {
            List<Path> abandoned = new ArrayList<>();
            HeldFolder.sweep(folder, abandoned::add);
            assertThat(abandoned).isEmpty();
            sweptByAnother();
            assertThat(ours.path().resolve("work.txt")).exists();
        }
        assertThat(folder).isEmptyDirectory();
    }

    @Test
    @DisabledOnOs(OS.WINDOWS)
    void sweepingByAnotherPathDoesNotEither() throws IOException, InterruptedException {
        Path link = Files.createSymbolicLink(folder.resolveSibling(folder.getFileName() + "-link"), folder);
        try (HeldFolder ours = held("ours")) {
            HeldFolder.sweep(link, abandoned -> {});
            sweptByAnother();
            assertThat(ours.path().resolve("work.txt")).exists();
        } finally {
            Files.delete(link);
        }
    }

    @Test
    void whatIsSweptIsFinishedFirst() throws IOException {
        held("left").abandon();
        List<String> found = new ArrayList<>();
        HeldFolder.sweep(folder, left -> {
            found.add(Files.readString(left.resolve("work.txt")));
            // Whoever sweeps at the same time, does not do it again.
            HeldFolder.sweep(folder, again -> found.add("again"));
        });
        assertThat(found).containsExactly("half done");
        assertThat(folder).isEmptyDirectory();
    }
}
