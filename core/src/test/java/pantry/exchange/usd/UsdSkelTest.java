package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.ArrivalSummary;
import pantry.intake.Intake;
import pantry.intake.PartsMode;
import pantry.intake.Pivot;
import pantry.intake.Preparation;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.motion.Skin;
import pantry.testing.Moving;
import pantry.testing.Oracle;
import pantry.testing.Workshop;

/** Skeletons as UsdSkel has them: written, read, and through a version on the shelf. */
class UsdSkelTest {
    private static final double[] TIMES = {0, 0.4, 1, 1.7, 2};

    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    /** @param change from where the one stands to where the other does */
    private static void moveAlike(Model one, Model other, Matrix4 change) {
        Posing first = Posing.of(one).orElseThrow();
        Posing second = Posing.of(other).orElseThrow();
        assertThat(second.skeleton().motions()).hasSameSizeAs(first.skeleton().motions());
        for (int i = 0; i < first.skeleton().motions().size(); i++) {
            Motion motion = first.skeleton().motions().get(i);
            Motion same = second.skeleton().motions().get(i);
            assertThat(same.name()).isEqualTo(motion.name());
            for (double time : TIMES) {
                List<Vec3> here = Moving.points(first.at(motion, time));
                List<Vec3> there = Moving.points(second.at(same, time));
                assertThat(there).hasSameSizeAs(here);
                for (int p = 0; p < here.size(); p++) {
                    assertThat(there.get(p).minus(change.point(here.get(p))).length())
                            .as("point %d of %s at %s s", p, motion.name(), time)
                            .isLessThan(1e-4);
                }
            }
        }
    }

    @Test
    void aFileOfEveryUsdFormatMovesAsItsModelDoes() {
        for (String ending : List.of("usda", "usdc", "usdz")) {
            Path file = folder.resolve("vane." + ending);
            ModelWriters.write(Moving.vane(), file);
            Imported read = workshop.readers().read(file, Progress.NONE);
            assertThat(read.model().extras().foreign()).isEmpty();
            moveAlike(Moving.vane(), read.model(), Matrix4.IDENTITY);
        }
    }

    @Test
    void theStandardsNamesAreWritten() throws IOException {
        Path file = folder.resolve("vane.usda");
        ModelWriters.write(Moving.vane(), file);
        assertThat(Files.readString(file))
                .contains("def SkelRoot \"Vane\"")
                .contains("uniform token[] joints = [\"Head\", \"Head/Tail_end\"]")
                .contains("rel skel:animationSource = </Vane/Skeleton/Turn_round>")
                .contains("rel skel:skeleton = </Vane/Skeleton>")
                .contains("elementSize = 2")
                .contains("matrix4d primvars:skel:geomBindTransform")
                .contains("endTimeCode = 48");
    }

    /** Which way joints are blended is kept, and said to be left out where a format has one way only. */
    @Test
    void dualQuaternionsStayWhatTheyAre() throws IOException {
        Model dual = Moving.vane().withMeshes(mesh -> Skin.of(mesh)
                .map(skin -> new Skin(skin.width(), skin.joints(), skin.weights(), true).on(mesh))
                .orElse(mesh));
        Path file = folder.resolve("dual.usda");
        ModelWriters.write(dual, file);
        assertThat(Files.readString(file)).contains("uniform token primvars:skel:skinningMethod = \"dualQuaternion\"");
        Model again = workshop.readers().read(file, Progress.NONE).model();
        moveAlike(dual, again, Matrix4.IDENTITY);
        assertThat(again.meshes().stream().flatMap(mesh -> Skin.of(mesh).stream()))
                .isNotEmpty()
                .allMatch(Skin::dual);
        assertThat(ModelWriters.write(dual, folder.resolve("dual.glb")).left())
                .anyMatch(line -> line.contains("dual quaternions"));
    }

    /** What three tells of a glTF file: where points come to at each time. */
    record Posed(List<Object> clips, List<List<Double>> poses) {}

    /** The export is posed by three as the model is here, and the format's own validator finds no error in it. */
    @Test
    void anExportMovesInThreeAsItsModelDoes() {
        Path file = folder.resolve("vane.glb");
        ModelWriters.write(Moving.vane(), file);
        Posing posing = Posing.of(Moving.vane()).orElseThrow();
        Motion motion = posing.skeleton().motions().getFirst();

        Posed posed =
                Json.read(Oracle.run("pose.mjs", file.toString(), "0", "0.4", "1", "1.7", "2"), "pose", Posed.class);

        for (int time = 0; time < TIMES.length; time++) {
            List<Vec3> here = Moving.points(posing.at(motion, TIMES[time]));
            List<Double> there = posed.poses().get(time);
            for (int i = 0; i < there.size(); i += 3) {
                Vec3 point = new Vec3(there.get(i), there.get(i + 1), there.get(i + 2));
                assertThat(here.stream()
                                .mapToDouble(p -> p.minus(point).length())
                                .min()
                                .orElseThrow())
                        .as("a vertex at %s s", TIMES[time])
                        .isLessThan(1e-5);
            }
        }
        Moving.assertComesTo(
                Moving.vane(), workshop.readers().read(file, Progress.NONE).model(), 1e-5, TIMES);
    }

    @Test
    void theValidatorFindsNoErrorInAnExport() {
        Path file = folder.resolve("vane.glb");
        ModelWriters.write(Moving.vane(), file);
        assertThat(Oracle.run("validate-gltf.mjs", file.toString())).contains("\"errors\":0");
    }

    private Model shelved(Imported arrival, Slip slip) {
        Asset asset = workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
        Path entry = asset.entryLayer(asset.newest().orElseThrow());
        return workshop.readers().read(entry, Progress.NONE).model();
    }

    private Imported made(Model model) throws IOException {
        Path file = Files.writeString(folder.resolve("vane.xyz"), "what it was read from");
        return new Imported(file, model, Optional.of(1.0), Optional.of(Axis.Z), List.of());
    }

    /** Unit, upward axis, pivot and parts change where things stand, and not how they move. */
    @Test
    void aVersionMovesAsTheArrivalDoes() throws IOException {
        Imported arrival = made(Moving.vane());
        for (PartsMode parts : PartsMode.values()) {
            Slip slip = Slip.plain("Vane " + parts, AssetKind.MODEL, "Wind", 0.01, Axis.Z)
                    .withParts(parts)
                    .withPivot(Pivot.BASE);
            Model prepared = Preparation.prepared(arrival, slip).model();
            if (parts == PartsMode.KEEP) {
                Matrix4 change = Axis.Z.toMetres(0.01);
                Vec3 moved = Moving.points(prepared)
                        .getFirst()
                        .minus(change.point(Moving.points(Moving.vane()).getFirst()));
                moveAlike(Moving.vane(), prepared, change.times(Matrix4.translation(moved)));
            }
            moveAlike(prepared, shelved(arrival, slip), Matrix4.IDENTITY);
        }
    }

    @Test
    void aUsdFileKeepsItsOwnSkeleton() {
        Path file = folder.resolve("vane.usda");
        ModelWriters.write(Moving.vane(), file);
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        Slip slip = Slip.plain("Vane", AssetKind.MODEL, "Wind", 1, Axis.Y);
        assertThat(Intake.lostStructure(ArrivalSummary.of(arrival), slip)).isEmpty();
        moveAlike(Moving.vane(), shelved(arrival, slip), Matrix4.IDENTITY);
    }
}
