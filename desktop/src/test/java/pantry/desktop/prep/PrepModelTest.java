package pantry.desktop.prep;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.exchange.ModelWriters;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.prep.inspect.Finding;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.workpiece.Workpiece;

/** What the workplace knows and does, without a window; work is done at once and in order. */
class PrepModelTest {
    private static final int BOLTS = 4;
    private static final Mesh BOLT = Shapes.cylinder(0.05, 0.3, 40);

    @TempDir
    private Path folder;

    private Desk desk;
    private ArrivalSource arrivals;
    private PrepModel model;

    @BeforeEach
    void open() throws Exception {
        desk = new Desk(folder);
        desk.shelve("Fuel drum", "Power", 0.9);
        desk.shelve("Lattice mast", "Masts", 9);
        arrivals = mock(ArrivalSource.class);
        when(arrivals.waitingFiles()).thenReturn(List.of());
        when(arrivals.target()).thenReturn(Optional.empty());
        model = new PrepModel(desk.session(), arrivals);
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    /** The same bolt four times, each with its place in its points. */
    private Path bolts(String name) {
        List<Model.Node> nodes = IntStream.range(0, BOLTS)
                .mapToObj(i -> Model.Node.of(
                        "Bolt" + "ABCD".charAt(i),
                        Matrix4.IDENTITY,
                        List.of(new Model.Part(
                                BOLT.transformed(Matrix4.translation(new Vec3(0.4 * i, 0, 0))), Material.PLAIN)),
                        List.of()))
                .toList();
        Path file = folder.resolve(name);
        ModelWriters.write(new Model("Bolts", nodes, Model.Extras.NONE), file);
        return file;
    }

    private Opened opened() {
        return model.openedProperty().get().orElseThrow();
    }

    private List<String> titles() {
        return model.items().stream().map(InspectionItem::title).toList();
    }

    private void selectItem(String title) {
        model.selectedProperty()
                .set(model.items().stream()
                        .filter(item -> item.title().equals(title))
                        .findFirst());
    }

    private List<String> told() {
        return desk.session().ledger().stream().map(LedgerLine::text).toList();
    }

    private double height() {
        return opened().model().bounds().size().y();
    }

    @Test
    void aFileIsAsLargeAsItsSlipSaysOrAsIsLikelyAndCanBeUnderstoodOtherwise() {
        Path arrival = desk.file("post.stl", 1510);
        when(arrivals.waitingFiles()).thenReturn(List.of(arrival));
        when(arrivals.reading(any())).thenReturn(Optional.of(new Workpiece.Reading(0.01, Axis.Y)));
        model.openArrival(arrival);
        assertThat(height()).as("as its slip says").isCloseTo(15.1, within(1e-4));
        when(arrivals.reading(any())).thenReturn(Optional.empty());
        model.add(List.of(desk.file("mast.stl", 1510)));
        selectItem("mast.stl");
        assertThat(height()).as("as is likely").isCloseTo(1.51, within(1e-5));
        model.read(new Workpiece.Reading(1, Axis.Z));
        assertThat(opened().piece().reading()).contains(new Workpiece.Reading(1, Axis.Z));
        assertThat(opened().model().bounds().size().z())
                .as("tall along Z before")
                .isCloseTo(1510, within(0.01));
        model.read(new Workpiece.Reading(0.001, Axis.Y));
        assertThat(height()).isCloseTo(1.51, within(1e-5));
        model.change("Moved", piece -> piece.editor()
                .changeAll(
                        "moved",
                        edits -> edits.define(
                                piece.editor()
                                        .stage()
                                        .defaultPrim()
                                        .orElseThrow()
                                        .path()
                                        .child("More"),
                                "Xform")));
        model.read(new Workpiece.Reading(1, Axis.Y));
        assertThat(height()).as("what was changed is not lost").isCloseTo(1.51, within(1e-5));
    }

    @Test
    void arrivalsFilesScenesAndAssetsAreListedInThisOrderAndThoseThatAreGoneAreNot() throws Exception {
        Path arrival = desk.file("post.obj", 2);
        when(arrivals.waitingFiles()).thenReturn(List.of(arrival));
        desk.workbench().createScene(folder.resolve("project/yard.usda"));
        desk.session().listScenes();
        model.add(List.of(bolts("bolts.obj")));
        assertThat(titles()).containsExactly("post.obj", "bolts.obj", "yard.usda", "Lattice mast", "Fuel drum");
        when(arrivals.waitingFiles()).thenReturn(List.of());
        Files.delete(folder.resolve("project/yard.usda"));
        desk.session().listScenes();
        assertThat(titles()).containsExactly("bolts.obj", "Lattice mast", "Fuel drum");
    }

    @Test
    void nothingIsListedBeforeSomebodyComes() {
        assertThat(model.items()).isEmpty();
        desk.shelve("Wind vane", "Masts", 1);
        desk.session().refreshCatalogue(desk.library());
        assertThat(model.items()).isEmpty();
        model.list().refresh();
        assertThat(titles()).contains("Wind vane");
    }

    @Test
    void whatIsKnownOfAnItemOutlivesANewList() {
        model.list().refresh();
        InspectionItem drum = model.items().getLast();
        assertThat(drum.tallyProperty().get()).as("inspected in the background").isPresent();
        desk.shelve("Wind vane", "Masts", 1);
        desk.session().refreshCatalogue(desk.library());
        assertThat(model.items()).anyMatch(item -> item == drum);
    }

    @Test
    void aFileIsInspectedAndPutRightAsAWholeAndTakenBackAsAWhole() {
        model.add(List.of(bolts("bolts.obj")));
        assertThat(model.busyProperty().get()).isFalse();
        long before = opened().weight().trianglesStored();
        assertThat(opened().findings()).anyMatch(finding -> finding.rule().id().equals("twins"));
        model.chosen().tick(finding -> finding.rule().id().equals("twins"), true);
        assertThat(model.chosen().foreseenProperty().get().orElseThrow().trianglesStored())
                .as("what it would weigh")
                .isEqualTo(before / BOLTS);
        model.tidy();
        assertThat(opened().weight().trianglesStored()).isEqualTo(before / BOLTS);
        assertThat(model.chosen().tickedProperty().get())
                .as("what was put right is no longer ticked")
                .isEmpty();
        assertThat(told()).first().asString().startsWith("Put right: 1 of bolts.obj");
        model.undo();
        assertThat(opened().weight().trianglesStored()).isEqualTo(before);
        assertThat(opened().changed()).isFalse();
        model.redo();
        assertThat(opened().weight().trianglesStored()).isEqualTo(before / BOLTS);
    }

    @Test
    void theLedgersUndoFindsTheWorkingCopyAlthoughAnotherIsOpen() {
        model.add(List.of(bolts("bolts.obj")));
        model.chosen().tick(finding -> finding.rule().id().equals("twins"), true);
        model.tidy();
        selectItem("Fuel drum");
        desk.session().history().undo();
        assertThat(opened().subject().title()).isEqualTo("bolts.obj");
        assertThat(opened().changed()).isFalse();
    }

    @Test
    void aChangedCopyWaitsUntilSomebodyComesBackAndIsToldAsUnsaved() {
        model.add(List.of(bolts("bolts.obj")));
        model.chosen().tick(Finding::fixable, true);
        model.tidy();
        long light = opened().weight().trianglesStored();
        assertThat(model.unsaved()).isEqualTo(1);
        selectItem("Fuel drum");
        assertThat(opened().subject().title()).isEqualTo("Fuel drum");
        assertThat(model.unsaved()).as("it is still there").isEqualTo(1);
        selectItem("bolts.obj");
        assertThat(opened().weight().trianglesStored()).isEqualTo(light);
        List<String> then = new ArrayList<>();
        model.save(folder.resolve("clean.usda"), () -> then.add("saved"));
        assertThat(then).containsExactly("saved");
        assertThat(model.unsaved()).isZero();
        assertThat(folder.resolve("clean.usda")).isRegularFile();
    }

    @Test
    void aFileThatCannotBeReadIsToldAndTheNextOneIsOpened() throws Exception {
        Path broken = Files.writeString(folder.resolve("broken.glb"), "no model");
        model.add(List.of(broken));
        assertThat(model.openedProperty().get()).isEmpty();
        assertThat(model.refusedProperty().get().orElseThrow().file()).contains(broken.toString());
        assertThat(model.busyProperty().get()).isFalse();
        model.add(List.of(bolts("bolts.obj")));
        assertThat(model.refusedProperty().get()).isEmpty();
        assertThat(opened().subject().title()).isEqualTo("bolts.obj");
    }

    @Test
    void anAssetBecomesItsNextVersionAndThatIsOpened() {
        model.list().refresh();
        IndexedAsset drum = desk.session().shelving().finder().items().stream()
                .filter(item -> item.name().equals("Fuel drum"))
                .findFirst()
                .orElseThrow();
        model.open(desk.library(), drum);
        assertThat(opened().subject().title()).isEqualTo("Fuel drum");
        model.change("hid the body", piece -> piece.editor()
                .changeAll(
                        "hid the body",
                        edits -> edits.setField(
                                opened().contents().tops().getFirst().path(), "comment", new Value.Text("looked at"))));
        assertThat(opened().changed()).isTrue();
        model.publish("looked at", VersionStatus.READY);
        Asset now = desk.library().find("Fuel drum");
        assertThat(now.versions()).containsExactly("v001", "v002");
        assertThat(opened().piece().shelved().orElseThrow().version()).isEqualTo("v002");
        assertThat(model.unsaved()).isZero();
        assertThat(titles().stream().filter("Fuel drum"::equals))
                .as("it is listed once")
                .hasSize(1);
        assertThat(now.ready()).contains("v002");
        desk.session().history().undo();
        Asset back = desk.library().find("Fuel drum");
        assertThat(back.ready()).as("what was followed before").contains("v001");
        assertThat(back.status("v002")).isEqualTo(VersionStatus.DRAFT);
        assertThat(desk.session().ledger().getFirst().text())
                .isEqualTo("took back: v001 of Fuel drum is followed again, v002 is a draft");
    }

    @Test
    void pointingAndSelectingFollowWhatIsOpen() {
        model.add(List.of(bolts("bolts.obj")));
        Finding twins = opened().findings().stream()
                .filter(finding -> finding.rule().id().equals("twins"))
                .findFirst()
                .orElseThrow();
        model.chosen().pointedProperty().set(Optional.of(twins));
        assertThat(model.chosen().foreseenProperty().get())
                .as("of the one that is pointed at")
                .isPresent();
        model.selectionProperty().set(Set.of(SdfPath.of("/nowhere")));
        selectItem("Lattice mast");
        assertThat(model.chosen().pointedProperty().get()).isEmpty();
        assertThat(model.selectionProperty().get()).isEmpty();
        assertThat(model.chosen().foreseenProperty().get()).isEmpty();
    }

    @Test
    void aQuestionIsAskedOfTheWorkingCopyAndLeavesItAsItIs() {
        model.add(List.of(bolts("bolts.obj")));
        List<Long> triangles = new ArrayList<>();
        model.ask("counting", piece -> progress -> piece.weight().trianglesStored(), triangles::add);
        assertThat(triangles).containsExactly(opened().weight().trianglesStored());
        assertThat(opened().changed()).isFalse();
    }
}
