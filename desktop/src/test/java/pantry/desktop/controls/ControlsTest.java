package pantry.desktop.controls;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.Popup;
import javafx.stage.Stage;
import javafx.stage.Window;
import org.junit.jupiter.api.Test;
import org.testfx.api.FxRobot;
import org.testfx.framework.junit5.Start;
import org.testfx.util.WaitForAsyncUtils;
import pantry.desktop.DoubleClick;
import pantry.desktop.InWindow;
import pantry.library.Licences;

@InWindow
class ControlsTest {
    private final int[] pressed = {0};
    private final List<KeyCode> behind = new CopyOnWriteArrayList<>();
    private Choice<String> choice;
    private Choice<String> unit;
    private Spinner<Integer> counter;
    private Button button;
    private Button below;
    private Button above;
    private TextField words;
    private LicenceField licence;
    private Fold fold;

    @Start
    void start(Stage stage) {
        choice = new Choice<>();
        choice.setId("choice");
        choice.getItems().setAll("metres", "feet", "square metres");
        choice.setValue("metres");
        TypeAhead.in(choice, item -> item);
        counter = Controls.counter(1, 12, 6);
        button = Controls.button("Press", "", "What it does", () -> pressed[0]++);
        unit = new Choice<>();
        unit.setId("unit");
        unit.getItems().setAll("inches", "square feet");
        unit.setValue("inches");
        below = Controls.button("Below", "", "What comes to lie there", () -> pressed[0]++);
        above = Controls.button("Above", "", "Goes away", () -> Controls.showOnly(above, false));
        StackPane stack = new StackPane(below, above);
        StrayClicks.ignoreBelow(stack);
        words = new TextField();
        words.setId("words");
        SuggestedWords.behindCommas(words, begun -> Stream.of("steel", "stone", "tall")
                .filter(word -> word.startsWith(begun))
                .toList());
        licence = new LicenceField("licence", begun -> Licences.like(begun, 10));
        fold = new Fold("Pivot", new Label("In its centre"));
        fold.tell("kept");
        VBox all = new VBox(20, choice, unit, counter, button, stack, words, licence, fold);
        all.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (!OwnKeys.claimed(event) && event.getCode().isLetterKey()) {
                behind.add(event.getCode());
            }
        });
        stage.setScene(new Scene(all, 300, 480));
        stage.setX(0);
        stage.setY(0);
        stage.show();
    }

    private static <T> T ask(Callable<T> question) {
        return WaitForAsyncUtils.waitForAsyncFx(20_000, question);
    }

    @Test
    void aChoiceCannotBeTakenAwayWithControl(FxRobot robot) {
        robot.clickOn("#choice");
        robot.press(KeyCode.CONTROL);
        robot.clickOn((Node node) -> node instanceof ListCell<?> cell
                && "metres".equals(cell.getItem())
                && cell.getListView() != null
                && cell.isVisible());
        robot.release(KeyCode.CONTROL);
        assertThat(ask(() -> choice.getValue())).isEqualTo("metres");
        robot.push(KeyCode.CONTROL, KeyCode.SPACE);
        assertThat(ask(() -> choice.getValue())).isEqualTo("metres");
    }

    @Test
    void aChoiceIsStillMadeByHand(FxRobot robot) {
        robot.clickOn("#choice").push(KeyCode.DOWN).push(KeyCode.ENTER);
        assertThat(ask(() -> choice.getValue())).isEqualTo("feet");
    }

    @Test
    void lettersChooseInAListThatIsOpenAndReachNothingBehindIt(FxRobot robot) {
        robot.clickOn("#unit").push(KeyCode.S).push(KeyCode.Q);
        assertThat(behind).as("what the letters mean elsewhere").isEmpty();
        robot.push(KeyCode.ENTER);
        assertThat(ask(() -> unit.getValue())).isEqualTo("square feet");
        robot.push(KeyCode.I);
        assertThat(ask(() -> unit.getValue())).as("it is closed").isEqualTo("square feet");
        assertThat(behind).contains(KeyCode.I);
    }

    @Test
    void lettersChooseInAListWhetherItIsOpenOrNot(FxRobot robot) {
        robot.clickOn("#choice").push(KeyCode.ESCAPE).write("f");
        assertThat(ask(() -> choice.getValue())).as("it begins so").isEqualTo("feet");
        robot.clickOn("#choice").write("tres").push(KeyCode.ENTER);
        assertThat(ask(() -> choice.getValue())).as("it has that in its name").isEqualTo("metres");
        robot.clickOn("#choice").write("square m").push(KeyCode.ENTER);
        assertThat(ask(() -> choice.getValue())).as("a space is a letter").isEqualTo("square metres");
        robot.clickOn("#choice").write("met").push(KeyCode.ENTER);
        robot.write("zz");
        assertThat(ask(() -> choice.getValue())).as("nothing is like it").isEqualTo("metres");
    }

    @Test
    void lettersInANumberLeaveItAsItWas(FxRobot robot) {
        doubleClick(robot, counter.getEditor()).write("sam").push(KeyCode.UP);
        assertThat(ask(() -> counter.getValue())).isBetween(6, 7);
        doubleClick(robot, counter.getEditor()).write("900").push(KeyCode.ENTER);
        assertThat(ask(() -> counter.getValue())).as("the most there can be").isEqualTo(12);
    }

    @Test
    void aHintIsMadeWhenTheMouseComesAndNotBefore(FxRobot robot) {
        assertThat(ask(() -> button.getProperties().values().stream().anyMatch(Tooltip.class::isInstance)))
                .isFalse();
        assertThat(ask(() -> button.getAccessibleHelp())).isEqualTo("What it does");
        robot.moveTo(button);
        assertThat(ask(() -> button.getProperties().values().stream().anyMatch(Tooltip.class::isInstance)))
                .isTrue();
        robot.interact(() -> Controls.hint(button, "Something else"));
        assertThat(ask(() -> button.getProperties().values().stream()
                        .filter(Tooltip.class::isInstance)
                        .map(tooltip -> ((Tooltip) tooltip).getText())
                        .findFirst()))
                .contains("Something else");
        robot.clickOn(button);
        assertThat(pressed[0]).isEqualTo(1);
        assertThat(ask(() -> Window.getWindows().size())).isPositive();
    }

    @Test
    void theSecondClickOnWhatWentAwayIsNotOneOnWhatLayBelow(FxRobot robot) {
        doubleClick(robot, above);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(ask(() -> above.isVisible())).isFalse();
        assertThat(pressed[0]).isZero();
        robot.clickOn(below);
        doubleClick(robot, button);
        WaitForAsyncUtils.waitForFxEvents();
        assertThat(pressed[0]).isEqualTo(3);
    }

    private static FxRobot doubleClick(FxRobot robot, Node node) {
        robot.moveTo(node);
        return DoubleClick.here(robot);
    }

    private static String written(TextField field) {
        return ask(field::getText);
    }

    private boolean suggests() {
        return ask(() -> Window.getWindows().stream().anyMatch(Popup.class::isInstance));
    }

    @Test
    void wordsAreSuggestedBehindEachCommaAndTakenByKeyOrMouse(FxRobot robot) {
        robot.clickOn("#words").write("st");
        assertThat(suggests()).isTrue();
        robot.type(KeyCode.DOWN, KeyCode.DOWN, KeyCode.ENTER);
        assertThat(written(words)).isEqualTo("stone");
        assertThat(suggests()).isFalse();
        robot.write(",t");
        robot.push(KeyCode.DOWN).push(KeyCode.ENTER);
        assertThat(written(words)).isEqualTo("stone, tall");
        robot.write(", ").push(KeyCode.DOWN);
        assertThat(suggests()).as("all, where they are asked for").isTrue();
        robot.push(KeyCode.ESCAPE);
        assertThat(suggests()).isFalse();
        robot.write("x");
        assertThat(suggests()).as("nothing begins so").isFalse();
        robot.eraseText(1).write("ste");
        robot.clickOn("#choice");
        assertThat(suggests()).as("the field was left").isFalse();
    }

    @Test
    void aLicenceIsCheckedWhileItIsWritten(FxRobot robot) {
        robot.clickOn("#licence").write("cc0");
        assertThat(ask(licence::isUnderstood)).isFalse();
        assertThat(robot.lookup(".wrong-text").queryLabeled().isVisible())
                .as("it may become one")
                .isFalse();
        robot.write("zz");
        assertThat(robot.lookup(".wrong-text").queryLabeled().isVisible())
                .as("nothing begins so")
                .isTrue();
        robot.push(KeyCode.BACK_SPACE).push(KeyCode.BACK_SPACE);
        robot.interact(() -> licence.getScene().getRoot().requestFocus());
        assertThat(robot.lookup(".wrong-text").queryLabeled().isVisible())
                .as("it is left so")
                .isTrue();
        robot.interact(() -> {
            licence.field().requestFocus();
            licence.field().end();
        });
        robot.push(KeyCode.DOWN).push(KeyCode.ENTER);
        assertThat(written(licence.field())).isEqualTo("CC0-1.0");
        assertThat(ask(licence::isUnderstood)).isTrue();
        robot.write(" OR mi").push(KeyCode.DOWN);
        assertThat(suggests()).as("the last word alone").isTrue();
    }

    @Test
    void aFoldedSectionSaysInItsHeadingWhatIsSetAndOpensByKeyOrMouse(FxRobot robot) {
        Button heading = robot.lookup("#fold-pivot").queryButton();
        assertThat(heading.getAccessibleText()).isEqualTo("Pivot: kept");
        assertThat(ask(fold::isOpen)).isFalse();
        robot.clickOn(heading);
        assertThat(ask(fold::isOpen)).isTrue();
        assertThat(robot.lookup("In its centre").query().localToScene(0, 0).getY())
                .isPositive();
        robot.type(KeyCode.SPACE);
        assertThat(ask(fold::isOpen)).isFalse();
        assertThat(ask(() -> fold.getHeight())).isLessThan(40);
    }
}
