package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import pantry.base.Timestamps;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.library.Library;
import pantry.library.Repair;
import pantry.library.TrashItem;
import pantry.usecase.CheckLibrary;

/** What the check of a library found, each with its repairs; below it the trash. */
final class CheckPane extends BorderPane {
    private final CheckModel model;
    private final LibraryActions actions;
    private final ListView<CheckLibrary.Finding> findings = new ListView<>();
    private final ListView<TrashItem> trash;
    private final Label heading = Controls.label("", Styles.TITLE);
    private final VBox summary = new VBox(8);

    CheckPane(CheckModel model, LibraryActions actions) {
        this.model = model;
        this.actions = actions;
        this.trash = new ListView<>(model.trash());
        setId("check");
        Button close = Controls.button("Back to the shelves", "", "", model::leave);
        HBox head = new HBox(8, heading, Controls.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        setTop(head);
        findings.setCellFactory(cells -> new FindingCell());
        trash.setCellFactory(cells -> new TrashCell());
        trash.setPlaceholder(Controls.label("The trash is empty.", Styles.FAINT));
        model.checkedProperty().addListener((property, before, now) -> now.ifPresent(this::show));
    }

    private void show(CheckModel.Checked checked) {
        Library library = checked.library();
        heading.setText("Check of " + library.info().name());
        boolean well = checked.result().verification().ok();
        summary.getChildren()
                .setAll(Controls.wrapped(Units.count(
                                checked.result().verification().versions())
                        + (checked.result().verification().versions() == 1 ? " version" : " versions")
                        + " checked against their checksums; "
                        + (well
                                ? "all is as it was sealed, and stands where it belongs."
                                : checked.result().findings().size() + " things are not as they should be. No repair"
                                        + " destroys anything: what is in the way goes to the trash.")));
        summary.getStyleClass().setAll("note-box", well ? "good" : "caution");
        findings.getItems().setAll(checked.result().findings());
        HBox trashHead = new HBox(8);
        trashHead.setAlignment(Pos.CENTER_LEFT);
        showTrashHead(trashHead, library);
        VBox all = new VBox(12, summary);
        all.getStyleClass().add("slip");
        if (!well) {
            VBox.setVgrow(findings, Priority.ALWAYS);
            together(checked).ifPresent(all.getChildren()::add);
            all.getChildren().add(findings);
        }
        trash.setPrefHeight(220);
        all.getChildren().addAll(trashHead, trash);
        if (library.isOlder()) {
            all.getChildren().add(upgrade(library));
        }
        setCenter(all);
    }

    /** What can be put right at once; empty where nothing stands there twice. */
    private Optional<Node> together(CheckModel.Checked checked) {
        FlowPane buttons = new FlowPane(6, 6);
        buttons.setId("repair-together");
        for (CheckModel.Together group : CheckModel.together(checked.result().findings())) {
            String words = group.words().substring(0, 1).toUpperCase(Locale.ROOT)
                    + group.words().substring(1);
            Button button = Controls.button(
                    words + ": all " + Units.count(group.repairs().size()) + ", " + group.kind(),
                    "",
                    "Put all of this kind right in this way",
                    () -> model.repair(group));
            button.getStyleClass().add("small");
            buttons.getChildren().add(button);
        }
        return buttons.getChildren().isEmpty() ? Optional.empty() : Optional.of(Controls.section("At once", buttons));
    }

    private void showTrashHead(HBox head, Library library) {
        Button empty = Controls.button(
                "Delete all of it for good…", "", "Asks first: there is no way back", () -> ask(head, library));
        empty.setId("empty-trash");
        empty.disableProperty()
                .bind(Bindings.isEmpty(model.trash()).or(new SimpleBooleanProperty(!library.writable())));
        head.getChildren().setAll(Controls.label("Trash", Styles.SECTION), Controls.spring(), empty);
    }

    /** Nothing brings back what is deleted here: what will be gone is said before, and on the button. */
    private void ask(HBox head, Library library) {
        int count = model.trash().size();
        String what = count == 1 ? "1 thing" : Units.count(count) + " things";
        Button keep =
                Controls.button("Keep " + (count == 1 ? "it" : "them"), "", "", () -> showTrashHead(head, library));
        keep.setCancelButton(true);
        Button delete = Controls.button("Delete " + what + " for good", "", "There is no way back", () -> {
            model.emptyTrash();
            showTrashHead(head, library);
        });
        delete.setId("empty-trash-for-good");
        delete.getStyleClass().add("danger");
        head.getChildren()
                .setAll(
                        Controls.label(
                                "Once deleted, nothing brings " + (count == 1 ? "it" : "them") + " back.",
                                Styles.FAINT),
                        Controls.spring(),
                        keep,
                        delete);
        keep.requestFocus();
    }

    private Node upgrade(Library library) {
        Button button = Controls.button(
                "Upgrade the library", "", "It can be brought back", () -> model.upgrade(library, false));
        VBox note = new VBox(
                6,
                Controls.wrapped("The library has format " + library.info().format()
                        + ". Upgraded, it also notices assets that are moved by hand; older versions of Pantry then"
                        + " no longer open it. The upgrade can be taken back."),
                button);
        note.getStyleClass().addAll("note-box", "info");
        return note;
    }

    private static String relative(Library library, Path path) {
        return path.startsWith(library.root()) ? library.root().relativize(path).toString() : path.toString();
    }

    private final class FindingCell extends ListCell<CheckLibrary.Finding> {
        @Override
        protected void updateItem(CheckLibrary.Finding finding, boolean empty) {
            super.updateItem(finding, empty);
            setText(null);
            setPrefWidth(10);
            Optional<CheckModel.Checked> checked = model.checkedProperty().get();
            if (empty || checked.isEmpty()) {
                setGraphic(null);
                return;
            }
            Label kind = Controls.label(finding.problem().kind().word(), "status", "caution");
            kind.setMinWidth(USE_PREF_SIZE);
            Label path = Controls.label(
                    relative(checked.get().library(), finding.problem().path()), Styles.FIGURE);
            Controls.hint(path, finding.problem().path().toString());
            HBox first = new HBox(8, kind, path);
            first.setAlignment(Pos.CENTER_LEFT);
            FlowPane repairs = new FlowPane(6, 6);
            for (Repair repair : finding.ways()) {
                String words = repair.words().substring(0, 1).toUpperCase(Locale.ROOT)
                        + repair.words().substring(1);
                Button button = Controls.button(words, "", "", () -> model.repair(finding, repair));
                button.getStyleClass().add("small");
                repairs.getChildren().add(button);
            }
            if (finding.ways().isEmpty()) {
                repairs.getChildren().add(Controls.label("Only a person can put this right.", Styles.FAINT));
            }
            setGraphic(new VBox(4, first, Controls.wrapped(finding.problem().message()), repairs));
        }
    }

    private final class TrashCell extends ListCell<TrashItem> {
        @Override
        protected void updateItem(TrashItem item, boolean empty) {
            super.updateItem(item, empty);
            setText(null);
            setPrefWidth(10);
            if (empty) {
                setGraphic(null);
                return;
            }
            Button restore = Controls.button("Restore", "", "Put it back where it stood", () -> model.checkedProperty()
                    .get()
                    .ifPresent(now -> actions.restore(now.library(), List.of(item), model::readTrash)));
            restore.getStyleClass().add("small");
            Label day = Controls.label(Timestamps.minutes(item.when()), Styles.FIGURE, Styles.FAINT);
            day.setMinWidth(USE_PREF_SIZE);
            HBox line = new HBox(
                    8,
                    Controls.label(item.name()),
                    Controls.label(item.path(), Styles.FAINT),
                    Controls.spring(),
                    day,
                    restore);
            line.setAlignment(Pos.CENTER_LEFT);
            setGraphic(line);
        }
    }
}
