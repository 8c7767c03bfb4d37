package pantry.desktop.prep;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.Names;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.model.Weight;
import pantry.prep.tools.Instances;
import pantry.prep.tools.TwinSets;
import pantry.prep.tools.WorkpieceContents;
import pantry.usd.SdfPath;

/** Objects of one shape: what they weigh now and would weigh, made instances of a shared one, and broken out again. */
final class TwinsPane extends VBox {
    private final PrepModel model;
    private final ListView<TwinSets.Set> sets = new ListView<>();
    private final Label weight = Controls.label("", Styles.FIGURE);
    private final Button make;
    private final Button breakOut;
    private final Label shared = Controls.wrapped("", Styles.FAINT);

    TwinsPane(PrepModel model) {
        super(8);
        this.model = model;
        sets.setId("prep-twins");
        sets.setCellFactory(cells -> new Cell());
        sets.setPlaceholder(Controls.label("No two objects of their own have one shape.", Styles.FAINT));
        sets.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        sets.getSelectionModel().selectedItemProperty().addListener(change -> {
            LinkedHashSet<SdfPath> paths = new LinkedHashSet<>();
            chosen().forEach(set -> paths.addAll(set.paths()));
            if (!sets.getSelectionModel().isEmpty()) {
                model.selectionProperty().set(paths);
            }
            tell();
        });
        VBox.setVgrow(sets, Priority.ALWAYS);
        make = Controls.button("Make instances", "remixal-links-line", "Let them share one shape", this::make);
        make.setId("prep-make-instances");
        make.getStyleClass().add(Styles.PRIMARY);
        breakOut = Controls.button(
                "Break out", "", "Give the selected instances shapes of their own again", this::breakOut);
        breakOut.setId("prep-break-out");
        HBox foot = new HBox(8, weight, Controls.spring(), make);
        foot.setAlignment(Pos.CENTER_LEFT);
        HBox instances = new HBox(8, shared, Controls.spring(), breakOut);
        instances.setAlignment(Pos.CENTER_LEFT);
        HBox.setHgrow(shared, Priority.ALWAYS);
        getChildren()
                .setAll(
                        Controls.wrapped(
                                "Objects of the same shape, wherever and however turned they stand. As instances they"
                                        + " share one; what they are made of stays theirs.",
                                Styles.FAINT),
                        sets,
                        foot,
                        Controls.section("Instances", instances));
        model.openedProperty().addListener(change -> fill());
        model.selectionProperty().addListener(change -> tell());
        model.busyProperty().addListener(change -> tell());
        fill();
    }

    private void fill() {
        sets.getItems().setAll(model.openedProperty().get().map(Opened::twins).orElse(List.of()));
        tell();
    }

    /** The sets that are chosen; all where none is. */
    private List<TwinSets.Set> chosen() {
        List<TwinSets.Set> some = List.copyOf(sets.getSelectionModel().getSelectedItems());
        return some.isEmpty() ? List.copyOf(sets.getItems()) : some;
    }

    private List<SdfPath> instances() {
        return model.openedProperty()
                .get()
                .map(now -> model.selectionProperty().get().stream()
                        .filter(path -> now.contents()
                                .find(path)
                                .flatMap(WorkpieceContents.Thing::shape)
                                .isPresent())
                        .toList())
                .orElse(List.of());
    }

    private void tell() {
        Optional<Weight> now = model.openedProperty().get().map(Opened::weight);
        long saved = chosen().stream().mapToLong(TwinSets.Set::saved).sum();
        weight.setText(now.map(is -> Units.count(is.trianglesStored()) + " → "
                        + Units.count(is.trianglesStored() - saved) + " triangles")
                .orElse(""));
        make.setDisable(chosen().isEmpty() || model.busyProperty().get());
        int count = instances().size();
        breakOut.setDisable(count == 0 || model.busyProperty().get());
        int all = model.openedProperty()
                .get()
                .map(opened -> opened.contents().shared().size())
                .orElse(0);
        shared.setText(
                all == 0
                        ? "Nothing is shared yet."
                        : all + " objects share their shapes" + (count > 0 ? "; " + count + " selected" : ""));
    }

    private void make() {
        List<TwinSets.Set> some = chosen();
        int objects = some.stream().mapToInt(set -> set.members().size()).sum();
        model.change("Instances of " + Names.counted(objects, "object"), piece -> Instances.make(piece, some));
    }

    private void breakOut() {
        List<SdfPath> paths = instances();
        model.change("Broken out: " + paths.size(), piece -> Instances.breakOut(piece, paths));
    }

    private final class Cell extends ListCell<TwinSets.Set> {
        @Override
        protected void updateItem(TwinSets.Set set, boolean empty) {
            super.updateItem(set, empty);
            setText(null);
            setGraphic(null);
            setPrefWidth(10);
            if (empty || set == null) {
                return;
            }
            String first = model.openedProperty()
                    .get()
                    .flatMap(now -> now.contents().find(set.members().getFirst().path()))
                    .map(WorkpieceContents.Thing::title)
                    .orElse("");
            Label count = Controls.label(set.members().size() + " ×", Styles.FIGURE);
            count.setMinWidth(USE_PREF_SIZE);
            Label each = Controls.label(Units.count(set.triangles()) + " triangles", Styles.FIGURE);
            each.setMinWidth(USE_PREF_SIZE);
            HBox line = new HBox(8, count, Controls.label(first), Controls.spring(), each);
            line.setAlignment(Pos.CENTER_LEFT);
            StringBuilder more = new StringBuilder(
                    set.deviation() < 5e-6
                            ? "alike to a hundredth of a millimetre"
                            : "at most " + Units.length(set.deviation()) + " off");
            if (set.mirrored()) {
                more.append(", some mirrored");
            }
            if (Math.abs(set.scale() - 1) > 1e-3) {
                more.append(", some larger or smaller");
            }
            if (set.materials() > 1) {
                more.append(", of ").append(set.materials()).append(" materials");
            }
            setGraphic(new VBox(2, line, Controls.label(more.toString(), Styles.FAINT)));
        }
    }
}
