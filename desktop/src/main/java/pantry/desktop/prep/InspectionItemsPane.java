package pantry.desktop.prep;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.prep.inspect.Severity;

/** What can be inspected, by where it comes from, with the number of findings of each. */
final class InspectionItemsPane extends VBox {
    private final PrepModel model;
    private final TreeView<Line> tree = new TreeView<>();
    private final CheckBox onlyFlawed = new CheckBox("Only what has findings");

    /** A heading, or something that can be inspected. */
    private record Line(InspectionItem.From from, Optional<InspectionItem> subject, int count) {}

    InspectionItemsPane(PrepModel model, Runnable chooseFiles) {
        this.model = model;
        var choose = Controls.button("Files…", "remixal-file-search-line", "Inspect files (Ctrl+O)", chooseFiles);
        choose.setId("prep-choose");
        choose.getStyleClass().add("small");
        HBox head = new HBox(8, Controls.label("To inspect", Styles.TITLE), Controls.spring(), choose);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        onlyFlawed.setId("prep-only-flawed");
        HBox filter = new HBox(onlyFlawed);
        filter.getStyleClass().add("prep-filter");
        tree.setId("prep-subjects");
        tree.setAccessibleText("What can be inspected");
        tree.setShowRoot(false);
        tree.setCellFactory(cells -> new Cell());
        VBox.setVgrow(tree, Priority.ALWAYS);
        getChildren().setAll(head, filter, tree);
        getStyleClass().add(Styles.PANEL);
        model.items().addListener((InvalidationListener) change -> fill());
        onlyFlawed.setOnAction(event -> fill());
        // Only what somebody chooses counts: filling the tree anew moves its selection about.
        tree.setOnMouseClicked(event -> choose());
        tree.setOnKeyReleased(event -> choose());
        model.selectedProperty().addListener(change -> follow());
        fill();
    }

    void enter() {
        tree.requestFocus();
    }

    private void choose() {
        TreeItem<Line> item = tree.getSelectionModel().getSelectedItem();
        if (item != null) {
            item.getValue().subject().ifPresent(subject -> model.selectedProperty()
                    .set(Optional.of(subject)));
        }
    }

    private void fill() {
        Map<InspectionItem.From, Boolean> expanded = new EnumMap<>(InspectionItem.From.class);
        if (tree.getRoot() != null) {
            tree.getRoot()
                    .getChildren()
                    .forEach(group -> expanded.put(group.getValue().from(), group.isExpanded()));
        }
        TreeItem<Line> root = new TreeItem<>();
        for (InspectionItem.From from : InspectionItem.From.values()) {
            List<InspectionItem> some = model.items().stream()
                    .filter(subject -> subject.from() == from && isShown(subject))
                    .toList();
            if (!some.isEmpty()) {
                TreeItem<Line> group = new TreeItem<>(new Line(from, Optional.empty(), some.size()));
                some.forEach(
                        subject -> group.getChildren().add(new TreeItem<>(new Line(from, Optional.of(subject), 0))));
                group.setExpanded(expanded.getOrDefault(from, true));
                root.getChildren().add(group);
            }
        }
        tree.setRoot(root);
        follow();
    }

    private boolean isShown(InspectionItem subject) {
        return !onlyFlawed.isSelected()
                || subject.problemProperty().get().isPresent()
                || subject.tallyProperty()
                        .get()
                        .filter(tally -> tally.serious() > 0)
                        .isPresent()
                || model.selectedProperty().get().filter(subject::equals).isPresent();
    }

    private void follow() {
        Optional<InspectionItem> wanted = model.selectedProperty().get();
        for (TreeItem<Line> group : tree.getRoot().getChildren()) {
            for (TreeItem<Line> item : group.getChildren()) {
                if (item.getValue().subject().equals(wanted)) {
                    group.setExpanded(true);
                    if (tree.getSelectionModel().getSelectedItem() != item) {
                        tree.getSelectionModel().select(item);
                        tree.scrollTo(Math.max(0, tree.getRow(item) - 4));
                    }
                }
            }
        }
    }

    private static final class Cell extends TreeCell<Line> {
        @Override
        protected void updateItem(Line line, boolean empty) {
            super.updateItem(line, empty);
            setText(null);
            setGraphic(null);
            Controls.hint(this, "");
            setPrefWidth(10);
            if (empty || line == null) {
                return;
            }
            if (line.subject().isEmpty()) {
                HBox row = new HBox(
                        6,
                        Controls.label(line.from().title(), Styles.SECTION),
                        Controls.spring(),
                        Controls.label(String.valueOf(line.count()), Styles.FIGURE, Styles.FAINT));
                row.setAlignment(Pos.CENTER_LEFT);
                setGraphic(row);
                return;
            }
            InspectionItem subject = line.subject().get();
            HBox row = new HBox(6, Controls.label(subject.title()), Controls.spring(), signs(subject));
            row.setAlignment(Pos.CENTER_LEFT);
            setGraphic(row);
            Controls.hint(
                    this,
                    subject.place()
                            + inspected(subject)
                            + (subject.keptProperty().get().isPresent() ? "\nits working copy has changes" : ""));
        }

        private static String inspected(InspectionItem subject) {
            return subject.tallyProperty()
                    .get()
                    .map(tally -> tally.all() == 0 ? "\nnothing was found in it" : "")
                    .orElse(subject.problemProperty().get().isPresent() ? "" : "\nnot inspected yet");
        }

        private static HBox signs(InspectionItem subject) {
            HBox signs = new HBox(4);
            signs.setMinWidth(USE_PREF_SIZE);
            signs.setAlignment(Pos.CENTER_RIGHT);
            if (subject.problemProperty().get().isPresent()) {
                signs.getChildren().add(new FontIcon("remixal-forbid-2-line"));
                return signs;
            }
            if (subject.keptProperty().get().isPresent()) {
                signs.getChildren().add(new FontIcon("remixmz-pencil-line"));
            }
            subject.tallyProperty().get().ifPresent(tally -> {
                if (tally.all() == 0) {
                    signs.getChildren().add(new FontIcon("remixal-check-line"));
                }
                add(signs, Severities.of(Severity.WRONG), tally.wrong());
                add(signs, Severities.of(Severity.CAUTION), tally.caution());
                add(signs, Severities.of(Severity.INFORMATION), tally.information());
            });
            return signs;
        }

        private static void add(HBox signs, FontIcon icon, long count) {
            if (count > 0) {
                Label figure = Controls.label(String.valueOf(count), Styles.FIGURE);
                figure.setMinWidth(USE_PREF_SIZE);
                signs.getChildren().addAll(icon, figure);
            }
        }
    }
}
