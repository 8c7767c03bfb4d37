package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.testing.Workshop;

class ContactShadowTest {
    private static Model.Node node(Mesh mesh, Vec3 at) {
        return Model.Node.of("Node", Matrix4.translation(at), List.of(new Model.Part(mesh, Workshop.RED)), List.of());
    }

    private static ContactShadow below(List<Model.Node> nodes) {
        RenderScene scene = RenderScene.of(new Model("Model", nodes, Model.Extras.NONE), new RenderCache());
        return ContactShadow.below(scene.instances, scene.bounds());
    }

    @Test
    void whatLiesOnTheGroundDarkensItAndWhatHangsHighHardlyDoes() {
        ContactShadow lying = below(List.of(node(Shapes.block(8, 0.2, 8), Vec3.ZERO)));
        assertThat(lying.ground()).isZero();
        assertThat(lying.at(0, 0)).isCloseTo(0.8f, within(0.01f));
        assertThat(lying.at(4, 0)).as("its edge is soft").isBetween(0.2f, 0.6f);
        assertThat(lying.at(6, 0)).isCloseTo(0, within(1e-6f));
        // A post gives the ground and the height; by how it fades, a plate 3 m up keeps e to the power of -3/fade.
        ContactShadow hanging = below(List.of(
                node(Shapes.block(8, 0.2, 8), new Vec3(0, 3, 0)),
                node(Shapes.block(0.1, 3, 0.1), new Vec3(3.9, 0, 3.9))));
        double fade = 0.3 * 8;
        assertThat(hanging.at(0, 0)).isCloseTo((float) (0.8 * Math.exp(-3 / fade)), within(0.01f));
    }

    private static ContactShadow below(Mesh mesh, Material material) {
        return below(
                List.of(Model.Node.of("Node", Matrix4.IDENTITY, List.of(new Model.Part(mesh, material)), List.of())));
    }

    /** A pane of a quarter darkens a quarter as much; what an image cuts out in half of its places, half as much. */
    @Test
    void whatIsThereInPartDarkensAsMuchAsThereIsOfIt(@TempDir Path folder) throws IOException {
        Mesh plate = Shapes.plate(8, 8);
        float whole = below(plate, Workshop.RED).at(0, 0);
        Material pane = new Material("Pane", Colour.WHITE, 0.25f, 0, 0.1f, Colour.BLACK, Map.of());
        assertThat(below(plate, pane).at(0, 0)).isCloseTo(whole / 4, within(0.01f));
        BufferedImage striped = new BufferedImage(16, 16, BufferedImage.TYPE_INT_ARGB);
        for (int i = 0; i < 256; i++) {
            striped.setRGB(i % 16, i / 16, i % 2 == 0 ? 0xffffffff : 0);
        }
        Path file = folder.resolve("striped.png");
        ImageIO.write(striped, "png", file.toFile());
        Texture image = new Texture("striped.png", Optional.of(file));
        Material cut =
                Material.plain("Grating", Colour.WHITE, 1, 0.5).withCutoff(0.5f).with(Material.Slot.OPACITY, image);
        assertThat(below(plate, cut).at(0, 0)).isCloseTo(whole / 2, within(0.02f));
        Material gone = new Material("Gone", Colour.WHITE, 0.25f, 0, 0.1f, Colour.BLACK, Map.of()).withCutoff(0.5f);
        assertThat(below(plate, gone).at(0, 0)).isZero();
    }

    /** Small things are spots, and dense ones are taken in clusters: it looks as if every triangle had been drawn. */
    @Test
    void manySmallThingsDarkenAsOneLargeOneOfThemWould() {
        List<Model.Node> apart = new ArrayList<>();
        List<Mesh> all = new ArrayList<>();
        Mesh pebble = Shapes.sphere(0.12, 24, 16);
        for (int i = 0; i < 1600; i++) {
            Vec3 at = new Vec3(i % 40 * 0.5 - 9.75, 0.12, i / 40 * 0.5 - 9.75);
            apart.add(node(pebble, at));
            all.add(pebble.transformed(Matrix4.translation(at)));
        }
        ContactShadow many = below(apart);
        ContactShadow one =
                below(all.stream().map(mesh -> node(mesh, Vec3.ZERO)).toList());
        assertThat(mean(many)).isCloseTo(mean(one), within(0.1 * mean(one)));
        assertThat(mean(one)).isGreaterThan(0.1);
        assertThat(many.at(14, 0)).isCloseTo(0, within(1e-6f));
    }

    private static double mean(ContactShadow shadow) {
        double sum = 0;
        int count = 0;
        for (double x = -9; x <= 9; x += 0.17) {
            for (double z = -9; z <= 9; z += 0.17) {
                sum += shadow.at(x, z);
                count++;
            }
        }
        return sum / count;
    }
}
