package pantry.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Model;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.testing.Moving;

class MovementsTest {
    private static final Matrix4 TOP = Matrix4.translation(new Vec3(0, 3, 0));
    private static final Matrix4 ASIDE = Matrix4.translation(new Vec3(1, 0, 0));

    private static List<String> told(Model before, Model after) {
        return Comparer.compare(
                        new Comparer.State(before, Map.of()), new Comparer.State(after, Map.of()), Progress.NONE)
                .motions()
                .stream()
                .map(change -> change.name() + ": " + change.what().word()
                        + (change.detail().isEmpty() ? "" : ", " + change.detail()))
                .toList();
    }

    private static Model with(Motion... motions) {
        Model vane = Moving.vane();
        Skeleton bones = vane.extras().skeleton().orElseThrow();
        return vane.with(vane.extras().with(Optional.of(bones.with(List.of(motions)))));
    }

    private static Motion vanes(int number) {
        return Moving.vane().extras().skeleton().orElseThrow().motions().get(number);
    }

    /** A gust of two keys that also moves the whole vane. */
    private static Motion gust(float seconds, double metres) {
        return Motion.of("Gust", new float[] {0, seconds}, 2, key -> new JointTransform[] {
                    JointTransform.of(Matrix4.rotation(1, 10 * key)
                            .times(TOP)
                            .times(Matrix4.translation(new Vec3(metres * key, 0, 0)))),
                    JointTransform.of(ASIDE)
                })
                .withShapes(List.of("Bent up"), new float[] {0, -0.5f});
    }

    @Test
    void whatMovesAlikeIsTheSame() {
        assertThat(told(Moving.vane(), Moving.vane())).isEmpty();
        assertThat(told(with(vanes(1)), with(gust(0.5f, 0)))).isEmpty();
    }

    @Test
    void motionsThatCameAndWentAreNamed() {
        assertThat(told(with(vanes(0), vanes(1)), with(vanes(1)))).containsExactly("motion Turn round: removed");
        assertThat(told(with(vanes(1)), with(vanes(0), vanes(1)))).containsExactly("motion Turn round: added");
    }

    @Test
    void howFarAMotionDiffersIsToldInSecondsAndMetres() {
        assertThat(told(with(vanes(1)), with(gust(0.75f, 0))))
                .containsExactly("motion Gust: moves otherwise, 0.50 s \u2192 0.75 s");
        assertThat(told(with(vanes(1)), with(gust(0.5f, 0.25))))
                .containsExactly("motion Gust: moves otherwise, joints up to 0.2500 m elsewhere");
        Motion unbent = gust(0.5f, 0).withShapes(List.of("Bent up"), new float[] {0, 0});
        assertThat(told(with(vanes(1)), with(unbent)))
                .containsExactly("motion Gust: moves otherwise, shapes up to 50 % otherwise");
    }

    @Test
    void bonesAndShapesAreNamedToo() {
        Model still = new Model("Vane", List.of(), Model.Extras.NONE);
        List<String> came = new ArrayList<>(told(still, with()));
        assertThat(came).containsExactly("bone Head: added", "bone Head/Tail end: added", "shape Bent up: added");
        assertThat(told(with(), still))
                .containsExactly("bone Head: removed", "bone Head/Tail end: removed", "shape Bent up: removed");
    }
}
