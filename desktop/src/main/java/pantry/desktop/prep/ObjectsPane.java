package pantry.desktop.prep;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import javafx.collections.ListChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.prep.tools.WorkpieceContents;
import pantry.usd.SdfPath;

/** The objects of what is opened, as a tree; a sign tells what shares its shape with how many. */
final class ObjectsPane extends VBox {
    private final PrepModel model;
    private final TreeView<WorkpieceContents.Thing> tree = new TreeView<>();
    private final Map<SdfPath, TreeItem<WorkpieceContents.Thing>> items = new HashMap<>();
    private boolean following;

    ObjectsPane(PrepModel model) {
        this.model = model;
        Button alike =
                Controls.button("Alike", "", "Select all that share their shape with it (Ctrl+K)", this::selectLike);
        Button shared = Controls.button("Shared", "", "Select everything that is shared", this::selectShared);
        alike.setId("prep-like");
        shared.setId("prep-shared");
        alike.getStyleClass().add("small");
        shared.getStyleClass().add("small");
        HBox head = new HBox(6, Controls.label("Objects", Styles.SECTION), Controls.spring(), alike, shared);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        tree.setId("prep-objects");
        tree.setAccessibleText("Objects of the working copy");
        tree.setShowRoot(false);
        tree.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        tree.setCellFactory(cells -> new Cell());
        VBox.setVgrow(tree, Priority.ALWAYS);
        getChildren().setAll(head, tree);
        getStyleClass().add(Styles.PANEL);
        model.openedProperty().addListener(change -> fill());
        model.selectionProperty().addListener(change -> follow());
        tree.getSelectionModel().getSelectedItems().addListener((ListChangeListener<TreeItem<WorkpieceContents.Thing>>)
                change -> {
                    if (!following) {
                        Set<SdfPath> chosen = new LinkedHashSet<>();
                        tree.getSelectionModel().getSelectedItems().stream()
                                .filter(Objects::nonNull)
                                .forEach(item -> chosen.add(item.getValue().path()));
                        // The tree's selection cannot be changed again while it tells of a change.
                        following = true;
                        model.selectionProperty().set(chosen);
                        following = false;
                    }
                });
        fill();
    }

    void selectLike() {
        model.openedProperty().get().ifPresent(now -> {
            Set<SdfPath> all = new LinkedHashSet<>(model.selectionProperty().get());
            for (SdfPath path : List.copyOf(all)) {
                all.addAll(now.contents().like(path));
                now.twins().stream().filter(set -> set.paths().contains(path)).forEach(set -> all.addAll(set.paths()));
            }
            model.selectionProperty().set(all);
        });
    }

    void selectShared() {
        model.openedProperty().get().ifPresent(now -> model.selectionProperty()
                .set(new LinkedHashSet<>(now.contents().shared())));
    }

    private void fill() {
        following = true;
        Set<SdfPath> folded = new HashSet<>();
        items.forEach((path, item) -> {
            if (!item.isExpanded()) {
                folded.add(path);
            }
        });
        boolean fresh = items.isEmpty();
        items.clear();
        TreeItem<WorkpieceContents.Thing> root = new TreeItem<>();
        model.openedProperty()
                .get()
                .ifPresent(now -> now.contents().tops().forEach(top -> add(root, top, folded, fresh ? 2 : 0)));
        tree.setRoot(root);
        following = false;
        follow();
    }

    private void add(
            TreeItem<WorkpieceContents.Thing> parent, WorkpieceContents.Thing thing, Set<SdfPath> folded, int levels) {
        TreeItem<WorkpieceContents.Thing> item = new TreeItem<>(thing);
        item.setExpanded(
                levels > 0 || !folded.contains(thing.path()) && !thing.kind().equals("definition"));
        items.put(thing.path(), item);
        parent.getChildren().add(item);
        thing.below().forEach(child -> add(item, child, folded, levels - 1));
    }

    private void follow() {
        if (following) {
            return;
        }
        following = true;
        tree.getSelectionModel().clearSelection();
        int first = Integer.MAX_VALUE;
        for (SdfPath path : model.selectionProperty().get()) {
            TreeItem<WorkpieceContents.Thing> item = items.get(path);
            if (item != null) {
                for (TreeItem<WorkpieceContents.Thing> at = item.getParent(); at != null; at = at.getParent()) {
                    at.setExpanded(true);
                }
                tree.getSelectionModel().select(item);
                first = Math.min(first, tree.getRow(item));
            }
        }
        if (first != Integer.MAX_VALUE && !tree.isFocused()) {
            tree.scrollTo(Math.max(0, first - 2));
        }
        following = false;
    }

    private static String icon(WorkpieceContents.Thing thing) {
        return switch (thing.kind()) {
            case "mesh" -> "remixmz-shape-line";
            case "instance" -> "remixal-links-line";
            case "light" -> "remixal-lightbulb-line";
            case "camera" -> "remixal-camera-line";
            case "material" -> "remixmz-palette-line";
            case "definition" -> "remixal-bookmark-line";
            case "basiscurves" -> "remixmz-pencil-ruler-2-line";
            default -> "remixal-folder-line";
        };
    }

    private final class Cell extends TreeCell<WorkpieceContents.Thing> {
        @Override
        protected void updateItem(WorkpieceContents.Thing thing, boolean empty) {
            super.updateItem(thing, empty);
            setText(null);
            setGraphic(null);
            Controls.hint(this, "");
            setPrefWidth(10);
            if (empty || thing == null) {
                return;
            }
            Label name = Controls.path(thing.title());
            HBox row = new HBox(6, new FontIcon(icon(thing)), name, Controls.spring());
            row.setAlignment(Pos.CENTER_LEFT);
            if (!thing.seen()) {
                name.getStyleClass().add(Styles.FAINT);
                row.getChildren().add(new FontIcon("remixal-eye-off-line"));
            }
            if (thing.alike() > 1) {
                Label alike = Controls.label("1 of " + thing.alike(), "status");
                alike.setMinWidth(USE_PREF_SIZE);
                row.getChildren().add(alike);
            } else {
                model.openedProperty()
                        .get()
                        .flatMap(now -> now.twins().stream()
                                .filter(set -> set.paths().contains(thing.path()))
                                .findFirst())
                        .ifPresent(set -> {
                            Label twins = Controls.label(set.members().size() + " alike", Styles.FAINT);
                            twins.setMinWidth(USE_PREF_SIZE);
                            row.getChildren().add(twins);
                        });
            }
            setGraphic(row);
            String of = thing.shape().map(shape -> " of " + shape.name()).orElse("");
            Controls.hint(
                    this,
                    thing.path() + "\n" + thing.kind() + of
                            + (thing.triangles() > 0 ? ", " + Units.count(thing.triangles()) + " triangles" : ""));
        }
    }
}
