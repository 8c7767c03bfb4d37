package pantry.desktop.scenes;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.LatestWork;
import pantry.library.AssetKind;
import pantry.scene.PlacedMotions;
import pantry.scene.Placement;
import pantry.usecase.AlikeSkeletons;

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
    private List<String> own = List.of();
    private String startShown = "";
    private String speedShown = "";
    private Optional<PlacedMotions.Playing> first = Optional.empty();
    private boolean filling;

    /** The motions of the library that the first placement has the joints for, by what stands in the list. */
    private final Map<String, IndexedAsset> library = new LinkedHashMap<>();

    private final LatestWork looking;
    private Optional<Map.Entry<Set<String>, List<IndexedAsset>>> lookedFor = Optional.empty();

    MotionPane(ScenesModel model) {
        super(6);
        this.model = model;
        this.looking = new LatestWork(model.session().background());
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
            boolean fixed = all.stream().allMatch(PlacedMotions.Playing::isByItself);
            motion.setDisable(fixed);
            own = Stream.concat(
                            fixed ? Stream.empty() : Stream.of(AT_REST),
                            all.stream()
                                    .flatMap(playing -> playing.motions().stream())
                                    .map(PlacedMotions.Motion::name))
                    .distinct()
                    .toList();
            lookInLibrary();
            fill();
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

    private void fill() {
        motion.getItems().setAll(own);
        motion.getItems().addAll(library.keySet());
    }

    /** Looks for motions for the joints of what is selected first; in the background, and once for the same joints. */
    private void lookInLibrary() {
        Set<String> joints = model.sceneProperty()
                .get()
                .flatMap(open -> model.several().placements().stream()
                        .limit(MOST)
                        .map(placement -> open.motions().joints(placement.path()))
                        .filter(each -> !each.isEmpty())
                        .findFirst())
                .orElse(Set.of());
        List<IndexedAsset> motions = model.session().shelving().finder().items().stream()
                .filter(item -> item.kind().equals(AssetKind.MOTION.word()))
                .toList();
        Map.Entry<Set<String>, List<IndexedAsset>> wanted = Map.entry(joints, motions);
        if (Optional.of(wanted).equals(lookedFor)) {
            return;
        }
        lookedFor = Optional.of(wanted);
        library.clear();
        looking.quietly(
                "looking for motions",
                progress -> AlikeSkeletons.of(joints, motions, model.session().shelving()::asset, progress),
                found -> {
                    found.forEach(each ->
                            library.put(each.item().name() + " · " + each.item().shelf(), each.item()));
                    filling = true;
                    String value = motion.getValue();
                    fill();
                    motion.setValue(value);
                    filling = false;
                },
                // What cannot be read is told of where it is looked at.
                problem -> {});
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
        if (filling || chosen == null || chosen.equals(DIFFERS)) {
            return;
        }
        if (library.containsKey(chosen)) {
            model.edits().borrowMotion(library.get(chosen));
        } else {
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
