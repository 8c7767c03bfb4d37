package pantry.bench;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import javax.imageio.ImageIO;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.render.Camera;
import pantry.render.Frame;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Renderer;

/** Frames of 900×700 of many balls that share one mesh; the scale of DESIGN's target is 3.5 million triangles. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Warmup(iterations = 3, time = 3)
@Measurement(iterations = 5, time = 3)
@Fork(1)
public class RenderBenchmark {
    @Param({"100000", "1000000", "3500000"})
    public int triangles;

    /** Whether the balls have images of colour, normals, roughness and metal, of 512 pixels. */
    @Param({"false", "true"})
    public boolean images;

    private final Renderer renderer = new Renderer();
    private RenderScene scene = RenderScene.EMPTY;
    private Camera camera = Camera.START;
    private int turn;

    @Setup
    public void prepare() throws IOException {
        Material material = images ? withImages() : Material.PLAIN;
        Mesh ball = Shapes.sphere(0.4, 64, 40);
        int count = triangles / ball.triangleCount();
        int side = (int) Math.ceil(Math.cbrt(count));
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            Vec3 at = new Vec3(i % side, i / side % side, i / (side * side));
            nodes.add(Model.Node.of(
                    "Ball " + i, Matrix4.translation(at), List.of(new Model.Part(ball, material)), List.of()));
        }
        scene = RenderScene.of(new Model("Balls", nodes, Model.Extras.NONE), new RenderCache());
        camera = Camera.START.framing(scene.boxes(), 9.0 / 7);
        // The ground's shadow is made once per scene, with its first frame.
        frame();
    }

    private static Material withImages() throws IOException {
        Path folder = Files.createTempDirectory("render-benchmark");
        BufferedImage image = new BufferedImage(512, 512, BufferedImage.TYPE_INT_RGB);
        Random random = new Random(4711);
        for (int y = 0; y < 512; y++) {
            for (int x = 0; x < 512; x++) {
                image.setRGB(x, y, (112 + random.nextInt(32)) << 16 | (112 + random.nextInt(32)) << 8 | 0xf0);
            }
        }
        Path file = folder.resolve("rough.png");
        ImageIO.write(image, "png", file.toFile());
        Texture texture = new Texture("rough.png", Optional.of(file));
        return Material.plain("Rough", Colour.WHITE, 1, 1)
                .with(Material.Slot.BASE, texture)
                .with(Material.Slot.NORMAL, texture)
                .with(Material.Slot.ROUGHNESS, texture)
                .with(Material.Slot.METALLIC, texture);
    }

    @Benchmark
    public Frame frame() {
        return renderer.draw(scene, camera.orbited(turn++, 0), 900, 700, RenderOptions.PLAIN.withGrid(true));
    }
}
