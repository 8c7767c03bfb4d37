package pantry.desktop.receive;

import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.control.skin.VirtualFlow;
import javafx.scene.image.Image;
import javafx.scene.image.ImageView;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.intake.ArrivalSummary;

/** What arrived, folder by folder, with a tick at every level. Several can be chosen at once. */
final class ArrivalTree extends TreeView<ArrivalTree.Line> {
    private static final double PICTURE = 24;

    private static final String READY = "ready";

    /** How many lines stay above one that is scrolled to. */
    private static final int ROWS_ABOVE = 3;

    private final ReceiveModel model;
    private final Map<Arrival, TreeItem<Line>> items = new HashMap<>();
    private boolean following;

    /** The arrival that was chosen last: only another one is scrolled to. */
    private @Nullable Arrival shown;

    /** A line of the tree. */
    sealed interface Line {
        /** The arrivals that a tick on the line is for. */
        List<Arrival> arrivals();
    }

    private record Group(String name, List<Arrival> arrivals) implements Line {}

    private record One(Arrival arrival) implements Line {
        @Override
        public List<Arrival> arrivals() {
            return List.of(arrival);
        }
    }

    ArrivalTree(ReceiveModel model) {
        this.model = model;
        setId("arrivals");
        setAccessibleText("Arrivals; Space ticks one");
        setShowRoot(false);
        setRoot(new TreeItem<>());
        setCellFactory(tree -> new LineCell());
        getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        getSelectionModel().getSelectedItems().addListener((ListChangeListener<TreeItem<Line>>) change -> chosen());
        model.selection().addListener((ListChangeListener<Arrival>) change -> follow());
        model.arrivals().addListener((ListChangeListener<Arrival>) change -> {
            boolean moved = false;
            while (change.next()) {
                moved |= change.wasAdded() && !change.wasUpdated() || change.wasRemoved();
            }
            if (moved) {
                fill();
            }
        });
        // Before the tree's own keys, which take the space for choosing.
        addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            if (event.getCode() == KeyCode.SPACE) {
                List<Arrival> toggled = chosenArrivals();
                boolean tick = toggled.stream()
                        .anyMatch(arrival -> !arrival.tickedProperty().get());
                tick(toggled, tick);
                event.consume();
            } else if (event.getCode() == KeyCode.DELETE || event.getCode() == KeyCode.BACK_SPACE) {
                model.takeOff(chosenArrivals());
                event.consume();
            }
        });
        fill();
    }

    private void fill() {
        following = true;
        Map<String, List<Arrival>> groups = new LinkedHashMap<>();
        for (Arrival arrival : model.arrivals()) {
            groups.computeIfAbsent(arrival.group(), name -> new ArrayList<>()).add(arrival);
        }
        items.clear();
        List<TreeItem<Line>> roots = new ArrayList<>();
        groups.forEach((name, arrivals) -> {
            TreeItem<Line> group = new TreeItem<>(new Group(name, List.copyOf(arrivals)));
            group.setExpanded(true);
            for (Arrival arrival : arrivals) {
                TreeItem<Line> item = new TreeItem<>(new One(arrival));
                items.put(arrival, item);
                group.getChildren().add(item);
            }
            roots.add(group);
        });
        getRoot().getChildren().setAll(roots);
        following = false;
        follow();
    }

    /** The tree shows what the model has chosen. */
    private void follow() {
        if (following) {
            return;
        }
        following = true;
        getSelectionModel().clearSelection();
        for (Arrival arrival : model.selection()) {
            TreeItem<Line> item = items.get(arrival);
            if (item != null) {
                getSelectionModel().select(item);
            }
        }
        if (!model.selection().isEmpty()) {
            Arrival last = model.selection().getLast();
            int row = getRow(items.get(last));
            if (row >= 0) {
                getFocusModel().focus(row);
                if (last != shown && !isInSight(row)) {
                    scrollTo(Math.max(0, row - ROWS_ABOVE));
                }
                shown = last;
            }
        }
        following = false;
    }

    private boolean isInSight(int row) {
        return lookup(".virtual-flow") instanceof VirtualFlow<?> flow
                && flow.getFirstVisibleCell() != null
                && flow.getLastVisibleCell() != null
                // The first and the last line may be cut off.
                && (row == 0 || row > flow.getFirstVisibleCell().getIndex())
                && row < flow.getLastVisibleCell().getIndex();
    }

    private void chosen() {
        if (!following) {
            following = true;
            List<Arrival> arrivals = chosenArrivals();
            if (!arrivals.isEmpty()) {
                shown = arrivals.getLast();
                model.select(arrivals);
            }
            following = false;
        }
    }

    private List<Arrival> chosenArrivals() {
        return getSelectionModel().getSelectedItems().stream()
                .filter(item -> item != null && item.getValue() != null)
                .flatMap(item -> item.getValue().arrivals().stream())
                .distinct()
                .toList();
    }

    private static void tick(List<Arrival> arrivals, boolean ticked) {
        arrivals.stream().filter(Arrival::isOpen).forEach(arrival -> arrival.choose(ticked));
    }

    /** Tick, picture, name, and how far it is; of a folder, its name and how many are in it. */
    private final class LineCell extends TreeCell<Line> {
        private final CheckBox tick = new CheckBox();
        private final ImageView picture = new ImageView();
        private final StackPane frame = new StackPane(picture);
        private final Label name = Controls.path("");
        private final Label state = Controls.label("", Styles.FAINT);
        private final VBox words = new VBox(0, name, state);
        private final Label tally = Controls.label("", Styles.FAINT);
        private final HBox line = new HBox(8, tick, frame, words, tally);
        private final InvalidationListener changed = change -> describe();
        private List<Arrival> listened = List.of();
        private Optional<Line> shown = Optional.empty();

        LineCell() {
            line.setAlignment(Pos.CENTER_LEFT);
            HBox.setHgrow(words, Priority.ALWAYS);
            words.setMinWidth(0);
            words.setAlignment(Pos.CENTER_LEFT);
            tally.setMinWidth(USE_PREF_SIZE);
            picture.setFitWidth(PICTURE);
            picture.setFitHeight(PICTURE);
            frame.setMinSize(PICTURE, PICTURE);
            tick.setFocusTraversable(false);
            tick.accessibleTextProperty().bind(name.textProperty());
            tick.setOnAction(event -> shown.ifPresent(of -> ArrivalTree.tick(of.arrivals(), tick.isSelected())));
            setPrefWidth(10);
        }

        @Override
        protected void updateItem(Line item, boolean empty) {
            super.updateItem(item, empty);
            listened.forEach(arrival -> {
                arrival.stateProperty().removeListener(changed);
                arrival.messageProperty().removeListener(changed);
                arrival.tickedProperty().removeListener(changed);
                arrival.knownProperty().removeListener(changed);
                arrival.surveyProperty().removeListener(changed);
            });
            shown = empty || item == null ? Optional.empty() : Optional.of(item);
            listened = shown.map(Line::arrivals).orElse(List.of());
            listened.forEach(arrival -> {
                arrival.stateProperty().addListener(changed);
                arrival.messageProperty().addListener(changed);
                arrival.tickedProperty().addListener(changed);
                arrival.knownProperty().addListener(changed);
                arrival.surveyProperty().addListener(changed);
            });
            setGraphic(shown.isPresent() ? line : null);
            describe();
        }

        private void describe() {
            if (shown.isEmpty()) {
                return;
            }
            switch (shown.get()) {
                case Group group -> describe(group);
                case One(Arrival arrival) -> describe(arrival);
            }
        }

        private void describe(Group group) {
            List<Arrival> open =
                    group.arrivals().stream().filter(Arrival::isOpen).toList();
            long ticked = open.stream()
                    .filter(arrival -> arrival.tickedProperty().get())
                    .count();
            tick.setDisable(open.isEmpty());
            tick.setIndeterminate(ticked > 0 && ticked < open.size());
            tick.setSelected(!open.isEmpty() && ticked == open.size());
            frame.setVisible(false);
            frame.setManaged(false);
            name.setText(group.name());
            tick.setId("tick-" + group.name());
            name.getStyleClass().setAll("label", Styles.SECTION);
            int count = group.arrivals().size();
            tally.setText(ticked + " of " + count);
            Controls.hint(tally, ticked + " of " + Names.counted(count, "file") + " ticked");
            Controls.showOnly(tally, true);
            Controls.showOnly(state, false);
        }

        private void describe(Arrival arrival) {
            tick.setIndeterminate(false);
            tick.setSelected(arrival.tickedProperty().get());
            tick.setDisable(!arrival.isOpen());
            frame.setVisible(true);
            frame.setManaged(true);
            picture.setImage(arrival.picture()
                    .map(png -> new Image(new ByteArrayInputStream(png), 2 * PICTURE, 2 * PICTURE, true, true))
                    .orElse(null));
            name.setText(arrival.name());
            tick.setId("tick-" + arrival.name());
            name.getStyleClass().setAll("label");
            boolean wrong = arrival.state() == Arrival.State.REFUSED;
            boolean lacks =
                    arrival.state() == Arrival.State.READY && !arrival.missing().isEmpty();
            state.getStyleClass().setAll("label", wrong ? Styles.WRONG : lacks ? Styles.CAUTION : Styles.FAINT);
            state.setText(
                    switch (arrival.state()) {
                        case WAITING -> "waiting to be read";
                        case READING -> "being read";
                        case READY -> ready(arrival);
                        case SHELVING -> "being shelved";
                        case SHELVED -> arrival.messageProperty().get();
                        case REFUSED -> "refused: " + arrival.messageProperty().get();
                    });
            // What is ready, as most are in the end, needs no words.
            Controls.showOnly(state, !state.getText().equals(READY));
            Controls.showOnly(tally, false);
        }

        private String ready(Arrival arrival) {
            // Why it is left out is asked first.
            if (arrival.knownProperty().get().isPresent()) {
                return arrival.knownProperty().get().get();
            }
            int missing = arrival.missing().size();
            if (missing > 0) {
                return Units.counted(missing, "texture") + " missing";
            }
            if (model.choices().sizeWarning(arrival).isPresent()) {
                return "ready, but of an unusual size";
            }
            return arrival.surveyProperty()
                    .get()
                    .flatMap(survey -> survey.outline().series())
                    .map(ArrivalSummary.Series::words)
                    .orElse(READY);
        }
    }
}
