package pantry.desktop.app;

import static org.assertj.core.api.Assertions.assertThat;
import static pantry.desktop.app.Waiting.click;
import static pantry.desktop.app.Waiting.until;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.stage.Stage;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import pantry.desktop.InWindow;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.shelves.ShelvesModel;
import pantry.desktop.workplace.Workplace;
import pantry.library.Library;
import pantry.usd.file.LayerFiles;

/** Whatever asks for a file or a folder does with the answer what it says, and nothing where there is none. */
@InWindow
class AskedFilesTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Parts parts;
    private ShelvesModel shelves;
    private ReceiveModel receive;
    private PrepModel prep;
    private ScenesModel scenes;

    @Start
    void start(Stage stage) throws Exception {
        desk = new Desk(folder);
        desk.shelve("Lattice mast", "Masts", 9, "tall");
        desk.shelve("Fuel drum", "Power", 0.9, "diesel");
        parts = Parts.of(desk.session());
        shelves = parts.shelves().model();
        receive = parts.receive().model();
        prep = parts.prep().model();
        scenes = parts.scenes().model();
        Windows.show(stage, parts.frame());
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private void perform(FxRobot robot, String command) {
        click(robot, "#find");
        robot.interact(() -> robot.lookup("#find").queryAs(TextField.class).setText(command));
        robot.push(KeyCode.ENTER);
    }

    private void go(FxRobot robot, Workplace workplace) {
        robot.interact(() -> parts.navigator().go(workplace));
    }

    private void choose(FxRobot robot, String name) {
        until("the shelves are shown", () -> shelves.search().items().size() == 2);
        robot.interact(() -> shelves.selectedProperty()
                .set(shelves.search().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst()));
    }

    private List<Path> in(Path where) throws Exception {
        try (Stream<Path> files = Files.walk(where)) {
            return files.filter(Files::isRegularFile).toList();
        }
    }

    @Test
    void librariesAndProjectsAreOpenedAndMade(FxRobot robot) throws Exception {
        Library other = desk.workbench().createLibrary(folder.resolve("other"), "Other shelves");
        Answers.give(other.root());
        perform(robot, "Open a library");
        until("it is open", () -> desk.session().libraries().size() == 2);
        Path made = Files.createDirectories(folder.resolve("made here"));
        Answers.give(made);
        perform(robot, "New library in a folder");
        until("it is made", () -> desk.session().libraries().size() == 3);
        assertThat(made.resolve("pantry-library.json")).isRegularFile();
        Path project = Files.createDirectories(folder.resolve("another project"));
        Answers.give(project);
        perform(robot, "Open a project folder");
        assertThat(desk.session().projectProperty().get()).contains(project);

        // Nothing is chosen: nothing is done.
        Answers none = Answers.give();
        perform(robot, "Open a project folder");
        assertThat(none.asked()).hasSize(1);
        assertThat(desk.session().projectProperty().get()).contains(project);
    }

    @Test
    void filesAndFoldersAreTakenInAndTheReportIsSaved(FxRobot robot) throws Exception {
        go(robot, parts.receive());
        Answers.give(desk.file("post.obj", 2));
        robot.push(KeyCode.CONTROL, KeyCode.O);
        until("it has arrived", () -> receive.arrivals().size() == 1);
        Path many = Files.createDirectories(folder.resolve("many"));
        Files.move(desk.file("crate.obj", 1), many.resolve("crate.obj"));
        Files.move(desk.file("pole.obj", 3), many.resolve("pole.obj"));
        Answers.give(many);
        robot.push(KeyCode.CONTROL, KeyCode.SHIFT, KeyCode.O);
        until("all have arrived", () -> receive.arrivals().size() == 3);
        robot.push(KeyCode.CONTROL, KeyCode.ENTER);
        until("they are shelved", () -> desk.library().assets().size() == 5);
        Path report = folder.resolve("report.csv");
        Answers asked = Answers.give(report);
        perform(robot, "Save the report");
        assertThat(asked.asked()).containsExactly("Save the report: received.csv");
        assertThat(Files.readString(report)).contains("post.obj", "crate.obj", "pole.obj");

        // A folder is watched: what comes into it arrives by itself, until it is no longer.
        Answers.give(many);
        perform(robot, "Watch a folder");
        assertThat(receive.watch().folderProperty().get()).isPresent();
        perform(robot, "Watch a folder");
        assertThat(receive.watch().folderProperty().get()).isEmpty();
    }

    @Test
    void assetsAreHandedOutCopiedAndPublished(FxRobot robot) throws Exception {
        Path table = folder.resolve("assets.csv");
        Answers.give(table);
        perform(robot, "Save the table as CSV");
        assertThat(Files.readAllLines(table)).hasSize(3).anyMatch(line -> line.contains("Lattice mast"));

        choose(robot, "Lattice mast");
        Path out = Files.createDirectories(folder.resolve("out"));
        Answers.give(out);
        robot.push(KeyCode.CONTROL, KeyCode.H);
        click(robot, "Choose a folder…");
        until("it is handed out", () -> !in(out).isEmpty());

        Path next = desk.file("taller.obj", 11);
        Answers.give(next);
        robot.push(KeyCode.CONTROL, KeyCode.P);
        click(robot, "#publish-note").write("two metres more");
        click(robot, "#publish-ready");
        until(
                "it is the next version",
                () -> desk.library().find("Lattice mast").versions().equals(List.of("v001", "v002")));

        Path copy = Files.createDirectories(folder.resolve("copy"));
        Answers.give(copy);
        robot.push(KeyCode.CONTROL, KeyCode.E);
        click(robot, "Choose a folder and unpack…");
        until("it is unpacked", () -> !in(copy).isEmpty());
        assertThat(desk.library().reservations().of(desk.library().find("Lattice mast")))
                .as("it is reserved meanwhile")
                .isPresent();
    }

    @Test
    void whatIsInspectedIsSavedWithItsPlan(FxRobot robot) throws Exception {
        go(robot, parts.prep());
        Answers.give(desk.file("beam.obj", 0.3));
        robot.push(KeyCode.CONTROL, KeyCode.O);
        until("it is inspected", () -> prep.openedProperty().get().isPresent());
        Path saved = folder.resolve("clean.usdc");
        Answers asked = Answers.give(saved);
        robot.push(KeyCode.CONTROL, KeyCode.S);
        until("it is saved", () -> Files.exists(saved));
        assertThat(asked.asked()).containsExactly("Save the working copy: beam-tidy.usda");
        assertThat(LayerFiles.read(saved).defaultPrim()).isPresent();
        robot.push(KeyCode.ALT, KeyCode.DIGIT4);
        click(robot, "#prep-plan-draw");
        Path plan = folder.resolve("beam.svg");
        Answers.give(plan);
        click(robot, "#prep-plan-save");
        until("the plan is drawn", () -> Files.exists(plan));
        // A block of one metre by one, seen from above, at 1:50: 20 mm.
        assertThat(Files.readString(plan)).contains("<svg").contains("mm");
    }

    @Test
    void picturesOfFocusesAndOfAlternatesAreWritten(FxRobot robot) throws Exception {
        go(robot, parts.scenes());
        robot.interact(() -> {
            scenes.create("Yard");
            scenes.place(desk.library().find("Fuel drum"), pantry.base.math.Vec3.ZERO);
        });
        click(robot, "#focus-name").write("Near").push(KeyCode.ENTER);
        Path pictures = Files.createDirectories(folder.resolve("pictures"));
        Answers.give(pictures);
        click(robot, "#focus-pictures");
        until("they are written", () -> in(pictures).size() == 2);
        click(robot, "#alternates-edit");
        robot.interact(() -> {
            robot.lookup("#alternate-set").queryAs(TextField.class).setText("layout");
            robot.lookup("#alternate-name").queryAs(TextField.class).setText("winter");
        });
        click(robot, "#alternate-make");
        Path sheet = folder.resolve("sheet.png");
        Answers.give(sheet);
        click(robot, "#alternate-sheet");
        until("the sheet is written", () -> Files.exists(sheet));
        assertThat(javax.imageio.ImageIO.read(sheet.toFile()).getWidth()).isEqualTo(480 + 24);

        // The alternate shows a file that others use; one that cannot be read is told.
        Path broken = Files.writeString(folder.resolve("broken.usda"), "#usda 1.0\ndef {");
        Answers.give(broken);
        click(robot, "File…");
        assertThat(desk.session().ledger().getFirst().kind()).isEqualTo(LedgerLine.Kind.WRONG);
        Answers.give(desk.library().find("Lattice mast").readyLayer());
        click(robot, "File…");
        until("it is there", () -> scenes.placements().size() == 2);
    }
}
