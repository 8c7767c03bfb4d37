package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.ask;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.grasp;
import static pantry.desktop.app.Waiting.until;
import static pantry.desktop.app.Waiting.untilStill;

import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Labeled;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.InWindow;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.workbench.Workbench;

/** The Shelves workplace by mouse and keyboard, from the search to the library's folder, and a colleague's changes. */
@InWindow
class ShelvesWorkplaceTest {
    @TempDir
    private static Path folder;

    private static WholeApplication application;
    private static Workbench workbench;
    private static Library library;

    private Parts parts;

    @BeforeAll
    static void makeLibrary() throws Exception {
        application = WholeApplication.in(folder, "tester");
        workbench = application.workbench();
        library = application.library();
        Asset mast = application.shelve(block("Lattice mast", 9), "Masts", "tall", "guyed");
        application.shelve(block("Tripod mast", 3), "Masts", "portable");
        application.shelve(block("Fuel drum", 0.9), "Power", "diesel");
        workbench
                .intake()
                .publish(
                        block("Lattice mast", 11),
                        WholeApplication.slip("Lattice mast", "Masts"),
                        new Intake.Next(mast, VersionStatus.READY, "two metres higher"),
                        library,
                        Progress.NONE);
    }

    private static Model block(String name, double height) {
        return WholeApplication.model(name, Shapes.block(1, height, 1), 0xB23A2E);
    }

    @AfterAll
    static void close() {
        application.close();
    }

    @Start
    void start(Stage stage) {
        parts = application.show(stage);
        parts.session().shelving().watch();
    }

    private void untilShown(FxRobot robot, String text) {
        until("“" + text + "” is shown", () -> robot.lookup((Node node) -> node instanceof Labeled labeled
                        && labeled.getText() != null
                        && labeled.getText().contains(text)
                        && labeled.getScene() != null)
                .tryQuery()
                .isPresent());
    }

    private List<String> names() {
        return parts.search().items().stream().map(IndexedAsset::name).toList();
    }

    private void search(FxRobot robot, String text) {
        click(robot, "#find")
                .push(KeyCode.CONTROL, KeyCode.A)
                .push(KeyCode.DELETE)
                .write(text);
    }

    @Test
    void findLookTagVersionMoveAndThrowAway(FxRobot robot) {
        until("the shelves are shown", () -> names().size() == 3);
        searching(robot);
        waysToLook(robot);
        card(robot);
        versions(robot);
        places(robot);
        colleague(robot);
        robot.interact(() -> parts.session().shelving().stopWatching());
    }

    private void searching(FxRobot robot) {
        search(robot, "portabel");
        until("a typing error is forgiven", () -> names().equals(List.of("Tripod mast")));
        untilShown(robot, "tag nearly “portable”");
        search(robot, "height:>2m");
        until("facts narrow", () -> names().size() == 2);
        click(robot, "guyed  1");
        until("a facet narrows further", () -> names().equals(List.of("Lattice mast")));
        search(robot, "colr:red");
        untilShown(robot, "there is no “colr:”");
        click(robot, "#find").push(KeyCode.ESCAPE);
        until("Escape shows all again", () -> names().size() == 3);
    }

    private void waysToLook(FxRobot robot) {
        click(robot, "#as-table");
        TableView<IndexedAsset> table = robot.lookup("#shelf-table").queryTableView();
        until("the table lists all", () -> table.getItems().size() == 3);
        robot.interact(() -> table.getColumns().stream()
                .filter(column ->
                        List.of("Kind", "Triangles", "Version", "Status").contains(column.getText()))
                .forEach(column -> column.setVisible(false)));
        until(
                "the columns of words use the room that others leave",
                () -> Math.abs(table.getVisibleLeafColumns().stream()
                                        .mapToDouble(TableColumn::getWidth)
                                        .sum()
                                + 18
                                - table.getWidth())
                        < 2);
        click(robot, "Height");
        until(
                "it is sorted by its column",
                () -> table.getItems().getFirst().name().equals("Fuel drum"));
        robot.push(KeyCode.ALT, KeyCode.DIGIT3);
        until(
                "they stand side by side",
                () -> robot.lookup("#line-up").tryQuery().isPresent());
        untilShown(robot, "11.0");
        robot.push(KeyCode.ALT, KeyCode.DIGIT1);
        until(
                "the shelves are back",
                () -> robot.lookup("#asset-fuel-drum").tryQuery().isPresent());
    }

    private void card(FxRobot robot) {
        untilStill(robot, "#asset-fuel-drum");
        click(robot, "#asset-fuel-drum");
        until(
                "its card is shown",
                () -> parts.shelves().model().card().previewProperty().get().isPresent());
        click(robot, "#card-add-tag").write("outdoor").push(KeyCode.ENTER);
        until(
                "the tag is on the card",
                () -> library.find("Fuel drum").card().tags().contains("outdoor"));
        robot.push(KeyCode.CONTROL, KeyCode.L);
        untilShown(robot, "tagged Fuel drum “outdoor”");
        robot.push(KeyCode.ESCAPE);
        click(robot, "#ledger-undo");
        until("and off again", () -> !library.find("Fuel drum").card().tags().contains("outdoor"));
        click(robot, "#card-favourite");
        until("it is a favourite", () -> workbench.personal().favourites().size() == 1);
        click(robot, "#card-measure");
        Node look = robot.lookup("#measure").query();
        assertThat(look).isNotNull();
        click(robot, "#card-measure").clickOn("#card-edges").clickOn("#card-edges");
        robot.interact(() -> robot.lookup("#card-licence").query().requestFocus());
        robot.write("Freeware");
        untilShown(robot, "is not on the SPDX list");
        robot.push(KeyCode.ESCAPE);
        robot.write("MIT").push(KeyCode.TAB);
        until(
                "the licence is written",
                () -> library.find("Fuel drum").card().licence().equals("MIT"));
    }

    private void versions(FxRobot robot) {
        click(robot, "#asset-lattice-mast");
        until(
                "both versions are on the strip",
                () -> robot.lookup("#version-v001").tryQuery().isPresent()
                        && robot.lookup("#version-v002").tryQuery().isPresent());
        robot.interact(() -> {
            ComboBox<String> with = robot.lookup("#compare-with").queryComboBox();
            with.setValue("v001");
        });
        until("they are compared", () -> robot.lookup("#compare").tryQuery().isPresent());
        untilShown(robot, "another shape");
        click(robot, "#compare-over").push(KeyCode.ESCAPE);
        until("Escape ends it", () -> robot.lookup("#compare").tryQuery().isEmpty());
        robot.push(KeyCode.CONTROL, KeyCode.R);
        until(
                "it is reserved",
                () -> library.reservations().of(library.find("Lattice mast")).isPresent());
        untilShown(robot, "Reserved by you");
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.R);
        until("and free again", () -> library.reservations().all().isEmpty());
    }

    private void places(FxRobot robot) {
        click(robot, "#make-shelf").clickOn("#places-name").write("Stores").push(KeyCode.ENTER);
        until("the shelf is there", () -> library.shelves().contains("Stores"));
        until("and is listed", () -> stores(robot).isPresent());
        // The places are listed anew whenever the library was read, and what was found before is gone then.
        until("all is at rest", () -> parts.session().background().isIdle());
        grasp(robot, "#asset-fuel-drum");
        Bounds shelf = ask(() -> {
            Node label = stores(robot).orElseThrow();
            return label.localToScreen(label.getBoundsInLocal());
        });
        robot.dropTo(shelf.getCenterX(), shelf.getCenterY());
        until(
                "what is dragged there stands there",
                () -> library.find("Fuel drum").shelf().equals("Stores"));
        until("that is in the ledger", () -> ledgerSays("moved Fuel drum to Stores"));
        click(robot, "#ledger-undo");
        until("and comes back", () -> library.find("Fuel drum").shelf().equals("Power"));
        // What comes back moves the others along the shelf once more.
        until("all is at rest", () -> parts.session().background().isIdle());
        click(robot, "#asset-tripod-mast");
        until("it is chosen", () -> parts.shelves().model().selectedProperty().get().stream()
                .anyMatch(item -> item.name().equals("Tripod mast")));
        robot.push(KeyCode.DELETE);
        until("it is in the trash", () -> names().equals(List.of("Lattice mast", "Fuel drum")));
        search(robot, "Check the library");
        robot.push(KeyCode.ENTER);
        untilShown(robot, "all is as it was sealed");
        click(robot, "Restore");
        until("it is restored", () -> library.assets().size() == 3);
        robot.push(KeyCode.ESCAPE);
        until("the shelves are shown", () -> names().size() == 3);
    }

    /** The shelf of that name among the places. */
    private static Optional<Node> stores(FxRobot robot) {
        Node places = robot.lookup("#places").query();
        return robot.lookup((Node node) ->
                        node instanceof Labeled labeled && "Stores".equals(labeled.getText()) && isIn(node, places))
                .tryQuery();
    }

    private boolean ledgerSays(String text) {
        return parts.session().ledger().getFirst().text().equals(text);
    }

    private static boolean isIn(Node node, Node ancestor) {
        for (Node at = node; at != null; at = at.getParent()) {
            if (at == ancestor) {
                return true;
            }
        }
        return false;
    }

    /** What somebody else does appears by itself. */
    private void colleague(FxRobot robot) {
        Library ben = Library.open(library.root(), "ben", Clock.systemUTC());
        ben.edit(List.of(ben.find("Fuel drum")), card -> card.withName("Fuel barrel"), Progress.NONE);
        until("the new name is shown", () -> names().contains("Fuel barrel"));
    }
}
