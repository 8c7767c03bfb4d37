package pantry.desktop.view3d;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

class MotionPlayerTest {
    private final MotionPlayer player = new MotionPlayer();

    /** A block that goes along x, one metre a second from x = 5 at second 2, and up in another motion. */
    private static Model block(String... motions) {
        List<Motion> all = java.util.Arrays.stream(motions)
                .map(name -> Motion.of(name, new float[] {2, 6}, 1, key ->
                        new JointTransform[] {JointTransform.of(Matrix4.translation(new Vec3(5 + 4 * key, 0, 0)))}))
                .toList();
        Skeleton skeleton = new Skeleton(
                List.of(new Skeleton.Joint("Foot", Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY)), all);
        return new Model(
                "Block",
                List.of(Model.Node.of(
                        "Block",
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(Skin.rigid(Shapes.block(1, 1, 1), 0), Material.PLAIN)),
                        List.of())),
                Model.Extras.NONE.with(Optional.of(skeleton)));
    }

    private double x() {
        return player.pose().orElseThrow().get().model().bounds().centre().x();
    }

    @Test
    void whatHasNoMotionStandsStill() {
        player.show(block());
        player.clock().toggle();
        player.clock().advance(1);
        assertThat(player.pose()).isEmpty();
        assertThat(player.clock().playingProperty().get()).isFalse();
        assertThat(player.seconds()).isZero();
    }

    @Test
    void aMotionIsPlayedFromItsFirstKeyAndBeginsAgain() {
        player.show(block("Go"));
        assertThat(player.seconds()).isEqualTo(4);
        assertThat(x()).isCloseTo(5, within(1e-5));
        player.clock().advance(1);
        assertThat(x()).as("it was not begun").isCloseTo(5, within(1e-5));
        player.clock().toggle();
        player.clock().advance(1);
        assertThat(x()).isCloseTo(6, within(1e-5));
        player.clock().speedProperty().set(0.5);
        player.clock().advance(2);
        assertThat(x()).isCloseTo(7, within(1e-5));
        player.clock().advance(5);
        assertThat(player.clock().timeProperty().get()).as("past the end").isCloseTo(0.5, within(1e-9));
        player.clock().toggle();
        player.clock().advance(1);
        assertThat(player.clock().timeProperty().get()).isCloseTo(0.5, within(1e-9));
    }

    @Test
    void onceItStopsAtItsEndAndThenBeginsAnew() {
        player.show(block("Go"));
        player.clock().loopingProperty().set(false);
        player.clock().toggle();
        player.clock().advance(9);
        assertThat(x()).isCloseTo(9, within(1e-5));
        assertThat(player.clock().playingProperty().get()).isFalse();
        player.clock().toggle();
        assertThat(player.clock().timeProperty().get()).isZero();
        assertThat(player.clock().playingProperty().get()).isTrue();
    }

    /** A block that can be lifted by a metre, which a motion does half. */
    private static Model lifted(boolean moves) {
        Model block = block(moves ? new String[] {"Go"} : new String[0]);
        Skeleton skeleton = block.extras().skeleton().orElseThrow();
        return block.withMeshes(mesh -> {
                    float[] offsets = new float[mesh.points().length];
                    for (int i = 1; i < offsets.length; i += 3) {
                        offsets[i] = 1;
                    }
                    return BlendShapes.on(mesh, Map.of("Up", new BlendShapes.Shape(offsets, null, Map.of())));
                })
                .with(Model.Extras.NONE.with(Optional.of(skeleton.with(skeleton.motions().stream()
                        .map(motion -> motion.withShapes(List.of("Up"), new float[] {0.5f, 0.5f}))
                        .toList()))));
    }

    private double y() {
        return player.pose().orElseThrow().get().model().bounds().min().y();
    }

    @Test
    void aShapeIsHeldWhateverTheMotionSaysOfIt() {
        player.show(lifted(true));
        double still = block().bounds().min().y();
        assertThat(player.shapes()).containsExactly("Up");
        assertThat(y()).isCloseTo(still + 0.5, within(1e-6));
        player.held().put("Up", 0.0);
        assertThat(y()).isCloseTo(still, within(1e-6));
        player.held().put("Up", 1.0);
        assertThat(y()).isCloseTo(still + 1, within(1e-6));
        player.show(block("Other"));
        assertThat(player.held()).as("something else is not held").isEmpty();
    }

    @Test
    void aShapeIsSeenOfWhatHasNoMotionToo() {
        player.show(lifted(false));
        assertThat(player.pose()).isEmpty();
        player.held().put("Up", 0.25);
        assertThat(y()).isCloseTo(block().bounds().min().y() + 0.25, within(1e-6));
        assertThat(player.pose().orElseThrow().get().joints()).hasSize(1);
    }

    /** A slip changes how the same thing is shown: whoever plays it goes on; something else begins at its start. */
    @Test
    void theSameMotionsGoOnAndOthersBegin() {
        player.show(block("Go", "Come"));
        player.motionProperty().set(1);
        player.clock().toggle();
        player.clock().advance(1.5);
        player.show(block("Go", "Come"));
        assertThat(player.clock().timeProperty().get()).isCloseTo(1.5, within(1e-9));
        assertThat(player.clock().playingProperty().get()).isTrue();
        assertThat(player.motionProperty().get()).isEqualTo(1);
        player.motionProperty().set(0);
        assertThat(player.clock().timeProperty().get()).isZero();
        player.show(block("Turn"));
        assertThat(player.names()).containsExactly("Turn");
        assertThat(player.clock().playingProperty().get()).isFalse();
        player.show(Model.EMPTY);
        assertThat(player.names()).isEmpty();
        assertThat(player.pose()).isEmpty();
    }
}
