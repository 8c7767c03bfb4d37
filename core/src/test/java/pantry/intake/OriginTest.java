package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;

class OriginTest {
    @TempDir
    private Path folder;

    private int scratch;

    private UnpackedArchives archives() {
        return new UnpackedArchives(() -> folder.resolve("scratch-" + scratch++));
    }

    private Path pack(String name, String... entries) throws IOException {
        Path file = folder.resolve(name);
        try (OutputStream out = Files.newOutputStream(file);
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (String entry : entries) {
                zip.putNextEntry(new ZipEntry(entry));
                zip.write("solid x\nendsolid x\n".getBytes());
                zip.closeEntry();
            }
        }
        return file;
    }

    @Test
    void aPlaceInAnArchiveIsToldAndUnderstoodAgain() throws IOException {
        Path pack = pack("pack.zip", "deep/er/post.stl");
        Origin origin = new Origin(pack, Optional.of("deep/er/post.stl"));
        assertThat(origin).hasToString(pack + "!/deep/er/post.stl");
        assertThat(Origin.parse(origin.toString())).isEqualTo(origin);
        Path plain = folder.resolve("post.stl");
        assertThat(Origin.parse(plain.toString())).isEqualTo(Origin.of(plain));
    }

    @Test
    void aFolderWhoseNameEndsInTheSignIsNoArchive() throws IOException {
        Path odd = Files.createDirectories(folder.resolve("odd!")).resolve("post.stl");
        assertThat(Origin.parse(odd.toString())).isEqualTo(Origin.of(odd));
    }

    @Test
    void anotherSessionUnpacksTheArchiveAndFindsTheFile() throws IOException {
        Path pack = pack("pack.zip", "deep/post.stl", "deep/pole.stl");
        UnpackedArchives now = archives();
        List<Path> files = now.filesIn(pack, Progress.NONE);
        assertThat(files).hasSize(2);
        Origin origin = now.origin(files.getFirst());
        assertThat(origin.file()).isEqualTo(pack.toAbsolutePath());
        assertThat(now.filesIn(pack, Progress.NONE)).as("unpacked once").isEqualTo(files);
        Path later = archives().locate(Origin.parse(origin.toString()), Progress.NONE);
        assertThat(later).isRegularFile().hasSameBinaryContentAs(files.getFirst());
        assertThat(later).isNotEqualTo(files.getFirst());
    }

    @Test
    void aFailureNamesTheArchiveAndNotTheScratchFile() throws IOException {
        Path pack = pack("pack.zip", "post.stl");
        UnpackedArchives archives = archives();
        Path inside = archives.filesIn(pack, Progress.NONE).getFirst();
        PantryException told = archives.told(new PantryException(inside, "is empty"));
        assertThat(told.file()).contains(pack.toAbsolutePath() + "!/post.stl");
        assertThat(told).hasMessageContaining("is empty");
        PantryException other = new PantryException(folder.resolve("b.stl"), "is empty");
        assertThat(archives.told(other)).isSameAs(other);
    }

    @Test
    void anArchiveThatIsGoneIsSaid() {
        Origin gone = new Origin(folder.resolve("gone.zip"), Optional.of("a.stl"));
        assertThatThrownBy(() -> archives().locate(gone, Progress.NONE)).isInstanceOf(PantryException.class);
    }
}
