package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** The deepest nesting of objects that is read can also be shelved and read again; deeper nesting is refused. */
class DeepNestingTest extends WithWorkshop {
    private static final String TRIANGLE = """
            def Mesh "Shape"
            {
                int[] faceVertexCounts = [3]
                int[] faceVertexIndices = [0, 1, 2]
                point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 1)]
            }
            """;

    /** A model whose only surface stands below that many objects. */
    private static Model nested(int depth) {
        Model.Part part = new Model.Part(Shapes.block(1, 1, 1), Workshop.RED);
        Model.Node node = Model.Node.of("Block", Matrix4.IDENTITY, List.of(part), List.of());
        for (int i = 0; i < depth; i++) {
            node = Model.Node.of("Level_" + i, Matrix4.IDENTITY, List.of(), List.of(node));
        }
        return new Model("Nested", List.of(node), Model.Extras.NONE);
    }

    private void shelvesAndReadsAgain(Path file) {
        Imported arrival = workshop.readers().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Racks", Neighbours.on(workshop.library(), "Racks"));
        Asset asset = workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(asset.entryLayer("v001")), layers);
        assertThat(stage.problems()).isEmpty();
        assertThat(workshop.readers()
                        .read(asset.entryLayer("v001"), Progress.NONE)
                        .facts()
                        .triangles())
                .isEqualTo(arrival.facts().triangles());
    }

    private void refused(Path file) {
        assertThatThrownBy(() -> workshop.readers().read(file, Progress.NONE))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("nested");
    }

    private Path gltf(int depth) {
        Path file = folder.resolve("nested-" + depth + ".glb");
        ModelWriters.write(nested(depth), file);
        return file;
    }

    private Path collada(int depth) throws IOException {
        String text = """
                <?xml version="1.0"?>
                <COLLADA xmlns="http://www.collada.org/2005/11/COLLADASchema" version="1.4.1">
                <library_geometries><geometry id="g"><mesh>
                <source id="p"><float_array id="pa" count="9">0 0 0 1 0 0 0 1 1</float_array>
                <technique_common><accessor source="#pa" count="3" stride="3">
                <param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/>
                </accessor></technique_common></source>
                <vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
                <triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>
                </mesh></geometry></library_geometries>
                <library_visual_scenes><visual_scene id="s">%s<node id="n"><instance_geometry url="#g"/></node>%s
                </visual_scene></library_visual_scenes>
                <scene><instance_visual_scene url="#s"/></scene>
                </COLLADA>
                """.formatted("<node>".repeat(depth), "</node>".repeat(depth));
        return Files.writeString(folder.resolve("nested-" + depth + ".dae"), text);
    }

    private Path usd(int depth) throws IOException {
        String text = "#usda 1.0\n(\n    defaultPrim = \"A\"\n)\n" + "def Xform \"A\" {\n".repeat(depth) + TRIANGLE
                + "}\n".repeat(depth);
        return Files.writeString(folder.resolve("nested-" + depth + ".usda"), text);
    }

    @Test
    void gltf() {
        shelvesAndReadsAgain(gltf(Imported.DEEPEST - 2));
        refused(gltf(Imported.DEEPEST + 2));
    }

    @Test
    void theWorkersFormats() throws IOException {
        shelvesAndReadsAgain(collada(Imported.DEEPEST - 2));
        refused(collada(Imported.DEEPEST + 2));
    }

    @Test
    void usd() throws IOException {
        shelvesAndReadsAgain(usd(500));
        refused(usd(600));
    }
}
