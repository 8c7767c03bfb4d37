package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.DisplayName;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/**
 * What is seen in a picture is what a ray through each pixel meets first: checked against rays and boxes by the slab method
 * (T. L. Kay, J. T. Kajiya, <i>Ray Tracing Complex Scenes</i>, SIGGRAPH 1986), which shares nothing with the renderer.
 */
@DisplayName("The renderer sees what rays meet")
class RaysAgreeTest {
    private static final int WIDTH = 160;
    private static final int HEIGHT = 120;
    private static final RenderOptions BARE = RenderOptions.bare(0xFFFFFF);

    /** From one corner to the other, metres. */
    private record Block(Vec3 least, Vec3 most) {
        /** How far along the ray it is met, and whether by little more than an edge; infinite where it is missed. */
        double met(Vec3 from, Vec3 along) {
            double enter = Double.NEGATIVE_INFINITY;
            double leave = Double.POSITIVE_INFINITY;
            for (int axis = 0; axis < 3; axis++) {
                double one = (least.get(axis) - from.get(axis)) / along.get(axis);
                double other = (most.get(axis) - from.get(axis)) / along.get(axis);
                enter = Math.max(enter, Math.min(one, other));
                leave = Math.min(leave, Math.max(one, other));
            }
            return enter > 0 && enter <= leave ? enter : Double.POSITIVE_INFINITY;
        }

        Block grown(double by) {
            Vec3 edge = new Vec3(by, by, by);
            return new Block(least.minus(edge), most.plus(edge));
        }
    }

    private static int first(List<Block> blocks, Vec3 from, Vec3 along) {
        int first = -1;
        double nearest = Double.POSITIVE_INFINITY;
        for (int i = 0; i < blocks.size(); i++) {
            double met = blocks.get(i).met(from, along);
            if (met < nearest) {
                nearest = met;
                first = i;
            }
        }
        return first;
    }

    @Property(tries = 40)
    void eachPixelShowsWhatItsRayMeetsFirst(
            @ForAll @IntRange(max = 100_000) int seed,
            @ForAll @DoubleRange(min = -180, max = 180) double yaw,
            @ForAll @DoubleRange(min = -70, max = 70) double pitch) {
        Random random = new Random(seed);
        List<Block> blocks = new ArrayList<>();
        List<Model.Node> nodes = new ArrayList<>();
        for (int i = 0; i < 12; i++) {
            Vec3 least =
                    new Vec3(6 * random.nextDouble() - 3, 6 * random.nextDouble() - 3, 6 * random.nextDouble() - 3);
            Vec3 most = least.plus(
                    new Vec3(0.3 + random.nextDouble(), 0.3 + random.nextDouble(), 0.3 + random.nextDouble()));
            blocks.add(new Block(least, most));
            nodes.add(Model.Node.of(
                    "Block " + i,
                    Matrix4.IDENTITY,
                    List.of(new Model.Part(Shapes.box(least, most), Material.PLAIN)),
                    List.of()));
        }
        RenderScene scene = RenderScene.of(new Model("Blocks", nodes, Model.Extras.NONE), new RenderCache());
        Camera camera = new Camera(Vec3.ZERO, yaw, pitch, 14, 40);
        Frame frame = new Renderer().draw(scene, camera, WIDTH, HEIGHT, BARE);
        double focal = camera.focal(HEIGHT);
        List<Block> larger = blocks.stream().map(block -> block.grown(0.02)).toList();
        List<Block> lesser = blocks.stream().map(block -> block.grown(-0.02)).toList();
        int compared = 0;
        for (int y = 0; y < HEIGHT; y += 3) {
            for (int x = 0; x < WIDTH; x += 3) {
                Vec3 along = camera.right()
                        .times((x + 0.5 - WIDTH / 2.0) / focal)
                        .plus(camera.up().times((HEIGHT / 2.0 - y - 0.5) / focal))
                        .minus(camera.back());
                int met = first(blocks, camera.eye(), along);
                // At edges, and where two blocks lie in each other's faces, rounding decides.
                if (first(larger, camera.eye(), along) == met && first(lesser, camera.eye(), along) == met) {
                    int id = frame.id(x, y);
                    String seen = id < 0 ? "" : scene.owner(id).orElseThrow();
                    assertThat(seen).as("at " + x + ", " + y).endsWith(met < 0 ? "" : "Block " + met);
                    assertThat(id < 0).as("at " + x + ", " + y).isEqualTo(met < 0);
                    compared++;
                }
            }
        }
        assertThat(compared).as("most pixels are not at edges").isGreaterThan(WIDTH * HEIGHT / 9 / 2);
    }
}
