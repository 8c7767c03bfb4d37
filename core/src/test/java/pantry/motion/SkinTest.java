package pantry.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;

class SkinTest {
    private static final double EXACT = 1e-6;

    private final Random random = new Random(11);

    private Matrix4 anywhere() {
        return new JointTransform(
                        new Vec3(random.nextDouble(), random.nextDouble(), random.nextDouble()),
                        random.nextGaussian(),
                        random.nextGaussian(),
                        random.nextGaussian(),
                        random.nextGaussian(),
                        new Vec3(0.5 + random.nextDouble(), 0.5 + random.nextDouble(), 0.5 + random.nextDouble()))
                .matrix();
    }

    /** glTF 2.0, 3.7.3.3: a point goes to the sum of w_i times its places by joint i. */
    @Test
    void pointsGoWhereTheFormulaSays() {
        Matrix4[] changes = {anywhere(), anywhere(), anywhere()};
        float[] points = {0.3f, -1, 2};
        Skin skin = new Skin(3, new float[] {2, 0, 1}, new float[] {0.5f, 0.3f, 0.2f});

        float[] moved = skin.deformed(points, changes);

        Vec3 point = new Vec3(0.3f, -1, 2);
        Vec3 expected = changes[2]
                .point(point)
                .times(0.5f)
                .plus(changes[0].point(point).times(0.3f))
                .plus(changes[1].point(point).times(0.2f));
        for (int axis = 0; axis < 3; axis++) {
            assertThat(moved[axis]).isCloseTo((float) expected.get(axis), within(1e-6f));
        }
    }

    @Test
    void weightsCountByTheirSumAndPointsWithoutAnyStay() {
        Matrix4[] changes = {Matrix4.translation(new Vec3(10, 0, 0)), Matrix4.translation(new Vec3(0, 10, 0))};
        Skin skin = new Skin(2, new float[] {0, 1, 0, 1, 0, 7}, new float[] {3, 1, 0, 0, 2, 5});

        float[] moved = skin.deformed(new float[] {0, 0, 0, 1, 1, 1, 0, 0, 0}, changes);

        assertThat(moved)
                .as("a joint that is not there counts for nothing")
                .containsExactly(7.5f, 2.5f, 0, 1, 1, 1, 10, 0, 0);
    }

    /** The normal of a triangle that is moved as a whole is that of the moved triangle. */
    @Test
    void normalsTurnWithTheirSurfaces() {
        for (int round = 0; round < 50; round++) {
            Matrix4[] changes = {anywhere()};
            float[] points = new float[9];
            for (int i = 0; i < 9; i++) {
                points[i] = (float) random.nextGaussian();
            }
            Skin skin = new Skin(1, new float[3], new float[] {1, 1, 1});
            Vec3 before = normal(points);

            float[] turned = skin.turned(
                    new float[] {(float) before.x(), (float) before.y(), (float) before.z()}, new int[] {0}, changes);

            Vec3 after = normal(skin.deformed(points, changes));
            assertThat(new Vec3(turned[0], turned[1], turned[2]).dot(after)).isCloseTo(1, within(1e-4));
        }
    }

    private static Vec3 normal(float[] p) {
        Vec3 a = new Vec3(p[3] - p[0], p[4] - p[1], p[5] - p[2]);
        Vec3 b = new Vec3(p[6] - p[0], p[7] - p[1], p[8] - p[2]);
        return a.cross(b).unit();
    }

    @Test
    void aTransformIsPutTogetherOfItsComponents() {
        for (int round = 0; round < 200; round++) {
            Matrix4 matrix = anywhere();
            if (round % 3 == 0) {
                matrix = Matrix4.scale(new Vec3(-1, 1, 1)).times(matrix);
            }
            double[] again = JointTransform.of(matrix).matrix().rows();
            for (int i = 0; i < 16; i++) {
                assertThat(again[i]).isCloseTo(matrix.rows()[i], within(EXACT));
            }
        }
        for (int axis = 0; axis < 3; axis++) {
            Matrix4 half = Matrix4.rotation(axis, 180);
            double[] again = JointTransform.of(half).matrix().rows();
            for (int i = 0; i < 16; i++) {
                assertThat(again[i]).isCloseTo(half.rows()[i], within(EXACT));
            }
        }
        assertThat(JointTransform.of(Matrix4.scale(new Vec3(0, 1, 1))).matrix().isFinite())
                .isTrue();
    }

    private static Skeleton arm() {
        Matrix4 up = Matrix4.translation(new Vec3(0, 1, 0));
        List<Skeleton.Joint> joints = List.of(
                new Skeleton.Joint("Shoulder", Skeleton.NONE, up, up),
                new Skeleton.Joint("Elbow", 0, up, up.times(up)),
                new Skeleton.Joint("Elbow", 0, up, up.times(up)));
        Motion bend = Motion.of("Bend", new float[] {0, 1, 3}, 3, key -> new JointTransform[] {
            JointTransform.of(up),
            JointTransform.of(Matrix4.rotation(2, 90 * key).times(up)),
            JointTransform.of(up)
        });
        return new Skeleton(joints, List.of(bend));
    }

    @Test
    void jointsAreTakenAlongByThoseAboveThem() {
        Skeleton arm = arm();
        assertThat(arm.paths()).containsExactly("Shoulder", "Shoulder/Elbow", "Shoulder/Elbow_2");
        assertThat(arm.length(0)).isEqualTo(1);
        assertThat(arm.length(1)).isZero();
        Motion bend = arm.motions().getFirst();
        assertThat(bend.seconds()).isEqualTo(3);

        Matrix4[] half = arm.skinning(arm.posed(bend, 0.5));

        Vec3 hand = half[1].point(new Vec3(0, 3, 0));
        assertThat(hand.x()).as("a hand above the elbow, turned by 45°").isCloseTo(-Math.sqrt(0.5), within(EXACT));
        assertThat(hand.y()).isCloseTo(2 + Math.sqrt(0.5), within(EXACT));
        assertThat(arm.posed(bend, 99)).isEqualTo(arm.posed(bend, 3));
        assertThat(arm.posed(bend, -1)).isEqualTo(arm.posed(bend, 0));
    }

    /** Whatever is done to the frame, the same points come to the same places in it. */
    @Test
    void aSkeletonIsMovedAndReframedWithItsModel() {
        Skeleton arm = arm();
        Motion bend = arm.motions().getFirst();
        Matrix4 frame = Matrix4.rotation(0, -90).times(Matrix4.scale(new Vec3(0.01, 0.01, 0.01)));
        Matrix4 move = Matrix4.translation(new Vec3(3, -2, 1));
        Vec3 point = new Vec3(0.2, 2.7, 0.1);
        for (double time : new double[] {0, 0.3, 1.7, 3}) {
            Vec3 plain = arm.skinning(arm.posed(bend, time))[1].point(point);
            Skeleton reframed = arm.reframed(frame);
            Vec3 there =
                    reframed.skinning(reframed.posed(reframed.motions().getFirst(), time))[1].point(frame.point(point));
            assertThat(there.minus(frame.point(plain)).length()).isLessThan(EXACT);
            Skeleton moved = arm.moved(move);
            Vec3 aside = moved.skinning(moved.posed(moved.motions().getFirst(), time))[1].point(move.point(point));
            assertThat(aside.minus(move.point(plain)).length()).isLessThan(EXACT);
        }
        assertThat(arm.reframed(frame)
                        .motions()
                        .getFirst()
                        .key(0, 1)
                        .scale()
                        .minus(Vec3.ONE)
                        .length())
                .as("no joint has a leftover scale")
                .isLessThan(EXACT);
    }

    @Test
    void aSkinGoesWithTheMesh() {
        Mesh block = Skin.rigid(Shapes.block(1, 1, 1), 4);
        assertThat(Skin.of(Shapes.block(1, 1, 1))).isEmpty();
        Skin kept = Skin.of(block.faces(new int[] {2, 3}).transformed(Matrix4.rotation(1, 30)))
                .orElseThrow();
        assertThat(kept.joints()).containsOnly(4);
        assertThat(kept.weights()).containsOnly(1);
    }

    @Test
    void manyJointsOfOneNameAreToldApart() {
        List<Skeleton.Joint> joints = IntStream.range(0, 100_000)
                .mapToObj(i -> new Skeleton.Joint("Bone", Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY))
                .toList();
        assertThat(new Skeleton(joints, List.of()).paths())
                .doesNotHaveDuplicates()
                .startsWith("Bone", "Bone_2", "Bone_3")
                .endsWith("Bone_100000");
    }

    @Test
    void whatDoesNotGoTogetherIsRefused() {
        float[] three = new float[3];
        float[] four = new float[4];
        assertThatThrownBy(() -> new Motion("M", new float[0], 1, three, four, three))
                .hasMessageContaining("no keys");
        assertThatThrownBy(() -> new Motion("M", new float[] {1, 1}, 1, new float[6], new float[8], new float[6]))
                .hasMessageContaining("key 1");
        assertThatThrownBy(() -> new Motion("M", new float[] {1}, 2, three, four, three))
                .hasMessageContaining("2 joints");
        assertThatThrownBy(() -> new Motion("M", new float[] {1}, 1, new float[] {Float.NaN, 0, 0}, four, three))
                .hasMessageContaining("no number");
        Skeleton.Joint joint = new Skeleton.Joint("A", 0, Matrix4.IDENTITY, Matrix4.IDENTITY);
        assertThatThrownBy(() -> new Skeleton(List.of(joint), List.of())).hasMessageContaining("does not follow");
        List<Skeleton.Joint> joints = IntStream.range(0, 2)
                .mapToObj(i -> new Skeleton.Joint("A", Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY))
                .toList();
        Motion one = new Motion("M", new float[] {1}, 1, three, four, three);
        assertThatThrownBy(() -> new Skeleton(joints, List.of(one))).hasMessageContaining("1 joints");
    }
}
