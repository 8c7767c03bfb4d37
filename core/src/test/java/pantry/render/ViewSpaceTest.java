package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** What of a scene is drawn, and where in the picture: checked against the camera's own projection. */
@DisplayName("A camera's space")
class ViewSpaceTest {
    private static final int WIDTH = 640;
    private static final int HEIGHT = 480;

    /** At x, y of the picture, pixels, and one over the distance. */
    private static float[] projected(ViewSpace view, Vec3 point) {
        float[] m = new float[12];
        view.toView(Matrix4.translation(point), m);
        float[] screen = new float[3];
        view.project(new float[] {m[9], m[10], m[11]}, 0, screen, 0);
        return screen;
    }

    @Property(tries = 200)
    void pointsAreSeenWhereTheCameraProjectsThem(
            @ForAll @DoubleRange(min = -180, max = 180) double yaw,
            @ForAll @DoubleRange(min = -80, max = 80) double pitch,
            @ForAll @DoubleRange(min = -3, max = 3) double x,
            @ForAll @DoubleRange(min = -3, max = 3) double y,
            @ForAll @DoubleRange(min = -3, max = 3) double z) {
        Camera camera = new Camera(new Vec3(0.5, 1, -0.5), yaw, pitch, 12, 40);
        ViewSpace view = new ViewSpace(camera, Optional.empty(), WIDTH, HEIGHT);
        Vec3 expected = camera.project(new Vec3(x, y, z), WIDTH, HEIGHT);
        float[] seen = projected(view, new Vec3(x, y, z));
        assertThat((double) seen[0]).isCloseTo(expected.x(), within(0.02));
        assertThat((double) seen[1]).isCloseTo(expected.y(), within(0.02));
        assertThat(1.0 / seen[2]).isCloseTo(expected.z(), within(1e-3));
    }

    @Test
    @DisplayName(
            "leaves out what is behind the eye, beside the picture, or beyond the cut, and nothing that touches it")
    void outOfSight() {
        Camera camera = new Camera(Vec3.ZERO, 0, 0, 10, 90);
        ViewSpace view = new ViewSpace(camera, Optional.empty(), 400, 400);
        // Seen at 90°, the picture reaches as far to each side as it is deep.
        assertThat(view.isOutOfSight(0, 0, 10, 1)).isFalse();
        assertThat(view.isOutOfSight(0, 0, -2, 1)).as("behind the eye").isTrue();
        assertThat(view.isOutOfSight(0, 0, -0.5f, 1)).as("around the eye").isFalse();
        assertThat(view.isOutOfSight(13, 0, 10, 1)).as("beside").isTrue();
        assertThat(view.isOutOfSight(11, 0, 10, 1)).as("half in it").isFalse();
        assertThat(view.isOutOfSight(0, -13, 10, 1)).as("below").isTrue();

        RenderOptions.Cut cut = new RenderOptions.Cut(new Vec3(0, 2, 0), Vec3.UP);
        ViewSpace opened = new ViewSpace(camera, Optional.of(cut), 400, 400);
        assertThat(opened.isCut()).isTrue();
        assertThat(opened.isCutOff(new BoundingSphere(0, 4, 0, 1, 1))).isTrue();
        assertThat(opened.isCutOff(new BoundingSphere(0, 2.5f, 0, 1, 1)))
                .as("it reaches below the plane")
                .isFalse();
        assertThat(view.isCutOff(new BoundingSphere(0, 4, 0, 1, 1))).isFalse();
    }

    private static RenderScene blocks(double... depths) {
        List<Model.Node> nodes = java.util.Arrays.stream(depths)
                .mapToObj(depth -> Model.Node.of(
                        "at " + depth,
                        Matrix4.translation(new Vec3(0, 0, -depth)),
                        List.of(new Model.Part(
                                Shapes.sphere(0.5, 24, 16), Material.plain("Red", Colour.ofDisplay(0xB23A2E), 0, 1))),
                        List.of()))
                .toList();
        return RenderScene.of(new Model("Row", nodes, Model.Extras.NONE), new RenderCache());
    }

    @Test
    @DisplayName("shows what is near by its clusters, what is far as a dot, and what is behind not at all")
    void clusters() {
        Camera camera = new Camera(Vec3.ZERO, 0, 0, 5, 40);
        RenderScene scene = blocks(0, 2000, -50);
        for (int parts : new int[] {1, 2, 7}) {
            VisibleClusters visible =
                    new VisibleClusters(scene, new ViewSpace(camera, Optional.empty(), WIDTH, HEIGHT), parts);
            assertThat(visible.use).as("in " + parts + " parts").contains(0, 1).doesNotContain(2);
            for (int i = 0; i < visible.size(); i++) {
                boolean dot = visible.cluster[i] == DrawInstance.DOT;
                assertThat(dot).isEqualTo(visible.use[i] == 1);
                if (dot) {
                    assertThat(visible.place[3 * i + 2]).isCloseTo(2005f, within(0.01f));
                }
            }
        }
    }
}
