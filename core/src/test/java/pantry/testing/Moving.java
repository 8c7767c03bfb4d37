package pantry.testing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.BlendShapes;
import pantry.motion.JointTransform;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.motion.Skin;

/** A model that moves, and where its points are. */
public final class Moving {
    /** A motion alone, as a file of USD: the joints of {@link #vane}, of which the head sinks by a metre in two seconds. */
    public static final String GALE = """
            #usda 1.0
            ( defaultPrim = "Gale" metersPerUnit = 1 upAxis = "Y" )
            def SkelAnimation "Gale" {
                uniform token[] joints = ["Head", "Head/Tail_end"]
                float3[] translations.timeSamples = { 0: [(0, 3, 0), (1, 0, 0)], 48: [(0, 2, 0), (1, 0, 0)] }
                quatf[] rotations = [(1, 0, 0, 0), (1, 0, 0, 0)]
                half3[] scales = [(1, 1, 1), (1, 1, 1)]
            }
            """;

    private Moving() {}

    /** A vane on a pole: it turns, and its tail, which hangs half on another joint, swings and is bent. */
    public static Model vane() {
        Matrix4 top = Matrix4.translation(new Vec3(0, 3, 0));
        Matrix4 aside = Matrix4.translation(new Vec3(1, 0, 0));
        List<Skeleton.Joint> joints = List.of(
                new Skeleton.Joint("Head", Skeleton.NONE, top, top),
                new Skeleton.Joint("Tail end", 0, aside, aside.times(top)));
        Motion turn = Motion.of("Turn round", new float[] {0, 1, 2}, 2, key -> new JointTransform[] {
                    JointTransform.of(Matrix4.rotation(1, 120 * key).times(top)),
                    JointTransform.of(Matrix4.rotation(2, 20 * key).times(aside))
                })
                .withShapes(List.of("Bent up"), new float[] {0, 1, 0.5f});
        Motion gust = Motion.of("Gust", new float[] {0, 0.5f}, 2, key -> new JointTransform[] {
                    JointTransform.of(Matrix4.rotation(1, 10 * key).times(top)), JointTransform.of(aside)
                })
                .withShapes(List.of("Bent up"), new float[] {0, -0.5f});
        Mesh tail = Shapes.block(2, 0.5, 0.1);
        float[] numbers = new float[2 * tail.pointCount()];
        float[] weights = new float[2 * tail.pointCount()];
        for (int i = 0; i < tail.pointCount(); i++) {
            numbers[2 * i + 1] = 1;
            weights[2 * i] = tail.point(i).x() > 0 ? 0.25f : 1;
            weights[2 * i + 1] = 1 - weights[2 * i];
        }
        float[] bend = new float[3 * tail.pointCount()];
        for (int i = 0; i < tail.pointCount(); i++) {
            bend[3 * i + 1] = tail.point(i).x() > 0 ? 0.3f : 0;
        }
        Mesh bent = BlendShapes.on(tail, Map.of("Bent up", new BlendShapes.Shape(bend, null, Map.of())));
        Material paint = Material.plain("Paint", Colour.WHITE, 0, 1);
        return new Model(
                "Vane",
                List.of(
                        Model.Node.of(
                                "Pole",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(0.1, 3, 0.1), paint)),
                                List.of()),
                        Model.Node.of(
                                "Tail",
                                top,
                                List.of(new Model.Part(new Skin(2, numbers, weights).on(bent), paint)),
                                List.of())),
                Model.Extras.NONE.with(Optional.of(new Skeleton(joints, List.of(turn, gust)))));
    }

    /** Where a model's points are, in its own space. */
    public static List<Vec3> points(Model model) {
        List<Vec3> points = new ArrayList<>();
        model.visit((owner, part, world) -> {
            for (int i = 0; i < part.mesh().pointCount(); i++) {
                points.add(world.point(part.mesh().point(i)));
            }
        });
        return points;
    }

    /** Each point of one model comes to where some point of another does, at each time of each of its motions. */
    public static void assertComesTo(Model expected, Model found, double error, double... times) {
        Posing first = Posing.of(expected).orElseThrow();
        Posing second = Posing.of(found).orElseThrow();
        List<Motion> motions = first.skeleton().motions();
        assertThat(second.skeleton().motions())
                .extracting(Motion::name)
                .containsExactlyElementsOf(motions.stream().map(Motion::name).toList());
        for (int i = 0; i < motions.size(); i++) {
            for (double time : times) {
                List<Vec3> here = points(first.at(motions.get(i), time));
                for (Vec3 point : points(second.at(second.skeleton().motions().get(i), time))) {
                    assertThat(here.stream()
                                    .mapToDouble(p -> p.minus(point).length())
                                    .min()
                                    .orElseThrow())
                            .as("%s at %s s", motions.get(i).name(), time)
                            .isLessThan(error);
                }
            }
        }
    }

    /** What three tells of a glTF file: its clips, and where points come to at each time. */
    private record Posed(List<Clip> clips, List<List<Double>> poses) {}

    private record Clip(String name, double seconds) {}

    /** The first motion of a glTF file brings each point to where three has it, as it reads, morphs and skins the same file. */
    public static void assertPosedAsThree(Model model, Path file, double error, double... times) {
        String[] arguments = Stream.concat(
                        Stream.of(file.toString()), Arrays.stream(times).mapToObj(String::valueOf))
                .toArray(String[]::new);
        Posed posed = Json.read(Oracle.run("pose.mjs", arguments), "pose", Posed.class);
        Posing posing = Posing.of(model).orElseThrow();
        Motion motion = posing.skeleton().motions().getFirst();
        assertThat(motion.name()).isEqualTo(posed.clips().getFirst().name());
        assertThat(motion.seconds()).isCloseTo(posed.clips().getFirst().seconds(), within(1e-6));
        for (int time = 0; time < times.length; time++) {
            List<Vec3> here = points(posing.at(motion, times[time]));
            List<Double> there = posed.poses().get(time);
            assertThat(there).hasSize(3 * here.size());
            for (int i = 0; i < here.size(); i++) {
                Vec3 expected = new Vec3(there.get(3 * i), there.get(3 * i + 1), there.get(3 * i + 2));
                assertThat(here.get(i).minus(expected).length())
                        .as("point %d at %s s: %s, %s", i, times[time], here.get(i), expected)
                        .isLessThan(error);
            }
        }
    }
}
