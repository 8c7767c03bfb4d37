package pantry.usecase;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.compare.Comparison;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.scene.Scene;
import pantry.scene.SceneException;
import pantry.testing.Workshop;
import pantry.testing.YardBench;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.workbench.Workbench;

@DisplayName("What people do, as command and window call it")
class UseCasesTest {
    @TempDir
    private Path folder;

    private YardBench bench;
    private Workbench workbench;
    private Library library;
    private Asset crate;

    @BeforeEach
    void open() {
        bench = new YardBench(folder, Workshop.model("Crate", Shapes.block(1, 1, 1)), Workshop.slip("Crate", "Stores"));
        workbench = bench.workbench();
        library = bench.library();
        crate = bench.asset();
    }

    @AfterEach
    void close() {
        bench.close();
    }

    private Path file(String name, double height) {
        Path file = folder.resolve(name);
        ModelWriters.write(Workshop.model("Crate", Shapes.block(1, height, 1)), file);
        return file;
    }

    /** The same library, as somebody else at another desk has it open. */
    private Library ofSomebodyElse() {
        return Library.open(library.root(), "colleague", Clock.systemUTC());
    }

    private PublishFile.Options publishing(Path file) {
        return new PublishFile.Options(
                new NextVersion(crate, VersionStatus.READY, "taller"), file, UnaryOperator.identity());
    }

    @Test
    void aFileBecomesTheNextVersionWithItsNote() {
        Published published =
                new PublishFile(workbench.intake()).run(library, publishing(file("tall.glb", 2)), Progress.NONE);
        assertThat(published.version()).isEqualTo("v002");
        assertThat(published.asset().facts("v002").bounds().size().y()).isCloseTo(2, within(1e-6));
        assertThat(library.history(published.asset()).getLast().note()).isEqualTo("taller");
        assertThat(published.asset().ready()).contains("v002");
    }

    @Test
    void choicesOfThePersonOverruleWhatIsSuggested() {
        PublishFile.Options inCentimetres = new PublishFile.Options(
                new NextVersion(crate, VersionStatus.DRAFT, ""), file("tall.obj", 200), slip -> slip.withFactor(0.01));
        Published published = new PublishFile(workbench.intake()).run(library, inCentimetres, Progress.NONE);
        assertThat(published.asset().facts("v002").bounds().size().y()).isCloseTo(2, within(1e-6));
        assertThat(published.asset().status("v002")).isEqualTo(VersionStatus.DRAFT);
        assertThat(published.asset().ready()).as("followers stay").contains("v001");
    }

    @Test
    void whatSomebodyElseHoldsIsRefusedBeforeTheFileIsRead() {
        ofSomebodyElse().reservations().reserve(crate);
        Path missing = folder.resolve("is-not-there.glb");
        assertThatThrownBy(() -> new PublishFile(workbench.intake()).run(library, publishing(missing), Progress.NONE))
                .isInstanceOf(LibraryException.class)
                .hasMessageContaining("colleague has reserved ");
        assertThat(library.current(crate).versions()).containsExactly("v001");
    }

    private Scene yard() {
        Scene scene = workbench.createScene(folder.resolve("yard.usda"));
        for (int x = 0; x < 3; x++) {
            scene.placements()
                    .place(
                            crate,
                            Optional.empty(),
                            "Crate",
                            TransformComponents.ORIGIN.withMove(new Vec3(2 * x, 0, 0)),
                            Optional.empty());
        }
        return scene;
    }

    private MakeAsset makeAsset(Scene scene) {
        return new MakeAsset(workbench.layers(scene.file()), workbench.renderCache());
    }

    @Test
    void chosenObjectsBecomeAnAssetThatStandsWhereTheyDid() {
        Scene scene = yard();
        List<SdfPath> two = scene.placements().all().stream()
                .map(placement -> placement.path())
                .limit(2)
                .toList();
        MakeAsset.Result made = makeAsset(scene)
                .run(
                        new MakeAsset.Source(scene, two),
                        library,
                        new MakeAsset.Options("Pair", AssetKind.PREFAB, "Sets", List.of("pair")),
                        Progress.NONE);
        assertThat(made.asset().card().name()).isEqualTo("Pair");
        assertThat(made.asset().card().tags()).containsExactly("pair");
        assertThat(made.asset().shelf()).isEqualTo("Sets");
        assertThat(made.origin().x()).as("the middle of the two").isCloseTo(1, within(1e-9));
        assertThat(made.droppedMemberships()).isZero();
        assertThat(made.asset().facts("v001").triangles()).isEqualTo(24);
        long before = scene.model().trianglesDrawn();
        var bounds = scene.model().bounds();
        scene.placements().substitute(two, made.asset(), made.origin());
        assertThat(scene.model().trianglesDrawn()).isEqualTo(before);
        assertThat(scene.model().bounds().centre().minus(bounds.centre()).length())
                .isLessThan(1e-9);
    }

    @Test
    void anAssetCannotBePublishedIntoItself() {
        Scene scene = yard();
        MakeAsset.Source all = new MakeAsset.Source(scene, List.of(scene.root()));
        assertThatThrownBy(() -> makeAsset(scene)
                        .publish(all, library, new NextVersion(crate, VersionStatus.READY, ""), Progress.NONE))
                .isInstanceOf(SceneException.class)
                .hasMessageContaining("cannot be put into itself");
        assertThat(library.current(crate).versions()).containsExactly("v001");
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
    }

    @Test
    void theNextVersionOfAnAssetIsMadeOfAScene() {
        Scene scene = yard();
        MakeAsset.Source all = new MakeAsset.Source(scene, List.of(scene.root()));
        Asset row = makeAsset(scene)
                .run(all, library, new MakeAsset.Options("Row", AssetKind.PREFAB, "Sets", List.of()), Progress.NONE)
                .asset();
        scene.structure().remove(List.of(scene.placements().all().getFirst().path()));
        Published next = makeAsset(scene)
                .publish(all, library, new NextVersion(row, VersionStatus.DRAFT, "two only"), Progress.NONE);
        assertThat(next.asset().facts("v002").triangles()).isEqualTo(24);
        assertThat(next.asset().status("v002")).isEqualTo(VersionStatus.DRAFT);
    }

    @Test
    void twoVersionsAreComparedByWhatTheyShow() {
        Asset taller = new PublishFile(workbench.intake())
                .run(library, publishing(file("tall.glb", 1.5)), Progress.NONE)
                .asset();
        CompareVersions compare = new CompareVersions(workbench.readers());
        Comparison differences = compare.run(taller, "v001", "v002", Progress.NONE);
        assertThat(differences.same()).isFalse();
        assertThat(differences.distance()).isCloseTo(0.5, within(0.01));
        assertThat(compare.run(taller, "v002", "v002", Progress.NONE).same()).isTrue();
    }

    @Test
    void aDamagedLibraryIsCheckedAndRepairedAndChecksWellThen() throws Exception {
        CheckLibrary check = new CheckLibrary(library);
        assertThat(check.run(Progress.NONE).findings()).isEmpty();
        Files.writeString(crate.data("v001").resolve("note.txt"), "not sealed");
        Files.delete(crate.readyLayer());
        CheckLibrary.Result found = check.run(Progress.NONE);
        assertThat(found.verification().ok()).isFalse();
        assertThat(found.findings()).hasSize(2).allSatisfy(finding -> assertThat(finding.ways())
                .isNotEmpty());
        assertThat(check.repairAll(found, Progress.NONE)).isEmpty();
        assertThat(check.run(Progress.NONE).verification().ok()).isTrue();
        assertThat(library.trash().items()).as("nothing is destroyed").hasSize(1);
    }

    /** The ball of a sky and the balls of materials only show these: where they are written to USD, scenes do not draw them. */
    @Test
    void whatOnlyShowsWhatHasNoSurfaceIsAGuideWhereItIsHandedOut() throws IOException {
        Path sky = folder.resolve("ridge-sky.png");
        ImageIO.write(new BufferedImage(8, 4, BufferedImage.TYPE_INT_RGB), "png", sky.toFile());
        Path frost = Files.writeString(folder.resolve("frost.mtlx"), """
                <materialx version="1.39">
                  <gltf_pbr name="Frost" type="surfaceshader">
                    <input name="base_color" type="color3" value="0.8, 0.9, 1"/>
                  </gltf_pbr>
                </materialx>
                """);
        HandOut handOut = new HandOut(workbench);
        for (Path source : List.of(sky, frost)) {
            Path target = folder.resolve(source.getFileName() + ".usda");
            handOut.write(source, target, HandOut.Units.METRES, Progress.NONE);
            assertThat(Files.readString(target)).contains("uniform token purpose = \"guide\"");
            Imported read = workbench.readers().read(target, Progress.NONE);
            assertThat(read.holds()).isNotEqualTo(Imported.Holds.MODEL);
        }
        Path thing = folder.resolve("tall.usda");
        handOut.write(file("tall.glb", 2), thing, HandOut.Units.METRES, Progress.NONE);
        assertThat(Files.readString(thing)).doesNotContain("guide");
    }

    @Test
    void aFileIsHandedOutInTheUnitThatIsAskedForAndNeverChangesItsSize() {
        HandOut handOut = new HandOut(workbench);
        Path source = file("tall.glb", 2);
        Path target = folder.resolve("tall.obj");
        HandOut.HandedOut written =
                handOut.write(source, target, new HandOut.Units(Optional.empty(), 0.001, "millimetres"), Progress.NONE);
        assertThat(written.model().bounds().size().y()).isCloseTo(2, within(1e-6));
        assertThat(workbench
                        .readers()
                        .read(target, Progress.NONE)
                        .model()
                        .bounds()
                        .size()
                        .y())
                .isCloseTo(2000, within(1e-3));
        assertThatThrownBy(() -> handOut.write(source, folder.resolve("tall.xyz"), HandOut.Units.METRES, Progress.NONE))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("known endings");
    }
}
