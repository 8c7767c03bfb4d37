package pantry.workbench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.catalogue.Order;
import pantry.catalogue.SearchText;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Shapes;
import pantry.scene.Scene;
import pantry.testing.Workshop;
import pantry.usd.schema.TransformComponents;

class WorkbenchTest {
    @TempDir
    private Path folder;

    @Test
    void theServicesWorkTogetherAndEndWithTheWorkbench() throws IOException {
        Path file = folder.resolve("post.stl");
        ModelWriters.write(Workshop.model("Post", Shapes.block(1, 3, 1)), file);
        Library library;
        try (Workbench workbench =
                new Workbench("tester", Clock.systemUTC(), folder.resolve("cache/index.sqlite"), WorkerLimits.USUAL)) {
            library = workbench.createLibrary(folder.resolve("library"), "Yard");
            Imported arrival = workbench.intake().read(file, Progress.NONE);
            Asset asset = workbench
                    .intake()
                    .shelve(arrival, Intake.suggested(arrival, "Posts", Neighbours.NONE), library, Progress.NONE)
                    .published()
                    .asset();
            workbench.catalogue().refresh(library, Progress.NONE);
            assertThat(workbench
                            .catalogue()
                            .finder(List.of(library))
                            .find(SearchText.parse("post"), Order.BEST)
                            .count())
                    .isOne();
            Scene scene = workbench.createScene(folder.resolve("yard.usda"));
            scene.placements()
                    .place(
                            asset,
                            Optional.empty(),
                            "Post",
                            TransformComponents.ORIGIN.withMove(new Vec3(1, 0, 0)),
                            Optional.empty());
            scene.save();
            assertThat(workbench.openScene(scene.file()).model().trianglesDrawn())
                    .isEqualTo(12);
            assertThat(workbench.openLibrary(library.root()).info()).isEqualTo(library.info());
        }
        assertThat(folder.resolve("cache/index.sqlite")).exists();
        try (var inside = Files.list(library.root().resolve("incoming"))) {
            assertThat(inside).isEmpty();
        }
    }
}
