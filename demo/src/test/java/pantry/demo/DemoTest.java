package pantry.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Clock;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.worker.WorkerLimits;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Licences;
import pantry.model.Model;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.Relinking;
import pantry.project.Strays;
import pantry.project.UseIndex;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.workbench.Workbench;

class DemoTest {
    private static final Set<AssetKind> SHOWN_BY_SAMPLES =
            Set.of(AssetKind.MATERIAL, AssetKind.MATERIAL_PART, AssetKind.MOTION);

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
                        assertThat(asset.facts("v001").bounds().size().length()).isPositive();
                        // A rig may have lamps with bodies of their own.
                        assertThat(asset.card().kind() == AssetKind.LIGHT_RIG
                                        || asset.facts("v001").triangles() > 0)
                                .as(asset.card().name() + " has surfaces of its own")
                                .isNotEqualTo(
                                        SHOWN_BY_SAMPLES.contains(asset.card().kind()));
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
            reachHasWhatToPutRight(workbench, demo, library);
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

    private static void reachHasWhatToPutRight(Workbench workbench, Demo demo, Library library) {
        List<Project> projects = List.of(Project.open(demo.project()), Project.open(demo.expedition()));
        UseIndex index = workbench.useIndex();
        index.refresh(projects, List.of(library), Progress.NONE);
        Reach reach = new Reach(index, List.of(library), projects);
        assertThat(reach.files()).hasSizeGreaterThanOrEqualTo(12);
        assertThat(reach.unreadable()).isEmpty();
        assertThat(reach.outdated()).hasSizeGreaterThan(8);
        assertThat(reach.waiting().values()).anyMatch(waiting -> waiting.mixed() > 0);
        List<Relinking.Missing> missing = new Relinking(
                        reach, List.of(demo.arrivals().resolveSibling("lost-and-found")), Progress.NONE)
                .missing();
        assertThat(missing).hasSize(3).allMatch(each -> each.best().isPresent());
        assertThat(Strays.find(reach, Progress.NONE))
                .extracting(group ->
                        group.asset().card().name() + " " + group.copies().size())
                .containsExactly("Battery box 4", "Fuel drum 4", "Gas bottle 4");
        assertThat(reach.unused(library).assets()).hasSizeGreaterThan(5);
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
