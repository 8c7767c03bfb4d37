package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class CompanionsTest {
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
        assertThat(Companions.find(model, "../shared/steel.png")).contains(above);
        assertThat(Companions.find(model, "paint.png")).contains(beside);
        assertThat(Companions.find(model, "D:\\old\\place\\Label.png")).contains(below);
        assertThat(Companions.find(model, "textures%2Flabel.png")).contains(below);
        assertThat(Companions.find(model, "nowhere.png")).isEmpty();
        assertThat(Companions.find(model, "\0")).isEmpty();
    }

    @Test
    void materialLibrariesAndBuffersBelongToTheirFile() throws IOException {
        Path obj = file("a.obj", "mtllib a.mtl\nmtllib missing.mtl\nv 0 0 0\n");
        Path mtl = file("a.mtl", "");
        assertThat(Companions.of(obj)).containsExactly(mtl);
        Path bin = file("b.bin", "");
        Path second = file("b.gltf", "{ \"buffers\": [ {\"uri\": \"b.bin\"}, {\"uri\": \"data:;base64,AA\"}, {} ] }");
        assertThat(Companions.of(second)).containsExactly(bin);
        Path first = file("c.gltf", "{ \"buffers\": { \"one\": {\"uri\": \"b.bin\"} } }");
        assertThat(Companions.of(first)).as("version 1 names its buffers").containsExactly(bin);
        assertThat(Companions.of(file("d.gltf", "{}"))).isEmpty();
        assertThat(Companions.of(file("e.stl", ""))).isEmpty();
    }
}
