package pantry.workbench;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.compare.Comparison;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.testing.YardBench;
import pantry.usecase.CompareVersions;
import pantry.usecase.HandOut;

class AssetPreviewTest {
    private static final Material RED = Material.plain("Red", new Colour(1, 0, 0), 0, 0.5);
    private static final Material BLUE = Material.plain("Blue", new Colour(0, 0, 1), 0, 0.5);

    @TempDir
    private Path folder;

    private YardBench bench;
    private Workbench workbench;
    private Library library;
    private Asset ball;

    @BeforeEach
    void open() {
        bench = new YardBench(folder, model(1), slip().withMaking(ProcessingOptions.USUAL.withLevels(true)));
        workbench = bench.workbench();
        library = bench.library();
        ball = bench.asset();
    }

    @AfterEach
    void close() {
        bench.close();
    }

    private static Model model(double radius) {
        Model.Part part = new Model.Part(Shapes.sphere(radius, 48, 32), RED, Map.of("Winter", BLUE));
        return new Model(
                "Ball", List.of(Model.Node.of("Body", Matrix4.IDENTITY, List.of(part), List.of())), Model.Extras.NONE);
    }

    private static Slip slip() {
        return Slip.plain("Ball", AssetKind.MODEL, "Parts", 1, Axis.Y);
    }

    private String colour(Map<String, String> variants) {
        List<String> names = new ArrayList<>();
        workbench
                .preview(ball, "v001")
                .model(variants, false)
                .visit((owner, part, world) -> names.add(part.material().title()));
        return names.getFirst();
    }

    /** A material by itself has no surface that is rendered: its card shows it on its balls. */
    @Test
    void aMaterialIsSeenOnItsBall() throws IOException {
        Path file = folder.resolve("paints.mtlx");
        ModelWriters.write(Samples.balls("Paints", List.of(RED, BLUE)), file);
        Imported read = workbench.readers().read(file, Progress.NONE);
        Slip slip = Slip.plain("Paints", AssetKind.MATERIAL, "Materials", 1, Axis.Y);
        Asset paints = workbench
                .intake()
                .shelve(read, slip, library, Progress.NONE)
                .published()
                .asset();
        Model seen = workbench.preview(paints, "v001").model(Map.of(), false);
        assertThat(seen.materials()).extracting(Material::title).containsExactlyInAnyOrder("Red", "Blue");
        assertThat(seen.bounds().size().y()).isCloseTo(0.5, within(1e-6));
        Weight weight = workbench.preview(paints, "v001").weight(seen);
        assertThat(weight.trianglesDrawn()).as("the balls only show them").isZero();
        assertThat(weight.trianglesStored()).isZero();
        assertThat(weight.fileBytes()).isPositive();
        // In a scene it is in nobody's way.
        assertThat(workbench.openScene(paints.entryLayer("v001")).model().meshes())
                .isEmpty();
    }

    @Test
    void variantsAreChosenForLookingAndNothingChanges() {
        Map<String, List<String>> variants = ball.facts("v001").variants();
        assertThat(variants).containsKeys("look", "detail");
        assertThat(variants.get("look")).hasSize(2).contains("Winter");
        assertThat(workbench.preview(ball, "v001").choices()).containsKeys("look", "detail");
        assertThat(colour(Map.of())).isEqualTo("Red");
        assertThat(colour(Map.of("look", "Winter"))).isEqualTo("Blue");
        assertThat(colour(Map.of("look", "no such look"))).isNotEmpty();
        long full = workbench.preview(ball, "v001").model(Map.of(), false).trianglesDrawn();
        List<String> levels = variants.get("detail");
        long least = levels.stream()
                .mapToLong(level -> workbench
                        .preview(ball, "v001")
                        .model(Map.of("detail", level), false)
                        .trianglesDrawn())
                .min()
                .orElseThrow();
        assertThat(least).isLessThan(full);
        assertThat(workbench.preview(ball, "v001").hasProxy()).isFalse();
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void aProxyIsSeenInsteadOfWhatIsRendered() throws Exception {
        Path entry = ball.entryLayer("v001");
        String text = Files.readString(entry);
        int end = text.lastIndexOf('}');
        Files.writeString(
                entry,
                text.substring(0, end)
                        + "    def Cube \"Light\" { uniform token purpose = \"proxy\" double size = 2 }\n}\n");
        AssetPreview look = new Workbench("t", Clock.systemUTC(), folder.resolve("i.sqlite"), WorkerLimits.USUAL)
                .preview(ball, "v001");
        assertThat(look.hasProxy()).isTrue();
        assertThat(look.model(Map.of(), true).trianglesDrawn()).isEqualTo(12);
        assertThat(look.model(Map.of(), false).trianglesDrawn()).isGreaterThan(1000);
    }

    @Test
    void versionsAreComparedWithTheirVariants() {
        Asset next = workbench
                .intake()
                .publish(
                        model(1.25),
                        slip(),
                        new Intake.Next(ball, VersionStatus.READY, "larger"),
                        library,
                        Progress.NONE)
                .asset();
        Comparison differences = new CompareVersions(workbench.readers()).run(next, "v001", "v002", Progress.NONE);
        assertThat(differences.distance()).isCloseTo(0.25, within(0.002));
        assertThat(differences.variants())
                .as("the levels of detail were not made again")
                .isNotEmpty()
                .allSatisfy(each -> assertThat(each.name()).startsWith("detail "));
        assertThat(new CompareVersions(workbench.readers())
                        .run(next, "v002", "v002", Progress.NONE)
                        .same())
                .isTrue();
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf", "usdz", "usdc", "usda", "obj", "ply", "stl"})
    void whatIsHandedOutIsReadAgainAtItsSize(String ending) {
        Path file = new HandOut(workbench)
                .write(ball, "v001", ending, folder.resolve("out/" + ending), Progress.NONE)
                .file();
        assertThat(file.getFileName()).hasToString("ball." + ending);
        var read = workbench.intake().read(file, Progress.NONE).model();
        assertThat(read.bounds().size().y()).isCloseTo(2, within(0.01));
        assertThat(read.trianglesDrawn()).isEqualTo(ball.facts("v001").triangles());
    }
}
