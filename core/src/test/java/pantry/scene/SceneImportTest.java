package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelWriter;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.testing.TinyUsdz;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.TransformComponents;
import pantry.workpiece.Workpiece;

@DisplayName("Bringing things into a scene")
class SceneImportTest extends WithWorkshop {
    private Scene scene;

    @BeforeEach
    void open() throws Exception {
        Files.createDirectories(folder.resolve("project"));
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
    }

    private Workpiece.Sources sources() {
        return new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache());
    }

    /** A hut of two parts and a sign with an image, in centimetres with Z up; a helper that the door speaks of. */
    private Path hut(double grey) throws Exception {
        Path label = folder.resolve("label.png");
        ImageIO.write(new BufferedImage(8, 8, BufferedImage.TYPE_INT_RGB), "png", label.toFile());
        Material paint = Material.plain("Paint", new Colour((float) grey, 0.5f, 0.5f), 0, 0.5);
        Material sign = Material.plain("Sign", Colour.WHITE, 0, 0.5)
                .with(Material.Slot.BASE, new Texture("label.png", Optional.of(label)));
        Model model = new Model(
                "Hut",
                List.of(
                        node("Walls", 300, paint, new Vec3(0, 0, 0)),
                        node("Door", 190, paint, new Vec3(50, 0, 120)),
                        node("Sign", 40, sign, new Vec3(0, 250, 0))),
                Model.Extras.NONE);
        Path file = folder.resolve("hut.usda");
        Layer layer = UsdModelWriter.layer(model, "Hut", file, texture -> texture.file()
                .orElseThrow()
                .getFileName()
                .toString());
        layer.metadata().put("metersPerUnit", new Value.Real(0.01));
        layer.metadata().put("upAxis", new Value.Token("Z"));
        PrimSpec root = layer.prim(SdfPath.of("/Hut")).orElseThrow();
        root.define("Xform", "Hinge");
        root.child("Door").orElseThrow().relate("userProperties:hinge", SdfPath.of("/Hut/Hinge"));
        LayerFiles.write(layer, file);
        return file;
    }

    private static Model.Node node(String name, double height, Material material, Vec3 at) {
        return Model.Node.of(
                name,
                Matrix4.translation(at),
                List.of(new Model.Part(Shapes.block(100, height, 20), material)),
                List.of());
    }

    @Test
    @DisplayName("lists what comes along, and why, before it does")
    void needs() throws Exception {
        ImportSource source = ImportSource.of(hut(0.2), ImportSource.Links.COPIED, sources(), Progress.NONE);
        assertThat(source.importables())
                .extracting(ImportSource.Importable::name)
                .containsExactlyInAnyOrder("Walls", "Door", "Sign", "Hinge", "Paint", "Sign");
        List<ImportSource.Need> needs = source.needs(Set.of(SdfPath.of("/Hut/Door")));
        assertThat(needs)
                .extracting(ImportSource.Need::why)
                .containsExactlyInAnyOrder("material:binding", "userProperties:hinge");
        assertThat(needs)
                .extracting(ImportSource.Need::kind)
                .containsExactlyInAnyOrder(ImportSource.Kind.MATERIAL, ImportSource.Kind.HELPER);
        ImportSource.Need sign = source.needs(Set.of(SdfPath.of("/Hut/Sign"))).getFirst();
        assertThat(sign.bytes()).isGreaterThanOrEqualTo(Files.size(folder.resolve("label.png")));
    }

    @Test
    @DisplayName("copies chosen objects with all they need, corrected in unit and up axis; nothing refers back")
    void append() throws Exception {
        ImportSource source = ImportSource.of(hut(0.2), ImportSource.Links.COPIED, sources(), Progress.NONE);
        SceneImport.Result result = SceneImport.bring(
                scene,
                source,
                Set.of(SdfPath.of("/Hut/Door"), SdfPath.of("/Hut/Sign")),
                new SceneImport.Options(
                        "Hut parts",
                        TransformComponents.ORIGIN.withMove(new Vec3(5, 0, 0)),
                        Optional.empty(),
                        Map.of(),
                        "Arrived"));
        // By hand: centimetres to metres, and Z up to Y up: (x, y, z) becomes (x, z, -y) / 100.
        var door = scene.arranging().box(result.copied().get(SdfPath.of("/Hut/Door")));
        assertThat(door.min().x()).isCloseTo(5 + 0.5 - 0.5, within(1e-6));
        assertThat(door.min().y()).isCloseTo(1.2 - 0.1, within(1e-6));
        assertThat(door.max().y()).isCloseTo(1.2 + 0.1, within(1e-6));
        assertThat(door.min().z()).isCloseTo(-1.9, within(1e-6));
        scene.save();
        Files.delete(source.file());
        Files.delete(folder.resolve("label.png"));
        Scene again = workshop.openScene(scene.file());
        assertThat(again.stage().problems()).isEmpty();
        assertThat(LayerAssets.of(again.layer())).containsExactly("./textures/label.png");
        assertThat(again.model().textures()).allMatch(Texture::found);
        assertThat(again.model().materials()).hasSize(2);
        SdfPath hinge = result.copied().get(SdfPath.of("/Hut/Hinge"));
        assertThat(hinge.toString()).contains("/Helpers/");
        assertThat(again.stage()
                        .prim(result.copied().get(SdfPath.of("/Hut/Door")))
                        .orElseThrow()
                        .targets("userProperties:hinge"))
                .containsExactly(hinge);
        assertThat(again.drawers().all()).singleElement().satisfies(drawer -> assertThat(drawer.members())
                .containsExactly(result.anchor()));
        assertThat(scene.undoName()).contains("brought in Hut parts");
    }

    @Test
    @DisplayName("takes what is the same once, and asks what becomes of what differs")
    void clashes() throws Exception {
        ImportSource first = ImportSource.of(hut(0.2), ImportSource.Links.COPIED, sources(), Progress.NONE);
        SceneImport.bring(scene, first, Set.of(), SceneImport.Options.named("Hut"));
        assertThat(SceneImport.clashes(scene, first, Set.of(SdfPath.of("/Hut/Door")), "Door"))
                .singleElement()
                .satisfies(clash -> assertThat(clash.same()).isTrue());
        SceneImport.bring(scene, first, Set.of(), SceneImport.Options.named("Hut"));
        assertThat(scene.model().materials()).hasSize(2);

        ImportSource other = ImportSource.of(hut(0.9), ImportSource.Links.COPIED, sources(), Progress.NONE);
        SceneImport.Conflict paint = SceneImport.clashes(scene, other, Set.of(SdfPath.of("/Hut/Door")), "Door")
                .getFirst();
        assertThat(paint.what()).isEqualTo(SceneImport.ConflictKind.MATERIAL);
        assertThat(paint.same()).isFalse();
        ConflictSides sides = ConflictSides.of(scene, other, Set.of(SdfPath.of("/Hut/Door")), paint);
        // 0.2 and 0.9 are linear; by IEC 61966-2-1 they are 124 and 243 of 255, by hand.
        assertThat(sides.own()).startsWith("#7c");
        assertThat(sides.incoming()).startsWith("#f3");
        assertThat(sides.differences())
                .singleElement()
                .satisfies(said -> assertThat(said).startsWith("colour #7c").contains(", not #f3"));
        assertThat(sides.ownShown()
                        .orElseThrow()
                        .materials()
                        .iterator()
                        .next()
                        .base()
                        .r())
                .isEqualTo(0.2f);
        SceneImport.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), SceneImport.Options.named("Both"));
        assertThat(scene.model().materials()).hasSize(3);
        scene.undo();
        SceneImport.Options scenes = new SceneImport.Options(
                "Door", TransformComponents.ORIGIN, Optional.empty(), Map.of(paint, SceneImport.Decision.SCENE), "");
        SceneImport.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), scenes);
        assertThat(reds()).containsExactlyInAnyOrder(0.2f, 1f);
        scene.undo();
        SceneImport.Options incoming = new SceneImport.Options(
                "Door", TransformComponents.ORIGIN, Optional.empty(), Map.of(paint, SceneImport.Decision.INCOMING), "");
        SceneImport.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), incoming);
        assertThat(reds()).containsExactlyInAnyOrder(0.9f, 1f);
    }

    @Test
    void whatOfTwoMaterialsDiffersIsToldOneByOne() {
        Texture one = new Texture("wood.png", Optional.of(folder.resolve("wood.png")));
        Texture other = new Texture("wood.png", Optional.of(folder.resolve("other/wood.png")));
        Material own = Material.plain("Wood", Colour.WHITE, 0, 0.5).with(Material.Slot.BASE, one);
        Material incoming = Material.plain("Wood", Colour.WHITE, 0, 0.75)
                .with(Material.Slot.BASE, other)
                .with(Material.Slot.NORMAL, one);
        assertThat(ConflictSides.differences(own, own)).isEmpty();
        assertThat(ConflictSides.differences(own, incoming))
                .containsExactly(
                        "roughness 0.5, not 0.75",
                        "image of its colour, both called wood.png",
                        "image of its normal none, not wood.png");
    }

    private List<Float> reds() {
        return scene.model().materials().stream()
                .map(material -> material.base().r())
                .distinct()
                .toList();
    }

    @Test
    @DisplayName("merges another scene with its instances, which keep sharing; an independent reader sees the same")
    void merge() {
        Asset block = workshop.block("Block", "Parts", 1);
        Scene other = workshop.newScene(folder.resolve("project/set.usda"));
        for (int i = 0; i < 4; i++) {
            other.placements()
                    .place(
                            block,
                            Optional.empty(),
                            "Block",
                            TransformComponents.ORIGIN.withMove(new Vec3(2 * i, 0, 0)),
                            Optional.empty());
        }
        SdfPath group = other.structure()
                .group(other.placements().all().stream().map(Placement::path).toList(), "Row");
        other.save();
        Map<String, List<Vec3>> drawn = ArrangingTest.vertices(other);
        ImportSource source = ImportSource.of(other.file(), ImportSource.Links.COPIED, other.stage());
        assertThat(source.importables())
                .extracting(ImportSource.Importable::group)
                .containsOnly("Row");
        SceneImport.bring(scene, source, Set.of(), SceneImport.Options.named("Set"));
        ArrangingTest.assertSame(drawn, ArrangingTest.vertices(scene));
        assertThat(scene.weight(scene.model()).trianglesStored()).isEqualTo(12);
        scene.save();
        Map<String, String> seen = TinyUsdz.compose(List.of(scene.file())).getFirst();
        assertThat(seen).doesNotContainKey("error");
        assertThat(seen.entrySet().stream()
                        .filter(entry -> entry.getKey().endsWith("points"))
                        .count())
                .isPositive();
        assertThat(group.name()).isEqualTo("Row");
    }

    @Test
    @DisplayName("refuses what is not there, and brings a scene into itself without harm")
    void refused() throws Exception {
        ImportSource source = ImportSource.of(hut(0.2), ImportSource.Links.COPIED, sources(), Progress.NONE);
        assertThatThrownBy(() -> SceneImport.bring(
                        scene, source, Set.of(SdfPath.of("/Hut/Chimney")), SceneImport.Options.named("x")))
                .hasMessageContaining("/Hut/Chimney");
        assertThat(scene.undoName()).isEmpty();
        SceneImport.bring(scene, source, Set.of(), SceneImport.Options.named("Hut"));
        long before = scene.model().trianglesDrawn();
        SceneImport.bring(
                scene,
                ImportSource.of(scene.file(), ImportSource.Links.COPIED, scene.stage()),
                Set.of(),
                SceneImport.Options.named("Again"));
        assertThat(scene.model().trianglesDrawn()).isEqualTo(2 * before);
    }

    @Test
    @DisplayName("one table decides groups, drawers, alternates and settings of one name")
    void table() {
        Asset block = workshop.block("Block", "Parts", 1);
        Scene other = workshop.newScene(folder.resolve("project/set.usda"));
        for (Scene each : List.of(scene, other)) {
            SdfPath always = each.placements()
                    .place(block, Optional.empty(), "Always", TransformComponents.ORIGIN, Optional.empty());
            SdfPath winter = each.placements()
                    .place(
                            block,
                            Optional.empty(),
                            "Winter",
                            TransformComponents.ORIGIN.withMove(new Vec3(3, 0, 0)),
                            Optional.empty());
            each.drawers().put("Low", List.of(always));
            each.alternates().add("season", "winter");
            each.alternates().keep("season", "winter", List.of(winter));
            double rate = each == scene ? 24 : 30;
            each.own()
                    .editor()
                    .changeAll("rate", edits -> edits.setLayerField("framesPerSecond", new Value.Real(rate)));
            each.structure().group(List.of(always), "Set");
            each.save();
        }
        ImportSource source = ImportSource.of(other.file(), ImportSource.Links.COPIED, other.stage());
        List<SceneImport.Conflict> clashes = SceneImport.clashes(scene, source, Set.of(), "Set");
        assertThat(clashes)
                .extracting(SceneImport.Conflict::what)
                .containsExactly(
                        SceneImport.ConflictKind.GROUP,
                        SceneImport.ConflictKind.DRAWER,
                        SceneImport.ConflictKind.ALTERNATES,
                        SceneImport.ConflictKind.SETTING);

        assertThat(clashes)
                .extracting(clash -> {
                    ConflictSides sides = ConflictSides.of(scene, source, Set.of(), clash);
                    return sides.own() + " | " + sides.incoming();
                })
                .containsExactly("1 thing | 0 things", "1 thing | 0 things", "winter | winter, 1 thing", "24 | 30");

        bring(source, clashes, SceneImport.Decision.SCENE);
        SdfPath set = scene.root().child("Set");
        assertThat(scene.layer().prim(set).orElseThrow().childNames()).hasSize(3);
        assertThat(scene.drawers().all().getFirst().members()).hasSize(1);
        assertThat(framesPerSecond()).isEqualTo(24);
        scene.undo();

        bring(source, clashes, SceneImport.Decision.BOTH);
        assertThat(scene.layer().prim(scene.root().child("Set_2"))).isPresent();
        assertThat(scene.drawers().all().getFirst().members()).hasSize(2);
        assertThat(winterPrims()).isEqualTo(2);
        scene.alternates().add("season", "summer");
        assertThat(winterPrims()).isZero();
        scene.undo();
        scene.undo();

        bring(source, clashes, SceneImport.Decision.INCOMING);
        assertThat(scene.layer().prim(scene.root().child("Set_2"))).isEmpty();
        assertThat(framesPerSecond()).isEqualTo(30);
        assertThat(scene.drawers().all().getFirst().members())
                .singleElement()
                .satisfies(member -> assertThat(scene.stage().prim(member)).isPresent());
    }

    private void bring(ImportSource source, List<SceneImport.Conflict> clashes, SceneImport.Decision decision) {
        Map<SceneImport.Conflict, SceneImport.Decision> decisions = new LinkedHashMap<>();
        clashes.forEach(clash -> decisions.put(clash, decision));
        SceneImport.bring(
                scene,
                source,
                Set.of(),
                new SceneImport.Options("Set", TransformComponents.ORIGIN, Optional.empty(), decisions, ""));
    }

    private double framesPerSecond() {
        return scene.layer().number("framesPerSecond").orElseThrow();
    }

    private long winterPrims() {
        return scene.stage()
                .prims()
                .filter(prim -> prim.name().equals("Winter") && prim.isDefined())
                .count();
    }

    @Test
    @DisplayName("adds to the contents that groups of the scene share, whatever they are called")
    void besideSharedGroups() {
        Asset block = workshop.block("Block", "Parts", 1);
        Scene other = workshop.newScene(folder.resolve("project/set.usda"));
        for (Scene each : List.of(scene, other)) {
            SdfPath first = each.placements()
                    .place(block, Optional.empty(), "Block", TransformComponents.ORIGIN, Optional.empty());
            SdfPath row = each.layouts()
                    .lay(first, "Row", new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
            each.layouts()
                    .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 2}, new Vec3(0, 0, 2)), Layout.Variation.NONE);
            each.save();
        }
        ImportSource source = ImportSource.of(other.file(), ImportSource.Links.COPIED, other.stage());
        SceneImport.Result result = SceneImport.bring(scene, source, Set.of(), SceneImport.Options.named("Set"));
        assertThat(scene.model().trianglesDrawn()).isEqualTo(2 * 3 * 2 * 12);
        ArrangingTest.assertSame(ArrangingTest.vertices(other), vertices(result.anchor()));
    }

    private Map<String, List<Vec3>> vertices(SdfPath below) {
        scene.structure()
                .switchOn(
                        scene.layer().prim(scene.root()).orElseThrow().childNames().stream()
                                .map(scene.root()::child)
                                .filter(path ->
                                        !path.equals(below) && !path.name().equals("Shapes"))
                                .toList(),
                        false);
        return ArrangingTest.vertices(scene);
    }

    @Test
    @DisplayName("a merged scene's placements stay uses of their assets, with what was said of them")
    void mergedPlacementsStay() throws Exception {
        Asset block = workshop.block("Block", "Parts", 1);
        Files.createDirectories(folder.resolve("elsewhere/deep"));
        Scene other = workshop.newScene(folder.resolve("elsewhere/deep/set.usda"));
        SdfPath first = other.placements()
                .place(block, Optional.empty(), "Block", TransformComponents.ORIGIN, Optional.empty());
        SdfPath pinned = other.placements()
                .place(
                        block,
                        Optional.of("v001"),
                        "Pinned",
                        TransformComponents.ORIGIN.withMove(new Vec3(0, 2, 0)),
                        Optional.empty());
        other.overrides().set(pinned.child("Body").property("userProperties:coat"), "int", new Value.Int(3));
        SdfPath row = other.layouts()
                .lay(first, "Row", new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        other.layouts()
                .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 2}, new Vec3(0, 0, 2)), Layout.Variation.NONE);
        ImportSource source = ImportSource.of(other.file(), ImportSource.Links.KEPT, other.stage());
        assertThat(source.importables())
                .extracting(ImportSource.Importable::triangles)
                .contains(12L);
        SceneImport.bring(scene, source, Set.of(), SceneImport.Options.named("Set"));
        ArrangingTest.assertSame(ArrangingTest.vertices(other), ArrangingTest.vertices(scene));
        assertThat(scene.model().trianglesStored()).isEqualTo(12);
        assertThat(scene.placements().all())
                .extracting(Placement::held)
                .containsOnly(Placement.Held.FOLLOWING, Placement.Held.PINNED)
                .hasSize(4);
        Placement said = scene.placements().all().stream()
                .filter(each -> each.held() == Placement.Held.PINNED)
                .findFirst()
                .orElseThrow();
        assertThat(scene.overrides().of(said.path())).singleElement().satisfies(each -> assertThat(each.says())
                .isEqualTo("3"));
        scene.save();
        assertThat(workshop.openScene(scene.file()).model().trianglesDrawn())
                .isEqualTo(other.model().trianglesDrawn());
    }
}
