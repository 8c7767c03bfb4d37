package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.nio.file.Files;
import java.nio.file.Path;
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
import pantry.exchange.Colour;
import pantry.exchange.Material;
import pantry.exchange.MeshCache;
import pantry.exchange.Model;
import pantry.exchange.Texture;
import pantry.exchange.UsdModelWriter;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.prep.Workpiece;
import pantry.testing.TinyUsdz;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Placing;

@DisplayName("Bringing things into a scene")
class BringingTest extends WithWorkshop {
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
        Source source = Source.of(hut(0.2), sources(), Progress.NONE);
        assertThat(source.pieces())
                .extracting(Source.Piece::name)
                .containsExactlyInAnyOrder("Walls", "Door", "Sign", "Hinge", "Paint", "Sign");
        List<Source.Need> needs = source.needs(Set.of(SdfPath.of("/Hut/Door")));
        assertThat(needs)
                .extracting(Source.Need::why)
                .containsExactlyInAnyOrder("material:binding", "userProperties:hinge");
        assertThat(needs)
                .extracting(Source.Need::kind)
                .containsExactlyInAnyOrder(Source.Kind.MATERIAL, Source.Kind.HELPER);
        Source.Need sign = source.needs(Set.of(SdfPath.of("/Hut/Sign"))).getFirst();
        assertThat(sign.bytes()).isGreaterThanOrEqualTo(Files.size(folder.resolve("label.png")));
    }

    @Test
    @DisplayName("copies chosen objects with all they need, corrected in unit and up axis; nothing refers back")
    void append() throws Exception {
        Source source = Source.of(hut(0.2), sources(), Progress.NONE);
        Bringing.Result result = Bringing.bring(
                scene,
                source,
                Set.of(SdfPath.of("/Hut/Door"), SdfPath.of("/Hut/Sign")),
                new Bringing.Options(
                        "Hut parts",
                        Placing.ORIGIN.withMove(new Vec3(5, 0, 0)),
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
        Source first = Source.of(hut(0.2), sources(), Progress.NONE);
        Bringing.bring(scene, first, Set.of(), Bringing.Options.named("Hut"));
        assertThat(Bringing.clashes(scene, first, Set.of(SdfPath.of("/Hut/Door"))))
                .singleElement()
                .satisfies(clash -> assertThat(clash.same()).isTrue());
        Bringing.bring(scene, first, Set.of(), Bringing.Options.named("Hut"));
        assertThat(scene.model().materials()).hasSize(2);

        Source other = Source.of(hut(0.9), sources(), Progress.NONE);
        SdfPath paint = SdfPath.of("/Hut/Materials/Paint");
        assertThat(Bringing.clashes(scene, other, Set.of(SdfPath.of("/Hut/Door"))))
                .singleElement()
                .satisfies(clash -> assertThat(clash.same()).isFalse());
        Bringing.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), Bringing.Options.named("Both"));
        assertThat(scene.model().materials()).hasSize(3);
        scene.undo();
        Bringing.Options scenes = new Bringing.Options(
                "Door", Placing.ORIGIN, Optional.empty(), Map.of(paint, Bringing.Decision.SCENE), "");
        Bringing.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), scenes);
        assertThat(reds()).containsExactlyInAnyOrder(0.2f, 1f);
        scene.undo();
        Bringing.Options incoming = new Bringing.Options(
                "Door", Placing.ORIGIN, Optional.empty(), Map.of(paint, Bringing.Decision.INCOMING), "");
        Bringing.bring(scene, other, Set.of(SdfPath.of("/Hut/Door")), incoming);
        assertThat(reds()).containsExactlyInAnyOrder(0.9f, 1f);
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
            other.place(
                    block, Optional.empty(), "Block", Placing.ORIGIN.withMove(new Vec3(2 * i, 0, 0)), Optional.empty());
        }
        SdfPath group = other.structure()
                .group(other.placements().stream().map(Placement::path).toList(), "Row");
        other.save();
        Map<String, List<Vec3>> drawn = ArrangingTest.vertices(other);
        Source source = Source.of(other.file(), other.stage());
        assertThat(source.pieces()).extracting(Source.Piece::group).containsOnly("Row");
        Bringing.bring(scene, source, Set.of(), Bringing.Options.named("Set"));
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
        Source source = Source.of(hut(0.2), sources(), Progress.NONE);
        assertThatThrownBy(() ->
                        Bringing.bring(scene, source, Set.of(SdfPath.of("/Hut/Chimney")), Bringing.Options.named("x")))
                .hasMessageContaining("/Hut/Chimney");
        assertThat(scene.undoName()).isEmpty();
        Bringing.bring(scene, source, Set.of(), Bringing.Options.named("Hut"));
        long before = scene.model().trianglesDrawn();
        Bringing.bring(scene, Source.of(scene.file(), scene.stage()), Set.of(), Bringing.Options.named("Again"));
        assertThat(scene.model().trianglesDrawn()).isEqualTo(2 * before);
    }
}
