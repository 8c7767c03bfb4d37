package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.intake.Pivot;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.testing.Workshop;
import pantry.usd.AssetPaths;
import pantry.usd.file.LayerFiles;

/** What is swapped stands where the other stood, whatever its pivot. */
class SwappingTest extends WithProject {
    private Asset post;

    @BeforeEach
    void shelvePost() {
        post = workshop.intake()
                .shelve(
                        Workshop.model(
                                "Post", Shapes.block(2, 3, 2).transformed(Matrix4.translation(new Vec3(5, 1, -4)))),
                        Workshop.slip("Post", "Masts").withPivot(Pivot.KEEP),
                        library,
                        Progress.NONE)
                .asset();
    }

    private Path turned() throws IOException {
        return Files.writeString(
                project.resolve("turned.usda"), """
                #usda 1.0
                ( defaultPrim = "Yard" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Yard" (kind = "assembly") {
                    def "Mast" (references = @%s@) {
                        double3 xformOp:translate = (10, 2, 3)
                        float xformOp:rotateY = 30
                        float3 xformOp:scale = (2, 2, 2)
                        uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateY", "xformOp:scale"]
                    }
                }
                """.formatted(current(mast).readyLayer()));
    }

    private Vec3 base(Path file) {
        Box3 box = workshop.openScene(file).model().bounds();
        return new Vec3(box.centre().x(), box.min().y(), box.centre().z());
    }

    private void swap(Path file) {
        ChangePlan plan = new Updates(reach(), List.of(current(mast)), List.of(file)).swap(post);
        Vec3 offset = Swapping.offset(current(mast), post).orElseThrow();
        ChangeRuns.Done done = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC())
                .run(
                        plan.title(),
                        Swapping.edits(plan, Matrix4.translation(offset), each -> AssetPaths.PLAIN),
                        each -> "",
                        Progress.NONE);
        assertThat(done.failed()).isEmpty();
        assertThat(done.changes()).isEqualTo(1);
    }

    private static void isNear(Vec3 one, Vec3 other) {
        assertThat(one.minus(other).length()).isCloseTo(0, within(1e-4));
    }

    @Test
    void theBaseStandsWhereItStoodAlsoWhereItIsTurnedAndScaled() throws IOException {
        Path file = turned();
        Vec3 before = base(file);
        swap(file);
        isNear(base(file), before);
        assertThat(workshop.openScene(file).model().bounds().size().y()).isCloseTo(6, within(1e-4));
        assertThat(Files.readString(file)).contains("xformOp:transform:swapped", "xformOp:rotateY");
    }

    @Test
    void binaryFilesAreSwappedToo() throws IOException {
        Path text = turned();
        Path file = project.resolve("turned.usdc");
        LayerFiles.write(LayerFiles.read(text), file);
        Files.delete(text);
        Vec3 before = base(file);
        swap(file);
        isNear(base(file), before);
    }

    @Test
    void assetsOfOnePivotNeedNoMove() {
        assertThat(Swapping.offset(current(mast), current(mast))).isEmpty();
        assertThat(Swapping.offset(current(mast), current(frame)))
                .as("the frame is a mast")
                .isEmpty();
        assertThat(Swapping.growth(current(mast), post)).isCloseTo(3.0 / 11, within(1e-6));
        assertThat(Optional.of(Swapping.growth(post, current(mast))))
                .hasValueSatisfying(ratio -> assertThat(ratio).isCloseTo(11.0 / 3, within(1e-6)));
    }
}
