package pantry.desktop.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javafx.beans.InvalidationListener;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.base.Png;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.desktop.session.Job;
import pantry.desktop.session.LedgerLine;
import pantry.intake.Origin;
import pantry.intake.Pivot;
import pantry.intake.Report;
import pantry.intake.ScaleCandidate;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.model.Axis;
import pantry.usecase.ReceiveFiles;

class ReceiveModelTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private ReceiveModel model;

    @BeforeEach
    void open() throws IOException {
        desk = new Desk(folder);
        model = new ReceiveModel(desk.session());
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Arrival arrived(Path file) {
        model.add(List.of(file));
        return model.arrivals().getLast();
    }

    /** Two images of one material; taken apart, each is one of its own. */
    @Test
    void imagesOfOneMaterialAreOneArrivalUntilTheyAreTakenApart() throws IOException {
        Path folder = Files.createDirectories(this.folder.resolve("planks"));
        for (String name : List.of("planks_color.png", "planks_normal.png")) {
            BufferedImage image = new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB);
            ImageIO.write(image, "png", folder.resolve(name).toFile());
        }
        model.add(List.of(folder));
        assertThat(model.arrivals()).singleElement().satisfies(arrival -> {
            assertThat(arrival.slipProperty().get().orElseThrow().kind()).isEqualTo(AssetKind.MATERIAL);
            assertThat(arrival.slipProperty().get().orElseThrow().name()).isEqualTo("Planks");
        });
        model.takeApart(model.arrivals().getFirst());
        assertThat(model.arrivals()).hasSize(2).allSatisfy(arrival -> assertThat(
                        arrival.slipProperty().get().orElseThrow().kind())
                .isEqualTo(AssetKind.IMAGE));
        model.shelving().shelve();
        assertThat(desk.library().find("Planks color").card().kind()).isEqualTo(AssetKind.IMAGE);
    }

    @Test
    void thePictureOfASkyIsALightUntilItIsTakenAsAnImage() throws IOException {
        Path file = folder.resolve("ridge-sky.png");
        ImageIO.write(new BufferedImage(8, 4, BufferedImage.TYPE_INT_RGB), "png", file.toFile());
        Arrival sky = arrived(file);
        assertThat(sky.slipProperty().get().orElseThrow().kind()).isEqualTo(AssetKind.LIGHT_RIG);
        model.takeApart(sky);
        Arrival board = model.arrivals().getFirst();
        assertThat(model.arrivals()).hasSize(1);
        assertThat(board.slipProperty().get().orElseThrow().kind()).isEqualTo(AssetKind.IMAGE);
        assertThat(model.selectedProperty().get())
                .as("it is still what is shown")
                .contains(board);
    }

    @Test
    void filesThatAreOneThingAreOneArrivalUntilTheyAreTakenApart() throws IOException {
        Path folder = Files.createDirectories(this.folder.resolve("doors"));
        Files.move(desk.file("a.glb", 2), folder.resolve("door_shut.glb"));
        Files.move(desk.file("b.glb", 2.1), folder.resolve("door_open.glb"));
        model.add(List.of(folder));
        Arrival whole = model.arrivals().getFirst();
        assertThat(model.arrivals()).hasSize(1);
        assertThat(whole.slipProperty().get().orElseThrow().name()).isEqualTo("Door");
        assertThat(whole.surveyProperty()
                        .get()
                        .orElseThrow()
                        .outline()
                        .series()
                        .orElseThrow()
                        .words())
                .isEqualTo("2 states: shut, open");
        model.takeApart(whole);
        assertThat(model.arrivals())
                .extracting(
                        Arrival::name,
                        each -> each.slipProperty().get().orElseThrow().name())
                .containsExactly(tuple("door_shut.glb", "Door shut"), tuple("door_open.glb", "Door open"));
    }

    @Test
    void aFileIsReadMeasuredAndSelected() {
        Arrival arrival = arrived(desk.file("fuel_drum.obj", 2));
        assertThat(arrival.stateProperty().get()).isEqualTo(Arrival.State.READY);
        assertThat(arrival.surveyProperty().get().orElseThrow().facts().triangles())
                .isEqualTo(12);
        assertThat(arrival.slipProperty().get().orElseThrow().name()).isEqualTo("Fuel drum");
        assertThat(model.selectedProperty().get()).contains(arrival);
        assertThat(model.waiting()).isEqualTo(1);
        assertThat(model.choices().candidates(arrival)).hasSize(5);
    }

    @Test
    void theSameFileDoesNotArriveTwice() {
        Path file = desk.file("block.obj", 2);
        model.add(List.of(file));
        model.add(List.of(file));
        assertThat(model.arrivals()).hasSize(1);
        assertThat(desk.session().ledger().getFirst().text()).contains("brings nothing new");
    }

    @Test
    void anArchiveBringsTheFilesInItAndTheSameArchiveNothingNew() throws IOException {
        Path archive = folder.resolve("pack.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(archive))) {
            for (String name : List.of("one.obj", "two.obj")) {
                zip.putNextEntry(new ZipEntry("pack/" + name));
                zip.write(Files.readAllBytes(desk.file(name, 2)));
            }
        }
        model.add(List.of(archive, desk.file("beside.obj", 1)));
        assertThat(model.arrivals())
                .extracting(Arrival::name)
                .containsExactlyInAnyOrder("beside.obj", "one.obj", "two.obj");
        assertThat(model.arrivals()).allMatch(arrival -> arrival.stateProperty().get() == Arrival.State.READY);
        model.add(List.of(archive));
        assertThat(model.arrivals()).hasSize(3);
        ReceiveModel next = new ReceiveModel(desk.session());
        assertThat(next.interrupted())
                .as("what comes from an archive is told by its place there")
                .contains(new Origin(archive, Optional.of("pack/one.obj")));
        next.goOn();
        assertThat(next.arrivals()).allMatch(arrival -> arrival.state() == Arrival.State.READY);
    }

    @Test
    void anArchiveThatIsRefusedIsSaidAndTheRestArrives() throws IOException {
        Path archive = Files.write(folder.resolve("cut.zip"), new byte[] {'P', 'K', 3, 4, 0, 0});
        model.add(List.of(archive, desk.file("beside.obj", 1)));
        assertThat(model.arrivals()).hasSize(1);
        assertThat(desk.session().ledger()).anyMatch(line -> line.text().contains("cannot be unpacked"));
    }

    @Test
    void aDamagedFileIsRefusedUntickedAndReported() throws IOException {
        Arrival arrival = arrived(Files.writeString(folder.resolve("broken.glb"), "glTF or not"));
        assertThat(arrival.stateProperty().get()).isEqualTo(Arrival.State.REFUSED);
        assertThat(arrival.tickedProperty().get()).isFalse();
        assertThat(model.shelving().report()).singleElement().satisfies(line -> {
            assertThat(line.outcome()).isEqualTo(Report.Outcome.REFUSED);
            assertThat(line.file()).endsWith("broken.glb");
        });
        assertThat(desk.session().ledger().getFirst().kind()).isEqualTo(LedgerLine.Kind.WRONG);
        assertThat(model.shelving().ready()).isEmpty();
        assertThat(model.waiting()).isZero();
        model.clearFinished();
        assertThat(model.arrivals()).isEmpty();
    }

    @Test
    void tickedArrivalsAreShelvedTogetherAsTheirSlipsSay() {
        Arrival first = arrived(desk.file("first.obj", 200));
        Arrival second = arrived(desk.file("second.obj", 3));
        Arrival third = arrived(desk.file("third.obj", 1));
        third.tickedProperty().set(false);
        model.choices()
                .change(first, slip -> slip.withFactor(0.01).withShelf("Posts").withName("Post"));
        model.choices().change(second, slip -> slip.withFactor(1).withUp(Axis.Z).withShelf("Planks"));
        model.shelving().shelve();
        assertThat(desk.library().shelves()).containsExactly("Planks", "Posts");
        assertThat(desk.library().find("Post").facts("v001").bounds().size().y())
                .isCloseTo(2, org.assertj.core.api.Assertions.within(1e-6));
        Vec3 plank = desk.library().find("Second").facts("v001").bounds().size();
        assertThat(plank.z()).isEqualTo(3);
        assertThat(first.stateProperty().get()).isEqualTo(Arrival.State.SHELVED);
        assertThat(first.messageProperty().get()).isEqualTo("shelved: Post on Posts");
        assertThat(third.stateProperty().get()).isEqualTo(Arrival.State.READY);
        assertThat(model.waiting()).isEqualTo(1);
        assertThat(model.shelves()).containsExactly("Planks", "Posts");
        assertThat(desk.session().jobs()).isEmpty();
    }

    @Test
    void whatTheLibraryRefusesCanBePutRightAndTriedAgain() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        model.choices().change(arrival, slip -> slip.withShelf("../outside"));
        model.shelving().shelve();
        assertThat(arrival.stateProperty().get()).isEqualTo(Arrival.State.READY);
        assertThat(desk.session().ledger().getFirst().text()).contains("cannot be a shelf");
        model.shelving().shelve();
        assertThat(desk.session().ledger().getFirst().text()).isEqualTo("no arrival is ticked that could be shelved");
        model.choices().change(arrival, slip -> slip.withShelf("Inside"));
        model.shelving().shelve();
        assertThat(arrival.stateProperty().get()).isEqualTo(Arrival.State.SHELVED);
    }

    @Test
    void aSizeOutOfTheOrdinaryIsSaidBeforeShelving() {
        desk.shelve("Low", "Masts", 2);
        desk.shelve("High", "Masts", 3);
        desk.session().shelving().refresh(desk.library());
        Arrival arrival = arrived(desk.file("giant.obj", 300));
        model.choices().change(arrival, slip -> slip.withShelf("Masts").withFactor(1));
        assertThat(model.choices().sizeWarning(arrival).orElseThrow())
                .contains("others on Masts are 2.0 to 3.0 m tall");
        ScaleCandidate likely = model.choices().candidates(arrival).getFirst();
        assertThat(likely.unit()).isEqualTo("centimetres");
        model.choices().change(arrival, slip -> slip.withFactor(likely.factor()));
        assertThat(model.choices().sizeWarning(arrival)).isEmpty();
    }

    @Test
    void theSameThingOnAShelfTellsHowLargeAnArrivalIsUnlessSomebodyChose() throws IOException {
        try (Desk other = new Desk(Files.createDirectory(folder.resolve("other")))) {
            ReceiveModel early = new ReceiveModel(other.session());
            other.shelve("High mast", "Masts", 150);
            early.add(List.of(other.file("mast.obj", 150), other.file("chosen.obj", 150)));
            Arrival untouched = early.arrivals().getFirst();
            Arrival chosen = early.arrivals().getLast();
            early.choices().change(chosen, slip -> slip.withName("Chosen").withFactor(0.001));
            assertThat(untouched.slipProperty().get().orElseThrow().factor())
                    .as("150 m is much, for all that is known yet")
                    .isLessThan(1);

            other.open();
            assertThat(untouched.slipProperty().get().orElseThrow().factor()).isEqualTo(1);
            assertThat(early.choices().candidates(untouched).getFirst().reason())
                    .isEqualTo("as tall as High mast, which has the same shape");
            assertThat(chosen.slipProperty().get().orElseThrow().factor()).isEqualTo(0.001);
            assertThat(early.shelves()).contains("Masts");
        }
    }

    @Test
    void whatIsOnAShelfOrOnTheListAlreadyIsLeftOutUntilSomebodyDecides() {
        desk.shelve("Drum", "Power", 2);
        desk.session().shelving().refresh(desk.library());
        Arrival drum = arrived(desk.file("drum.obj", 2));
        Arrival post = arrived(desk.file("post.obj", 7));
        Arrival again = arrived(desk.file("post-again.obj", 7));
        Arrival version = arrived(desk.file("drum-new.obj", 2));
        assertThat(drum.knownProperty().get()).contains("the same as Drum on Power");
        assertThat(again.knownProperty().get()).contains("the same as post.obj on the list");
        assertThat(model.shelving().ready()).containsExactly(post);
        drum.choose(true);
        String id = desk.library().find("Drum").card().id();
        model.choices().takeAsVersionOf(version, Optional.of(id));
        desk.session().shelving().refresh(desk.library());
        assertThat(model.shelving().ready())
                .as("what was decided stays so")
                .containsExactlyInAnyOrder(drum, post, version);
        model.shelving().shelve();
        assertThat(desk.library().find("Power/Drum").versions()).hasSize(2);
        assertThat(again.isOpen()).isTrue();
        assertThat(again.knownProperty().get()).as("it is on a shelf now").contains("the same as Post on New arrivals");
    }

    /** A material and a model that came with its ground have no shape that could be compared with the shelved one's. */
    @Test
    void whatWasShelvedFromTheSameFileIsKnownWhateverItHolds() throws IOException {
        BufferedImage image = new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB);
        Path rust = Files.write(folder.resolve("rust.png"), Png.of(image));
        Arrival first = arrived(rust);
        Arrival second = arrived(Files.copy(rust, folder.resolve("rust-again.png")));
        assertThat(second.knownProperty().get()).contains("the same as rust.png on the list");
        assertThat(model.shelving().ready()).containsExactly(first);
        model.shelving().shelve();
        desk.session().shelving().refresh(desk.library());
        assertThat(second.knownProperty().get()).contains("the same as Rust on New arrivals");
        assertThat(model.shelving().ready()).isEmpty();
    }

    @Test
    void theSameAtAnotherSizeIsToldAsThat() {
        arrived(desk.file("post.obj", 3));
        Arrival large = arrived(desk.file("post-large.obj", 3));
        model.choices().change(large, slip -> slip.withFactor(1000));
        desk.session().shelving().refresh(desk.library());
        assertThat(large.knownProperty().get()).contains("the same as post.obj on the list, at another size");
    }

    /** Adds files whose reading begins with {@link Desk#releaseWork}. */
    private void addUnread(Path... files) {
        InvalidationListener hold = change -> desk.holdWork();
        model.arrivals().addListener(hold);
        model.add(List.of(files));
        model.arrivals().removeListener(hold);
    }

    @Test
    void whatIsShelvedBeforeItIsReadIsLookedForOnTheShelvesFirst() {
        desk.shelve("Drum", "Power", 2);
        desk.session().shelving().refresh(desk.library());
        addUnread(desk.file("drum.obj", 2), desk.file("post.obj", 7), desk.file("post-again.obj", 7));

        model.shelving().shelve();
        assertThat(model.arrivals()).allMatch(Arrival::isOpen);
        assertThat(desk.session().ledger().getFirst().text()).startsWith("3 arrivals will be shelved once");
        desk.releaseWork();

        assertThat(desk.library().assets())
                .extracting(asset -> asset.card().name())
                .containsExactlyInAnyOrder("Drum", "Post");
        assertThat(desk.session().ledger().getFirst().text()).isEqualTo("shelved Post on New arrivals");
        assertThat(model.arrivals().getFirst().knownProperty().get()).contains("the same as Drum on Power");
        assertThat(model.arrivals().getFirst().isOpen()).isTrue();
    }

    @Test
    void whatWasToBeShelvedOnceReadIsForgottenWhereReadingIsCancelled() {
        addUnread(desk.file("drum.obj", 2), desk.file("post.obj", 7));
        model.shelving().shelve();

        desk.session().jobs().forEach(Job::cancel);
        desk.releaseWork();
        assertThat(model.arrivals()).allMatch(arrival -> arrival.state() == Arrival.State.WAITING);
        Arrival lamp = arrived(desk.file("lamp.obj", 1));

        assertThat(desk.library().assets()).isEmpty();
        assertThat(lamp.isOpen()).isTrue();
    }

    @Test
    void impossibleChoicesAreRefusedAndTheSlipStays() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        model.choices().change(arrival, slip -> slip.withFactor(-1));
        assertThat(arrival.slipProperty().get().orElseThrow().factor()).isPositive();
        assertThat(desk.session().ledger().getFirst().text()).contains("greater than 0");
    }

    @Test
    void missingTexturesAreNamedAndStopTheShelvingUnlessAllowed() throws IOException {
        Path file = desk.file("crate.obj", 1);
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Paint\nmap_Kd label.png\n");
        Arrival arrival = arrived(file);
        assertThat(arrival.missing()).containsExactly("label.png");
        arrived(desk.file("post.obj", 2));
        assertThat(model.shelving().lacking()).isEqualTo(1);
        model.shelving().shelve();
        assertThat(desk.library().assets()).hasSize(1);
        assertThat(desk.session().ledger().getFirst().text())
                .startsWith("shelved Post on ")
                .endsWith("; 1 was refused");
        model.choices().change(arrival, slip -> slip.withAllowMissing(true));
        assertThat(model.shelving().lacking()).isZero();
        model.shelving().shelve();
        assertThat(desk.library().assets()).hasSize(2);
        assertThat(desk.session().ledger().getFirst().text()).doesNotContain("refused");
    }

    @Test
    void whatIsChosenForSeveralIsChosenForEach() {
        Arrival first = arrived(desk.file("first.obj", 2));
        Arrival second = arrived(desk.file("second.obj", 3));
        arrived(desk.file("third.obj", 1));
        model.select(List.of(first, second));
        model.changeChosen(slip -> slip.withShelf("Posts").withPivot(Pivot.CENTRE));
        assertThat(model.arrivals())
                .extracting(
                        arrival -> arrival.slipProperty().get().orElseThrow().shelf())
                .containsExactly("Posts", "Posts", "New arrivals");
        model.takeOff(List.of(first));
        assertThat(model.arrivals()).hasSize(2);
    }

    @Test
    void lostTexturesAreFoundInAFolder() throws IOException {
        Path file = desk.file("crate.obj", 1);
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Paint\nmap_Kd label.png\n");
        Arrival arrival = arrived(file);
        Path attic = Files.createDirectories(folder.resolve("attic"));
        model.findTextures(attic);
        assertThat(arrival.missing()).hasSize(1);
        assertThat(desk.session().ledger().getFirst().text())
                .endsWith("found 0 of 1 texture; still missing: label.png (crate.obj)");
        Files.write(attic.resolve("Label.png"), Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        model.findTextures(attic);
        assertThat(arrival.missing()).isEmpty();
        assertThat(desk.session().ledger().getFirst().text()).isEqualTo("found 1 of 1 texture in attic");
        model.shelving().shelve();
        assertThat(arrival.state()).isEqualTo(Arrival.State.SHELVED);
    }

    @Test
    void whatLooksLikeAnAssetCanBecomeItsNextVersion() {
        Asset post = desk.shelve("Post", "Posts", 4);
        desk.session().refreshCatalogue(desk.library());
        Arrival arrival = arrived(desk.file("copy.obj", 4));
        assertThat(arrival.alikeProperty().get()).singleElement().satisfies(alike -> {
            assertThat(alike.item().id()).isEqualTo(post.card().id());
            assertThat(alike.likeness()).isGreaterThan(0.99);
        });
        model.choices().takeAsVersionOf(arrival, Optional.of(post.card().id()));
        model.shelving().shelve();
        assertThat(desk.library().assets()).hasSize(1);
        assertThat(arrival.messageProperty().get()).isEqualTo("shelved: Post on Posts as v002");
    }

    @Test
    void anInterruptedRoundGoesOnWithTheChoicesMade() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        model.choices().change(arrival, slip -> slip.withShelf("Kept").withName("Kept block"));
        ReceiveModel next = new ReceiveModel(desk.session());
        assertThat(next.interrupted()).containsExactly(Origin.of(arrival.file()));
        next.goOn();
        assertThat(next.arrivals().getFirst().slipProperty().get().orElseThrow().name())
                .isEqualTo("Kept block");
        next.shelving().shelve();
        assertThat(desk.library().find("Kept/Kept block").versions()).hasSize(1);
        assertThat(new ReceiveModel(desk.session()).interrupted()).isEmpty();
    }

    @Test
    void aWatchedFolderBringsWhatIsPutThere() throws IOException {
        Path drop = Files.createDirectories(folder.resolve("drop"));
        model.watch().watch(Optional.of(drop));
        Files.move(desk.file("late.obj", 2), drop.resolve("late.obj"));
        model.watch().look();
        model.watch().look();
        assertThat(model.arrivals()).extracting(Arrival::name).containsExactly("late.obj");
        assertThat(model.selectedProperty().get())
                .as("nothing was chosen before")
                .contains(model.arrivals().getFirst());
        model.watch().look();
        assertThat(model.arrivals()).hasSize(1);
        Files.move(desk.file("later.obj", 2), drop.resolve("later.obj"));
        model.watch().look();
        model.watch().look();
        assertThat(model.arrivals()).hasSize(2);
        assertThat(model.selection())
                .as("somebody may be at it")
                .containsExactly(model.arrivals().getFirst());
        assertThat(desk.session().ledger().getFirst().text()).isEqualTo("1 file arrived: later.obj");
        model.watch().watch(Optional.empty());
        assertThat(model.watch().folderProperty().get()).isEmpty();
    }

    @Test
    void presetsAreKeptAndAShelfHasItsUsualChoices() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        model.choices().change(arrival, slip -> slip.withTags(List.of("scan")).withPivot(Pivot.BASE));
        model.choices().keepPreset(arrival, "Scans");
        assertThat(model.choices().presets()).extracting(named -> named.name()).containsExactly("Scans");
        model.choices().makeUsual(arrival);
        Arrival next = arrived(desk.file("next.obj", 2));
        assertThat(next.slipProperty().get().orElseThrow().tags()).containsExactly("scan");
        assertThat(next.slipProperty().get().orElseThrow().pivot()).isEqualTo(Pivot.BASE);
    }

    @Test
    void theReportIsSavedWithAllThatHappened() throws IOException {
        arrived(desk.file("block.obj", 2));
        arrived(Files.writeString(folder.resolve("broken.glb"), "glTF or not"));
        model.shelving().shelve();
        model.shelving().saveReport(folder.resolve("report.html"));
        assertThat(folder.resolve("report.html")).content().contains("1 shelved, 1 refused");
        model.shelving().saveReport(folder.resolve("report.doc"));
        assertThat(desk.session().ledger().getFirst().text()).contains(".csv or .html");
    }

    @Test
    void shelvingIsTakenBack() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        model.shelving().shelve();
        assertThat(desk.library().assets()).hasSize(1);
        desk.session().history().undo();
        assertThat(desk.library().assets()).isEmpty();
        assertThat(arrival.state()).isEqualTo(Arrival.State.READY);
        assertThat(model.shelving().report()).isEmpty();
    }

    @Test
    void arrivalsGoIntoTheLibraryThatIsChosen() {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other");
        desk.open();
        desk.session().shelving().open(other.root());
        assertThat(model.target().map(Library::root)).contains(desk.library().root());
        desk.session()
                .shelving()
                .putInto(desk.session().shelving().at(other.root().toString()));
        arrived(desk.file("block.obj", 2));
        model.shelving().shelve();
        assertThat(other.assets()).hasSize(1);
        assertThat(desk.library().assets()).isEmpty();
        assertThat(model.shelves()).containsExactlyElementsOf(other.shelves());
        // What is switched off is not put into.
        desk.session().shelving().switchOn(model.target().orElseThrow(), false);
        assertThat(model.target().map(Library::root)).contains(desk.library().root());
        assertThat(desk.workbench().settings().target()).isEqualTo(other.root().toString());
    }

    @Test
    void withoutALibraryThatIsSaid() {
        Arrival arrival = arrived(desk.file("block.obj", 2));
        desk.session().libraries().clear();
        model.shelving().shelve();
        assertThat(arrival.stateProperty().get()).isEqualTo(Arrival.State.READY);
        assertThat(model.target()).isEqualTo(Optional.empty());
        assertThat(desk.session().ledger().getFirst().text()).contains("no library is open");
    }

    @Test
    void aRoundThatIsCancelledLeavesNothingBeingShelved() {
        List<Arrival> all = new ArrayList<>();
        for (int i = 0; i < 3 * ReceiveFiles.AT_ONCE; i++) {
            all.add(arrived(desk.file("block-" + i + ".obj", 1 + 0.25 * i)));
        }
        all.forEach(arrival -> arrival.stateProperty().addListener((property, before, now) -> {
            if (now == Arrival.State.SHELVED) {
                List.copyOf(desk.session().jobs()).forEach(Job::cancel);
            }
        }));
        model.shelving().shelve();
        long shelved = all.stream()
                .filter(arrival -> arrival.state() == Arrival.State.SHELVED)
                .count();
        assertThat(shelved).as("those that were being worked on").isBetween(1L, (long) ReceiveFiles.AT_ONCE);
        assertThat(all)
                .filteredOn(arrival -> arrival.state() != Arrival.State.SHELVED)
                .allMatch(arrival -> arrival.state() == Arrival.State.READY);
        assertThat(desk.session().jobs()).isEmpty();
    }

    @Test
    void aFileThatIsGoneIsRefusedAndTheRestGoesOn() throws IOException {
        Arrival second = arrived(desk.file("second.obj", 3));
        Arrival third = arrived(desk.file("third.obj", 1));
        second.forgetContents();
        Files.delete(second.file());
        model.shelving().shelve();
        assertThat(second.state()).isNotEqualTo(Arrival.State.SHELVING);
        assertThat(second.messageProperty().get()).contains("no such file");
        assertThat(third.state()).as("the rest goes on").isEqualTo(Arrival.State.SHELVED);
    }

    @Test
    void whatLiesOutsideIsReadOnlyAfterItsFolderIsAllowed() throws IOException {
        Path outside = Files.createDirectories(folder.resolveSibling(folder.getFileName() + "-outside"));
        Files.write(outside.resolve("label.png"), Png.of(new BufferedImage(2, 2, 1)));
        Path file = desk.file("crate.obj", 1);
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Paint\nmap_Kd " + outside.resolve("label.png") + "\n");
        Arrival arrival = arrived(file);
        assertThat(arrival.missing()).singleElement().satisfies(told -> assertThat(told)
                .contains("lies outside"));
        assertThat(arrival.surveyProperty().get().orElseThrow().outside()).containsExactly(outside);
        model.allow(outside);
        assertThat(arrival.missing()).isEmpty();
        AtomicFiles.deleteTree(outside);
    }
}
