package pantry.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.mesh.Channel;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.mesh.Welding;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;

/** Shapes of meshes, by the formulas of glTF 2.0 (3.7.2.2) and of OpenUSD's blend shapes. */
class BlendShapesTest extends WithWorkshop {
    private static final float[] NORMALS = {0, 0, 1, 0, 0, 1, 0, 0, 1};

    private static Mesh triangle() {
        return new Mesh(
                new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0},
                new int[] {3},
                new int[] {0, 1, 2},
                new Channel(NORMALS, 3, Channel.Per.POINT),
                null);
    }

    private static Mesh shaped() {
        return BlendShapes.on(
                triangle(),
                Map.of(
                        "Up",
                        new BlendShapes.Shape(
                                new float[] {0, 0, 0, 0, 0, 2, 0, 0, 0},
                                new float[] {0, 0, 0, 1, 0, 0, 0, 0, 0},
                                Map.of(0.5f, new float[] {0, 0, 0, 0, 0, 4, 0, 0, 0}))));
    }

    private static Vec3 second(Mesh mesh, double weight) {
        return BlendShapes.applied(mesh, name -> weight).point(1);
    }

    @Test
    void offsetsGoStraightBetweenTheWeightsAtWhichTheyAreTold() {
        assertThat(second(shaped(), 0).z()).isZero();
        assertThat(second(shaped(), 0.25).z()).isEqualTo(2);
        assertThat(second(shaped(), 0.5).z()).isEqualTo(4);
        assertThat(second(shaped(), 0.75).z()).isEqualTo(3);
        assertThat(second(shaped(), 1).z()).isEqualTo(2);
        assertThat(second(shaped(), 1.5).z()).as("beyond the last").isZero();
        assertThat(second(shaped(), -0.5).z()).as("before the first").isEqualTo(-4);
    }

    @Test
    void normalsAreTurnedAndStayAsLongAsOne() {
        float[] normals =
                BlendShapes.applied(shaped(), name -> 1).normals().orElseThrow().data();
        assertThat(normals[3]).isCloseTo((float) Math.sqrt(0.5), within(1e-6f));
        assertThat(normals[5]).isCloseTo((float) Math.sqrt(0.5), within(1e-6f));
        assertThat(normals[2]).isEqualTo(1);
    }

    @Test
    void severalShapesAreAddedUp() {
        Mesh both = BlendShapes.on(
                BlendShapes.on(
                        triangle(),
                        Map.of("A", new BlendShapes.Shape(new float[] {1, 0, 0, 1, 0, 0, 1, 0, 0}, null, Map.of()))),
                Map.of("B", new BlendShapes.Shape(new float[] {0, 1, 0, 0, 1, 0, 0, 1, 0}, null, Map.of())));
        Mesh moved = BlendShapes.applied(both, name -> name.equals("A") ? 2 : 3);
        assertThat(moved.point(0)).isEqualTo(new Vec3(2, 3, 0));
        assertThat(BlendShapes.of(BlendShapes.without(both))).isEmpty();
    }

    /** What is moved, turned and made larger does the same there as here. */
    @Test
    void shapesGoWithTheMeshWhereverItIsPut() {
        Matrix4 put = Matrix4.scale(new Vec3(2, 2, 2))
                .times(Matrix4.rotation(0, 30))
                .times(Matrix4.rotation(1, 70))
                .times(Matrix4.translation(new Vec3(1, 2, 3)));
        for (double weight : new double[] {0.3, 0.5, 1}) {
            Mesh there = BlendShapes.applied(shaped().transformed(put), name -> weight);
            Mesh here = BlendShapes.applied(shaped(), name -> weight).transformed(put);
            for (int i = 0; i < 3; i++) {
                assertThat(there.point(i).minus(here.point(i)).length()).isLessThan(1e-5);
            }
            float[] normals = there.normals().orElseThrow().data();
            for (int i = 0; i < normals.length; i++) {
                assertThat(normals[i]).isCloseTo(here.normals().orElseThrow().data()[i], within(1e-5f));
            }
        }
    }

    @Test
    void shapesStayThroughWeldingAndMerging() {
        Mesh both = Merging.of(List.of(triangle(), shaped()));
        assertThat(both.pointCount()).isEqualTo(6);
        assertThat(BlendShapes.applied(both, name -> 1).point(4).z()).isEqualTo(2);
        assertThat(BlendShapes.applied(both, name -> 1).point(1).z()).isZero();
        assertThat(BlendShapes.of(Welding.exact(shaped()))).containsOnlyKeys("Up");
    }

    private static Model model(Mesh mesh) {
        Skeleton.Joint joint = new Skeleton.Joint("Root", Skeleton.NONE, Matrix4.IDENTITY, Matrix4.IDENTITY);
        Motion motion = Motion.of("Rise", new float[] {0, 1}, 1, key ->
                        new JointTransform[] {JointTransform.of(Matrix4.IDENTITY)})
                .withShapes(List.of("Up"), new float[] {0, 1});
        Model plain = Workshop.model("Sheet", mesh);
        return plain.with(plain.extras().with(Optional.of(new Skeleton(List.of(joint), List.of(motion)))));
    }

    /** In-betweens and normals come back from a layer; the standard's words stand in it. */
    @Test
    void layersKeepAllOfThem() throws Exception {
        Path file = folder.resolve("sheet.usda");
        ModelWriters.write(model(Skin.rigid(shaped(), 0)), file);
        assertThat(Files.readString(file))
                .contains("def BlendShape \"Up\"")
                .contains("uniform vector3f[] inbetweens:at0_5 = [(0, 0, 4)] (")
                .contains("weight = 0.5")
                .contains("uniform int[] pointIndices = [1]")
                .contains("uniform token[] skel:blendShapes = [\"Up\"]")
                .contains("uniform token[] blendShapes = [\"Up\"]")
                .doesNotContain("primvars:blendShape");
        Model read = workshop.readers().read(file, Progress.NONE).model();
        Mesh mesh = read.meshes().iterator().next();
        assertThat(second(mesh, 0.25).z()).isEqualTo(2);
        assertThat(BlendShapes.of(mesh).get("Up").normals()).isNotNull();
        Posing posing = Posing.of(read).orElseThrow();
        Motion rise = posing.skeleton().motions().getFirst();
        assertThat(posing.at(rise, 0.75).meshes().iterator().next().point(1).z())
                .isEqualTo(3);
        assertThat(posing.telling().bounds().max().z())
                .as("of 24 looks the last, at weight 23/24")
                .isCloseTo(2 + 2.0 / 12, within(1e-5));
    }

    /** A mesh that hangs on no joint has shapes all the same, as other programs write it. */
    @Test
    void aLayerNeedsNoJointsForItsShapes() throws Exception {
        String text = """
                #usda 1.0
                (
                    defaultPrim = "Face"
                    timeCodesPerSecond = 10
                )
                def SkelRoot "Face" (prepend apiSchemas = ["SkelBindingAPI"])
                {
                    rel skel:skeleton = </Face/Bones>
                    def Skeleton "Bones" (prepend apiSchemas = ["SkelBindingAPI"])
                    {
                        uniform token[] joints = []
                        rel skel:animationSource = </Face/Smile>
                    }
                    def SkelAnimation "Smile"
                    {
                        uniform token[] blendShapes = ["gone", "smile"]
                        float[] blendShapeWeights.timeSamples = { 0: [0, 0], 10: [1, 1] }
                    }
                    def Mesh "Skin" (prepend apiSchemas = ["SkelBindingAPI"])
                    {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                        uniform token[] skel:blendShapes = ["smile"]
                        rel skel:blendShapeTargets = [</Face/Skin/Wide>]
                        def BlendShape "Wide"
                        {
                            uniform vector3f[] offsets = [(0, 0, 5)]
                            uniform int[] pointIndices = [2]
                        }
                    }
                }
                """;
        Path file = Files.writeString(folder.resolve("face.usda"), text);
        Model model = workshop.readers().read(file, Progress.NONE).model();
        assertThat(model.extras().foreign()).isEmpty();
        Posing posing = Posing.of(model).orElseThrow();
        Motion smile = posing.skeleton().motions().getFirst();
        assertThat(smile.shapes()).containsExactly("smile");
        assertThat(posing.at(smile, 0.5).bounds().max().z()).isEqualTo(2.5);

        Path wrong = Files.writeString(folder.resolve("wrong.usda"), text.replace("= [2]", "= [7]"));
        assertThatThrownBy(() -> workshop.readers().read(wrong, Progress.NONE))
                .hasMessageContaining("</Face/Skin/Wide>: moves point 7 of 3");
    }
}
