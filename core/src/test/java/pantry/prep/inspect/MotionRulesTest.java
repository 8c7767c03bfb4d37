package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.testing.Moving;
import pantry.workpiece.Workpiece;

/** Each flaw of what moves is found by its rule, and put right by its fix. */
class MotionRulesTest {
    private static final List<String> OWN =
            MotionRules.ALL.stream().map(Rule::id).toList();

    @TempDir
    private Path folder;

    private Workpiece open(Model model) {
        Path file = folder.resolve("vane.usda");
        ModelWriters.write(model, file);
        return Workpiece.of(file, Made.sources(), Progress.NONE);
    }

    private static Inspection inspected(Workpiece piece) {
        return Inspection.of(piece, RuleSet.USUAL, Optional.empty(), Progress.NONE);
    }

    private static List<String> found(Workpiece piece) {
        return inspected(piece).findings().stream()
                .map(finding -> finding.rule().id())
                .filter(OWN::contains)
                .toList();
    }

    private static Model skinned(UnaryOperator<Skin> change) {
        return Moving.vane()
                .withMeshes(mesh ->
                        Skin.of(mesh).map(skin -> change.apply(skin).on(mesh)).orElse(mesh));
    }

    private static Model with(Motion motion) {
        Model vane = Moving.vane();
        Skeleton skeleton = vane.extras().skeleton().orElseThrow();
        List<Motion> motions = new ArrayList<>(skeleton.motions());
        motions.add(motion);
        return vane.with(vane.extras().with(Optional.of(skeleton.with(motions))));
    }

    private void checkPutRight(Model flawed, String rule) {
        Workpiece piece = open(flawed);
        assertThat(found(piece)).containsExactly(rule);
        Tidy.all(
                piece,
                RuleSet.USUAL,
                Optional.empty(),
                finding -> finding.rule().id().equals(rule),
                Progress.NONE);
        assertThat(found(piece)).isEmpty();
        Path saved = folder.resolve("saved.usda");
        piece.save(saved);
        Model read = Made.sources().readers().read(saved, Progress.NONE).model();
        assertThat(Posing.of(read).orElseThrow().skeleton().motions()).hasSize(2);
    }

    @Test
    void whatIsSoundHasNoFinding() {
        assertThat(inspected(open(Moving.vane())).findings().stream()
                        .map(finding -> finding.rule().id() + ": " + finding.message()))
                .isEmpty();
    }

    @Test
    void weightsAreMadeToAddToOne() {
        checkPutRight(
                skinned(skin -> {
                    float[] weights = skin.weights().clone();
                    weights[0] *= 3;
                    return new Skin(skin.width(), skin.joints(), weights);
                }),
                "uneven-weight");
    }

    @Test
    void pointsThatHangOnNothingHangAsTheNearest() {
        checkPutRight(
                skinned(skin -> {
                    float[] weights = skin.weights().clone();
                    weights[0] = 0;
                    weights[1] = 0;
                    return new Skin(skin.width(), skin.joints(), weights);
                }),
                "unheld-point");
    }

    @Test
    void pointsThatHangOnManyKeepTheJointsThatCountMost() {
        checkPutRight(
                skinned(skin -> {
                    int points = skin.weights().length / skin.width();
                    float[] joints = new float[6 * points];
                    float[] weights = new float[6 * points];
                    for (int i = 0; i < weights.length; i++) {
                        joints[i] = i % 2;
                        weights[i] = 1 / 6f;
                    }
                    return new Skin(6, joints, weights);
                }),
                "many-influences");
    }

    @Test
    void motionsThatMoveNothingGo() {
        Skeleton skeleton = Moving.vane().extras().skeleton().orElseThrow();
        checkPutRight(
                with(Motion.of("Nothing", new float[] {0, 1}, 2, key -> new JointTransform[] {
                    JointTransform.of(skeleton.joints().get(0).rest()),
                    JointTransform.of(skeleton.joints().get(1).rest())
                })),
                "still-motion");
    }

    @Test
    void jointsThatNothingHangsOnAreTold() {
        Model vane = Moving.vane();
        Skeleton skeleton = vane.extras().skeleton().orElseThrow();
        List<Skeleton.Joint> joints = new ArrayList<>(skeleton.joints());
        joints.add(new Skeleton.Joint("Tip", 1, Matrix4.IDENTITY, Matrix4.IDENTITY));
        Model more = vane.with(vane.extras().with(Optional.of(new Skeleton(joints, List.of()))));
        assertThat(inspected(open(more)).findings()).anySatisfy(finding -> {
            assertThat(finding.rule().id()).isEqualTo("idle-joint");
            assertThat(finding.message()).contains("Tip").doesNotContain("Head");
        });
    }
}
