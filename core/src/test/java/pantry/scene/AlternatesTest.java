package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.Published;
import pantry.render.RenderCache;
import pantry.testing.TinyUsdz;
import pantry.testing.Workshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.TransformComponents;
import pantry.workpiece.Workpiece;

@DisplayName("Alternates, drawers, sections and overrides")
class AlternatesTest extends WithYard {
    private SdfPath put(Asset asset, double x) {
        return Workshop.stand(scene, asset, x);
    }

    private long objects() {
        long[] meshes = {0};
        scene.model().visit((owner, part, world) -> meshes[0]++);
        return meshes[0];
    }

    @Test
    @DisplayName("what an alternate brings is copied, and pasted by itself where it stood in the world")
    void copiedOutOfAnAlternate() {
        SdfPath a = put(block, 4);
        scene.alternates().add("layout", "wide");
        scene.alternates().keep("layout", "wide", List.of(a));
        SceneClipboard copied = SceneClipboard.of(scene, List.of(a));
        scene.alternates().remove("layout", "wide");
        long without = objects();
        SdfPath pasted = copied.paste(scene, Optional.empty()).getFirst();
        assertThat(objects()).isEqualTo(without + 1);
        assertThat(scene.layer().prim(pasted)).as("of no alternate").isPresent();
        assertThat(scene.placements().at(pasted).orElseThrow().placing().move()).isEqualTo(new Vec3(4, 0, 0));
    }

    @Test
    @DisplayName("two layouts and two lightings are switched, saved and there again; an independent reader agrees")
    void alternates() {
        SdfPath a = put(block, 0);
        SdfPath b = put(mast, 3);
        put(block, 6);
        Layer before =
                LayerAssets.renamed(scene.layer(), scene.layer().location().orElseThrow(), path -> path);
        scene.alternates().add("layout", "wide");
        scene.alternates().keep("layout", "wide", List.of(a));
        scene.alternates().add("layout", "narrow");
        scene.alternates().keep("layout", "narrow", List.of(b));
        assertThat(objects()).isEqualTo(2);
        scene.alternates().choose("layout", "wide");
        assertThat(scene.stage().prim(a)).isPresent();
        assertThat(scene.stage().prim(b)).isEmpty();
        scene.alternates().add("lighting", "day");
        scene.alternates().add("lighting", "night");
        assertThat(scene.alternates().combinations()).hasSize(4);
        assertThat(scene.showing(Map.of("layout", "narrow", "lighting", "day"))
                        .stage()
                        .prim(b))
                .isPresent();
        assertThat(scene.alternates().all().getFirst().chosen()).isEqualTo("wide");
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.alternates().all()).isEqualTo(scene.alternates().all());
        Map<String, String> seen = TinyUsdz.compose(List.of(scene.file())).getFirst();
        assertThat(seen).containsKey(a.toString()).doesNotContainKey(b.toString());
        assertThatThrownBy(() -> scene.alternates().choose("layout", "round")).hasMessageContaining("no alternate");
        assertThatThrownBy(() -> scene.alternates().keep("layout", "wide", List.of(scene.root())))
                .isInstanceOf(SceneException.class);
        scene.alternates().remove("layout", "wide");
        assertThat(scene.stage().prim(a)).isEmpty();
        while (scene.undoName().filter(name -> !name.startsWith("placed")).isPresent()) {
            scene.undo();
        }
        assertThat(scene.layer().sameAs(before)).isTrue();
    }

    @Test
    @DisplayName("an object lies in several drawers; an empty drawer goes")
    void drawers() {
        SdfPath a = put(block, 0);
        SdfPath b = put(mast, 3);
        scene.drawers().put("Just merged", List.of(a, b));
        scene.drawers().put("Masts", List.of(b));
        assertThat(scene.drawers().all()).extracting(Drawers.Drawer::name).containsExactly("Just_merged", "Masts");
        scene.structure().rename(b, "Tall");
        assertThat(scene.drawers().all().getLast().members())
                .containsExactly(b.parent().child("Tall"));
        scene.drawers().take("Masts", scene.drawers().all().getLast().members());
        assertThat(scene.drawers().all()).hasSize(1);
        scene.drawers().remove("Just_merged");
        assertThat(scene.drawers().all()).isEmpty();
    }

    @Test
    @DisplayName("a section is cut out and joined again, and every vertex stays")
    void sections() {
        SdfPath a = put(block, 0);
        SdfPath b = put(mast, 3);
        put(block, 6);
        Map<String, List<Vec3>> drawn = ArrangingTest.vertices(scene);
        SdfPath section = scene.sections().cut(List.of(a, b), "North yard");
        ArrangingTest.assertSame(drawn, ArrangingTest.vertices(scene));
        assertThat(scene.sections().all()).singleElement().satisfies(each -> assertThat(each.layer())
                .hasFileName("yard-north-yard.usda"));
        assertThatThrownBy(() -> scene.sections()
                        .cut(List.of(scene.placements().all().getFirst().path()), "North yard"))
                .hasMessageContaining("already there");
        scene.save();
        assertThat(workshop.openScene(folder.resolve("project/yard-north-yard.usda"))
                        .placements()
                        .all())
                .hasSize(2);
        scene.sections().join(section, "tester");
        ArrangingTest.assertSame(drawn, ArrangingTest.vertices(scene));
        assertThat(scene.placements().all()).hasSize(3);
    }

    @Test
    @DisplayName("a section that somebody holds is neither joined nor saved by another")
    void heldSections() {
        SdfPath section = scene.sections().cut(List.of(put(block, 0)), "North yard");
        scene.save();
        Path file = folder.resolve("project/yard-north-yard.usda");
        Sections.requireFree(file, "Tove");
        scene.sections().reserve(section, "Ada");
        assertThat(scene.sections().holder(section)).contains(new Sections.Hold("Ada"));
        assertThatThrownBy(() -> scene.sections().join(section, "Tove")).hasMessageContaining("Ada holds");
        assertThat(scene.placements().at(section)).isPresent();
        assertThatThrownBy(() -> Sections.requireFree(file, "Tove")).hasMessageStartingWith("Ada holds ");
        Sections.requireFree(file, "Ada");
        scene.sections().release(section, "Ada");
        assertThat(scene.sections().join(section, "Tove")).hasSize(1);
    }

    @Test
    @DisplayName("overrides are listed, dropped, and written back as the asset's next version")
    void writeBack() {
        SdfPath path = put(block, 0);
        SdfPath other = put(block, 4);
        SdfPath mesh = path.child("Body");
        Value red = new Value.Floats(new float[] {0.9f, 0.1f, 0.1f}, 3);
        scene.overrides().set(mesh.property("primvars:displayColor"), "color3f[]", red);
        assertThat(scene.stage().prim(path).orElseThrow().isInstance()).isFalse();
        assertThat(scene.overrides().of(path)).singleElement().satisfies(override -> assertThat(override.says())
                .contains("0.9"));
        scene.overrides().drop(List.of(scene.overrides().of(path).getFirst().path()));
        assertThat(scene.overrides().of(path)).isEmpty();
        scene.undo();
        Published published = scene.overrides()
                .writeBack(
                        path,
                        "red",
                        new Overrides.Publisher(
                                file -> Optional.of(library),
                                new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()),
                                new RenderCache()),
                        Progress.NONE);
        assertThat(published.version()).isEqualTo("v002");
        assertThat(scene.overrides().of(path)).isEmpty();
        for (SdfPath each : List.of(path, other)) {
            assertThat(scene.placements().at(each).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
        }
        assertThat(workshop.openScene(published.asset().entryLayer("v002"))
                        .stage()
                        .prims()
                        .anyMatch(prim -> prim.value("primvars:displayColor")
                                .filter(red::equals)
                                .isPresent()))
                .isTrue();
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
        assertThatThrownBy(() -> scene.overrides()
                        .writeBack(
                                path,
                                "",
                                new Overrides.Publisher(
                                        file -> Optional.of(library),
                                        new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()),
                                        new RenderCache()),
                                Progress.NONE))
                .hasMessageContaining("no overrides");
    }

    @Test
    @DisplayName("a placement shows another asset in the same place; what would be lost is listed and kept")
    void replace() {
        SdfPath path = put(block, 2);
        scene.overrides()
                .set(
                        path.child("Body").property("primvars:displayColor"),
                        "color3f[]",
                        new Value.Floats(new float[] {1, 0, 0}, 3));
        assertThat(scene.placements().replace(path, mast, Optional.of("v001")).lost())
                .isEmpty();
        assertThat(scene.placements().at(path).orElseThrow().version()).isEqualTo("v001");
        assertThat(scene.placements().at(path).orElseThrow().placing().move().x())
                .isEqualTo(2);
        assertThat(scene.arranging().box(path).size().y()).isEqualTo(9);
        scene.overrides().set(path.child("Gone").property("userProperties:a"), "int", new Value.Int(1));
        assertThat(scene.placements().replace(path, block, Optional.empty()).lost())
                .containsExactly(path.child("Gone"));
        assertThatThrownBy(() -> scene.placements().replace(scene.root(), block, Optional.empty()))
                .hasMessageContaining("shows no other file");
    }

    @Test
    @DisplayName(
            "the file of a section goes with the cut that is taken back, unless it was changed, and comes again with it")
    void cutTakenBack() throws Exception {
        SdfPath a = put(block, 0);
        SdfPath section = scene.sections().cut(List.of(a), "North");
        Path file = scene.placements().at(section).orElseThrow().layer();
        byte[] contents = Files.readAllBytes(file);
        scene.undo();
        assertThat(file).doesNotExist();
        assertThat(scene.placements().at(a)).isPresent();
        scene.redo();
        assertThat(file).hasBinaryContent(contents);
        assertThat(scene.placements().at(section).orElseThrow().held()).isEqualTo(Placement.Held.FILE);
        assertThat(objects()).isEqualTo(1);
        Files.writeString(file, Files.readString(file) + "\n# by hand\n");
        assertThatThrownBy(scene::undo).hasMessageContaining("was changed since it was cut out, and stays");
        assertThat(scene.placements().at(a)).as("the scene is as it was").isPresent();
        assertThat(file).exists();
        assertThatThrownBy(scene::redo).hasMessageContaining("is another file by now");
        assertThat(scene.placements().at(a)).as("nothing was done").isPresent();
        Files.delete(file);
        scene.redo();
        assertThat(objects()).isEqualTo(1);
    }

    @Test
    @DisplayName("several are replaced in one change, which says what it does; what was pinned is pinned")
    void replaceSeveral() {
        SdfPath pinned = put(block, 0);
        SdfPath following = put(block, 4);
        scene.placements().replace(pinned, block, Optional.of("v001"));
        assertThat(scene.undoName()).contains("pinned " + pinned.name() + " to v001");
        List<SdfPath> both = List.of(pinned, following);

        scene.placements().replaceAsHeld(both, mast);
        assertThat(scene.undoName())
                .contains("replaced 2 objects by " + mast.card().name());
        assertThat(scene.placements().at(pinned).orElseThrow().held()).isEqualTo(Placement.Held.PINNED);
        assertThat(scene.placements().at(following).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
        assertThat(both)
                .allSatisfy(path ->
                        assertThat(scene.arranging().box(path).size().y()).isEqualTo(9));
        scene.undo();
        assertThat(both).as("in one step").allSatisfy(path -> assertThat(
                        scene.placements().at(path).orElseThrow().layer())
                .startsWithRaw(block.folder()));
        scene.placements().replace(both, block, Optional.empty());
        assertThat(scene.undoName()).contains("let 2 objects follow what is ready");
        assertThat(scene.placements().at(pinned).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
    }

    @Test
    @DisplayName("a choice that the new asset does not offer is dropped and told")
    void replaceWithoutChoice() {
        SdfPath path = put(block, 0);
        scene.structure().choose(List.of(path), "look", "red");
        Replaced replaced = scene.placements().replace(path, mast, Optional.empty());
        assertThat(replaced.dropped()).containsExactly(path + ": look red");
        assertThat(scene.spec(path).orElseThrow().metadata()).doesNotContainKey("variants");
        scene.undo();
        assertThat(scene.spec(path).orElseThrow().metadata()).containsKey("variants");
    }

    @Test
    @DisplayName("uses of uses count as their product")
    void nested() {
        SdfPath panel = put(block, 0);
        SdfPath row = scene.layouts()
                .lay(panel, "Row", new Layout.Grid(new int[] {5, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        SdfPath field = scene.layouts()
                .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 7}, new Vec3(0, 0, 3)), Layout.Variation.NONE);
        assertThat(objects()).isEqualTo(5 * 7);
        assertThat(scene.weight(scene.model()).trianglesDrawn()).isEqualTo(12L * 5 * 7);
        assertThat(scene.weight(scene.model()).trianglesStored()).isEqualTo(12);
        assertThat(scene.stage().prim(field).orElseThrow().children()).hasSize(7);
    }

    @Test
    @DisplayName("what is placed never gets the name of something in an alternate, switched in or out")
    void names() {
        SdfPath a = put(block, 0);
        scene.alternates().add("layout", "wide");
        scene.alternates().keep("layout", "wide", List.of(a));
        assertThat(put(block, 3).name()).isEqualTo("Block_2");
        scene.alternates().add("layout", "narrow");
        assertThat(put(block, 5).name()).isEqualTo("Block_3");
        assertThat(objects()).isEqualTo(2);
        scene.alternates().choose("layout", "wide");
        assertThat(objects()).isEqualTo(3);
    }

    @Test
    @DisplayName("what belongs to an alternate is moved, laid out and removed there, and is otherwise as any object")
    void insideAlternates() {
        SdfPath a = put(block, 0);
        scene.alternates().add("layout", "wide");
        scene.alternates().keep("layout", "wide", List.of(a));
        assertThat(scene.placements().all()).extracting(Placement::path).containsExactly(a);
        TransformComponents there = TransformComponents.ORIGIN.withMove(new Vec3(7, 0, 2));
        scene.arranging().move(Map.of(a, there));
        assertThat(scene.placements().at(a).orElseThrow().placing()).isEqualTo(there);
        scene.arranging().mirror(List.of(a), 0);
        assertThat(scene.arranging().box(a).centre().x()).isEqualTo(7);
        assertThat(scene.layer().prim(a))
                .as("nothing is said outside of the alternate")
                .isEmpty();
        scene.alternates().add("layout", "narrow");
        assertThat(scene.placements().all()).isEmpty();
        assertThat(objects()).isZero();
        scene.save();
        Scene again = workshop.openScene(scene.file());
        again.alternates().choose("layout", "wide");
        assertThat(again.placements().at(a).orElseThrow().placing().move().x()).isEqualTo(7);
        again.structure().remove(List.of(a));
        assertThat(again.placements().all()).isEmpty();
        again.undo();
        assertThat(again.placements().all()).hasSize(1);
    }
}
