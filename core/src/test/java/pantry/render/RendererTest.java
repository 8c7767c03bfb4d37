package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

class RendererTest {
    private static final Material RED = Material.plain("Red", new Colour(0.8f, 0, 0), 0, 1);
    private static final Material BLUE = Material.plain("Blue", new Colour(0, 0, 0.8f), 0, 1);
    private static final RenderOptions BARE = RenderOptions.bare(0xFFFFFF);

    private static Model.Node node(String name, Mesh mesh, Material material, Vec3 at) {
        return Model.Node.of(name, Matrix4.translation(at), List.of(new Model.Part(mesh, material)), List.of());
    }

    private static RenderScene scene(Model.Node... nodes) {
        return RenderScene.of(new Model("Test", List.of(nodes), Model.Extras.NONE), new RenderCache());
    }

    private static Camera front(double distance) {
        return new Camera(Vec3.ZERO, 0, 0, distance, 90);
    }

    private static long count(Frame frame, int id) {
        return java.util.Arrays.stream(frame.ids()).filter(i -> i == id).count();
    }

    /** By similar triangles a square of 2 m at 4 m, seen at 90° over 400 pixels, is 100 pixels wide. */
    @Test
    void sizesInThePictureFollowPerspective() {
        RenderScene scene = scene(node("Block", Shapes.box(new Vec3(-1, -1, -2), new Vec3(1, 1, 0)), RED, Vec3.ZERO));
        Frame frame = new Renderer().draw(scene, front(4), 400, 400, BARE);
        assertThat(count(frame, 0)).isEqualTo(100 * 100);
        assertThat(frame.id(200, 200)).isZero();
        assertThat(frame.id(149, 200)).isEqualTo(-1);
        assertThat(frame.id(150, 200)).isZero();
    }

    @Test
    void nearerThingsHideFartherOnesWhateverTheOrder() {
        Model.Node near = node("Near", Shapes.block(1, 1, 1), RED, new Vec3(0, -0.5, 0));
        Model.Node far = node("Far", Shapes.block(4, 4, 1), BLUE, new Vec3(0, -2, -3));
        for (RenderScene scene : List.of(scene(near, far), scene(far, near))) {
            Frame frame = new Renderer().draw(scene, front(5), 200, 200, BARE);
            assertThat(scene.owner(frame.id(100, 100))).contains("Near");
            assertThat(scene.owner(frame.id(100, 82))).contains("Far");
            int seen = frame.argb()[100 * 200 + 100];
            assertThat(seen >> 16 & 0xff).isGreaterThan((seen & 0xff) + 60);
        }
    }

    @Test
    void trianglesThatReachBehindTheEyeAreCut() {
        RenderScene scene = scene(node("Floor", Shapes.plate(100, 100), RED, new Vec3(0, -1, 0)));
        Frame frame = new Renderer().draw(scene, front(2), 200, 200, BARE);
        // The floor fills what lies below the horizon, and nothing above it.
        for (int x = 5; x < 200; x += 10) {
            assertThat(frame.id(x, 195)).as("below, at " + x).isZero();
            assertThat(frame.id(x, 95)).as("above, at " + x).isEqualTo(-1);
        }
    }

    @Test
    void aBallHasNoHoles() {
        RenderScene scene = scene(node("Ball", Shapes.sphere(1, 200, 100), RED, Vec3.ZERO));
        Frame frame = new Renderer().draw(scene, front(3), 300, 300, BARE);
        // Its outline is the circle of half-angle asin(1/3) about the middle.
        double radius = 150 * Math.tan(Math.asin(1.0 / 3));
        for (int y = 0; y < 300; y++) {
            for (int x = 0; x < 300; x++) {
                double off = Math.hypot(x + 0.5 - 150, y + 0.5 - 150);
                if (off < radius - 1.5) {
                    assertThat(frame.id(x, y)).isZero();
                } else if (off > radius + 1.5) {
                    assertThat(frame.id(x, y)).isEqualTo(-1);
                }
            }
        }
        assertThat(Math.PI * radius * radius).isCloseTo(count(frame, 0), within(Math.PI * radius * 3));
    }

    /** The least light on what is seen of something round, of 255. */
    private static int darkest(Mesh mesh) {
        Frame frame = new Renderer()
                .draw(
                        scene(node("Ring", mesh, Material.plain("Chalk", Colour.WHITE, 0, 1), Vec3.ZERO)),
                        new Camera(Vec3.ZERO, 35, 20, 2, 60),
                        300,
                        300,
                        BARE);
        return IntStream.range(0, frame.ids().length)
                .filter(pixel -> frame.ids()[pixel] == 0)
                .map(pixel -> frame.argb()[pixel] >> 8 & 0xff)
                .min()
                .orElseThrow();
    }

    /** A smooth normal that leans away from the eye was turned round: coarse rings had black specks at their outlines. */
    @Test
    void theOutlineOfSomethingCoarseAndRoundIsNoDarkerThanThatOfSomethingFine() {
        assertThat(darkest(Shapes.torus(0.7, 0.25, 34, 12)))
                .isGreaterThan(darkest(Shapes.torus(0.7, 0.25, 340, 120)) - 12);
    }

    @Test
    void instancesShareTheirMeshAndHaveIdsOfTheirOwn() {
        Mesh mesh = Shapes.sphere(0.2, 16, 8);
        List<Model.Node> shared = List.of(node("Inner", mesh, RED, Vec3.ZERO));
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < 1000; i++) {
            Matrix4 at = Matrix4.translation(new Vec3(i % 40 - 19.5, i / 40 - 12.0, 0));
            nodes.add(new Model.Node("I" + i, "/World/I" + i, at, List.of(), shared, true));
        }
        Model model = new Model("Many", nodes, Model.Extras.NONE);
        RenderScene scene = RenderScene.of(model, new RenderCache());
        assertThat(scene.instances.stream().map(DrawInstance::mesh).distinct()).hasSize(1);
        assertThat(scene.triangles()).isEqualTo(1000L * mesh.triangleCount());
        assertThat(model.trianglesStored()).isEqualTo(mesh.triangleCount());
        Camera camera = front(30);
        Frame frame = new Renderer().draw(scene, camera, 800, 600, BARE);
        Vec3 seen = camera.project(new Vec3(0.5, 0, 0), 800, 600);
        assertThat(scene.owner(frame.id((int) seen.x(), (int) seen.y()))).contains("/World/I500");
    }

    @Test
    void framingShowsAnythingFromAMillimetreToTenKilometresWhereverItStands() {
        for (double size : new double[] {0.001, 1, 10_000}) {
            for (Vec3 at : List.of(Vec3.ZERO, new Vec3(1e5, -2e4, 3e5).times(size))) {
                RenderScene scene = scene(node("Block", Shapes.block(size, size, size), RED, at));
                Camera camera = Camera.START.framing(scene.boxes(), 1);
                Frame frame = new Renderer().draw(scene, camera, 200, 200, BARE);
                assertThat(count(frame, 0)).as(size + " m at " + at).isBetween(8_000L, 30_000L);
                for (int i = 0; i < 200; i++) {
                    assertThat(frame.id(i, 0)).isEqualTo(-1);
                    assertThat(frame.id(0, i)).isEqualTo(-1);
                }
            }
        }
    }

    @Test
    void texturesStandUprightOnTheirFaces(@TempDir Path folder) throws IOException {
        BufferedImage image = new BufferedImage(2, 2, BufferedImage.TYPE_INT_RGB);
        image.setRGB(0, 0, 0xff0000);
        image.setRGB(1, 0, 0x00ff00);
        image.setRGB(0, 1, 0x0000ff);
        image.setRGB(1, 1, 0xffffff);
        Path file = folder.resolve("corners.png");
        ImageIO.write(image, "png", file.toFile());
        Material material = Material.plain("Corners", Colour.WHITE, 0, 1)
                .with(Material.Slot.BASE, new Texture("corners.png", Optional.of(file)));
        RenderScene scene =
                scene(node("Block", Shapes.box(new Vec3(-1, -1, -2), new Vec3(1, 1, 0)), material, Vec3.ZERO));
        Frame frame = new Renderer().draw(scene, front(4), 400, 400, BARE);
        assertThat(strongest(frame, 175, 175)).as("upper left").isEqualTo("red");
        assertThat(strongest(frame, 225, 175)).as("upper right").isEqualTo("green");
        assertThat(strongest(frame, 175, 225)).as("lower left").isEqualTo("blue");
    }

    private static String strongest(Frame frame, int x, int y) {
        int c = frame.argb()[y * frame.width() + x];
        int r = c >> 16 & 0xff;
        int g = c >> 8 & 0xff;
        int b = c & 0xff;
        return r > g && r > b ? "red" : g > b ? "green" : "blue";
    }

    /** IEC 61966-2-1: display 128 is linear 0.2159, and below display 11 the curve is a line of slope 1 / 12.92. */
    @Test
    void displayColoursFollowTheStandard() {
        assertThat(Colour.display(0.2159f)).isEqualTo(128);
        assertThat(Colour.linear(255)).isEqualTo(1);
        assertThat(Colour.linear(10)).isCloseTo(10 / 255f / 12.92f, within(1e-6f));
        for (int c = 0; c < 256; c++) {
            assertThat(Colour.display(Colour.linear(c))).isEqualTo(c);
        }
    }

    @Test
    void thumbnailsAreClearButForTheThingAndItsShadow() throws IOException {
        Model model =
                new Model("Block", List.of(node("Block", Shapes.block(1, 1, 1), RED, Vec3.ZERO)), Model.Extras.NONE);
        BufferedImage image =
                ImageIO.read(new ByteArrayInputStream(Thumbnails.png(model, new RenderCache(), Thumbnails.SIZE)));
        int size = Thumbnails.SIZE;
        assertThat(image.getWidth()).isEqualTo(size);
        assertThat(image.getRGB(2, 2) >>> 24).isZero();
        assertThat(image.getRGB(size / 2, size / 2) >>> 24).isEqualTo(255);
        boolean shadow = false;
        for (int x = 0; x < size; x++) {
            int alpha = image.getRGB(x, size * 47 / 51) >>> 24;
            shadow |= alpha > 10 && alpha < 250;
        }
        assertThat(shadow).isTrue();
    }

    @Test
    void whatIsSelectedHasAnOutlineAndWhatIsDraggedMoves() {
        RenderScene scene = scene(node("Block", Shapes.box(new Vec3(-1, -1, -2), new Vec3(1, 1, 0)), RED, Vec3.ZERO));
        RenderOptions selected =
                RenderOptions.bare(0xFFFFFF).withSelected(Set.of("Block")).withOutline(0x123456);
        Frame frame = new Renderer().draw(scene, front(4), 400, 400, selected);
        assertThat(frame.argb()[200 * 400 + 149]).isEqualTo(0xff123456);
        RenderScene moved = scene.moved(Map.of("Block", Matrix4.translation(new Vec3(4, 0, 0))));
        assertThat(new Renderer().draw(moved, front(4), 400, 400, BARE).id(200, 200))
                .isEqualTo(-1);
        assertThat(scene.boundsBelow("Block")).isEqualTo(new Box3(new Vec3(-1, -1, -2), new Vec3(1, 1, 0)));
    }

    @Test
    void ofWhatIsSelectedInPartOnlyThatPartHasAnOutline() {
        Mesh left = Shapes.box(new Vec3(-1.2, -1, -2), new Vec3(-0.4, 1, 0));
        Mesh right = Shapes.box(new Vec3(0.4, -1, -2), new Vec3(1.2, 1, 0));
        Model.Node row = Model.Node.of(
                "Row", Matrix4.IDENTITY, List.of(new Model.Part(left, RED), new Model.Part(right, RED)), List.of());
        RenderScene scene = scene(row);
        RenderOptions bare = RenderOptions.bare(0xFFFFFF).withOutline(0x123456);
        Box3 onTheLeft = new Box3(new Vec3(-1.2, -1, -2), new Vec3(-0.4, 1, 0));
        String use = scene.owner(0).orElseThrow();
        Frame part = new Renderer()
                .draw(scene, front(4), 400, 400, bare.withSelected(Set.of(use), Map.of(use, List.of(onTheLeft))));
        Frame whole = new Renderer().draw(scene, front(4), 400, 400, bare.withSelected(Set.of("Row")));
        assertThat(outlined(part, 0, 200)).isPositive().isEqualTo(outlined(whole, 0, 200));
        assertThat(outlined(part, 200, 400)).isZero();
        assertThat(outlined(whole, 200, 400)).isPositive();
    }

    private static long outlined(Frame frame, int from, int to) {
        return IntStream.range(0, frame.argb().length)
                .filter(i -> i % frame.width() >= from && i % frame.width() < to)
                .filter(i -> frame.argb()[i] == 0xff123456)
                .count();
    }

    @Test
    void imagesThatCannotBeReadDoNotStopThePicture(@TempDir Path folder) throws IOException {
        Path broken = Files.writeString(folder.resolve("broken.png"), "no image");
        Material material = RED.with(Material.Slot.BASE, new Texture("broken.png", Optional.of(broken)));
        RenderScene scene = scene(node("Block", Shapes.block(1, 1, 1), material, Vec3.ZERO));
        Frame frame = new Renderer().draw(scene, front(3), 100, 100, BARE);
        assertThat(count(frame, 0)).isPositive();
    }

    /** What is drawn smooth is what is drawn twice as large and halved, but for what blocks of one surface share. */
    @Test
    void smoothPicturesAreThoseOfTwiceTheSize() {
        Model model =
                new Model("Ball", List.of(node("Ball", Shapes.sphere(1, 32, 16), RED, Vec3.ZERO)), Model.Extras.NONE);
        RenderScene scene = RenderScene.of(model, new RenderCache());
        Camera camera = Camera.START.framing(scene.boxes(), 1);
        Frame large = new Renderer()
                .draw(scene, camera, 240, 240, RenderOptions.PLAIN)
                .halved();
        Frame smooth = new Renderer().drawSmooth(scene, camera, 120, 120, RenderOptions.PLAIN);
        int far = 0;
        for (int i = 0; i < 120 * 120; i++) {
            for (int shift = 0; shift < 24; shift += 8) {
                int a = large.argb()[i] >> shift & 0xff;
                int b = smooth.argb()[i] >> shift & 0xff;
                far = Math.max(far, Math.abs(a - b));
            }
            assertThat(smooth.ids()[i]).isEqualTo(large.ids()[i]);
        }
        assertThat(far).as("of 255").isLessThan(6);
    }

    /** A cut through the middle of the block leaves the half behind it; by similar triangles it is seen at 5 m. */
    @Test
    void aCutShowsWhatIsBehindIt() {
        Mesh mesh = Shapes.box(new Vec3(-1, -1, -2), new Vec3(1, 1, 0));
        RenderScene scene = scene(node("Block", mesh, RED, Vec3.ZERO));
        RenderOptions.Cut across = new RenderOptions.Cut(new Vec3(0, 0, -1), new Vec3(0, 0, 1));
        Frame frame = new Renderer().draw(scene, front(4), 400, 400, BARE.withCut(Optional.of(across)));
        // Open to the eye: the far side, 2 m at 6 m, and the inner sides from 5 m on.
        assertThat(count(frame, 0)).isEqualTo(80 * 80);
        RenderOptions.Cut half = new RenderOptions.Cut(Vec3.ZERO, new Vec3(1, 0, 0));
        Frame left = new Renderer().draw(scene, front(4), 400, 400, BARE.withCut(Optional.of(half)));
        assertThat(count(left, 0)).isEqualTo(50 * 100);
        assertThat(left.id(205, 200)).isEqualTo(-1);
        RenderOptions.Cut all = new RenderOptions.Cut(new Vec3(-5, 0, 0), new Vec3(1, 0, 0));
        assertThat(count(new Renderer().draw(scene, front(4), 400, 400, BARE.withCut(Optional.of(all))), 0))
                .isZero();
    }

    @Test
    void parallelViewsShowNearAndFarThingsAtOneSize() {
        Model.Node near = node("Near", Shapes.block(1, 1, 1), RED, new Vec3(-3, -0.5, 3));
        Model.Node far = node("Far", Shapes.block(1, 1, 1), BLUE, new Vec3(3, -0.5, -3));
        RenderScene scene = scene(near, far);
        Camera camera = new Camera(Vec3.ZERO, 0, 0, 20, 35).parallel(true);
        Frame frame = new Renderer().draw(scene, camera, 400, 400, BARE);
        assertThat((double) count(frame, 0)).isCloseTo(count(frame, 1), within(0.03 * count(frame, 1)));
        assertThat(camera.metresPerPixel(400)).isCloseTo(camera.parallel(false).metresPerPixel(400), within(1e-9));
        assertThat(camera.parallel(false).distance()).isCloseTo(20, within(1e-9));
    }

    /** Many uses of a fine mesh, seen from afar, are drawn by coarser levels; the picture hardly tells. */
    @Test
    void coarserLevelsLookAlikeFromAfar() {
        Mesh ball = Shapes.sphere(0.45, 64, 32);
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < 400; i++) {
            nodes.add(node("Ball" + i, ball, RED, new Vec3(i % 20, 0, i / 20)));
        }
        RenderScene levelled = RenderScene.of(new Model("Many", nodes, Model.Extras.NONE), new RenderCache());
        RenderScene plain = RenderScene.of(new Model("Few", nodes.subList(0, 7), Model.Extras.NONE), new RenderCache());
        assertThat(levelled.instances.getFirst().mesh().levels.length).isGreaterThan(2);
        assertThat(plain.instances.getFirst().mesh().levels).hasSize(1);
        assertThat(levelled.triangles()).isEqualTo(400L * ball.triangleCount());
        Camera camera = Camera.START.framing(plain.boxes(), 2).dollied(4);
        RenderScene some =
                RenderScene.of(new Model("Same", nodes.subList(0, 7), Model.Extras.NONE), levelledCache(nodes));
        Frame fine = new Renderer().drawSmooth(plain, camera, 400, 200, BARE);
        int[] before = fine.argb().clone();
        Frame coarse = new Renderer().drawSmooth(some, camera, 400, 200, BARE);
        assertThat(some.instances.getFirst().mesh().levels.length).isGreaterThan(2);
        int different = 0;
        for (int i = 0; i < before.length; i++) {
            different += Math.abs((before[i] >> 16 & 0xff) - (coarse.argb()[i] >> 16 & 0xff)) > 24 ? 1 : 0;
        }
        long seen = java.util.Arrays.stream(coarse.ids()).filter(id -> id >= 0).count();
        assertThat(seen).isGreaterThan(500);
        assertThat(different).isLessThan((int) (0.12 * seen));
    }

    private static RenderCache levelledCache(List<Model.Node> nodes) {
        RenderCache cache = new RenderCache();
        RenderScene.of(new Model("Many", nodes, Model.Extras.NONE), cache);
        return cache;
    }

    @Test
    void whatWasMovedForGoodIsDrawnAsIfItWereReadAnew() {
        List<Model.Node> before = new ArrayList<>();
        List<Model.Node> after = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            before.add(node("/B" + i, Shapes.block(1, 1 + i, 1), RED, new Vec3(2 * i, 0, 0)));
            after.add(node("/B" + i, Shapes.block(1, 1 + i, 1), RED, new Vec3(2 * i, 0, i == 3 ? 4 : 0)));
        }
        RenderScene anew = scene(after.toArray(Model.Node[]::new));
        RenderScene moved = scene(before.toArray(Model.Node[]::new))
                .placed(List.of("/B3"), path -> Matrix4.translation(new Vec3(6, 0, 4)));
        Camera camera = Camera.START.framing(anew.boxes(), 1.5);
        assertThat(moved.bounds()).isEqualTo(anew.bounds());
        assertThat(moved.bounds("/B3")).isEqualTo(anew.bounds("/B3"));
        assertThat(new Renderer()
                        .draw(moved, camera, 300, 200, RenderOptions.PLAIN)
                        .argb())
                .isEqualTo(new Renderer()
                        .draw(anew, camera, 300, 200, RenderOptions.PLAIN)
                        .argb());
        RenderScene back = moved.placed(List.of("/B3"), path -> Matrix4.translation(new Vec3(6, 0, 0)));
        assertThat(back.bounds())
                .isEqualTo(scene(before.toArray(Model.Node[]::new)).bounds());
    }
}
