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
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.DisplayCurve;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.exchange.usd.MeshCache;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Transfers;
import pantry.library.Uses;
import pantry.library.VersionStatus;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.render.RenderCache;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.file.LayerFiles;
import pantry.workpiece.Shelving;
import pantry.workpiece.Workpiece;

/** Expected colours are reckoned by hand from MaterialX's formula of mix: {@code bg * (1 - mix) + fg * mix}. */
class MixPartsTest extends WithWorkshop {
    private Asset rust;
    private Asset paint;
    private MixParts mix;

    @BeforeEach
    void shelve() throws IOException {
        rust = received(part("rust.mtlx", "0.4, 0.1, 0.05"));
        Material grey = Material.plain("Deck paint", new Colour(0.2f, 0.4f, 0.6f), 0, 0.3);
        paint = shelved(Samples.balls("Deck paint", List.of(grey)));
        mix = new MixParts(workshop.intake(), workshop.readers(), library);
    }

    /** A rust of one colour that shows from left to right by its mask, and is rough. */
    private Path part(String name, String colour) throws IOException {
        return Files.writeString(folder.resolve(name), """
                <?xml version="1.0"?>
                <materialx version="1.39" colorspace="lin_rec709">
                  <nodegraph name="Rust">
                    <input name="tint" type="color3" value="%s"/>
                    <constant name="tinted" type="color3"><input name="value" type="color3" interfacename="tint"/></constant>
                    <constant name="rough" type="float"><input name="value" type="float" value="0.9"/></constant>
                    <ramplr name="spread" type="float">
                      <input name="valuel" type="float" value="0"/><input name="valuer" type="float" value="1"/>
                    </ramplr>
                    <output name="base_color" type="color3" nodename="tinted"/>
                    <output name="roughness" type="float" nodename="rough"/>
                    <output name="mask" type="float" nodename="spread"/>
                  </nodegraph>
                </materialx>
                """.formatted(colour));
    }

    private Asset received(Path file) {
        Intake intake = workshop.intake();
        Imported arrival = intake.read(file, Progress.NONE);
        assertThat(arrival.holds()).isEqualTo(Imported.Holds.PART);
        return intake.shelve(arrival, Intake.suggested(arrival, "Materials", Neighbours.NONE), library, Progress.NONE)
                .published()
                .asset();
    }

    private Asset shelved(Model model) {
        Slip slip = Slip.plain(model.name(), AssetKind.MATERIAL, "Materials", 1, Axis.Y);
        return workshop.intake().shelve(model, slip, library, Progress.NONE).asset();
    }

    private Asset publish(MixParts.Change change) {
        NextVersion next = new NextVersion(library.current(paint), VersionStatus.READY, "a change");
        return mix.publish(next, change, Progress.NONE).asset();
    }

    /** The one material of a version, as whoever opens its layer reads it. */
    private Material read(Asset asset) {
        Asset now = library.current(asset);
        Model model = workshop.readers()
                .read(now.entryLayer(now.newest().orElseThrow()), Progress.NONE)
                .model();
        return model.materials().iterator().next();
    }

    /** The linear red of a material's colour at a place from left to right. */
    private static double red(Material material, double u) throws IOException {
        Path file = material.texture(Slot.BASE).orElseThrow().file().orElseThrow();
        BufferedImage image = ImageIO.read(file.toFile());
        int pixel = image.getRGB((int) (u * image.getWidth()), image.getHeight() / 2);
        return DisplayCurve.linear(pixel >> 16 & 0xff);
    }

    @Test
    void aGroupOfNodesIsAnAssetOfItsOwn() {
        assertThat(rust.card().kind()).isEqualTo(AssetKind.MATERIAL_PART);
        Layer entry = LayerFiles.read(rust.entryLayer("v001"));
        assertThat(entry.rootPrims()).singleElement().satisfies(prim -> {
            assertThat(prim.typeName()).isEqualTo("NodeGraph");
            assertThat(prim.references()).hasSize(1);
        });
        assertThat(rust.preview("v001")).exists();
        assertThat(read(rust).network().orElseThrow().graphs().values())
                .singleElement()
                .satisfies(graph -> assertThat(graph.outputs().keySet())
                        .containsExactlyInAnyOrder("base_color", "roughness", "mask"));
    }

    @Test
    void aPartIsReferencedAndShownByImages() throws IOException {
        Asset mixed = publish(new MixParts.Change.In(rust, 0.5, true));
        assertThat(Uses.of(mixed.folder())).singleElement().satisfies(use -> assertThat(use.id())
                .isEqualTo(rust.card().id()));
        Material material = read(mixed);
        // The mask is 0.25 and 0.75 there, half of which shows.
        assertThat(red(material, 0.25)).isCloseTo(0.2 * 0.875 + 0.4 * 0.125, within(0.004));
        assertThat(red(material, 0.75)).isCloseTo(0.2 * 0.625 + 0.4 * 0.375, within(0.004));
        assertThat(material.texture(Slot.ROUGHNESS)).isPresent();
        assertThat(material.texture(Slot.METALLIC)).isEmpty();
        assertThat(mix.parts(mixed)).singleElement().satisfies(part -> {
            assertThat(part.asset().orElseThrow().card().id())
                    .isEqualTo(rust.card().id());
            assertThat(part.amount()).contains(0.5);
            assertThat(part.masked()).isTrue();
        });
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }

    /** A mask that is a part by itself: the left third and nothing else. */
    private Asset mask(String name, double wide) throws IOException {
        return received(Files.writeString(folder.resolve(name), """
                <materialx version="1.39">
                  <nodegraph name="Streak">
                    <splitlr name="edge" type="float">
                      <input name="valuel" type="float" value="1"/><input name="valuer" type="float" value="0"/>
                      <input name="center" type="float" value="%s"/>
                    </splitlr>
                    <output name="streak" type="float" nodename="edge"/>
                  </nodegraph>
                </materialx>
                """.formatted(wide)));
    }

    @Test
    void aPartShowsByTheMaskOfAnother() throws IOException {
        Asset streak = mask("streak.mtlx", 0.3);
        assertThat(streak.card().kind()).isEqualTo(AssetKind.MATERIAL_PART);
        assertThat(mix.available().parts()).containsOnlyKeys(library.current(rust));
        assertThat(mix.available().masks()).containsExactlyInAnyOrder(library.current(rust), library.current(streak));
        Asset mixed = publish(new MixParts.Change.In(rust, 1, true, Optional.of(streak)));
        Material material = read(mixed);
        assertThat(red(material, 0.1)).isCloseTo(0.4, within(0.004));
        assertThat(red(material, 0.6)).isCloseTo(0.2, within(0.004));
        // Both are referenced, and a change of either reaches the material.
        assertThat(Uses.of(mixed.folder())).hasSize(2);
        assertThat(mix.parts(mixed)).singleElement().satisfies(part -> {
            assertThat(part.masked()).isTrue();
            assertThat(part.by().orElseThrow().asset().orElseThrow().card().id())
                    .isEqualTo(streak.card().id());
        });
        assertThat(mix.usersOf(streak)).hasSize(1);
        Imported wider = workshop.intake()
                .read(
                        Files.writeString(
                                folder.resolve("wider.mtlx"),
                                Files.readString(folder.resolve("streak.mtlx")).replace("0.3", "0.8")),
                        Progress.NONE);
        workshop.intake()
                .publish(
                        wider,
                        Slip.plain("Streak", AssetKind.MATERIAL_PART, "Materials", 1, Axis.Y),
                        new Intake.Next(streak, VersionStatus.READY, "wider"),
                        library,
                        Progress.NONE);
        assertThat(mix.remake(streak, Progress.NONE).made()).hasSize(1);
        assertThat(red(read(paint), 0.6)).isCloseTo(0.4, within(0.004));
        // By its own mask again, and out: the other one is no longer used.
        publish(new MixParts.Change.In(rust, 1, true));
        assertThat(mix.parts(library.current(paint)).getFirst().by()).isEmpty();
        assertThat(mix.usersOf(streak)).isEmpty();
        publish(new MixParts.Change.Out(rust));
        assertThat(mix.parts(library.current(paint))).isEmpty();
    }

    @Test
    void aMaskAloneIsNothingToMixInAndWhatHasNoMaskIsNone() throws IOException {
        Asset streak = mask("streak.mtlx", 0.3);
        assertThatThrownBy(() -> publish(new MixParts.Change.In(streak, 1, true)))
                .hasMessageContaining("nothing for a surface among its outputs");
        Asset clay = received(Files.writeString(folder.resolve("clay.mtlx"), """
                <materialx version="1.39"><nodegraph name="Clay">
                  <constant name="c" type="color3"><input name="value" type="color3" value="0.5, 0.3, 0.2"/></constant>
                  <output name="base_color" type="color3" nodename="c"/>
                </nodegraph></materialx>
                """));
        assertThatThrownBy(() -> publish(new MixParts.Change.In(rust, 1, true, Optional.of(clay))))
                .hasMessageContaining("has no mask");
        assertThat(library.current(paint).versions()).containsExactly("v001");
    }

    @Test
    void withoutItsMaskItShowsEverywhere() {
        Material material = read(publish(new MixParts.Change.In(rust, 0.25, false)));
        assertThat(material.texture(Slot.BASE)).as("the same everywhere").isEmpty();
        assertThat(material.base().r()).isCloseTo(0.2f * 0.75f + 0.4f * 0.25f, within(0.001f));
        assertThat(material.roughness()).isCloseTo(0.3f * 0.75f + 0.9f * 0.25f, within(0.001f));
    }

    @Test
    void mixedInOnceMoreOnlyItsAmountChanges() {
        publish(new MixParts.Change.In(rust, 0.25, false));
        Asset twice = publish(new MixParts.Change.In(rust, 0.5, false));
        assertThat(mix.parts(twice)).hasSize(1);
        assertThat(read(twice).base().r()).isCloseTo(0.3f, within(0.001f));
        assertThat(read(publish(new MixParts.Change.Out(rust))).base().r()).isCloseTo(0.2f, within(0.001f));
        assertThat(mix.parts(library.current(paint))).isEmpty();
    }

    @Test
    void whatLiesAboveAPartStaysWhenItIsTakenOut() throws IOException {
        Asset moss = received(part("moss.mtlx", "0.1, 0.3, 0.1"));
        publish(new MixParts.Change.In(rust, 0.5, false));
        publish(new MixParts.Change.In(moss, 0.5, false));
        assertThat(read(paint).base().r()).isCloseTo((0.2f + 0.4f) / 4 + 0.05f, within(0.001f));
        Asset rest = publish(new MixParts.Change.Out(rust));
        assertThat(read(rest).base().r()).isCloseTo(0.1f + 0.05f, within(0.001f));
        assertThat(mix.parts(rest)).extracting(MixParts.Mixed::name).containsExactly("Moss");
    }

    @Test
    void whatAPartBecomesReachesItsMaterials() throws IOException {
        publish(new MixParts.Change.In(rust, 0.5, false));
        library.places().move(library.current(rust), "Materials/Parts");
        library.edit(List.of(library.current(rust)), card -> card.withName("Old rust"), Progress.NONE);
        workshop.intake()
                .publish(
                        workshop.intake().read(part("rust2.mtlx", "0.8, 0.1, 0.05"), Progress.NONE),
                        Slip.plain("Old rust", AssetKind.MATERIAL_PART, "Materials/Parts", 1, Axis.Y),
                        new Intake.Next(library.current(rust), VersionStatus.READY, "redder"),
                        library,
                        Progress.NONE);
        assertThat(read(paint).base().r()).as("sealed").isCloseTo(0.3f, within(0.001f));
        assertThat(mix.usersOf(rust)).extracting(asset -> asset.card().name()).containsExactly("Deck paint");
        MixParts.Remade remade = mix.remake(rust, Progress.NONE);
        assertThat(remade.left()).isEmpty();
        assertThat(remade.made()).hasSize(1);
        assertThat(read(paint).base().r()).isCloseTo(0.5f, within(0.001f));
        assertThat(library.verify(Progress.NONE).problems()).isEmpty();
    }

    @Test
    void imagesStayAndAreTurnedByNothing() throws IOException {
        BufferedImage halves = new BufferedImage(64, 64, BufferedImage.TYPE_INT_RGB);
        for (int i = 0; i < 64 * 64; i++) {
            halves.setRGB(i % 64, i / 64, i % 64 < 32 ? 0xff0000 : 0x00ff00);
        }
        Path file = folder.resolve("halves.png");
        ImageIO.write(halves, "png", file.toFile());
        Map<Slot, pantry.model.Texture> images = Map.of(
                Slot.BASE, new pantry.model.Texture("halves.png", java.util.Optional.of(file)),
                Slot.OCCLUSION, new pantry.model.Texture("halves.png", java.util.Optional.of(file)));
        paint = shelved(
                Samples.balls("Halves", List.of(new Material("Halves", Colour.WHITE, 1, 0, 1, Colour.BLACK, images))));
        Material material = read(publish(new MixParts.Change.In(rust, 0.5, false)));
        assertThat(red(material, 0.25)).isCloseTo(0.5 + 0.2, within(0.004));
        assertThat(red(material, 0.75)).isCloseTo(0.2, within(0.004));
        assertThat(material.texture(Slot.OCCLUSION))
                .as("which nodes say nothing of")
                .isPresent();
    }

    /** A next version from a working copy references the part still; a copy in another library takes the part along. */
    @Test
    void thePartStaysReferencedThroughPrepAndInAnotherLibrary() {
        Asset mixed = publish(new MixParts.Change.In(rust, 0.5, false));
        Workpiece.Sources sources = new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache());
        Workpiece piece = Workpiece.of(new Workpiece.Shelved(library, mixed, "v002"), sources);
        Asset again = Shelving.publish(piece, VersionStatus.READY, "tidied", new RenderCache(), Progress.NONE)
                .asset();
        assertThat(again.ready()).contains("v003");
        assertThat(mix.parts(again)).extracting(MixParts.Mixed::name).containsExactly("Rust");

        Library other = Library.create(folder.resolve("other"), "Field stores", "tester", Clock.systemUTC());
        Asset copy = new Transfers(library, other).copy(again, "Paints", Progress.NONE);
        MixParts there = new MixParts(workshop.intake(), workshop.readers(), other);
        assertThat(there.parts(copy)).singleElement().satisfies(part -> assertThat(
                        part.asset().orElseThrow().folder())
                .startsWith(other.root()));
        assertThat(other.verify(Progress.NONE).problems()).isEmpty();
    }

    /** A part and a material whose files are damaged are in nobody's way but their own. */
    @Test
    void whatIsDamagedIsLeftOutOrNamed() throws IOException {
        publish(new MixParts.Change.In(rust, 0.5, false));
        Asset moss = received(part("moss.mtlx", "0.1, 0.3, 0.1"));
        assertThat(mix.available().parts()).hasSize(2);
        Files.writeString(moss.entryLayer("v001"), "no layer");
        assertThat(mix.available().parts().keySet())
                .extracting(asset -> asset.card().name())
                .containsExactly("Rust");
        Asset mixed = library.current(paint);
        Files.writeString(mixed.entryLayer("v002"), "no layer");
        assertThat(mix.usersOf(rust)).hasSize(1);
        MixParts.Remade remade = mix.remake(rust, Progress.NONE);
        assertThat(remade.made()).isEmpty();
        assertThat(remade.left()).singleElement().satisfies(line -> assertThat(line)
                .startsWith("Deck paint: "));
    }

    @Test
    void whatCannotBeMixedSaysWhy() throws IOException {
        assertThatThrownBy(() -> publish(new MixParts.Change.In(paint, 0.5, true)))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("is no material part");
        Asset block = workshop.block("Crate", "Stores", 1);
        assertThatThrownBy(() -> mix.outcome(block, new MixParts.Change.Anew(), 16, Progress.NONE))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("is no material to mix something into");
        Path mask = Files.writeString(folder.resolve("mask.mtlx"), """
                <?xml version="1.0"?>
                <materialx version="1.39"><nodegraph name="Spots">
                  <noise2d name="n" type="float"/><output name="mask" type="float" nodename="n"/>
                </nodegraph></materialx>
                """);
        Asset spots = received(mask);
        assertThatThrownBy(() -> publish(new MixParts.Change.In(spots, 0.5, true)))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("has nothing for a surface among its outputs mask");
    }
}
