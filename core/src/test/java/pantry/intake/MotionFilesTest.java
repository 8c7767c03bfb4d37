package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Facts;
import pantry.motion.Motion;
import pantry.motion.Skeleton;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;

/** Files of motions alone become assets of their own, seen by the bones that move. */
class MotionFilesTest extends WithWorkshop {
    /** Two bones, centimetres: a hip that walks and a spine that leans by ten degrees about x at the second of three frames. */
    static final String BVH = """
            HIERARCHY
            ROOT Hips
            {
              OFFSET 0 0 0
              CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
              JOINT Spine
              {
                OFFSET 0 30 0
                CHANNELS 3 Zrotation Xrotation Yrotation
                End Site
                {
                  OFFSET 0 40 0
                }
              }
            }
            MOTION
            Frames: 3
            Frame Time: 0.5
            0 90 0 0 0 0 0 0 0
            0 90 10 0 0 0 0 10 0
            0 90 20 0 0 0 0 0 0
            """;

    private static final String ANIMATION_ALONE = """
            #usda 1.0
            ( defaultPrim = "Turn" metersPerUnit = 1 upAxis = "Y" )
            def SkelAnimation "Turn" {
                uniform token[] joints = ["Hips", "Hips/Spine"]
                float3[] translations = [(0, 0.9, 0), (0, 0.3, 0)]
                quatf[] rotations.timeSamples = { 0: [(1,0,0,0),(1,0,0,0)], 24: [(0,0,1,0),(1,0,0,0)] }
                half3[] scales = [(1, 1, 1), (1, 1, 1)]
            }
            """;

    private Imported read(String name, String text) throws IOException {
        Path file = Files.writeString(folder.resolve(name), text);
        return workshop.intake().read(file, Progress.NONE);
    }

    private Asset shelved(Imported arrival) {
        Slip slip = Intake.suggested(arrival, "Motions", Neighbours.NONE);
        assertThat(slip.kind()).isEqualTo(AssetKind.MOTION);
        return workshop.intake()
                .shelve(arrival, slip.withFactor(arrival.unit().orElse(0.01)), library, Progress.NONE)
                .published()
                .asset();
    }

    private Imported sealed(Asset asset) {
        return workshop.readers().read(asset.entryLayer("v001"), Progress.NONE);
    }

    private static Skeleton skeleton(Imported read) {
        return read.model().extras().skeleton().orElseThrow();
    }

    /** The places are those that the format's offsets and degrees say: 0.9 + 0.3 + 0.4 m up, leaning by ten degrees. */
    @Test
    void motionCaptureIsSealedInMetresWithItsEndsAndNamedLikeItsFile() throws IOException {
        Imported arrival = read("lean.bvh", BVH);
        assertThat(arrival.holds()).isEqualTo(Imported.Holds.MOTIONS);
        Asset asset = shelved(arrival);
        Imported again = sealed(asset);
        assertThat(again.holds()).isEqualTo(Imported.Holds.MOTIONS);
        Skeleton bones = skeleton(again);
        assertThat(bones.joints()).hasSize(3);
        Motion motion = bones.motions().getFirst();
        assertThat(motion.name()).isEqualTo("lean");
        assertThat(motion.seconds()).isCloseTo(1, within(1e-4));
        Vec3 end = bones.posed(motion, 0.5)[2].translationPart();
        double lean = Math.toRadians(10);
        assertThat(end.minus(new Vec3(0, 1.2 + 0.4 * Math.cos(lean), 0.1 + 0.4 * Math.sin(lean)))
                        .length())
                .isLessThan(1e-4);
        Facts facts = asset.facts("v001");
        assertThat(facts.bones()).isEqualTo(3);
        assertThat(facts.triangles()).as("the bones that show it").isZero();
        assertThat(facts.motions()).extracting(Facts.MotionFact::name).containsExactly("lean");
    }

    @Test
    void bvhIsKnownByItsFirstWordsWhateverItsEnding() throws IOException {
        assertThat(read("lean.txt", BVH).holds()).isEqualTo(Imported.Holds.MOTIONS);
    }

    @Test
    void anAnimationOfUsdWithoutASkeletonIsShownByTheJointsThatItTellsOf() throws IOException {
        Imported arrival = read("turn.usda", ANIMATION_ALONE);
        Skeleton bones = skeleton(sealed(shelved(arrival)));
        assertThat(bones.paths()).containsExactly("Hips", "Hips/Spine");
        assertThat(bones.rest()[1].translationPart().minus(new Vec3(0, 1.2, 0)).length())
                .isLessThan(1e-6);
        assertThat(bones.motions().getFirst().seconds()).isCloseTo(1, within(1e-6));
    }

    @Test
    void aSkeletonOfUsdWithItsMotionComesInWithoutASurface() throws IOException {
        Imported arrival = read("rig.usda", """
                #usda 1.0
                ( defaultPrim = "Rig" metersPerUnit = 0.01 upAxis = "Z" )
                def SkelRoot "Rig" {
                    def Skeleton "Bones" {
                        uniform token[] joints = ["A", "A/B"]
                        uniform matrix4d[] bindTransforms = [
                            ((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1)), ((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,50,1))]
                        uniform matrix4d[] restTransforms = [
                            ((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1)), ((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,50,1))]
                        def SkelAnimation "Lift" {
                            uniform token[] joints = ["A", "A/B"]
                            float3[] translations.timeSamples = { 0: [(0,0,0),(0,0,50)], 24: [(0,0,10),(0,0,50)] }
                            quatf[] rotations = [(1,0,0,0),(1,0,0,0)]
                            half3[] scales = [(1,1,1),(1,1,1)]
                        }
                    }
                }
                """);
        Skeleton bones = skeleton(sealed(shelved(arrival)));
        Vec3 top = bones.posed(bones.motions().getFirst(), 1)[1].translationPart();
        assertThat(top.minus(new Vec3(0, 0.6, 0)).length()).isLessThan(1e-5);
    }

    /** Bodies are guides: what is placed shows nothing by itself. */
    @Test
    void itsBonesAreNotDrawnInScenes() throws IOException {
        Asset asset = shelved(read("turn.usda", ANIMATION_ALONE));
        var scene = workshop.newScene(folder.resolve("scene.usda"));
        Workshop.stand(scene, asset, 0);
        assertThat(scene.model().meshes()).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "HIERARCHY\nROOT Hips\n{\n",
                "HIERARCHY\nROOT Hips\n{\nOFFSET 0 0 0\nCHANNELS 1 Xposition\n}\nMOTION\nFrames: 2000000000\nFrame Time: 0.1\n1\n",
                "HIERARCHY\nROOT Hips\n{\nOFFSET 0 0 0\nCHANNELS 1 Sideways\n}\nMOTION\nFrames: 1\nFrame Time: 0.1\n1\n"
            })
    void whatIsDamagedIsRefusedNamingTheFile(String text) {
        assertThatThrownBy(() -> read("bad.bvh", text))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("bad.bvh");
    }

    @Test
    void ofUsdWithNeitherSurfaceNorMotionTheBonesAreTold() {
        assertThatThrownBy(() -> read("still.usda", """
                        #usda 1.0
                        def SkelRoot "Rig" {
                            def Skeleton "Bones" {
                                uniform token[] joints = ["A"]
                                uniform matrix4d[] bindTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                                uniform matrix4d[] restTransforms = [((1,0,0,0),(0,1,0,0),(0,0,1,0),(0,0,0,1))]
                            }
                        }
                        """))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("has no surface in it; it has 1 bone");
    }
}
