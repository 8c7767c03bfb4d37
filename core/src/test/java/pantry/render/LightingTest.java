package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Lamp;
import pantry.model.Material;
import pantry.model.Model;

/** Scenes in the light of their lamps, against the inverse square and cosine laws and the geometry of shadows. */
class LightingTest {
    private static final Material PAPER = Material.plain("Paper", new Colour(0.5f, 0.5f, 0.5f), 0, 1);
    private static final RenderOptions BARE = RenderOptions.bare(0x808080);
    private static final int SIZE = 400;

    /** Straight down on 10 m by 10 m. */
    private static final Camera ABOVE = new Camera(Vec3.ZERO, 0, 89.99, 5 / Math.tan(Math.toRadians(0.25)), 0.5);

    private static Model.Node node(String name, Mesh mesh, Vec3 at) {
        return Model.Node.of(name, Matrix4.translation(at), List.of(new Model.Part(mesh, PAPER)), List.of());
    }

    private static RenderScene scene(Model.Node... nodes) {
        return RenderScene.of(new Model("Test", List.of(nodes), Model.Extras.NONE), new RenderCache());
    }

    private static final RenderScene FLOOR = scene(node("Floor", Shapes.plate(10, 10), Vec3.ZERO));

    /** The linear red of what is seen from above at a place of the floor. */
    private static double seen(RenderScene scene, double x, double z) {
        Frame frame = new Renderer().draw(scene, ABOVE, SIZE, SIZE, BARE);
        int px = (int) (SIZE / 2.0 + x * SIZE / 10);
        int py = (int) (SIZE / 2.0 + z * SIZE / 10);
        return Colour.linear(frame.argb()[py * SIZE + px] >> 16 & 0xff);
    }

    private static Lamp.Near ball(double strength, Vec3 at) {
        return new Lamp.Near(
                Colour.WHITE.times(strength), at, 0.1, new Vec3(0, -1, 0), new Lamp.Spread(false, -1, -1), true);
    }

    @Test
    @DisplayName("light falls off with the square of the distance and the cosine of its slant")
    void fallsOff() {
        RenderScene lit = LampLighting.exposed(FLOOR, List.of(ball(4, new Vec3(0, 2, 0))), 1);
        double below = seen(lit, 0.0125, 0.0125);
        for (double x : new double[] {1, 2, 4}) {
            double square = 4 + x * x;
            double expected = 4 / square * (2 / Math.sqrt(square));
            assertThat(seen(lit, x + 0.0125, 0.0125) / below)
                    .as("at " + x + " m")
                    .isCloseTo(expected, within(0.02));
        }
        // Twice as high, a quarter.
        RenderScene higher = LampLighting.exposed(FLOOR, List.of(ball(4, new Vec3(0, 4, 0))), 1);
        assertThat(seen(higher, 0.0125, 0.0125) / below).isCloseTo(0.25, within(0.01));
    }

    /** Paper under an irradiance of π, times its reflectance, is as bright as that; a 25th is mirrored besides. */
    @Test
    @DisplayName("exposure is what it says: white where the irradiance is π")
    void exposure() {
        RenderScene noon = LampLighting.exposed(FLOOR, List.of(new Lamp.Dome(Colour.WHITE)), 1);
        assertThat(seen(noon, 1, 1)).isCloseTo(0.5 + 0.04, within(0.01));
        RenderScene dim = LampLighting.exposed(FLOOR, List.of(new Lamp.Dome(Colour.WHITE)), 0.25);
        assertThat(seen(dim, 1, 1)).isCloseTo(0.135, within(0.005));
    }

    @Test
    @DisplayName("what is measured shows a scene well whatever its lamps' strength; a stop doubles it")
    void measured() {
        Lamp.Distant weak = new Lamp.Distant(Colour.WHITE.times(1e-3), Vec3.UP);
        Lamp.Distant strong = new Lamp.Distant(Colour.WHITE.times(1e5), Vec3.UP);
        double shown = seen(LampLighting.lit(FLOOR, List.of(weak), 0), 1, 1);
        assertThat(shown).isBetween(0.3, 0.6);
        assertThat(seen(LampLighting.lit(FLOOR, List.of(strong), 0), 1, 1)).isCloseTo(shown, within(0.005));
        assertThat(seen(LampLighting.lit(FLOOR, List.of(strong), -1), 1, 1)).isCloseTo(shown / 2, within(0.01));
        assertThat(seen(LampLighting.lit(FLOOR, List.of(strong), 0).brighter(-1), 1, 1))
                .as("made darker without being measured again")
                .isEqualTo(seen(LampLighting.lit(FLOOR, List.of(strong), -1), 1, 1));
        assertThat(FLOOR.brighter(3)).as("Pantry's own light stays").isSameAs(FLOOR);
        assertThat(seen(LampLighting.exposed(FLOOR, List.of(), 1), 1, 1))
                .as("no lamp, no light")
                .isZero();
    }

    /** A picture that is bright on one side only, along x of its own space. */
    @Test
    @DisplayName("a pictured sky lights what faces its bright side, and turns with its dome")
    void picturedSky(@TempDir Path folder) throws IOException {
        BufferedImage half = new BufferedImage(64, 32, BufferedImage.TYPE_INT_RGB);
        for (int y = 0; y < 32; y++) {
            for (int x = 0; x < 32; x++) {
                half.setRGB(x, y, 0xffffff);
            }
        }
        Path file = folder.resolve("half.png");
        ImageIO.write(half, "png", file.toFile());
        // From above, a roof whose slopes face east and west.
        Mesh slope = Shapes.plate(4, 8).transformed(Matrix4.rotation(2, -45));
        RenderScene roof = scene(
                node("East", slope, new Vec3(2, 0, 0)),
                node("West", slope.transformed(Matrix4.rotation(1, 180)), new Vec3(-2, 0, 0)));
        for (boolean turned : new boolean[] {false, true}) {
            Matrix4 turn = turned ? Matrix4.rotation(1, 180) : Matrix4.IDENTITY;
            Lamp.Dome dome = new Lamp.Dome(Colour.WHITE, Optional.of(file), turn);
            RenderScene lit = LampLighting.exposed(roof, List.of(dome), 1);
            double east = seen(lit, 2, 0);
            double west = seen(lit, -2, 0);
            assertThat(turned ? west : east).isGreaterThan(3 * (turned ? east : west));
        }
        Lamp.Dome lost = new Lamp.Dome(Colour.WHITE, Optional.of(folder.resolve("none.exr")), Matrix4.IDENTITY);
        assertThat(seen(LampLighting.exposed(FLOOR, List.of(lost), 1), 1, 1))
                .as("what cannot be read counts as white")
                .isEqualTo(seen(LampLighting.exposed(FLOOR, List.of(new Lamp.Dome(Colour.WHITE)), 1), 1, 1));
    }

    @Test
    @DisplayName("a sun's shadow lies where similar triangles put it")
    void shadow() {
        // A board 2 m wide, 3 m up; the sun stands at 45° to the east, so that its shadow lies 3 m to the west.
        RenderScene scene = scene(
                node("Floor", Shapes.plate(10, 10), Vec3.ZERO),
                node("Board", Shapes.block(2, 0.02, 2), new Vec3(0, 3, 0)));
        Vec3 east = new Vec3(1, 1, 0).unit();
        RenderScene lit = LampLighting.exposed(scene, List.of(new Lamp.Distant(Colour.WHITE.times(2), east)), 1);
        double open = seen(lit, 3, 0);
        assertThat(seen(lit, -3, 0)).as("middle of the shadow").isLessThan(open * 0.2);
        assertThat(seen(lit, -3.9, 0.9)).as("its corner").isLessThan(open * 0.2);
        assertThat(seen(lit, -4.1, 0)).as("beyond it").isCloseTo(open, within(0.01));
        assertThat(seen(lit, -1.9, 0)).as("before it").isCloseTo(open, within(0.01));
        assertThat(seen(lit, -3, 1.1)).as("beside it").isCloseTo(open, within(0.01));
    }

    @Test
    @DisplayName("surfaces do not darken themselves, however the sun falls on them")
    void noSpeckles() {
        RenderScene ball = scene(node("Ball", Shapes.sphere(2, 96, 48), Vec3.ZERO));
        Vec3 sun = new Vec3(0.3, 1, 0.2).unit();
        RenderScene lit = LampLighting.exposed(ball, List.of(new Lamp.Distant(Colour.WHITE.times(2), sun)), 1);
        double before = seen(lit, sun.x() * 2, sun.z() * 2);
        // From the place that faces the sun outwards it only grows darker.
        for (double t = 0.05; t < 0.8; t += 0.05) {
            double now = seen(lit, sun.x() * 2 - t * 1.6, sun.z() * 2);
            assertThat(now).as("at " + t).isLessThanOrEqualTo(before + 0.01);
            before = now;
        }
    }

    @Test
    @DisplayName("what is moved keeps its light; without lamps the scene stands in Pantry's own")
    void kept() {
        RenderScene lit = LampLighting.exposed(FLOOR, List.of(ball(4, new Vec3(0, 2, 0))), 1);
        Matrix4 lower = Matrix4.translation(new Vec3(0, -2, 0));
        assertThat(seen(lit.moved(java.util.Map.of("Floor", lower)), 0.0125, 0.0125))
                .isCloseTo(seen(lit, 0.0125, 0.0125) / 4, within(0.01));
        assertThat(seen(lit.inLightOf(FLOOR), 1, 1)).isEqualTo(seen(FLOOR, 1, 1));
    }
}
