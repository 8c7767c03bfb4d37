package pantry.exchange.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.FileGate;

class CompanionsTest {
    private Optional<Path> find(Path model, String name) {
        return Companions.find(model, name, FileGate.OPEN);
    }

    @TempDir
    private Path folder;

    private Path file(String name, String text) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        return Files.writeString(file, text);
    }

    @Test
    void filesAreFoundByTheirOwnPathByTheirNameNearbyAndInAnyCase() throws IOException {
        Path model = file("models/crate.obj", "");
        Path beside = file("models/Paint.PNG", "");
        Path below = file("models/textures/label.png", "");
        Path above = file("shared/steel.png", "");
        assertThat(find(model, "../shared/steel.png")).contains(above);
        assertThat(find(model, "paint.png")).contains(beside);
        assertThat(find(model, "D:\\old\\place\\Label.png")).contains(below);
        assertThat(find(model, "textures%2Flabel.png")).contains(below);
        assertThat(find(model, "nowhere.png")).isEmpty();
        assertThat(find(model, "\0")).isEmpty();
    }

    @Test
    void materialLibrariesAndBuffersBelongToTheirFile() throws IOException {
        Path obj = file("a.obj", "mtllib a.mtl\nmtllib missing.mtl\nv 0 0 0\n");
        Path mtl = file("a.mtl", "");
        assertThat(Companions.of(obj, FileGate.OPEN)).containsExactly(mtl);
        Path bin = file("b.bin", "");
        Path second = file("b.gltf", "{ \"buffers\": [ {\"uri\": \"b.bin\"}, {\"uri\": \"data:;base64,AA\"}, {} ] }");
        assertThat(Companions.of(second, FileGate.OPEN)).containsExactly(bin);
        Path first = file("c.gltf", "{ \"buffers\": { \"one\": {\"uri\": \"b.bin\"} } }");
        assertThat(Companions.of(first, FileGate.OPEN))
                .as("version 1 names its buffers")
                .containsExactly(bin);
        assertThat(Companions.of(file("d.gltf", "{}"), FileGate.OPEN)).isEmpty();
        assertThat(Companions.of(file("e.stl", ""), FileGate.OPEN)).isEmpty();
    }
}
