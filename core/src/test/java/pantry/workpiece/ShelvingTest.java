package pantry.workpiece;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.Samples;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Published;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Facts;
import pantry.model.Material;
import pantry.model.Model;
import pantry.prep.Made;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.prep.tools.Instances;
import pantry.render.RenderCache;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.file.LayerFiles;

@DisplayName("An asset on the shelves")
class ShelvingTest extends WithWorkshop {
    private Workpiece copy(Asset asset) {
        return Workpiece.of(
                new Workpiece.Shelved(library, asset, asset.newest().orElseThrow()), Made.sources(workshop));
    }

    private Asset bolts() {
        List<Model.Node> nodes = java.util.stream.IntStream.range(0, 6)
                .mapToObj(i -> Model.Node.of(
                        "Bolt" + "ABCDEF".charAt(i),
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(
                                Shapes.cylinder(0.05, 0.2, 40)
                                        .transformed(Matrix4.translation(new Vec3(0.2 * i, 0, 0))),
                                Workshop.RED)),
                        List.of()))
                .toList();
        return workshop.intake()
                .shelve(
                        new Model("Bolts", nodes, Model.Extras.NONE),
                        Workshop.slip("Bolts", "Parts"),
                        library,
                        Progress.NONE)
                .asset();
    }

    @Test
    @DisplayName("has no triangles where it is a material, whoever seals it: the balls only show it")
    void materialsHaveNoTriangles() {
        Asset paint = workshop.intake()
                .shelve(
                        Samples.balls("Paint", List.of(Workshop.RED)),
                        Workshop.slip("Paint", "Materials").withKind(AssetKind.MATERIAL),
                        library,
                        Progress.NONE)
                .asset();
        assertThat(paint.facts("v001").triangles()).isZero();
        Shelving.publish(copy(paint), VersionStatus.READY, "again", new RenderCache(), Progress.NONE);
        Facts again = library.current(paint).facts("v002");
        assertThat(again.triangles()).isZero();
        assertThat(again.materials()).hasSize(1);
        assertThat(again.bounds().size()).isEqualTo(paint.facts("v001").bounds().size());
    }

    @Test
    @DisplayName("is inspected and tidied, and becomes the next version; the old one stays as it was")
    void nextVersion() {
        Asset asset = bolts();
        Workpiece piece = copy(asset);
        var rules = RuleSet.USUAL;
        Optional<Surroundings> around = Optional.of(Surroundings.of(library));
        List<Finding> found = Inspection.of(piece, rules, around, Progress.NONE).findings();
        assertThat(Made.rules(found)).contains("twins", "no-tag", "card-incomplete", "pivots-in-one-place");
        assertThat(found)
                .filteredOn(finding -> Set.of("no-tag", "card-incomplete")
                        .contains(finding.rule().id()))
                .hasSize(2)
                .allSatisfy(finding ->
                        assertThat(finding.shown()).as("nothing of its shape").isEmpty());
        var before = asset.facts("v001");
        Tidy.apply(piece, rules, around, found, Progress.NONE);
        Published published = Shelving.publish(piece, VersionStatus.READY, "tidied", new RenderCache(), Progress.NONE);
        assertThat(published.version()).isEqualTo("v002");
        var after = published.asset().facts("v002");
        assertThat(after.triangles()).isEqualTo(before.triangles());
        assertThat(after.bounds().size().minus(before.bounds().size()).length()).isLessThan(1e-5);
        assertThat(asset.facts("v001")).usingRecursiveComparison().isEqualTo(before);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
        assertThat(Files.exists(published.asset().preview("v002"))).isTrue();
        Workpiece again = copy(published.asset());
        assertThat(Instances.shared(again).values().iterator().next()).hasSize(6);
        assertThat(library.seal(published.asset(), "v002"))
                .containsEntry("External-Identifier", asset.card().id());
        assertThatThrownBy(() -> piece.save(piece.source())).hasMessageContaining("sealed version");
    }

    @Test
    @DisplayName("that is a prefab keeps using what it used")
    void prefab() {
        Asset block = workshop.block("Block", "Parts", 1);
        Asset prefab = workshop.prefab("Wall", "Sets", block);
        Workpiece piece = copy(prefab);
        assertThat(piece.model().trianglesDrawn()).isEqualTo(12);
        Published published = Shelving.publish(piece, VersionStatus.READY, "again", new RenderCache(), Progress.NONE);
        assertThat(copy(published.asset()).model().trianglesDrawn()).isEqualTo(12);
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }

    @Test
    @DisplayName("keeps its images, and takes in those that were made")
    void images() throws Exception {
        java.nio.file.Path image = folder.resolve("clear.png");
        javax.imageio.ImageIO.write(
                new java.awt.image.BufferedImage(64, 64, java.awt.image.BufferedImage.TYPE_INT_ARGB),
                "png",
                image.toFile());
        Material plate =
                Workshop.RED.with(Material.Slot.BASE, new pantry.model.Texture("clear.png", Optional.of(image)));
        Model model = new Model(
                "Plate",
                List.of(Model.Node.of(
                        "Body", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(1, 1, 1), plate)), List.of())),
                Model.Extras.NONE);
        Asset asset = workshop.intake()
                .shelve(model, Workshop.slip("Plate", "Parts"), library, Progress.NONE)
                .asset();
        Workpiece piece = copy(asset);
        List<Finding> found = Inspection.of(piece, RuleSet.USUAL, Optional.empty(), Progress.NONE).findings().stream()
                .filter(finding -> finding.rule().id().equals("unused-channel"))
                .toList();
        assertThat(found).hasSize(1);
        Tidy.apply(piece, RuleSet.USUAL, Optional.empty(), found, Progress.NONE);
        Published published = Shelving.publish(piece, VersionStatus.READY, "opaque", new RenderCache(), Progress.NONE);
        Model read = copy(published.asset()).model();
        java.nio.file.Path kept = read.textures().iterator().next().file().orElseThrow();
        assertThat(kept).startsWith(published.asset().data("v002"));
        assertThat(javax.imageio.ImageIO.read(kept.toFile()).getColorModel().hasAlpha())
                .isFalse();
        assertThat(LayerFiles.read(published.asset().entryLayer("v002")).defaultPrim())
                .isPresent();
    }

    @Test
    @DisplayName("that equals another one is found, and so is what its card lacks")
    void likeAnother() {
        Asset one = workshop.block("Block", "Parts", 1);
        Asset other = workshop.block("Brick", "Others", 1);
        Optional<Surroundings> around = Optional.of(Surroundings.of(library));
        List<Finding> found =
                Inspection.of(copy(other), RuleSet.USUAL, around, Progress.NONE).findings();
        assertThat(found)
                .filteredOn(finding -> finding.rule().id().equals("twin-asset"))
                .singleElement()
                .satisfies(finding -> assertThat(finding.message()).contains(one.address()));
    }

    @Test
    @DisplayName("that is much larger than its neighbours is hard to believe")
    void oddSize() {
        for (int i = 0; i < 4; i++) {
            workshop.block("Block" + i, "Parts", 0.9 + 0.1 * i);
        }
        Asset tower = workshop.block("Tower", "Parts", 300);
        Optional<Surroundings> around = Optional.of(Surroundings.of(library));
        assertThat(Made.rules(Inspection.of(copy(tower), RuleSet.USUAL, around, Progress.NONE)
                        .findings()))
                .contains("odd-size");
    }
}
