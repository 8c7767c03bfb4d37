package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.until;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.scene.control.Labeled;
import javafx.scene.control.RadioButton;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.base.Progress;
import pantry.desktop.InWindow;
import pantry.desktop.receive.Arrival;
import pantry.desktop.receive.ReceiveModel;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Facts;

/**
 * The demo's arrivals from five folders, in the real window: one in millimetres, one with Z up, one with a lost texture that
 * is found, two of which the same is on the shelves, one off its origin, one with lights of its own, one in two
 * states, an architect's, one damaged.
 */
@InWindow
class DemoArrivalsTest {
    private final Path folder;
    private final WholeApplication application;
    private final int before;
    private Parts parts;

    DemoArrivalsTest(@TempDir Path folder) {
        this.folder = folder;
        application = WholeApplication.ofDemo(folder);
        before = application.library().assets().size();
    }

    @Start
    void start(Stage stage) {
        parts = application.show(stage);
    }

    @AfterEach
    void close() {
        application.close();
    }

    private List<String> refused() {
        return parts.receive().model().arrivals().stream()
                .filter(each -> each.state() == Arrival.State.REFUSED)
                .map(each -> each.name() + ": " + each.messageProperty().get())
                .toList();
    }

    private Arrival arrival(String file) {
        return parts.receive().model().arrivals().stream()
                .filter(each -> each.name().startsWith(file))
                .findFirst()
                .orElseThrow();
    }

    private void choose(FxRobot robot, String file) {
        // The list is longer than the window, so that not all rows can be clicked.
        robot.interact(() -> parts.receive().model().select(List.of(arrival(file))));
        until(file + " is shown", () -> parts.receive()
                .model()
                .selectedProperty()
                .get()
                .filter(arrival(file)::equals)
                .isPresent());
    }

    @Test
    void theRightOnesStandOnTheShelvesAndTheReportSaysSo(FxRobot robot) throws IOException {
        ReceiveModel model = parts.receive().model();
        until(
                "the library is open",
                () -> parts.session().libraries().size() == 1
                        && parts.session().jobs().isEmpty());
        click(robot, "#rail-Receive");
        robot.interact(() -> model.add(List.of(application.arrivals())));
        until(
                "all are read",
                () -> model.arrivals().size() == 15
                        && model.arrivals().stream()
                                .allMatch(each ->
                                        each.state() == Arrival.State.READY || each.state() == Arrival.State.REFUSED));
        assertThat(refused()).singleElement().asString().startsWith("snow-tractor-cut-off.glb: ");
        assertThat(model.arrivals().stream().map(Arrival::group).distinct()).hasSize(5);

        choose(robot, "water-tank");
        robot.clickOn((RadioButton) robot.lookup("Z, turned upright").query());
        choose(robot, "barrel");
        until(
                "its like is found",
                () -> !arrival("barrel").alikeProperty().get().isEmpty());
        WaitForAsyncUtils.waitForFxEvents();
        click(robot, "Take as its next version");
        choose(robot, "beacon");
        assertThat(robot.lookup(".note-box .label").queryAll())
                .anyMatch(node -> ((Labeled) node).getText().startsWith("It stands 12.00"));
        assertThat(arrival("supply-crate").missing()).containsExactly("crate-label.png");
        robot.interact(() -> model.findTextures(application.arrivals().resolveSibling("lost-and-found")));
        until(
                "the label is found",
                () -> arrival("supply-crate").missing().isEmpty()
                        && parts.session().jobs().isEmpty());

        assertThat(model.arrivals().stream()
                        .filter(each -> each.knownProperty().get().isPresent())
                        .map(each ->
                                each.name() + ": " + each.knownProperty().get().orElseThrow()))
                .as("what is left out")
                .containsExactly("tripod-mast-millimetres.obj: the same as Tripod mast 3 m on Instruments/Masts");
        choose(robot, "tripod-mast");
        click(robot, "Shelve it as well");
        click(robot, "#shelve");
        until("all are shelved", () -> model.arrivals().stream()
                .noneMatch(each -> each.state() == Arrival.State.READY || each.state() == Arrival.State.SHELVING));
        assertThat(refused()).hasSize(1);
        Path report = folder.resolve("received.csv");
        robot.interact(() -> model.shelving().saveReport(report));

        Library library = application.library();
        assertThat(library.assets()).hasSize(before + 13);
        assertThat(library.verify(Progress.NONE).ok()).isTrue();
        assertThat(library.find("Power/Supply/Fuel drum").versions()).containsExactly("v001", "v002");
        assertThat(facts(library, "Tripod mast millimetres").bounds().size().y())
                .isCloseTo(3, within(0.01));
        assertThat(facts(library, "Water tank z up").bounds().size().y()).isCloseTo(2, within(0.6));
        assertThat(facts(library, "Beacon on the map").bounds().max()[0]).isLessThan(1);
        assertThat(facts(library, "Signpost with lights").lights()).isZero();
        assertThat(facts(library, "Supply crate lost label").textures())
                .isNotEmpty()
                .allMatch(Facts.TextureFact::found);
        assertThat(library.find("New arrivals/Deck paints").card().kind().word())
                .isEqualTo("material");
        assertThat(facts(library, "Hut door").variants()).isEqualTo(Map.of("state", List.of("shut", "open")));
        assertThat(facts(library, "Office hut").bounds().size().y()).isCloseTo(4.23, within(0.01));
        List<String> lines = Files.readAllLines(report);
        assertThat(lines).hasSize(16);
        assertThat(lines).filteredOn(line -> line.startsWith("shelved,")).hasSize(14);
        assertThat(lines)
                .filteredOn(line -> line.startsWith("refused,"))
                .singleElement()
                .asString()
                .contains("cut off");
    }

    private static Facts facts(Library library, String name) {
        Asset asset = library.find("New arrivals/" + name);
        Optional<String> version = asset.shown();
        return asset.facts(version.orElseThrow());
    }
}
