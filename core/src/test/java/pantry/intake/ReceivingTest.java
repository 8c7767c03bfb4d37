package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.PantryException;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Published;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What can be chosen for an arrival, from the slip to the sealed version. */
class ReceivingTest {
    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private Imported arrival(String name, Model model) {
        Path file = folder.resolve(name);
        ModelWriters.write(model, file);
        return workshop.intake().read(file, Progress.NONE);
    }

    private Asset shelved(Imported arrival, Slip slip) {
        return workshop.intake()
                .shelve(arrival, slip, workshop.library(), Progress.NONE)
                .published()
                .asset();
    }

    private Slip slip(Imported arrival) {
        return Intake.suggested(arrival, "Things", Neighbours.NONE);
    }

    private Model composed(Asset asset) {
        return workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
    }

    /** Common practice: a foreign model may need a factor of 0.005, being 200 times as large as its neighbours. */
    @Test
    void aSizeThatNoUnitExplainsGetsTheFactorThatFits() {
        Neighbours chairs = new Neighbours("Living/Chairs", List.of(0.85, 0.9, 0.95));
        List<ScaleCandidate> found = ScaleCandidate.of(new Vec3(90, 180, 95), Optional.empty(), chairs);
        assertThat(found.getFirst().factor()).isEqualTo(0.005);
        assertThat(found.getFirst().reason())
                .contains("no unit explains")
                .contains("others on Chairs are 0.85 to 0.95 m tall");
        assertThat(found.getFirst().size()[1]).isCloseTo(0.9, within(1e-9));
    }

    /** Common practice: a wrong unit shows as ×10, ×100, ×1000, ×2.54 or ×12. */
    @Test
    void aUnitTakenForAnotherIsUnderstood() {
        Neighbours masts = new Neighbours("Masts", List.of(5.8, 6.0, 6.2));
        for (double mistake : new double[] {10, 1000, 100, 12}) {
            ScaleCandidate likely = ScaleCandidate.of(new Vec3(1, 6 * mistake, 1), Optional.of(1.0), masts)
                    .getFirst();
            assertThat(likely.size()[1]).as("×" + mistake).isBetween(5.0, 7.5);
        }
        ScaleCandidate tenfold =
                ScaleCandidate.of(new Vec3(1, 60, 1), Optional.of(1.0), masts).getFirst();
        assertThat(tenfold.unit()).isEqualTo("a 10th of what the file says");
        assertThat(tenfold.reason()).startsWith("a unit taken for another");
    }

    private static Model lit() {
        Model.Node ground = Model.Node.of(
                "Ground plane",
                Matrix4.IDENTITY,
                List.of(new Model.Part(Shapes.plate(40, 40), Material.PLAIN)),
                List.of());
        Model.Node sky = Model.Node.of(
                "Sky dome",
                Matrix4.IDENTITY,
                List.of(new Model.Part(Shapes.sphere(90, 16, 8), Material.PLAIN)),
                List.of());
        Model.Node thing = Model.Node.of(
                "Post", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(0.2, 2, 0.2), Workshop.RED)), List.of());
        return new Model(
                "Lit",
                List.of(ground, sky, thing),
                new Model.Extras(
                        List.of(
                                new Fixture.Light(
                                        "Lamp",
                                        Matrix4.translation(new Vec3(0, 3, 0)),
                                        Fixture.Light.Kind.SPHERE,
                                        Colour.WHITE,
                                        5,
                                        40),
                                new Fixture.Camera("Eye", Matrix4.translation(new Vec3(0, 1, 8)), 40, 1.5)),
                        0,
                        List.of()));
    }

    @Test
    void whatAFileCarriesBesidesIsLeftOutUnlessWanted() {
        Imported arrival = arrival("lit.usda", lit());
        assertThat(Carried.of(arrival.model(), Axis.Y))
                .extracting(Carried::kind)
                .containsExactly(Carried.Kind.LIGHTS, Carried.Kind.CAMERAS, Carried.Kind.GROUND, Carried.Kind.SKY);
        assertThat(Intake.candidates(ArrivalSummary.of(arrival), Axis.Y, Neighbours.NONE)
                        .getFirst()
                        .size()[1])
                .as("the thing itself is measured")
                .isCloseTo(2, within(1e-6));
        Survey survey = Survey.of(arrival);
        assertThat(survey.facts(Set.of(Carried.Kind.LIGHTS)).triangles())
                .as("the figures are those of what will be shelved")
                .isEqualTo(12);
        assertThat(survey.facts(Set.of(Carried.Kind.GROUND, Carried.Kind.SKY)).triangles())
                .isEqualTo(arrival.facts().triangles())
                .isGreaterThan(12);
        Asset plain = shelved(arrival, slip(arrival));
        assertThat(survey.shape().orElseThrow().code())
                .isEqualTo(plain.facts("v001").shape());
        assertThat(composed(plain).bounds().size().x()).isCloseTo(0.2, within(1e-6));
        assertThat(composed(plain).extras().fixtures()).isEmpty();
        ProcessingOptions all = new ProcessingOptions(
                Set.of(Carried.Kind.LIGHTS, Carried.Kind.CAMERAS, Carried.Kind.GROUND), CollisionShape.NONE, 1, false);
        Asset whole = shelved(arrival, slip(arrival).withMaking(all));
        assertThat(composed(whole).bounds().size().x()).isCloseTo(40, within(1e-6));
        Model.Extras extras = composed(whole).extras();
        assertThat(extras.lights()).isOne();
        assertThat(((Fixture.Light) extras.fixtures().getFirst()).coneAngle()).isEqualTo(40);
        assertThat(extras.fixtures().getFirst().world().translationPart().y()).isCloseTo(3, within(1e-6));
    }

    @Test
    void aPivotMovesTheOriginAndNothingElse() {
        Model far = new Model(
                "Far",
                List.of(Model.Node.of(
                        "Block",
                        Matrix4.translation(new Vec3(9000, 5, -7000)),
                        List.of(new Model.Part(Shapes.block(1, 2, 3), Workshop.RED)),
                        List.of())),
                Model.Extras.NONE);
        Imported arrival = arrival("far.glb", far);
        assertThat(ArrivalSummary.of(arrival).isFarOff()).isTrue();
        Slip slip = slip(arrival);
        assertThat(slip.pivot()).as("suggested, since its origin is of no use").isEqualTo(Pivot.BASE);
        assertThat(composed(shelved(arrival, slip))
                        .bounds()
                        .min()
                        .minus(new Vec3(-0.5, 0, -1.5))
                        .length())
                .isLessThan(1e-3);
        assertThat(Preparation.prepared(arrival, slip.withPivot(Pivot.CENTRE))
                        .model()
                        .bounds()
                        .centre()
                        .length())
                .isLessThan(1e-3);
    }

    @Test
    void collisionShapesAreGuidesWithPhysics() {
        Imported arrival = arrival("ball.glb", Workshop.model("Ball", Shapes.sphere(1, 16, 8)));
        Asset asset =
                shelved(arrival, slip(arrival).withMaking(ProcessingOptions.USUAL.withCollision(CollisionShape.HULL)));
        Stage stage = stage(asset);
        var prim = stage.prim(SdfPath.of("/Ball/Collision")).orElseThrow();
        assertThat(prim.value("purpose")).contains(new Value.Token("guide"));
        assertThat(prim.value("physics:approximation")).contains(new Value.Token("convexHull"));
        assertThat(composed(asset).trianglesDrawn()).as("guides are not drawn").isEqualTo(16 * 2 * 7);
        assertThat(CollisionShape.BOX.around(arrival.model()).orElseThrow().faceCount())
                .isEqualTo(6);
        assertThat(CollisionShape.NONE.around(arrival.model())).isEmpty();
    }

    private static Stage stage(Asset asset) {
        LayerCache layers = new LayerCache();
        return Stage.open(layers.open(asset.entryLayer("v001")), layers);
    }

    @Test
    void levelsOfDetailAreVariantsAndReducingTellsItsError() throws IOException {
        Imported arrival = arrival("ball.glb", Workshop.model("Ball", Shapes.sphere(1, 64, 32)));
        long all = arrival.model().trianglesDrawn();
        Asset asset = shelved(arrival, slip(arrival).withMaking(ProcessingOptions.USUAL.withLevels(true)));
        assertThat(composed(asset).trianglesDrawn()).as("full unless chosen").isEqualTo(all);
        var root = LayerFiles.read(asset.data("v001").resolve("ball.geom.usdc"))
                .prim(SdfPath.of("/Ball"))
                .orElseThrow();
        assertThat(root.variantSets().get("detail")).containsOnlyKeys("full", "half", "quarter", "eighth");
        assertThat(workshop.chosen(asset, "detail", "quarter").trianglesDrawn()).isBetween(all / 6, all / 4 + 2);
        Preparation.Reduced reduced = Preparation.reduced(arrival.model(), 0.25);
        assertThat(reduced.model().trianglesDrawn()).isBetween(all / 6, all / 4 + 2);
        assertThat(reduced.error()).isBetween(1e-6, 0.05);
        Asset light = shelved(arrival, slip(arrival).withMaking(ProcessingOptions.USUAL.withShare(0.25)));
        assertThat(light.facts("v001").triangles()).isEqualTo(reduced.model().trianglesDrawn());
    }

    @Test
    void aSingleMeshKeepsItsMaterialsAndIsTakenApartAgain() {
        Model two = new Model(
                "Two",
                List.of(
                        Model.Node.of(
                                "A",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(1, 1, 1), Workshop.RED)),
                                List.of()),
                        Model.Node.of(
                                "B",
                                Matrix4.translation(new Vec3(4, 0, 0)),
                                List.of(new Model.Part(
                                        Shapes.block(1, 1, 1), Material.plain("Blue", new Colour(0, 0, 1), 0, 1))),
                                List.of())),
                Model.Extras.NONE);
        Imported arrival = arrival("two.glb", two);
        Asset single = shelved(arrival, slip(arrival).withParts(PartsMode.SINGLE));
        var mesh = LayerFiles.read(single.data("v001").resolve("two.geom.usdc"))
                .prim(SdfPath.of("/Two/Two"))
                .orElseThrow();
        assertThat(mesh.typeName()).isEqualTo("Mesh");
        assertThat(mesh.children()).extracting(child -> child.typeName()).containsExactly("GeomSubset", "GeomSubset");
        assertThat(composed(single).materials()).extracting(Material::name).containsExactlyInAnyOrder("Red", "Blue");
        Imported again = workshop.readers().read(single.entryLayer("v001"), Progress.NONE);
        Model apart = Parts.arranged(again.model(), PartsMode.APART);
        assertThat(apart.roots()).hasSize(2);
        assertThat(apart.bounds()).isEqualTo(again.model().bounds());
    }

    @Test
    void anArrivalBecomesTheNextVersionOfAnAsset() {
        Asset asset = workshop.block("Crate", "Crates", 1);
        Imported arrival = arrival("crate-new.glb", Workshop.model("Crate", Shapes.block(1, 1.1, 1)));
        Published published = workshop.intake()
                .shelve(
                        arrival,
                        slip(arrival).withVersionOf(Optional.of(asset.card().id())),
                        workshop.library(),
                        Progress.NONE)
                .published();
        assertThat(published.version()).isEqualTo("v002");
        assertThat(workshop.library().assets()).hasSize(1);
        assertThat(published.asset().ready()).contains("v002");
        assertThat(workshop.library().seal(published.asset(), "v002")).containsEntry("Source-File", "crate-new.glb");
    }

    @Test
    void aFileThatChangedSinceItWasReadIsNotShelved() throws IOException {
        Imported arrival = arrival("block.glb", Workshop.model("Block", Shapes.block(1, 1, 1)));
        Files.setLastModifiedTime(arrival.file(), FileTime.from(Instant.parse("2026-01-01T00:00:00Z")));
        assertThatThrownBy(() -> shelved(arrival, slip(arrival))).hasMessageContaining("was changed since");
        assertThat(workshop.library().assets()).isEmpty();
        assertThat(workshop.library().root().resolve("incoming")).isEmptyDirectory();
    }

    @Test
    void lostTexturesAreFoundInNamedFoldersWhateverTheirCase() throws IOException {
        arrival("crate.obj", Workshop.model("Crate", Shapes.block(1, 1, 1)));
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Red\nmap_Kd D:\\old\\Label.PNG\nmap_Pr rough.tga\n");
        Imported arrival = workshop.readers().read(folder.resolve("crate.obj"), Progress.NONE);
        assertThat(Intake.missing(arrival)).hasSize(2);
        Path attic = Files.createDirectories(folder.resolve("attic/deep"));
        byte[] png = Png.of(new java.awt.image.BufferedImage(2, 2, 1));
        Files.write(attic.resolve("label.png"), png);
        Files.write(attic.resolve("Rough.png"), png);
        Imported found =
                LostTextures.in(List.of(folder.resolve("attic")), Progress.NONE).on(arrival);
        assertThat(Intake.missing(found)).isEmpty();
        Asset asset = shelved(found, slip(found));
        try (var images = Files.list(asset.data("v001").resolve("textures"))) {
            assertThat(images).as("equal ones once").hasSize(1);
        }
        assertThat(composed(asset).textures()).allMatch(texture -> texture.found());
    }

    @Test
    void aListingLeavesOutCompanionsAndLibraries() throws IOException {
        Path pack = Files.createDirectories(folder.resolve("pack/wood"));
        ModelWriters.write(Workshop.model("Block", Shapes.block(1, 1, 1)), pack.resolve("block.obj"));
        Files.write(pack.resolve("bark.png"), new byte[] {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'});
        workshop.block("Crate", "Crates", 1);
        Files.writeString(folder.resolve("notes.txt"), "nothing");
        Listing listing = Listing.of(List.of(folder), Progress.NONE);
        assertThat(listing.entries()).extracting(Listing.Entry::file).containsExactly(pack.resolve("block.obj"));
        assertThat(listing.passedOver())
                .extracting(Listing.PassedOver::path)
                .containsExactly(workshop.library().root());
        Path images = Files.createDirectories(folder.resolve("images"));
        Files.copy(pack.resolve("bark.png"), images.resolve("bark.png"));
        assertThat(Listing.of(List.of(images), Progress.NONE).entries())
                .as("a folder of images alone")
                .hasSize(1);
        Imported inside =
                workshop.readers().read(workshop.library().find("Crate").entryLayer("v001"), Progress.NONE);
        assertThatThrownBy(() -> shelved(inside, slip(inside))).hasMessageContaining("part of the library already");
    }

    @Test
    void aRoundThatWasInterruptedGoesOn() throws IOException {
        Path file = folder.resolve("state/round.jsonl");
        Origin a = Origin.of(folder.resolve("a.glb"));
        Origin b = new Origin(Files.createFile(folder.resolve("pack.zip")), Optional.of("inner/b.glb"));
        Round round = Round.open(file);
        round.arrived(List.of(a, b));
        Slip chosen = Slip.plain("Bee", AssetKind.MODEL, "Things", 0.01, Axis.Z)
                .withMaking(ProcessingOptions.USUAL.withLevels(true));
        round.chosen(b, chosen);
        round.over(a);
        Files.writeString(file, Files.readString(file) + "{\"arrival\": \"c.gl");
        Round again = Round.open(file);
        assertThat(again.waiting()).isEqualTo(Map.of(b, Optional.of(chosen)));
        again.over(b);
        assertThat(file).as("a round that is over leaves nothing").doesNotExist();
    }

    @Test
    void aDropFolderTellsWhatHasSettled() throws IOException {
        Path drop = Files.createDirectories(folder.resolve("drop"));
        DropFolder watched = new DropFolder(drop);
        assertThat(watched.look()).isEmpty();
        Path file = drop.resolve("block.glb");
        ModelWriters.write(Workshop.model("Block", Shapes.block(1, 1, 1)), file);
        assertThat(watched.look()).as("it may still grow").isEmpty();
        Files.setLastModifiedTime(file, FileTime.fromMillis(1_000_000));
        assertThat(watched.look()).as("it did").isEmpty();
        assertThat(watched.look()).containsExactly(file);
        assertThat(watched.look()).as("told once").isEmpty();
        Files.setLastModifiedTime(file, FileTime.fromMillis(2_000_000));
        watched.look();
        assertThat(watched.look()).as("changed: told again").containsExactly(file);
    }

    @Test
    void choicesAreKeptUnderNamesAndForShelves() {
        Presets presets = new Presets(folder.resolve("presets"));
        Slip slip = Slip.plain("A", AssetKind.MODEL, "Things", 0.01, Axis.Z)
                .withTags(List.of("scan"))
                .withPivot(Pivot.BASE)
                .withCredit("CC0-1.0", "workshop");
        assertThat(presets.all()).isEmpty();
        presets.keep("Scans, in cm", SlipPreset.of(slip));
        Slip other = Slip.plain("B", AssetKind.MODEL, "Else", 1, Axis.Y);
        assertThat(presets.get("scans, in cm").on(other)).isEqualTo(slip.withName("B"));
        assertThatThrownBy(() -> presets.get("none")).hasMessageContaining("Scans, in cm");
        presets.remove("Scans, in cm");
        assertThat(presets.all()).isEmpty();
        Presets.makeUsual(workshop.library(), slip);
        Slip usual = Presets.usualOf(workshop.library(), "Things/Small")
                .orElseThrow()
                .on(other);
        assertThat(usual.tags()).containsExactly("scan");
        assertThat(usual.factor()).as("each file has a unit of its own").isEqualTo(1);
        assertThat(Presets.usualOf(workshop.library(), "Else")).isEmpty();
    }

    /** OWASP, CSV Injection: cells that begin with = + - @ are run by spreadsheets. */
    @Test
    void aReportCannotRunInASpreadsheet() throws IOException {
        Report report = new Report(
                "Shelves <1>",
                Instant.parse("2026-03-01T10:00:00Z"),
                List.of(
                        new Report.Line(Report.Outcome.SHELVED, "=cmd.glb", "+Name", "@Shelf", "v001", 0.01, 12, ""),
                        Report.Line.refused(Origin.of(Path.of("b, \"c\".glb")), "-broken")));
        String csv = report.csv();
        assertThat(csv.lines().toList())
                .containsExactly(
                        "outcome,file,name,shelf,version,metres per unit,triangles,reason",
                        "shelved,'=cmd.glb,'+Name,'@Shelf,v001,0.01,12,",
                        "refused,\"b, \"\"c\"\".glb\",,,,,,'-broken");
        Path html = folder.resolve("report.html");
        report.write(html);
        assertThat(Files.readString(html)).contains("Shelves &lt;1&gt;").contains("1 shelved, 1 refused");
        assertThatThrownBy(() -> report.write(folder.resolve("report.pdf"))).isInstanceOf(PantryException.class);
    }

    @Test
    void looksBecomeAVariantSet() throws IOException {
        Material snow = Material.plain("Snow", Colour.WHITE, 0, 0.9);
        Model.Part part = new Model.Part(Shapes.block(1, 1, 1), Workshop.RED, Map.of("In winter", snow));
        Model model = new Model(
                "Bench", List.of(Model.Node.of("Seat", Matrix4.IDENTITY, List.of(part), List.of())), Model.Extras.NONE);
        Slip slip = Slip.plain("Bench", AssetKind.MODEL, "Things", 1, Axis.Y);
        Asset asset = workshop.intake()
                .shelve(model, slip, workshop.library(), Progress.NONE)
                .asset();
        assertThat(composed(asset).materials()).extracting(Material::name).containsExactly("Red");
        assertThat(workshop.chosen(asset, "look", "In_winter").materials())
                .extracting(Material::name)
                .containsExactly("Snow");
    }
}
