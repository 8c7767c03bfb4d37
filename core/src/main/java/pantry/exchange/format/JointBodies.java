package pantry.exchange.format;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/** A body for a skeleton that no surface hangs on: a ball at each joint and a rod to each of those that hang on it. */
final class JointBodies {
    private static final Material BODY =
            Material.plain(SampleNodes.NAME + " bones", Colour.ofDisplay(0x9AA7A0), 0, 0.6);
    private static final int SIDES = 12;

    /** Radii as parts of the usual length of a bone: of a ball, of a rod's ends. */
    private static final double BALL = 0.14;

    private static final double NEAR = 0.1;
    private static final double FAR = 0.05;

    /** The length of a bone where all joints stand in one place, in the model's unit. */
    private static final double USUAL = 0.3;

    private final Skeleton skeleton;
    private final MeshBuilder builder = new MeshBuilder();
    private final List<Integer> joints = new ArrayList<>();

    private JointBodies(Skeleton skeleton) {
        this.skeleton = skeleton;
    }

    /**
     * A model of such a body, with all that the given one has; its joints are bound where they are at rest, and at rest it
     * stands where the first motion begins: motion capture has all skeletons rest at the origin.
     */
    static Model of(Model model, Skeleton skeleton) {
        Skeleton begun = new Skeleton(begun(skeleton), List.of());
        Matrix4[] rest = begun.rest();
        List<Skeleton.Joint> bound = new ArrayList<>();
        for (int i = 0; i < rest.length; i++) {
            Skeleton.Joint joint = begun.joints().get(i);
            bound.add(new Skeleton.Joint(joint.name(), joint.parent(), joint.rest(), rest[i]));
        }
        Mesh body = new JointBodies(begun).mesh(rest);
        Model.Node node = Model.Node.of(
                SampleNodes.NAME + " of bones", Matrix4.IDENTITY, List.of(new Model.Part(body, BODY)), List.of());
        return new Model(
                model.name(), List.of(node), model.extras().with(Optional.of(new Skeleton(bound, skeleton.motions()))));
    }

    private static List<Skeleton.Joint> begun(Skeleton skeleton) {
        List<Skeleton.Joint> joints = new ArrayList<>(skeleton.joints());
        for (int i = 0; i < joints.size(); i++) {
            Skeleton.Joint joint = joints.get(i);
            if (joint.parent() == Skeleton.NONE) {
                Matrix4 place = Matrix4.translation(
                        skeleton.motions().getFirst().key(0, i).move());
                Matrix4 turned = joint.rest()
                        .times(Matrix4.translation(
                                joint.rest().translationPart().times(-1)));
                joints.set(i, new Skeleton.Joint(joint.name(), joint.parent(), turned.times(place), joint.bind()));
            }
        }
        return joints;
    }

    private Mesh mesh(Matrix4[] rest) {
        double usual = usualLength(rest);
        Mesh ball = Shapes.sphere(BALL * usual, SIDES, SIDES / 2);
        for (int i = 0; i < rest.length; i++) {
            Vec3 here = rest[i].translationPart();
            add(i, ball, Matrix4.translation(here));
            int parent = skeleton.joints().get(i).parent();
            if (parent != Skeleton.NONE) {
                Vec3 from = rest[parent].translationPart();
                double length = here.minus(from).length();
                if (length > BALL * usual) {
                    // It goes with the joint that it leads away from.
                    add(parent, Shapes.cone(NEAR * usual, FAR * usual, length, SIDES), along(from, here));
                }
            }
        }
        float[] numbers = new float[joints.size()];
        for (int i = 0; i < numbers.length; i++) {
            numbers[i] = joints.get(i);
        }
        float[] weights = new float[numbers.length];
        Arrays.fill(weights, 1);
        return new Skin(1, numbers, weights).on(builder.build());
    }

    private void add(int joint, Mesh body, Matrix4 place) {
        builder.add(body, place);
        for (int i = 0; i < body.pointCount(); i++) {
            joints.add(joint);
        }
    }

    /** The middle one of the lengths of all bones, those in one place left out. */
    private double usualLength(Matrix4[] rest) {
        double[] lengths = new double[rest.length];
        int count = 0;
        for (int i = 0; i < rest.length; i++) {
            int parent = skeleton.joints().get(i).parent();
            double length = parent == Skeleton.NONE
                    ? 0
                    : rest[i].translationPart()
                            .minus(rest[parent].translationPart())
                            .length();
            if (length > 0 && Double.isFinite(length)) {
                lengths[count++] = length;
            }
        }
        Arrays.sort(lengths, 0, count);
        return count == 0 ? USUAL : lengths[count / 2];
    }

    /** From a body that stands upright on the origin to one that leads from a place towards another. */
    private static Matrix4 along(Vec3 from, Vec3 to) {
        Vec3 up = to.minus(from).unit();
        Vec3 beside = Math.abs(up.x()) < 0.9 ? new Vec3(1, 0, 0) : new Vec3(0, 0, 1);
        Vec3 side = beside.cross(up).unit();
        Vec3 front = side.cross(up);
        return Matrix4.ofRows(
                side.x(), side.y(), side.z(), 0, up.x(), up.y(), up.z(), 0, front.x(), front.y(), front.z(), 0,
                from.x(), from.y(), from.z(), 1);
    }
}
