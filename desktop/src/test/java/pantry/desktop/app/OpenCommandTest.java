package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class OpenCommandTest {
    @TempDir
    private Path folder;

    @Test
    void aFolderOfFilesWithoutScenesIsTakenIn() throws IOException {
        assertThat(OpenCommand.isPack(folder)).as("empty").isFalse();
        Files.writeString(folder.resolve("notes.txt"), "of the delivery");
        assertThat(OpenCommand.isPack(folder)).as("nothing to take in").isFalse();
        Path within = Files.createDirectories(folder.resolve("crates/large"));
        Files.writeString(within.resolve("crate.obj"), "v 0 0 0");
        assertThat(OpenCommand.isPack(folder)).isTrue();
        Files.writeString(folder.resolve("crates/station.usda"), "#usda 1.0");
        assertThat(OpenCommand.isPack(folder)).as("a scene may be in it").isFalse();
        assertThat(OpenCommand.isPack(folder.resolve("away"))).isFalse();
    }
}
