package pantry.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** A motion of one skeleton, done by another. */
class MotionFitTest {
    /** A chain of joints, each a metre times the length above the one before. */
    private static Skeleton chain(double length, String... names) {
        List<Skeleton.Joint> joints = new ArrayList<>();
        for (int i = 0; i < names.length; i++) {
            Matrix4 rest = Matrix4.translation(new Vec3(0, i == 0 ? 1 : length, 0));
            joints.add(new Skeleton.Joint(names[i], i - 1, rest, Matrix4.IDENTITY));
        }
        return new Skeleton(joints, List.of());
    }

    /** Turns every joint but the first by so many degrees about x, from one key to the other. */
    private static Motion bow(Skeleton bones, double degrees) {
        return Motion.of("Bow", new float[] {0, 1}, bones.joints().size(), key -> {
            JointTransform[] pose = new JointTransform[bones.joints().size()];
            for (int i = 0; i < pose.length; i++) {
                Matrix4 turn = Matrix4.rotation(0, i == 0 ? 0 : key * degrees);
                pose[i] = JointTransform.of(turn.times(bones.joints().get(i).rest()));
            }
            return pose;
        });
    }

    @Test
    void jointsAreFoundByTheirNamesWhateverTheirOrder() {
        Skeleton own = chain(1, "Hip", "Spine", "Head");
        Skeleton other = new Skeleton(
                List.of(
                        new Skeleton.Joint("Hook", -1, Matrix4.translation(new Vec3(9, 0, 0)), Matrix4.IDENTITY),
                        own.joints().get(0),
                        new Skeleton.Joint("Spine", 1, own.joints().get(1).rest(), Matrix4.IDENTITY),
                        new Skeleton.Joint("Head", 2, own.joints().get(2).rest(), Matrix4.IDENTITY)),
                List.of());
        Motion bow = bow(own, 30);
        MotionFit fit = MotionFit.of(own, bow, other);
        assertThat(fit.misfit()).isEmpty();
        assertThat(fit.fits()).isTrue();
        Vec3 head = own.posed(bow, 1)[2].translationPart();
        assertThat(other.posed(fit.motion(), 1)[3].translationPart().minus(head).length())
                .isLessThan(1e-6);
        assertThat(other.posed(fit.motion(), 1)[0].translationPart().x()).isCloseTo(9, within(1e-6));
    }

    @Test
    void jointsThatAreMissingAreToldWhereTheyMove() {
        Skeleton own = chain(1, "Hip", "Spine", "Head", "Hat");
        MotionFit fit = MotionFit.of(own, bow(own, 20), chain(1, "Hip", "Spine"));
        assertThat(fit.moving()).isEqualTo(3);
        assertThat(fit.missing()).containsExactly("Hip/Spine/Head", "Hip/Spine/Head/Hat");
        assertThat(fit.misfit()).hasValueSatisfying(words -> assertThat(words).contains("it has no Hip/Spine/Head"));
        // A joint that keeps still, such as the end of a bone, is not missed.
        assertThat(MotionFit.of(own, bow(own, 0), chain(1, "Hip")).missing()).isEmpty();
    }

    @Test
    void bonesOfOtherLengthsAreTold() {
        Skeleton own = chain(1.5, "Hip", "Spine");
        MotionFit fit = MotionFit.of(own, bow(own, 20), chain(1, "Hip", "Spine"));
        assertThat(fit.longest()).isCloseTo(1.5, within(1e-6));
        assertThat(fit.misfit()).hasValue("bones change their length, by up to × 1.50");
        assertThat(MotionFit.of(chain(1, "A", "B"), bow(chain(1, "A", "B"), 9), own)
                        .fits())
                .isFalse();
    }

    @Test
    void shapesThatItChangesStay() {
        Skeleton own = chain(1, "Hip", "Spine");
        Motion smiling = bow(own, 10).withShapes(List.of("Smile"), new float[] {0, 1});
        MotionFit fit = MotionFit.of(own, smiling, chain(1, "Other"));
        assertThat(fit.fits()).isTrue();
        assertThat(fit.motion().weightsAt(0.5)).containsEntry("Smile", 0.5);
    }
}
