package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Against the digests that NIST's example values give for "abc" and a million times "a", and coreutils for nothing. */
class Sha256Test {
    private static final String NOTHING = "e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855";
    private static final String ABC = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";
    private static final String MILLION = "cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0";

    @TempDir
    private Path folder;

    @Test
    void bytesInMemory() {
        assertThat(Sha256.of(new byte[0])).isEqualTo(NOTHING);
        assertThat(Sha256.of("abc".getBytes(StandardCharsets.US_ASCII))).isEqualTo(ABC);
    }

    @Test
    void filesOfAnySize() throws IOException {
        assertThat(Sha256.of(Files.createFile(folder.resolve("nothing")))).isEqualTo(NOTHING);
        assertThat(Sha256.of(Files.writeString(folder.resolve("short"), "abc"))).isEqualTo(ABC);
        assertThat(Sha256.of(Files.writeString(folder.resolve("long"), "a".repeat(1_000_000))))
                .isEqualTo(MILLION);
    }

    @Test
    void filesWithinAnArchive() throws IOException {
        URI archive = URI.create("jar:" + folder.resolve("some.zip").toUri());
        try (FileSystem inside = FileSystems.newFileSystem(archive, Map.of("create", "true"))) {
            assertThat(Sha256.of(Files.writeString(inside.getPath("abc"), "abc")))
                    .isEqualTo(ABC);
        }
    }

    @Test
    void whatIsMissingIsToldFromWhatCannotBeRead() {
        assertThatThrownBy(() -> Sha256.of(folder.resolve("missing"))).isInstanceOf(NoSuchFileException.class);
        assertThatThrownBy(() -> Sha256.of(folder))
                .isInstanceOf(IOException.class)
                .isNotInstanceOf(NoSuchFileException.class);
    }
}
