package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.becomes;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.shown;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilStill;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Hyperlink;
import javafx.scene.control.Labeled;
import javafx.scene.control.Slider;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.TreeView;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.stage.Stage;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.InWindow;
import pantry.desktop.controls.ColumnStates;
import pantry.desktop.controls.Theme;
import pantry.desktop.session.Desk;
import pantry.desktop.session.SearchScope;
import pantry.desktop.shelves.ShelvesModel;
import pantry.desktop.shelves.ShelvesView;
import pantry.desktop.view3d.View3d;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.model.Axis;
import pantry.workbench.Settings;

/** The parts of Shelves one by one, with work that is done at once: tables, forms, panels, places, measuring. */
@InWindow
class ShelvesPanelsTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Parts parts;
    private ShelvesModel model;

    @Start
    void start(Stage stage) throws Exception {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Masts", 9, "tall", "steel");
        desk.shelve("Tripod mast", "Masts", 3, "steel");
        desk.shelve("Fuel drum", "Power/Supply", 0.9, "diesel");
        parts = Parts.of(desk.session());
        model = parts.shelves().model();
        Windows.show(stage, parts.frame());
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void choose(FxRobot robot, String... names) {
        robot.interact(() -> {
            List<IndexedAsset> items = model.search().items().stream()
                    .filter(item -> List.of(names).contains(item.name()))
                    .toList();
            model.choose(items, Optional.of(items.getLast()));
        });
        WaitForAsyncUtils.waitForFxEvents();
    }

    private Asset asset(String name) {
        return desk.library().find(name);
    }

    @Test
    void theTableIsCopiedAndWrittenAsASpreadsheetReadsIt(FxRobot robot) throws Exception {
        robot.interact(() -> parts.shelves().node().copyTable());
        String text = ask(() -> Clipboard.getSystemClipboard().getString());
        List<CSVRecord> copied = CSVParser.parse(text, CSVFormat.TDF).getRecords();
        assertThat(copied).hasSize(4);
        assertThat(copied.getFirst().toList()).startsWith("Name", "Kind", "Shelf", "Triangles", "Height (m)");
        assertThat(copied.get(1).toList()).startsWith("Lattice mast", "model", "Masts", "12", "9.0");
        assertThat(copied.get(3).get(2)).isEqualTo("Power / Supply");
    }

    /** Two flags that hang on one rope share a tile, on which each is chosen by its small picture or the arrow keys. */
    @Test
    void figuresOfOneSkeletonShareATileOnTheirShelf(FxRobot robot) throws Exception {
        Path file = Files.writeString(folder.resolve("flag.usda"), Desk.FLAG);
        desk.receive(file, "Blue flag", "Masts");
        desk.receive(file, "Red flag", "Masts");
        robot.interact(() -> desk.session().shelving().refresh(desk.library()));
        until(
                "both flags share a tile",
                () -> robot.lookup("#series-red-flag").tryQuery().isPresent());
        assertThat(robot.lookup("#asset-blue-flag").tryQuery()).isPresent();
        assertThat(robot.lookup("#asset-red-flag").tryQuery()).isEmpty();

        untilStill(robot, "#series-red-flag");
        click(robot, "#series-red-flag");
        assertThat(selected()).isEqualTo("Red flag");
        until(
                "the other flag is shown",
                () -> robot.lookup("#asset-red-flag").tryQuery().isPresent());
        assertThat(robot.lookup("#asset-blue-flag").tryQuery()).isEmpty();
        assertThat(ask(() -> robot.lookup("#asset-red-flag").query().getAccessibleText()))
                .endsWith("2 of 2 with one skeleton");
        robot.push(KeyCode.LEFT);
        assertThat(selected()).isEqualTo("Blue flag");
        robot.push(KeyCode.RIGHT).push(KeyCode.RIGHT);
        assertThat(selected()).as("what stands behind both").isEqualTo("Lattice mast");

        robot.interact(() -> model.search().wordsProperty().set("flag"));
        until(
                "each is found",
                () -> robot.lookup("#asset-blue-flag").tryQuery().isPresent()
                        && robot.lookup("#asset-red-flag").tryQuery().isPresent());
        assertThat(robot.lookup("#series-red-flag").tryQuery())
                .as("what is looked for is seen one by one")
                .isEmpty();
    }

    private String selected() {
        return ask(() -> model.selectedProperty().get().orElseThrow().name());
    }

    @Test
    void whatNeedsAHandIsToldWhileNothingIsChosen(FxRobot robot) {
        until(
                "they are told",
                () -> robot.lookup("#summary-licence-none").tryQuery().isPresent());
        Hyperlink unlicensed = robot.lookup("#summary-licence-none").queryAs(Hyperlink.class);
        assertThat(unlicensed.getText()).isEqualTo("3 without a licence");
        robot.interact(unlicensed::fire);
        assertThat(model.search().wordsProperty().get()).isEqualTo("licence:none");
        choose(robot, "Fuel drum");
        assertThat(robot.lookup("#summary-licence-none").tryQuery()).isEmpty();
    }

    @Test
    void inALowWindowTagsAndLicencesAreThereWhenTheyAreAskedFor(FxRobot robot) {
        Stage stage = (Stage) parts.frame().getScene().getWindow();
        robot.interact(() -> {
            Slip slip = Slip.plain("Yard", AssetKind.PREFAB, "Yards", 1, Axis.Y);
            desk.workbench().intake().shelve(Desk.block("Yard", 2), slip, desk.library(), Progress.NONE);
            desk.session().refreshCatalogue(desk.library());
        });
        until(
                "kinds are offered",
                () -> robot.lookup("#facets .chip").queryAll().size() > 3);
        assertThat(robot.lookup("#more-facets").tryQuery()).isEmpty();
        robot.interact(() -> stage.setHeight(600));
        until("they are folded", () -> robot.lookup("#more-facets").tryQuery().isPresent());
        int few = robot.lookup("#facets .chip").queryAll().size();
        robot.interact(() -> robot.lookup("#more-facets").queryButton().fire());
        assertThat(robot.lookup("#facets .chip").queryAll().size()).isGreaterThan(few);
        assertThat(robot.lookup("#more-facets").queryButton().isFocused()).isTrue();
        robot.interact(() -> robot.lookup("#more-facets").queryButton().fire());
        assertThat(robot.lookup("#facets .chip").queryAll()).hasSize(few);
    }

    /** A motion is shown as pictures over its time; another motion has others, and what is still has none. */
    @Test
    void theCardShowsAMotionAsPicturesOverItsTime(FxRobot robot) {
        robot.interact(() -> desk.workbench()
                .intake()
                .shelve(
                        Desk.lift(),
                        Slip.plain("Lift", AssetKind.MODEL, "Lifts", 1, Axis.Y),
                        desk.library(),
                        Progress.NONE));
        robot.interact(() -> desk.session().refreshCatalogue(desk.library()));
        choose(robot, "Lift");
        HBox strip = robot.lookup("#motion-strip").queryAs(HBox.class);
        until("it is drawn", () -> strip.getChildren().size() == 6);
        Slider time = robot.lookup("#play-motion-time").queryAs(Slider.class);
        robot.interact(((Button) strip.getChildren().get(3))::fire);
        assertThat(time.getValue()).isCloseTo(0.6, within(1e-6));
        ComboBox<?> motions = robot.lookup("#motion-choice").queryComboBox();
        robot.interact(() -> motions.getSelectionModel().select(1));
        until("the other is drawn", () -> strip.getChildren().size() == 6);
        robot.interact(((Button) strip.getChildren().get(5))::fire);
        assertThat(time.getValue()).isCloseTo(0.5, within(1e-6));
        choose(robot, "Fuel drum");
        until("nothing moves", () -> !strip.isVisible() && !time.getParent().isVisible());
    }

    @Test
    void theTableIsShownAsItWasLeft(FxRobot robot) {
        robot.interact(() -> parts.shelves().node().show(ShelvesView.Way.TABLE));
        TableView<?> table = robot.lookup("#shelf-table").queryTableView();
        robot.interact(() -> move(table, "Height", 1));
        robot.interact(() -> {
            column(table, "Kind").setVisible(false);
            column(table, "Name").setPrefWidth(222);
        });
        until("it is kept", () -> desk.workbench().settings().table().stream()
                .anyMatch(kept -> kept.title().equals("Name") && kept.width() == 222));
        List<Settings.ColumnState> kept = desk.workbench().settings().table();
        TableView<Object> other = ask(() -> {
            TableView<Object> made = new TableView<>();
            for (String title : List.of("", "Name", "Kind", "Height", "Of tomorrow")) {
                made.getColumns().add(new TableColumn<>(title));
            }
            ColumnStates.give(made, kept);
            return made;
        });
        assertThat(other.getColumns())
                .extracting(TableColumn::getText)
                .containsExactly("", "Height", "Name", "Kind", "Of tomorrow");
        assertThat(column(other, "Kind").isVisible()).isFalse();
        assertThat(column(other, "Name").getPrefWidth()).isEqualTo(222);
        assertThat(ask(() -> {
                    ColumnStates.give(other, List.of(new Settings.ColumnState("Name", Double.NaN, true)));
                    return column(other, "Name").getPrefWidth();
                }))
                .isPositive();
    }

    private static TableColumn<?, ?> column(TableView<?> table, String title) {
        return table.getColumns().stream()
                .filter(column -> column.getText().equals(title))
                .findFirst()
                .orElseThrow();
    }

    private static <T> void move(TableView<T> table, String title, int to) {
        List<TableColumn<T, ?>> columns = new ArrayList<>(table.getColumns());
        TableColumn<T, ?> moved = columns.stream()
                .filter(column -> column.getText().equals(title))
                .findFirst()
                .orElseThrow();
        columns.remove(moved);
        columns.add(to, moved);
        table.getColumns().setAll(columns);
    }

    @Test
    void severalCardsAreWrittenAtOnceAndSayWhereTheyDiffer(FxRobot robot) {
        choose(robot, "Lattice mast", "Fuel drum");
        shown(robot, "2 assets");
        shown(robot, "tall (some)");
        click(robot, "#card-credit")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("The crew")
                .push(KeyCode.TAB);
        assertThat(asset("Lattice mast").card().credit()).isEqualTo("The crew");
        assertThat(asset("Fuel drum").card().credit()).isEqualTo("The crew");
        assertThat(asset("Tripod mast").card().credit()).isEmpty();
        click(robot, "#card-new-field")
                .write("Store")
                .push(KeyCode.TAB)
                .write("North")
                .push(KeyCode.ENTER);
        assertThat(asset("Fuel drum").card().fields()).containsEntry("Store", "North");
        assertThat(robot.lookup("#card-field-store").tryQuery()).isPresent();
        click(robot, "#card-notes").write("half typed").push(KeyCode.ESCAPE).push(KeyCode.TAB);
        assertThat(asset("Fuel drum").card().notes())
                .as("Escape gives up what was written")
                .isEmpty();
    }

    @Test
    void assetsAreMovedAndCopiedByKey(FxRobot robot) {
        choose(robot, "Fuel drum");
        robot.push(KeyCode.CONTROL, KeyCode.M);
        robot.interact(() -> {
            ComboBox<Object> target = robot.lookup("#move-target").queryComboBox();
            target.setValue(target.getItems().stream()
                    .filter(each -> each.toString().endsWith("Masts"))
                    .findFirst()
                    .orElseThrow());
        });
        click(robot, "#move-go");
        assertThat(asset("Fuel drum").shelf()).isEqualTo("Masts");
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(asset("Fuel drum").shelf()).isEqualTo("Power/Supply");
    }

    @Test
    void assetsAreMovedToAShelfThatIsMadeForThem(FxRobot robot) {
        choose(robot, "Fuel drum");
        robot.push(KeyCode.CONTROL, KeyCode.M);
        robot.interact(() -> {
            ComboBox<Object> target = robot.lookup("#move-target").queryComboBox();
            target.show();
            target.setValue(target.getItems().getLast());
            target.hide();
        });
        assertThat(robot.lookup("#move-go").query().isDisabled())
                .as("before it has a name")
                .isTrue();
        robot.write("Site/Barrels");
        click(robot, "#move-go");
        assertThat(asset("Fuel drum").shelf()).isEqualTo("Site/Barrels");
        robot.push(KeyCode.CONTROL, KeyCode.Z);
        assertThat(asset("Fuel drum").shelf()).isEqualTo("Power/Supply");
        assertThat(desk.library().shelves()).doesNotContain("Site/Barrels");
    }

    @Test
    void shelvesAndTagsAreRenamedWhereTheyAreListed(FxRobot robot) {
        robot.interact(() -> model.search()
                .scopeProperty()
                .set(new SearchScope.OnShelf(desk.library().root(), "Masts")));
        TreeView<?> places = robot.lookup("#places").query();
        robot.interact(places::requestFocus);
        robot.push(KeyCode.F2);
        click(robot, "#places-name")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("Site/Masts")
                .push(KeyCode.ENTER);
        assertThat(asset("Tripod mast").shelf()).isEqualTo("Site/Masts");
        becomes(
                new SearchScope.OnShelf(desk.library().root(), "Site/Masts"),
                () -> model.search().scopeProperty().get());
        robot.interact(() -> model.search()
                .scopeProperty()
                .set(new SearchScope.OnShelf(desk.library().root(), "Power")));
        robot.interact(places::requestFocus);
        robot.push(KeyCode.DELETE);
        assertThat(ask(() -> desk.session().ledger().getFirst().text())).contains("has assets on it");
    }

    @Test
    void aSearchIsKeptAndComesBack(FxRobot robot) {
        click(robot, "#find").write("mast height:>5m");
        robot.interact(() -> parts.shelves().node().keepSearch());
        click(robot, "#places-name")
                .push(KeyCode.CONTROL, KeyCode.A)
                .write("Tall masts")
                .push(KeyCode.ENTER);
        click(robot, "#find").push(KeyCode.ESCAPE);
        becomes(3, () -> model.search().items().size());
        click(robot, "Tall masts");
        assertThat(ask(() ->
                        model.search().items().stream().map(IndexedAsset::name).toList()))
                .containsExactly("Lattice mast");
        robot.push(KeyCode.DELETE);
        becomes(true, () -> model.keptSearches().isEmpty());
    }

    @Test
    void twoClicksOnTheSurfaceMeasureWhatLiesBetween(FxRobot robot) {
        choose(robot, "Lattice mast");
        click(robot, "#card-measure");
        View3d view = parts.shelves().node().view();
        robot.interact(view::frameAll);
        for (Vec3 corner : List.of(new Vec3(0.45, 0.5, 0.5), new Vec3(0.45, 8.5, 0.5))) {
            Vec3 seen = ask(() -> view.project(corner));
            var at = ask(() -> view.localToScreen(seen.x(), seen.y()));
            robot.clickOn(at);
        }
        String told = ask(() -> ((Labeled) robot.lookup("#measure").query()).getText());
        double metres = Double.parseDouble(told.replaceAll("[^0-9.].*", ""));
        assertThat(metres).as(told).isCloseTo(8, within(0.35));
        assertThat(told).contains("across").contains("up");
    }

    @Test
    void anEditedCopyIsOfferedForPublishingOnceItWasSaved(FxRobot robot) throws Exception {
        choose(robot, "Tripod mast");
        robot.interact(() -> parts.shelves().node().actions().editCopy(folder.resolve("copy"), "obj"));
        shown(robot, "A copy of v001 is being edited");
        shown(robot, "Reserved by you");
        Path file =
                ask(() -> parts.shelves().node().actions().copies().getFirst().file());
        Files.copy(desk.file("higher.obj", 3.5), file, StandardCopyOption.REPLACE_EXISTING);
        robot.interact(() -> parts.shelves().node().actions().lookAtCopies());
        shown(robot, "was saved. Publish it as the next version?");
        click(robot, "#card-publish-copy");
        becomes(true, () -> robot.lookup("#publish-ready").query().isDisabled());
        click(robot, "#publish-note").write("half a metre more").clickOn("#publish-ready");
        assertThat(asset("Tripod mast").ready()).contains("v002");
        assertThat(asset("Tripod mast").facts("v002").bounds().size().y()).isCloseTo(3.5, within(1e-4));
        shown(robot, "Free to edit");
        shown(robot, "“half a metre more”");
    }

    @Test
    void aRetiredVersionIsSaidOnTheCardAndTheShelf(FxRobot robot) {
        choose(robot, "Fuel drum");
        robot.interact(() -> parts.shelves().node().actions().setStatus("v001", pantry.library.VersionStatus.RETIRED));
        shown(robot, "v001 is retired: it is not to be used any more.");
        shown(robot, "Make it ready");
        assertThat(ask(() -> model.search().items().stream()
                        .filter(item -> item.status().equals("retired"))
                        .count()))
                .isOne();
    }

    @Test
    void whatOthersHoldCanBeTakenOverFromTheCard(FxRobot robot) {
        Library ben = Library.open(desk.library().root(), "ben", Clock.systemUTC());
        ben.reservations().reserve(asset("Fuel drum"));
        choose(robot, "Fuel drum");
        shown(robot, "Reserved by ben");
        robot.interact(() -> robot.lookup("#card-release").queryButton().fire());
        shown(robot, "Take it over from ben");
        robot.interact(
                () -> robot.lookup("#take-over-why").queryTextInputControl().setText("ben is at sea"));
        robot.interact(() -> robot.lookup("#take-over").queryButton().fire());
        shown(robot, "Reserved by you");
        robot.interact(() -> desk.session().history().undo());
        shown(robot, "Reserved by ben");
    }

    @Test
    void whatOthersReserveIsShownAndTakesNoFieldFromWhoeverWritesInIt(FxRobot robot) {
        choose(robot, "Fuel drum");
        shown(robot, "Free to edit");
        robot.interact(
                () -> robot.lookup("#card-new-field").queryTextInputControl().setText("weight"));
        TextInputControl name = robot.lookup("#card-name").queryTextInputControl();
        robot.interact(() -> {
            name.requestFocus();
            name.setText("Fuel drum, du");
        });
        Library ben = Library.open(desk.library().root(), "ben", Clock.systemUTC());
        ben.reservations().reserve(asset("Fuel drum"));
        until("it is known", () -> model.card()
                .detailsProperty()
                .get()
                .orElseThrow()
                .reservation()
                .isPresent());
        assertThat(ask(name::isFocused)).isTrue();
        assertThat(robot.lookup("#card-name").queryTextInputControl()).isSameAs(name);
        assertThat(name.getText()).isEqualTo("Fuel drum, du");
        assertThat(asset("Fuel drum").card().name()).isEqualTo("Fuel drum");
        robot.push(KeyCode.ESCAPE);
        shown(robot, "Reserved by ben");
        assertThat(robot.lookup("#card-new-field").queryTextInputControl().getText())
                .as("what was written elsewhere")
                .isEqualTo("weight");
        assertThat(robot.lookup("#card-name").queryTextInputControl().getText()).isEqualTo("Fuel drum");
    }

    @Test
    void aLibraryThatIsSwitchedOffIsLeftOutAndAnEmptyShelfSaysWhatToDo(FxRobot robot) {
        robot.interact(() -> desk.session().shelving().switchOn(desk.library(), false));
        shown(robot, "The shelves are empty");
        robot.interact(() -> desk.session().shelving().switchOn(desk.library(), true));
        robot.interact(() -> parts.shelves().node().actions().makeShelf(desk.library(), "Stores"));
        robot.interact(() -> model.search()
                .scopeProperty()
                .set(new SearchScope.OnShelf(desk.library().root(), "Stores")));
        shown(robot, "The shelf is empty");
        robot.interact(() -> model.search().scopeProperty().set(new SearchScope.Favourites()));
        shown(robot, "No favourites yet");
        click(robot, "#find").write("xyzzy");
        shown(robot, "Nothing matches “xyzzy”");
        click(robot, "Look for everything");
        becomes(3, () -> model.search().items().size());
    }

    @Test
    void everyWayToLookFollowsTheNightAndLargerText(FxRobot robot) {
        choose(robot, "Lattice mast", "Tripod mast", "Fuel drum");
        for (ShelvesView.Way way : ShelvesView.Way.values()) {
            robot.interact(() -> parts.shelves().node().show(way));
            robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.N);
            robot.push(KeyCode.CONTROL, KeyCode.PLUS);
            WaitForAsyncUtils.waitForFxEvents();
        }
        becomes(true, () -> Theme.isNight(parts.frame().getScene()));
        shown(robot, "3 chosen assets");
    }
}
