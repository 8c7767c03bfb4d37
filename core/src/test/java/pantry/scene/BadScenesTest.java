package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.VersionStatus;
import pantry.render.RenderCache;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.schema.TransformComponents;

@DisplayName("Scenes with faults are told clearly, and nothing is lost")
class BadScenesTest extends WithYard {
    private SdfPath put(String name, double x) {
        return scene.placements()
                .place(
                        block,
                        Optional.empty(),
                        name,
                        TransformComponents.ORIGIN.withMove(new Vec3(x, 0, 0)),
                        Optional.empty());
    }

    @Test
    @DisplayName("files that refer to each other in a circle are told with the way round, and the rest is shown")
    void circle() throws Exception {
        Path first = write("first", "Thing", "./second.usda");
        write("second", "Thing", "./first.usda");
        put("Block", 0);
        SdfPath round = scene.placements()
                .placeFile(first, Optional.empty(), "Round", TransformComponents.ORIGIN, Optional.empty());
        assertThat(scene.model().trianglesDrawn()).isEqualTo(12);
        assertThat(scene.stage().problems())
                .anySatisfy(problem -> assertThat(problem.kind()).isEqualTo(CompositionProblem.Kind.CYCLE));
        scene.save();
        assertThat(workshop.openScene(scene.file()).placements().at(round)).isPresent();
    }

    private Path write(String name, String root, String reference) throws Exception {
        return Files.writeString(
                folder.resolve("project/" + name + ".usda"),
                "#usda 1.0\n(\n    defaultPrim = \"" + root
                        + "\"\n    metersPerUnit = 1\n    upAxis = \"Y\"\n)\n\ndef Xform \"" + root
                        + "\" {\n    def Xform \"Inner\" (references = @" + reference + "@) {}\n}\n");
    }

    @Test
    @DisplayName("a scene that refers to itself is told, and stays")
    void itself() {
        put("Block", 0);
        scene.save();
        scene.placements()
                .placeFile(scene.file(), Optional.empty(), "Mirror", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.model().trianglesDrawn()).isGreaterThanOrEqualTo(12);
        assertThat(again.stage().problems())
                .anySatisfy(problem -> assertThat(problem.kind()).isEqualTo(CompositionProblem.Kind.CYCLE));
    }

    @Test
    @DisplayName("a file that goes or becomes another while the scene is open is shown as it is, and comes back")
    void changingFiles() throws Exception {
        Path part = write("part", "Part", "./nothing.usda");
        SdfPath placed = scene.placements()
                .placeFile(part, Optional.empty(), "Part", TransformComponents.ORIGIN, Optional.empty());
        assertThat(scene.model().trianglesDrawn()).isZero();
        assertThat(scene.stage().problems())
                .anySatisfy(problem -> assertThat(problem.message()).contains("nothing.usda"));
        String before = Files.readString(part);
        Files.delete(part);
        scene.reload();
        assertThat(scene.placements().at(placed).orElseThrow().held()).isEqualTo(Placement.Held.MISSING);
        Files.writeString(part, "#usda 1.0\ndef Xform \"Part\" {");
        scene.reload();
        assertThat(scene.model().trianglesDrawn()).isZero();
        assertThat(scene.stage().problems()).isNotEmpty();
        Files.writeString(part, before);
        scene.reload();
        assertThat(scene.stage().prim(placed.child("Inner")).or(() -> scene.stage()
                        .prim(placed)
                        .flatMap(prim -> prim.prototype())
                        .flatMap(prototype -> prototype.child("Inner"))))
                .isPresent();
    }

    @Test
    @DisplayName("a prefab is not put into itself, directly or through another")
    void prefabInItself() {
        SdfPath a = put("Block", 0);
        Asset fence = shelve("Fence", a);
        scene.placements().substitute(List.of(a), fence, Vec3.ZERO);
        SdfPath placed = scene.placements().all().getFirst().path();
        Prefab again = new Prefab(scene, workshop.layers(), List.of(placed), library, new RenderCache());
        assertThatThrownBy(() -> again.publish(fence, VersionStatus.READY, "in itself", Progress.NONE))
                .hasMessageContaining("itself");
        Asset yard = shelve("Yard", placed);
        scene.placements().substitute(List.of(placed), yard, Vec3.ZERO);
        SdfPath outer =
                shelveAndPlace("Site", scene.placements().all().getFirst().path());
        Prefab through = new Prefab(scene, workshop.layers(), List.of(outer), library, new RenderCache());
        assertThatThrownBy(() -> through.publish(fence, VersionStatus.READY, "through two others", Progress.NONE))
                .hasMessageContaining("itself");
        assertThat(library.find("Groups/Fence").versions()).hasSize(1);
    }

    private SdfPath shelveAndPlace(String name, SdfPath chosen) {
        return scene.placements().substitute(List.of(chosen), shelve(name, chosen), Vec3.ZERO);
    }

    private Asset shelve(String name, SdfPath... chosen) {
        return new Prefab(scene, workshop.layers(), List.of(chosen), library, new RenderCache())
                .shelve(name, AssetKind.PREFAB, "Groups", List.of(), Progress.NONE)
                .asset();
    }

    @Test
    @DisplayName("a scene that is merged with itself stands there twice, and no more")
    void mergeWithItself() {
        SdfPath a = put("Block", 0);
        scene.layouts().lay(a, "Row", new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        for (ImportSource.Links links : ImportSource.Links.values()) {
            ImportSource own = ImportSource.of(scene.file(), links, scene.stage());
            SceneImport.bring(scene, own, Set.of(), SceneImport.Options.named("Again"));
            assertThat(scene.model().trianglesDrawn()).isEqualTo(2 * 3 * 12);
            scene.undo();
            assertThat(scene.model().trianglesDrawn()).isEqualTo(3 * 12);
        }
    }

    @Test
    @DisplayName("ten thousand things of one name get names of their own, in a moment")
    void clashingNames() {
        scene.own().editor().changeAll("many", edits -> {
            PrimSpec crowd = new PrimSpec(Specifier.DEF, "Xform", "Crowd");
            for (int i = 1; i <= 10_000; i++) {
                crowd.define("Xform", i == 1 ? "Flag" : "Flag_" + i);
            }
            edits.add(scene.root(), crowd);
        });
        SdfPath crowd = scene.root().child("Crowd");
        SdfPath flag = scene.anchors().make("Flag", Anchors.Mark.USUAL, TransformComponents.ORIGIN, Optional.empty());
        SdfPath hung = scene.structure().reparent(List.of(flag), crowd).getFirst();
        assertThat(hung.name()).isEqualTo("Flag_10001");
        SdfPath laid = scene.layouts()
                .lay(
                        scene.structure().rename(crowd.child("Flag"), "First"),
                        "Row",
                        new Layout.Grid(new int[] {2000, 1, 1}, new Vec3(1, 0, 0)),
                        Layout.Variation.NONE);
        assertThat(scene.childNames(laid)).hasSize(2000);
        scene.undo();
        scene.undo();
        scene.undo();
        assertThat(scene.childNames(crowd)).hasSize(10_000);
    }

    @Test
    @DisplayName("names from people do not lead out of the project")
    void namesThatLeadOut() {
        SdfPath a = put("Block", 0);
        SdfPath section = scene.sections().cut(List.of(a), "../../away/North");
        assertThat(scene.placements().at(section).orElseThrow().layer().getParent())
                .isEqualTo(scene.file().getParent());
        scene.drawers().put("../Posts", List.of(section));
        assertThat(scene.drawers().all().getFirst().name()).doesNotContain("/");
    }

    @Test
    @DisplayName("hundreds of steps are undone and done again, to the last figure")
    void hundredsOfSteps() {
        SdfPath a = put("Block", 0);
        String before = pantry.usd.text.UsdaWriter.write(scene.layer());
        for (int i = 1; i <= 500; i++) {
            scene.arranging().move(Map.of(a, TransformComponents.ORIGIN.withMove(new Vec3(i, 0, 0))));
        }
        String after = pantry.usd.text.UsdaWriter.write(scene.layer());
        for (int i = 0; i < 500; i++) {
            scene.undo();
        }
        assertThat(pantry.usd.text.UsdaWriter.write(scene.layer())).isEqualTo(before);
        for (int i = 0; i < 500; i++) {
            scene.redo();
        }
        assertThat(pantry.usd.text.UsdaWriter.write(scene.layer())).isEqualTo(after);
    }
}
