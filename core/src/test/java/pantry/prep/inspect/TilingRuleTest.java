package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.prep.Made.texture;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.function.IntBinaryOperator;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.MeshBuilder;
import pantry.prep.Made;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** Repeated images whose edges do not meet; the greys of the images are those that the findings must tell. */
class TilingRuleTest {
    @TempDir
    private Path folder;

    /** A mast with a wall on which an image lies so many times across and upwards. */
    private Made wall(double across, double up, IntBinaryOperator grey) throws IOException {
        Made made = Made.mast(folder);
        BufferedImage image = new BufferedImage(64, 64, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < 64; y++) {
            for (int x = 0; x < 64; x++) {
                image.setRGB(x, y, 0x010101 * grey.applyAsInt(x, y));
            }
        }
        ImageIO.write(
                image,
                "png",
                made.layer.file().orElseThrow().resolveSibling("planks.png").toFile());
        MeshBuilder builder = new MeshBuilder();
        builder.face(
                builder.point(new Vec3(0, 0, 0)),
                builder.point(new Vec3(1, 0, 0)),
                builder.point(new Vec3(1, 1, 0)),
                builder.point(new Vec3(0, 1, 0)));
        builder.uvs(0, 0, across, 0, across, up, 0, up);
        PrimSpec wall = made.mesh("Wall", builder.build(), Matrix4.IDENTITY);
        made.bound(wall, "Steel");
        texture(made, "Steel", "planks.png", "diffuseColor", "sRGB");
        return made;
    }

    private static List<String> told(Made made) {
        return Made.inspect(made.open()).stream()
                .filter(finding -> finding.rule().id().equals("does-not-tile"))
                .map(Finding::message)
                .toList();
    }

    /** From black to nearly white across: 252 steps between the edges, 4 between neighbours. */
    @Test
    void aSeamIsToldWithItsSizeWhereTheImageIsRepeated() throws IOException {
        assertThat(told(wall(3, 1, (x, y) -> 4 * x)))
                .containsExactly("planks.png is repeated: its left and right edges differ by 252 of 255, neighbours"
                        + " within by 4");
        assertThat(told(wall(1, 2, (x, y) -> 4 * y)))
                .containsExactly("planks.png is repeated: its top and bottom edges differ by 252 of 255, neighbours"
                        + " within by 4");
    }

    @Test
    void whatIsShownOnceMayHaveEdges() throws IOException {
        assertThat(told(wall(1, 1, (x, y) -> 4 * x))).isEmpty();
        assertThat(told(wall(1, 3, (x, y) -> 4 * x))).isEmpty();
    }

    /** Waves go on into each other; noise differs as much within as at its edges. */
    @Test
    void whatTilesIsNotTold() throws IOException {
        assertThat(told(wall(3, 3, (x, y) ->
                        (int) (128 + 90 * Math.sin(2 * Math.PI * x / 64) * Math.cos(2 * Math.PI * y / 64)))))
                .isEmpty();
        assertThat(told(wall(3, 3, (x, y) -> Math.floorMod(x * 7919 + y * 104_729 + x * y * 31, 256))))
                .isEmpty();
    }

    @Test
    void whatIsMirroredMeetsItself() throws IOException {
        Made made = wall(3, 1, (x, y) -> 4 * x);
        made.layer
                .prim(SdfPath.of(Made.ROOT + "/Materials/Steel/Image"))
                .orElseThrow()
                .set("token", "inputs:wrapS", new Value.Token("mirror"));
        assertThat(told(made)).isEmpty();
    }
}
