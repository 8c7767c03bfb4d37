package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.Model;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.testing.Workshop;

class PickingTest {
    private static Model at(Mesh mesh, Matrix4 place) {
        return new Model(
                "Model",
                List.of(Model.Node.of("Node", place, List.of(new Model.Part(mesh, Workshop.RED)), List.of())),
                Model.Extras.NONE);
    }

    /** A line towards a block meets its nearer face. */
    @Test
    void aLineMeetsTheNearestFace() {
        Model block = at(Shapes.block(2, 2, 2), Matrix4.translation(new Vec3(0, 0, -10)));
        Optional<Vec3> hit = Picking.hit(block, new Vec3(0.3, 1, 5), new Vec3(0, 0, -1));
        assertThat(hit).isPresent();
        assertThat(hit.get().z()).isCloseTo(-9, within(1e-9));
        assertThat(hit.get().x()).isCloseTo(0.3, within(1e-9));
        assertThat(Picking.hit(block, new Vec3(0.3, 1, 5), new Vec3(0, 0, 1)))
                .as("it is behind")
                .isEmpty();
        assertThat(Picking.hit(block, new Vec3(3, 1, 5), new Vec3(0, 0, -1)))
                .as("it is beside")
                .isEmpty();
    }

    /** A line through the middle of a sphere meets it at its radius, however it is scaled and turned. */
    @Test
    void placesAreScaledAndTurned() {
        Matrix4 place = Matrix4.scale(new Vec3(3, 3, 3))
                .times(Matrix4.rotation(1, 37))
                .times(Matrix4.translation(new Vec3(5, 0, 0)));
        Vec3 hit = Picking.hit(at(Shapes.sphere(1, 128, 96), place), new Vec3(5, 0, 20), new Vec3(0, 0, -2))
                .orElseThrow();
        assertThat(hit.z()).isCloseTo(3, within(0.01));
    }

    /** Common practice: the eleven basic colour words, for colours that nobody would dispute. */
    @ParameterizedTest
    @CsvSource({
        "000000,black", "FFFFFF,white", "808080,grey", "FF0000,red", "00A000,green", "0000FF,blue", "FFFF00,yellow",
        "FF8000,orange", "FFC0CB,pink", "800080,purple", "6B4423,brown", "008080,teal", "B23A2E,red", "3E7A78,teal",
        "D39A3A,orange", "ECE9E1,white", "4A5056,grey"
    })
    void coloursHaveTheirWords(String hex, String word) {
        assertThat(ColourNames.name(Integer.parseInt(hex, 16))).isEqualTo(word);
    }

    @Test
    void whatIsSeenMostOfComesFirstAndWhatIsHardlySeenNotAtAll() {
        BufferedImage picture = new BufferedImage(90, 90, BufferedImage.TYPE_INT_ARGB);
        for (int y = 0; y < 90; y++) {
            for (int x = 0; x < 90; x++) {
                int colour = x < 50 ? 0xFF0000FF : x < 75 ? 0xFFFF0000 : x < 78 ? 0xFF00FF00 : 0x00FFFFFF;
                picture.setRGB(x, y, colour);
            }
        }
        assertThat(ColourNames.of(picture)).containsExactly("blue", "red");
        assertThat(ColourNames.of(new BufferedImage(9, 9, BufferedImage.TYPE_INT_ARGB)))
                .isEmpty();
    }

    @Test
    void edgesDarkenWhereTrianglesMeetAndNowhereElse() {
        RenderScene scene = RenderScene.of(at(Shapes.block(2, 2, 2), Matrix4.IDENTITY), new RenderCache());
        RenderOptions bare = new RenderOptions(0xFFFFFF, false, false, 0, true, false, Set.of(), 0);
        Camera front = new Camera(new Vec3(0, 1, 0), 0, 0, 6, 35);
        int[] plain = new Renderer().draw(scene, front, 200, 200, bare).argb().clone();
        int[] edged = new Renderer()
                .draw(scene, front, 200, 200, bare.withEdges(true))
                .argb()
                .clone();
        int darker = 0;
        for (int i = 0; i < plain.length; i++) {
            if (plain[i] != edged[i]) {
                darker++;
                assertThat(edged[i] & 0xff).isLessThan(plain[i] & 0xff);
            }
        }
        assertThat(darker).as("outline and one diagonal").isBetween(200, 1400);
    }
}
