package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.domain.Bag;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.model.Weight;
import pantry.scene.Scene;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackage;

/** What is handed over is whole, stands alone and shows what was seen. */
class HandOverTest extends WithProject {
    /** What a file shows, as far as it can be told in figures. */
    private record Seen(long triangles, long placements, Box3 bounds) {}

    private Seen seen(Path file) {
        Scene scene = workshop.openScene(file);
        Weight weight = scene.weight(scene.model());
        return new Seen(
                weight.trianglesDrawn(), weight.placements(), scene.model().bounds());
    }

    private HandOver plan(HandOver.Form form, Path... scenes) {
        return HandOver.plan(reach(), List.of(Project.open(project)), Arrays.asList(scenes), form, Progress.NONE);
    }

    private void takeOriginalsAway() throws IOException {
        Files.move(project, folder.resolve("gone project"));
        Files.move(library.root(), folder.resolve("gone library"));
    }

    private static List<Path> files(Path folder) throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            return all.filter(Files::isRegularFile).toList();
        }
    }

    @Test
    void aFolderShowsTheSameWithoutTheOriginals() throws Exception {
        Seen before = seen(yard);
        Path target = folder.resolve("out/delivery");
        HandOver handOver = plan(HandOver.Form.FOLDER);
        assertThat(handOver.missing()).isEmpty();
        HandOver.Written written = handOver.write(target, Clock.systemUTC(), Progress.NONE);
        takeOriginalsAway();
        assertThat(written.scenes()).hasSize(2).allMatch(file -> file.startsWith(target.resolve("data")));
        Path there = written.scenes().stream()
                .filter(file -> file.endsWith("yard.usda"))
                .findFirst()
                .orElseThrow();
        assertThat(seen(there)).isEqualTo(before);
        List<Path> layers = files(target).stream()
                .filter(file -> LayerFiles.isLayer(file.toString()))
                .toList();
        assertThat(layers).as("each once").hasSize(handOver.files().size());
        for (Path file : layers) {
            Layer layer = LayerFiles.read(file);
            assertThat(LayerAssets.of(layer)).allSatisfy(named -> {
                Path leadsTo = AssetPaths.PLAIN.resolve(layer, named).file();
                assertThat(Path.of(named).isAbsolute()).as(named).isFalse();
                assertThat(leadsTo).isRegularFile().startsWith(target);
                assertThat(leadsTo.endsWith("ready.usda")).as("pinned").isFalse();
            });
        }
    }

    /** RFC 8493, by the other implementation of it. */
    @Test
    void theManifestHoldsByAnotherImplementation() throws Exception {
        Path target = folder.resolve("delivery");
        plan(HandOver.Form.FOLDER).write(target, Clock.systemUTC(), Progress.NONE);
        Bag bag = new BagReader().read(target);
        try (BagVerifier verifier = new BagVerifier()) {
            verifier.isComplete(bag, false);
            verifier.isValid(bag, false);
        }
        assertThat(bag.getMetadata().get("External-Description")).containsExactly("Pröject “one”");
        assertThat(target.resolve("data/credits.html")).content().contains("Mast", "Frame");
        assertThat(target.resolve("data/credits.csv")).content().startsWith("Name,Credit,Licence");
    }

    @Test
    void sealedLayersStayWhatTheyAreToTheByte() throws IOException {
        Path target = folder.resolve("delivery");
        plan(HandOver.Form.FOLDER, field).write(target, Clock.systemUTC(), Progress.NONE);
        Path entry = current(mast).entryLayer("v001");
        List<Path> copies = files(target).stream()
                .filter(file -> file.getFileName().equals(entry.getFileName()))
                .toList();
        assertThat(copies).singleElement().satisfies(copy -> assertThat(copy).hasSameBinaryContentAs(entry));
    }

    @Test
    void packagesHoldAllAndShowTheSame() throws Exception {
        Seen before = seen(yard);
        Path target = folder.resolve("packed");
        HandOver.Written written = plan(HandOver.Form.PACKAGES).write(target, Clock.systemUTC(), Progress.NONE);
        takeOriginalsAway();
        assertThat(written.scenes()).hasSize(2).allMatch(file -> file.toString().endsWith(".usdz"));
        Path there = written.scenes().stream()
                .filter(file -> file.endsWith("yard.usdz"))
                .findFirst()
                .orElseThrow();
        UsdPackage open = UsdPackage.open(there);
        assertThat(seen(there)).isEqualTo(before);
        for (String name : open.names()) {
            if (LayerFiles.isLayer(name)) {
                assertThat(LayerAssets.of(open.layer(name)))
                        .allMatch(named -> open.names().contains(named.substring(2)));
            }
        }
        scene(there, scene -> scene.structure()
                .remove(List.of(scene.placements().all().getFirst().path())));
        assertThat(seen(there).placements())
                .as("a package can be changed as well")
                .isEqualTo(before.placements() - 1);
    }

    @Test
    void imagesClipsAndBinaryLayersComeAlong() throws IOException {
        Path signs = Files.createDirectories(project.resolve("signs"));
        Files.writeString(signs.resolve("snow.png"), "snow");
        for (int i = 1; i <= 2; i++) {
            Files.writeString(signs.resolve("wave.00" + i + ".usda"), "#usda 1.0\ndef \"Flag\" {}\n");
        }
        Path text = Files.writeString(signs.resolve("sign.usda"), """
                #usda 1.0
                (
                    subLayers = [@./paint.usdc@]
                )
                def "Flag" (
                    # What is said here stays.
                    clips = {
                        dictionary default = {
                            string templateAssetPath = "./wave.###.usda"
                        }
                    }
                ) {}
                """);
        Path source = Files.writeString(folder.resolve("paint.usda"), """
                #usda 1.0
                def Shader "One" { asset inputs:file = @%s@ }
                """.formatted(signs.resolve("snow.png")));
        LayerFiles.write(LayerFiles.read(source), signs.resolve("paint.usdc"));
        Path target = folder.resolve("delivery");
        HandOver handOver = plan(HandOver.Form.FOLDER, text);
        handOver.write(target, Clock.systemUTC(), Progress.NONE);
        assertThat(handOver.missing()).isEmpty();
        Path data = target.resolve("data");
        assertThat(files(data).stream().map(file -> file.getFileName().toString()))
                .containsExactlyInAnyOrder(
                        "sign.usda",
                        "paint.usdc",
                        "snow.png",
                        "wave.001.usda",
                        "wave.002.usda",
                        "pantry-project.json",
                        "credits.html",
                        "credits.csv");
        Path copy = files(data).stream()
                .filter(file -> file.endsWith("sign.usda"))
                .findFirst()
                .orElseThrow();
        assertThat(copy).as("nothing in it leads elsewhere now").hasSameTextualContentAs(text);
        Layer paint = LayerFiles.read(copy.resolveSibling("paint.usdc"));
        assertThat(LayerAssets.of(paint))
                .as("an absolute path became a relative one")
                .containsExactly("./snow.png");
    }

    @Test
    void tilesOfAnImageGoAlong() throws IOException {
        Files.createDirectories(project.resolve("maps"));
        for (int number : List.of(1001, 1002, 1012)) {
            Files.writeString(project.resolve("maps/hull." + number + ".png"), "tile " + number);
        }
        Path hull = Files.writeString(project.resolve("hull.usda"), """
                #usda 1.0
                def Shader "One" { asset inputs:file = @./maps/hull.<UDIM>.png@ }
                def Shader "Two" { asset inputs:file = @./maps/none.<UDIM>.png@ }
                """);
        Path target = folder.resolve("delivery");
        HandOver handOver = plan(HandOver.Form.FOLDER, hull);
        HandOver.Written written = handOver.write(target, Clock.systemUTC(), Progress.NONE);
        assertThat(handOver.missing()).singleElement().satisfies(missing -> assertThat(missing.line())
                .contains("none.<UDIM>.png"));
        Path copy = written.scenes().getFirst();
        assertThat(copy).hasSameTextualContentAs(hull);
        for (int number : List.of(1001, 1002, 1012)) {
            assertThat(copy.resolveSibling("maps/hull." + number + ".png")).hasContent("tile " + number);
        }
    }

    @Test
    void whatIsMissingOrNotTheProjectsIsNamedAndNotTaken() throws IOException {
        Path secret = Files.writeString(folder.resolve("secret.png"), "secret");
        Path sign = Files.writeString(project.resolve("sign.usda"), """
                #usda 1.0
                def Shader "One" { asset inputs:file = @%s@ }
                def Shader "Two" { asset inputs:file = @./gone.png@ }
                def Shader "Three" { asset inputs:file = @https://example.org/x.png@ }
                """.formatted(secret));
        Path broken = Files.writeString(project.resolve("broken.usda"), "#usda 1.0\ndef {");
        Path target = folder.resolve("delivery");
        HandOver handOver = plan(HandOver.Form.FOLDER, sign, broken);
        handOver.write(target, Clock.systemUTC(), Progress.NONE);
        assertThat(handOver.missing()).hasSize(4);
        assertThat(handOver.missing().stream().map(HandOver.Missing::line).collect(Collectors.joining("\n")))
                .contains("secret.png", "gone.png", "example.org", "broken");
        assertThat(files(target)).noneMatch(file -> file.endsWith("secret.png"));
        assertThat(files(target).stream().filter(file -> file.endsWith("broken.usda")))
                .singleElement()
                .satisfies(copy -> assertThat(copy).hasSameTextualContentAs(broken));
    }

    @Test
    void twoProjectsOfOneNameStandSideBySide() throws IOException {
        Path other = Files.createDirectories(folder.resolve("other/Pröject “one”"));
        Files.copy(field, other.resolve("field.usda"));
        Files.writeString(other.resolve("field.usda"), "#usda 1.0\ndef \"Field\" {}\n");
        List<Project> projects = List.of(Project.open(project), Project.open(other));
        index.refresh(projects, List.of(library), Progress.NONE);
        HandOver.Written written = HandOver.plan(
                        new Reach(index, List.of(library), projects),
                        projects,
                        List.of(),
                        HandOver.Form.FOLDER,
                        Progress.NONE)
                .write(folder.resolve("delivery"), Clock.systemUTC(), Progress.NONE);
        assertThat(written.scenes()).hasSize(3).doesNotHaveDuplicates().allMatch(Files::isRegularFile);
    }

    @Test
    void nothingIsLeftWhereItWasCancelledAndNothingIsOverwritten() throws IOException {
        Path target = folder.resolve("out").resolve("delivery");
        Files.createDirectories(target.getParent());
        HandOver handOver = plan(HandOver.Form.FOLDER);
        List<String> steps = new ArrayList<>();
        Progress stops = new Progress() {
            @Override
            public boolean cancelled() {
                return steps.size() == 4;
            }

            @Override
            public void report(String what, double fraction) {
                steps.add(what);
            }
        };
        assertThatThrownBy(() -> handOver.write(target, Clock.systemUTC(), stops))
                .isInstanceOf(CancellationException.class);
        assertThat(target.getParent()).isEmptyDirectory();
        Files.createDirectories(target);
        assertThatThrownBy(() -> handOver.write(target, Clock.systemUTC(), Progress.NONE))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("already there");
        assertThatThrownBy(() -> plan(HandOver.Form.FOLDER, folder.resolve("elsewhere.usda")))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("no file of the projects");
    }

    @Test
    void whoMustBeNamedStandsOnThePage() {
        Credits.Line free = Credits.of(reach(), List.of(field)).getFirst();
        String page = Credits.page("Delivery <1>", List.of(free));
        assertThat(page)
                .contains("Delivery &lt;1&gt;", "CC0-1.0", "Nobody must be named.")
                .doesNotContain("marked\">");
        Credits.Line lacking = new Credits.Line(free.asset(), false, false, true, List.of(field));
        assertThat(Credits.page("Delivery", List.of(free, lacking)))
                .contains("<tr class=\"marked\">", "none is given", "1 asset has no licence");
    }

    @Test
    void locationsWithinPackagesStayWithinThem() throws IOException {
        Path scene = Files.writeString(project.resolve("packed.usda"), """
                #usda 1.0
                def "Mast" (references = @./mast.usdz[mast.usdc]@) {}
                """);
        pantry.usd.file.UsdPackager.write(
                LayerFiles.read(current(mast).entryLayer("v001")),
                new pantry.usd.compose.LayerCache(),
                project.resolve("mast.usdz"));
        HandOver handOver = plan(HandOver.Form.FOLDER, scene);
        Path target = folder.resolve("delivery");
        handOver.write(target, Clock.systemUTC(), Progress.NONE);
        assertThat(handOver.files()).containsExactlyInAnyOrder(scene, project.resolve("mast.usdz"));
        assertThat(handOver.bytes()).isEqualTo(Files.size(scene) + Files.size(project.resolve("mast.usdz")));
        Path copy = files(target).stream()
                .filter(file -> file.endsWith("packed.usda"))
                .findFirst()
                .orElseThrow();
        Layer layer = LayerFiles.read(copy);
        AssetLocation there =
                AssetPaths.PLAIN.resolve(layer, LayerAssets.of(layer).iterator().next());
        assertThat(there.file()).isRegularFile().startsWith(target);
        assertThat(there.inside()).isEqualTo("mast.usdc");
    }
}
