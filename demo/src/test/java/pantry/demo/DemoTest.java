package pantry.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.worker.WorkerLimits;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Licences;
import pantry.model.Model;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.workbench.Workbench;

class DemoTest {
    @TempDir
    private Path folder;

    @Test
    void skuaPointIsWholeAndIsMadeOnce() throws IOException {
        try (Workbench workbench =
                new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            Path root = folder.resolve("demo");
            Demo demo = Demo.in(root, workbench, Progress.NONE);
            Library library = workbench.openLibrary(demo.library());
            assertThat(library.assets()).hasSizeGreaterThanOrEqualTo(80);
            assertThat(library.shelves()).hasSizeGreaterThanOrEqualTo(12);
            assertThat(library.assets())
                    .filteredOn(asset -> asset.versions().size() > 1)
                    .hasSizeGreaterThanOrEqualTo(3);
            assertThat(library.assets())
                    .extracting(asset -> asset.card().kind())
                    .contains(AssetKind.PREFAB, AssetKind.MATERIAL, AssetKind.LIGHT_RIG, AssetKind.IMAGE);
            assertThat(workbench
                            .openScene(library.find("Solar field").readyLayer())
                            .stage()
                            .problems())
                    .as("nested three deep")
                    .isEmpty();
            assertThat(library.assets())
                    .allSatisfy(asset -> {
                        assertThat(asset.preview("v001")).exists();
                        assertThat(Licences.valid(asset.card().licence())).isTrue();
                        assertThat(asset.card().licence()).isNotEmpty();
                        assertThat(asset.facts("v001").triangles()).isPositive();
                    })
                    .filteredOn(asset -> !asset.facts("v001").textures().isEmpty())
                    .hasSizeGreaterThanOrEqualTo(3);
            assertThat(library.verify(Progress.NONE).ok()).isTrue();
            for (Path file : demo.scenes()) {
                Scene scene = workbench.openScene(file);
                assertThat(scene.placements().all()).hasSizeGreaterThanOrEqualTo(60);
                assertThat(scene.placements().all()).noneMatch(p -> p.held() == Placement.Held.MISSING);
                Model model = scene.model();
                assertThat(model.trianglesDrawn()).isGreaterThan(2 * model.trianglesStored());
                assertThat(scene.stage().problems()).isEmpty();
            }
            assertThatThrownBy(() -> workbench
                            .readers()
                            .read(demo.arrivals().resolve("visitors/snow-tractor-cut-off.glb"), Progress.NONE))
                    .isInstanceOf(PantryException.class);
            FileTime made = Files.getLastModifiedTime(demo.library().resolve("pantry-library.json"));
            Demo.in(root, workbench, Progress.NONE);
            assertThat(Files.getLastModifiedTime(demo.library().resolve("pantry-library.json")))
                    .isEqualTo(made);
        }
    }

    @Test
    void aFolderWithOtherThingsIsLeftAlone() throws IOException {
        Path other = Files.createDirectories(folder.resolve("mine"));
        Files.writeString(other.resolve("letter.txt"), "keep me");
        try (Workbench workbench =
                new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL)) {
            assertThatThrownBy(() -> Demo.in(other, workbench, Progress.NONE)).hasMessageContaining("something else");
        }
        assertThat(other.resolve("letter.txt")).hasContent("keep me");
    }
}
