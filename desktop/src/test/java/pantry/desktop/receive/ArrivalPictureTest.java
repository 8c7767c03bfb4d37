package pantry.desktop.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.intake.CollisionShape;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Pivot;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What is shown of an arrival is what is shelved of it: its collision shape and levels of detail as they are written. */
class ArrivalPictureTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Imported arrival;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        Path file = folder.resolve("ball.glb");
        Model ball = new Model(
                "Ball",
                List.of(Model.Node.of(
                        "Ball",
                        Matrix4.translation(new Vec3(40, 2, 0)),
                        List.of(new Model.Part(Shapes.sphere(1, 32, 16), Material.PLAIN)),
                        List.of())),
                Model.Extras.NONE);
        ModelWriters.write(ball, file);
        arrival = desk.workbench().intake().read(file, Progress.NONE);
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Slip slip(UnaryOperator<ProcessingOptions> making) {
        Slip slip = Intake.suggested(arrival, "Balls", Neighbours.NONE);
        return slip.withPivot(Pivot.KEEP).withMaking(making.apply(slip.making()));
    }

    private Stage shelved(Slip slip) {
        Asset asset = desk.workbench()
                .intake()
                .shelve(arrival, slip, desk.library(), Progress.NONE)
                .published()
                .asset();
        return Stage.open(LayerFiles.read(asset.entryLayer("v001")), new LayerCache());
    }

    @Test
    void anArrivalAsItIsStandsOverTheOriginWithoutMore() {
        ArrivalPicture picture = ArrivalPicture.of(arrival, slip(making -> making), new RenderCache());
        assertThat(picture.collision()).isEmpty();
        assertThat(picture.levels()).isEmpty();
        assertThat(picture.figure()).isTrue();
        assertThat(picture.box().centre().x()).as("where it is").isCloseTo(40, within(1e-3));
        assertThat(picture.scene().bounds().max().x()).as("where it is shown").isCloseTo(1, within(1e-3));
    }

    @Test
    void theCollisionShapeIsDrawnAroundItAsItIsWritten() {
        for (CollisionShape shape : List.of(CollisionShape.BOX, CollisionShape.HULL)) {
            Slip slip = slip(making -> making.withCollision(shape));
            ArrivalPicture picture = ArrivalPicture.of(arrival, slip, new RenderCache());
            Box3 drawn = picture.scene().boundsBelow(CollisionShape.PRIM);
            assertThat(drawn.size().y()).isCloseTo(2, within(0.02));
            assertThat(drawn.centre().x()).isCloseTo(0, within(0.02));
            Prim prim = shelved(slip)
                    .defaultPrim()
                    .orElseThrow()
                    .child(CollisionShape.PRIM)
                    .orElseThrow();
            assertThat(picture.collision().orElseThrow())
                    .isEqualTo(triangles(prim))
                    .isEqualTo(
                            shape == CollisionShape.BOX
                                    ? 12
                                    : picture.collision().orElseThrow());
        }
    }

    @Test
    void levelsStandInARowWithTheTrianglesThatTheyAreWrittenWith() {
        Slip slip = slip(making -> making.withLevels(true));
        ArrivalPicture picture = ArrivalPicture.of(arrival, slip, new RenderCache());
        assertThat(picture.levels())
                .extracting(ArrivalPicture.Level::name)
                .containsExactly("half", "quarter", "eighth");
        Prim root = shelved(slip).defaultPrim().orElseThrow();
        assertThat(root.variantSets().get("detail")).contains("half", "quarter", "eighth");
        long before = picture.triangles();
        double error = 0;
        for (ArrivalPicture.Level level : picture.levels()) {
            assertThat(level.triangles()).isLessThan(before);
            assertThat(level.error()).isGreaterThan(error);
            before = level.triangles();
            error = level.error();
        }
        assertThat(picture.scene().bounds().max().x())
                .as("three more of them beside it")
                .isGreaterThan(7);
    }

    @Test
    void otherStatesAndLevelsOfFilesStandBesideIt() {
        Model half = arrival.model().reframed(Matrix4.scale(new Vec3(0.5, 0.5, 0.5)));
        Imported states =
                arrival.with(new Imported.Series("state", "Ball", "full", Map.of("empty", half)), List.of(), List.of());
        ArrivalPicture picture = ArrivalPicture.of(states, slip(making -> making), new RenderCache());
        // A ball of 2 m, a gap of 15 % of that at least, and a ball of 1 m.
        assertThat(picture.scene().bounds().max().x()).isBetween(1 + 0.3 + 1 - 0.01, 1 + 0.5 + 1.0);
        Imported levels =
                arrival.with(new Imported.Series("detail", "Ball", "full", Map.of("lod1", half)), List.of(), List.of());
        assertThat(ArrivalPicture.of(levels, slip(making -> making.withLevels(true)), new RenderCache())
                        .levels())
                .as("none are made where files have them")
                .isEmpty();
    }

    private static int triangles(Prim mesh) {
        int[] sizes = mesh.value("faceVertexCounts")
                .map(value -> ((pantry.usd.Value.Ints) value).data())
                .orElseThrow();
        int triangles = 0;
        for (int size : sizes) {
            triangles += size - 2;
        }
        return triangles;
    }
}
