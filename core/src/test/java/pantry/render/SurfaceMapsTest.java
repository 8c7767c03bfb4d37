package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.IntBinaryOperator;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;

/** What images say of a surface is seen as if the surface itself, or its material, were so. */
class SurfaceMapsTest {
    private static final int SIZE = 400;
    private static final int WHITE = 0xFFFFFF;
    private static final Colour GREY = new Colour(0.5f, 0.5f, 0.5f);

    /** Upright, facing the eye, 2 m wide; its image upright on it. */
    private static final Mesh WALL = Shapes.plate(2, 2).transformed(Matrix4.rotation(0, 90));

    @TempDir
    private Path folder;

    private Texture image(String name, IntBinaryOperator argb) throws IOException {
        BufferedImage image = new BufferedImage(16, 16, BufferedImage.TYPE_INT_ARGB);
        for (int y = 0; y < 16; y++) {
            for (int x = 0; x < 16; x++) {
                image.setRGB(x, y, argb.applyAsInt(x, y));
            }
        }
        Path file = folder.resolve(name + ".png");
        ImageIO.write(image, "png", file.toFile());
        return new Texture(name, Optional.of(file));
    }

    private static int opaque(int red, int green, int blue) {
        return 0xFF << 24 | red << 16 | green << 8 | blue;
    }

    private static Frame drawn(Mesh mesh, Material material, Model.Node... others) {
        List<Model.Node> nodes = new java.util.ArrayList<>(List.of(others));
        nodes.addFirst(Model.Node.of("Wall", Matrix4.IDENTITY, List.of(new Model.Part(mesh, material)), List.of()));
        RenderScene scene = RenderScene.of(new Model("Test", nodes, Model.Extras.NONE), new RenderCache());
        return new Renderer().draw(scene, new Camera(Vec3.ZERO, 0, 0, 4, 90), SIZE, SIZE, RenderOptions.bare(WHITE));
    }

    private static int middle(Frame frame) {
        return at(frame, SIZE / 2, SIZE / 2);
    }

    private static int at(Frame frame, int x, int y) {
        return frame.argb()[y * frame.width() + x] & WHITE;
    }

    private static void assertAlike(int one, int other, int most) {
        for (int shift = 0; shift < 24; shift += 8) {
            assertThat(one >> shift & 0xff).isCloseTo(other >> shift & 0xff, within(most));
        }
    }

    /** The slopes of a normal map: red to the right, green upwards (OpenGL's way, which glTF and OpenUSD prescribe). */
    @ParameterizedTest
    @CsvSource({"1, 30", "1, -30", "0, 25", "0, -25"})
    void aNormalMapLooksLikeASurfaceThatIsTurnedSo(int axis, double degrees) throws IOException {
        Vec3 normal = Matrix4.rotation(axis, degrees).direction(new Vec3(0, 0, 1));
        int texel = opaque(coded(normal.x()), coded(normal.y()), coded(normal.z()));
        Material plain = Material.plain("Grey", GREY, 0, 0.5);
        int bent = middle(drawn(WALL, plain.with(Slot.NORMAL, image("slope", (x, y) -> texel))));
        int turned = middle(drawn(WALL.transformed(Matrix4.rotation(axis, degrees)), plain));
        assertAlike(bent, turned, 2);
        assertThat(bent).as("it is seen at all").isNotEqualTo(middle(drawn(WALL, plain)));
    }

    /** A ramp's slope is its rise by the length that the image lies on: here 2 m. */
    @ParameterizedTest
    @CsvSource({"1, 30", "1, -30", "0, 25", "0, -25"})
    void heightsThatRiseEvenlyLookLikeASurfaceThatIsTurnedSo(int axis, double degrees) throws IOException {
        Vec3 normal = Matrix4.rotation(axis, degrees).direction(new Vec3(0, 0, 1));
        double slope = -(axis == 1 ? normal.x() : normal.y()) / normal.z();
        Texture ramp = image("ramp", (x, y) -> {
            int level = 16 * (axis == 1 ? x : 15 - y) + 8;
            return opaque(level, level, level);
        });
        Texture heights = ramp.with(Texture.Sampling.USUAL.withStrength((float) (2 * slope * 255 / 256)));
        Material plain = Material.plain("Grey", GREY, 0, 0.5);
        int bent = middle(drawn(WALL, plain.with(Slot.DISPLACEMENT, heights)));
        assertAlike(bent, middle(drawn(WALL.transformed(Matrix4.rotation(axis, degrees)), plain)), 2);
        // Where normals are said, they say what follows from the heights already.
        int flat = opaque(128, 128, 255);
        Material both = plain.with(Slot.DISPLACEMENT, heights).with(Slot.NORMAL, image("flat", (x, y) -> flat));
        assertAlike(middle(drawn(WALL, both)), middle(drawn(WALL, plain)), 2);
    }

    private static int coded(double value) {
        return (int) Math.round((value + 1) * 127.5);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 64, 128, 255})
    void roughnessAndMetalOfAnImageAreThoseOfAMaterial(int level) throws IOException {
        // Green is roughness and blue is metal, as glTF has it.
        Texture packed = image("packed", (x, y) -> opaque(255, level, 255 - level));
        Material mapped = Material.plain("Mapped", GREY, 1, 1)
                .with(Slot.ROUGHNESS, packed)
                .with(Slot.METALLIC, packed);
        Material plain = Material.plain("Plain", GREY, (255 - level) / 255.0, level / 255.0);
        assertAlike(middle(drawn(WALL, mapped)), middle(drawn(WALL, plain)), 1);
    }

    @Test
    void whatGlowsGlowsWhereItsImageSaysSo() throws IOException {
        Texture left = image("left", (x, y) -> x < 8 ? opaque(255, 255, 255) : opaque(0, 0, 0));
        Material glowing =
                new Material("Lamp", Colour.BLACK, 1, 0, 1, new Colour(1, 0, 0), java.util.Map.of(Slot.EMISSIVE, left));
        Frame frame = drawn(WALL, glowing);
        assertThat(at(frame, 170, 200) >> 16).isGreaterThan(240);
        assertThat(at(frame, 230, 200) >> 16).isLessThan(40);
    }

    @Test
    void whatIsOccludedIsDarker() throws IOException {
        Texture closed = image("closed", (x, y) -> opaque(0, 0, 0));
        Material plain = Material.plain("Grey", GREY, 0, 1);
        int open = middle(drawn(WALL, plain)) & 0xff;
        int dark = middle(drawn(WALL, plain.with(Slot.OCCLUSION, closed))) & 0xff;
        int half =
                middle(drawn(WALL, plain.with(Slot.OCCLUSION, closed.with(Texture.Sampling.USUAL.withStrength(0.5f)))))
                        & 0xff;
        assertThat(dark).isLessThan(open - 10);
        assertThat(half).isBetween(dark + 2, open - 2);
    }

    /** What is cut out is not there: what stands behind is seen, and picked. */
    @Test
    void whatAnImageCutsOutShowsWhatIsBehindIt() throws IOException {
        Texture leaf = image("leaf", (x, y) -> x < 8 ? opaque(0, 160, 0) : 0x00FFFFFF);
        Material cut = new Material(
                "Leaf",
                Colour.WHITE,
                1,
                0,
                1,
                Colour.BLACK,
                new Material.Finish(0.5f, 0, 0.01f, 1.5f, false),
                java.util.Map.of(Slot.BASE, leaf, Slot.OPACITY, leaf));
        Model.Node behind = Model.Node.of(
                "Behind",
                Matrix4.translation(new Vec3(0, 0, -1)),
                List.of(new Model.Part(WALL, Material.plain("Red", new Colour(0.8f, 0, 0), 0, 1))),
                List.of());
        Frame frame = drawn(WALL, cut, behind);
        assertThat(frame.id(170, 200)).isZero();
        assertThat(frame.id(230, 200)).isEqualTo(1);
        assertThat(at(frame, 230, 200) >> 16).isGreaterThan(at(frame, 230, 200) & 0xff);
        long leftHalf = java.util.stream.IntStream.range(0, SIZE * SIZE)
                .filter(i -> frame.ids()[i] == 0)
                .count();
        // 2 m at 4 m are 100 pixels, of which the image has half; between two texels the edge may lie a little off.
        assertThat(leftHalf).isBetween(48L * 100, 53L * 100);
    }

    @Test
    void halfSeenThroughIsHalfOfThePixels() throws IOException {
        Texture half = image("half", (x, y) -> 0x80FFFFFF);
        Material veil = Material.plain("Veil", GREY, 0, 1).with(Slot.OPACITY, half);
        long seen = java.util.Arrays.stream(drawn(WALL, veil).ids())
                .filter(id -> id == 0)
                .count();
        assertThat(seen).isCloseTo(5000, within(50L));
    }

    @Test
    void anImageLiesOnTheSurfaceAsItsPlacementSays() throws IOException {
        Texture half = image("half", (x, y) -> x < 8 ? opaque(255, 255, 255) : opaque(0, 0, 0));
        Texture moved = half.with(Texture.Sampling.placed(new Texture.Placement(0, 1, 1, 0, 0.5f, 0)));
        Material glowing =
                new Material("Lamp", Colour.BLACK, 1, 0, 1, Colour.WHITE, java.util.Map.of(Slot.EMISSIVE, moved));
        Frame frame = drawn(WALL, glowing);
        assertThat(at(frame, 230, 200) & 0xff).isGreaterThan(at(frame, 170, 200) & 0xff);
    }

    @Test
    void aClearCoatShinesWhereTheSurfaceBelowIsRough() {
        Material rough = Material.plain("Rough", GREY, 0, 1);
        Material coated = new Material(
                "Coated",
                GREY,
                1,
                0,
                1,
                Colour.BLACK,
                new Material.Finish(0, 1, 0.3f, 1.5f, false),
                java.util.Map.of());
        Mesh ball = Shapes.sphere(1, 48, 24);
        assertThat(brightest(drawn(ball, coated))).isGreaterThan(brightest(drawn(ball, rough)) + 10);
    }

    private static int brightest(Frame frame) {
        int most = 0;
        for (int i = 0; i < frame.ids().length; i++) {
            most = frame.ids()[i] == 0 ? Math.max(most, frame.argb()[i] & 0xff) : most;
        }
        return most;
    }
}
