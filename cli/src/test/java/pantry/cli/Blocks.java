package pantry.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/** Files to be taken in: each a single block, 1 m wide and deep. */
final class Blocks {
    private Blocks() {}

    /** @param height metres */
    static String file(Path folder, String name, double height) {
        return file(folder, name, "Body", height);
    }

    /**
     * @param part the block's name in the file
     * @param height metres
     */
    static String file(Path folder, String name, String part, double height) {
        Path file = folder.resolve(name + ".usda");
        ModelWriters.write(
                new Model(
                        name,
                        List.of(Model.Node.of(
                                part,
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(1, height, 1), Material.PLAIN)),
                                List.of())),
                        Model.Extras.NONE),
                file);
        return file.toString();
    }

    /** A file that ends within a value. */
    static void broken(Path folder) throws IOException {
        Files.writeString(folder.resolve("broken.usda"), "#usda 1.0\ndef Xform \"a\" {\n  double size = [1, \n");
    }
}
