package pantry.desktop.scenes;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.scene.PlacedMotions;
import pantry.scene.Placement;

/** What the selected placements do over time: which motion, from when on, and how fast. */
final class MotionPane extends VBox {
    private static final PseudoClass WRONG = PseudoClass.getPseudoClass("wrong");
    private static final String AT_REST = "stands at rest";

    /** So many placements are looked at, of those that can move. */
    private static final int MOST = 200;

    private static final String DIFFERS = "each its own";

    private final ScenesModel model;
    private final ComboBox<String> motion = new Choice<>();
    private final TextField start = field("motion-start", "Seconds of the scene at which it begins");
    private final TextField speed = field("motion-pace", "Times as fast as it is by itself");
    private String startShown = "";
    private String speedShown = "";
    private Optional<PlacedMotions.Playing> first = Optional.empty();
    private boolean filling;

    MotionPane(ScenesModel model) {
        super(6);
        this.model = model;
        motion.setId("placed-motion");
        motion.setAccessibleText("Motion");
        motion.getStyleClass().add("small");
        motion.setMaxWidth(Double.MAX_VALUE);
        HBox.setHgrow(motion, Priority.ALWAYS);
        motion.setOnAction(event -> choose());
        HBox figures = new HBox(
                6, Controls.whole("from", Styles.FAINT), start, Controls.whole("s, at ×", Styles.FAINT), speed);
        figures.setAlignment(Pos.CENTER_LEFT);
        getChildren().setAll(motion, figures);
    }

    private TextField field(String id, String hint) {
        TextField field = new TextField();
        field.setId(id);
        field.getStyleClass().add("number-field");
        field.setPromptText(SharedPane.DIFFERS);
        Controls.hint(field, hint);
        field.setOnAction(event -> time());
        field.focusedProperty().addListener((property, before, now) -> {
            if (!now) {
                time();
            }
        });
        return field;
    }

    /** Tells what the selected placements do; whether any of them can move. */
    boolean show() {
        filling = true;
        List<PlacedMotions.Playing> all = model.sceneProperty()
                .get()
                .filter(open -> model.display().moves())
                .map(open -> open.motions()
                        .of(
                                model.several().placements().stream()
                                        .map(Placement::path)
                                        .toList(),
                                MOST))
                .orElse(List.of());
        first = all.stream().findFirst();
        if (first.isPresent()) {
            List<String> names = Stream.concat(
                            Stream.of(AT_REST),
                            all.stream()
                                    .flatMap(playing -> playing.motions().stream())
                                    .map(PlacedMotions.Motion::name))
                    .distinct()
                    .toList();
            motion.getItems().setAll(names);
            motion.setValue(same(all.stream().map(MotionPane::done).toList()).orElse(DIFFERS));
            startShown = figure(all, PlacedMotions.Playing::start);
            speedShown = figure(all, PlacedMotions.Playing::speed);
            start.setText(startShown);
            speed.setText(speedShown);
            start.pseudoClassStateChanged(WRONG, false);
            speed.pseudoClassStateChanged(WRONG, false);
        }
        filling = false;
        return first.isPresent();
    }

    private static String done(PlacedMotions.Playing playing) {
        return playing.bound().map(PlacedMotions.Motion::name).orElse(AT_REST);
    }

    private static String figure(List<PlacedMotions.Playing> all, Function<PlacedMotions.Playing, Double> of) {
        return same(all.stream().map(of).toList()).map(Figures::show).orElse("");
    }

    /** What all of them are; empty where they differ. */
    private static <T> Optional<T> same(List<T> all) {
        return all.stream().distinct().count() == 1 ? Optional.of(all.getFirst()) : Optional.empty();
    }

    private void choose() {
        String chosen = motion.getValue();
        if (!filling && chosen != null && !chosen.equals(DIFFERS)) {
            model.edits().doMotion(Optional.of(chosen).filter(name -> !name.equals(AT_REST)));
        }
    }

    private void time() {
        if (filling || first.isEmpty()) {
            return;
        }
        PlacedMotions.Playing before = first.get();
        boolean hasStart = isTyped(start, startShown);
        boolean hasSpeed = isTyped(speed, speedShown);
        Optional<Double> from = hasStart ? Figures.typed(start.getText(), before.start()) : Optional.empty();
        Optional<Double> pace = hasSpeed
                ? Figures.typed(speed.getText(), before.speed()).filter(figure -> figure > 0)
                : Optional.empty();
        start.pseudoClassStateChanged(WRONG, hasStart && from.isEmpty());
        speed.pseudoClassStateChanged(WRONG, hasSpeed && pace.isEmpty());
        boolean isWrong = hasStart && from.isEmpty() || hasSpeed && pace.isEmpty();
        if ((hasStart || hasSpeed) && !isWrong) {
            model.edits().timeMotion(from, pace);
        }
    }

    /** Whether a figure was written there; what is left as it was shown, or blank, stays each placement's own. */
    private static boolean isTyped(TextField field, String shown) {
        return !field.getText().isBlank() && !field.getText().equals(shown);
    }
}
