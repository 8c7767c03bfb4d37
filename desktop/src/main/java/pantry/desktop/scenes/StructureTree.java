package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.InvalidationListener;
import javafx.beans.WeakInvalidationListener;
import javafx.collections.ObservableList;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import org.jspecify.annotations.Nullable;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.Units;
import pantry.exchange.usd.UsdModelReader;
import pantry.scene.Occurrence;
import pantry.scene.Placement;
import pantry.scene.PlacementParts;
import pantry.scene.Scene;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** The scene's objects as a tree, each with a sign for how it is held; lines are made when they are looked at. */
final class StructureTree extends TreeView<SdfPath> {
    /** Larger scenes begin folded. */
    private static final int FEW = 400;

    /** So many selected lines are shown as such; of more, the view tells. */
    private static final int MOST_SHOWN = 300;

    private static final PseudoClass LAST = PseudoClass.getPseudoClass("last-chosen");

    private final ScenesModel model;
    private final Consumer<SdfPath> enter;
    private final NewerVersions newer;
    private final Set<SdfPath> turned = new HashSet<>();
    private boolean selecting;
    private boolean small = true;
    private int structure = -1;
    private Optional<Scene> scene = Optional.empty();

    /** @param enter goes into an object */
    StructureTree(ScenesModel model, Consumer<SdfPath> enter) {
        this.model = model;
        this.enter = enter;
        newer = new NewerVersions(model.session());
        setId("scene-tree");
        setAccessibleText("Objects of the scene");
        setShowRoot(false);
        getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
        setCellFactory(cells -> new PrimCell());
        SceneMenu.on(this, model, enter);
        getSelectionModel().getSelectedItems().addListener((InvalidationListener) change -> taken());
        setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.DELETE) {
                model.edits().removeSelected();
                event.consume();
            } else if (event.getCode() == KeyCode.ENTER) {
                model.selection().lastChosen().ifPresent(enter);
                event.consume();
            }
        });
        model.sceneProperty().addListener(change -> turned.clear());
        model.shownProperty().addListener(change -> update());
        model.selectionProperty().addListener(change -> showSelection());
        model.session().shelving().contentsProperty().addListener(change -> refresh());
        model.sections().holdersProperty().addListener(change -> refresh());
    }

    private void taken() {
        if (!selecting) {
            List<TreeItem<SdfPath>> lines = getSelectionModel().getSelectedItems().stream()
                    .filter(item -> item != null && item.getValue() != null)
                    .toList();
            lines.forEach(line -> model.selection().reached(line.getValue(), uses(line)));
            // The tree's selection cannot be changed again while it tells of a change.
            selecting = true;
            model.selectionProperty().set(asChosen(lines));
            selecting = false;
        }
    }

    /** In the order in which they were chosen; of several at once, the one that the hand ended on is the last. */
    private Set<SdfPath> asChosen(List<TreeItem<SdfPath>> lines) {
        Set<SdfPath> now = lines.stream().map(TreeItem::getValue).collect(Collectors.toCollection(LinkedHashSet::new));
        Set<SdfPath> before = model.selectionProperty().get();
        Set<SdfPath> ordered =
                before.stream().filter(now::contains).collect(Collectors.toCollection(LinkedHashSet::new));
        ordered.addAll(now);
        TreeItem<SdfPath> focused = getFocusModel().getFocusedItem();
        if (focused != null && !before.contains(focused.getValue()) && ordered.remove(focused.getValue())) {
            ordered.add(focused.getValue());
        }
        return ordered;
    }

    /** The uses of groups that a line is listed within, the outermost first. */
    private List<SdfPath> uses(TreeItem<SdfPath> line) {
        List<SdfPath> uses = new ArrayList<>();
        for (TreeItem<SdfPath> at = line.getParent(); at != null; at = at.getParent()) {
            SdfPath path = at.getValue();
            if (scene.flatMap(open -> open.instancing().contents(path)).isPresent()) {
                uses.addFirst(path);
            }
        }
        return uses;
    }

    /** Shows the scene as it is; nothing is done where things were only moved. */
    private void update() {
        scene = model.sceneProperty().get();
        if (scene.isEmpty()) {
            setRoot(null);
            structure = -1;
            return;
        }
        if (structure == model.display().structure()) {
            return;
        }
        structure = model.display().structure();
        small = model.placements().size() <= FEW;
        selecting = true;
        // The one root prim that a scene has says nothing here: its contents stand at the top.
        SdfPath top = scene.get().layer().rootPrims().size() == 1 ? scene.get().root() : SdfPath.ROOT;
        setRoot(new Line(top));
        selecting = false;
        showSelection();
    }

    /** A line whose lines below are made when they are first asked for. */
    private final class Line extends TreeItem<SdfPath> {
        private boolean filled;

        /** What is listed below it; lines are made anew whenever that may be something else. */
        private @Nullable List<SdfPath> paths;

        Line(SdfPath path) {
            super(path);
            setExpanded(small != turned.contains(path));
            expandedProperty().addListener((property, before, now) -> {
                if (now == small) {
                    turned.remove(path);
                } else {
                    turned.add(path);
                }
            });
        }

        @Override
        public ObservableList<TreeItem<SdfPath>> getChildren() {
            if (!filled) {
                filled = true;
                List<TreeItem<SdfPath>> lines = new ArrayList<>();
                paths().forEach(path -> lines.add(new Line(path)));
                super.getChildren().setAll(lines);
            }
            return super.getChildren();
        }

        @Override
        public boolean isLeaf() {
            return paths().isEmpty();
        }

        /** Kept: lists ask each line for it with each line that is selected. */
        private List<SdfPath> paths() {
            List<SdfPath> known = paths;
            if (known == null) {
                known = below(getValue());
                paths = known;
            }
            return known;
        }
    }

    /** What is listed below a line: what hangs on it, or the contents that it shares with others. */
    private List<SdfPath> below(SdfPath path) {
        if (scene.isEmpty()) {
            return List.of();
        }
        Scene open = scene.get();
        boolean part = open.parts().placementOf(path).isPresent();
        if (part || open.placements().at(path).isPresent()) {
            // Only of sections, and of what somebody has gone into, so that large assets cost nothing.
            return model.isSection(path)
                            || model.selection().way().stream()
                                    .anyMatch(each -> each.equals(path) || part && each.startsWith(path))
                    ? open.parts().below(path)
                    : List.of();
        }
        SdfPath at = open.instancing().contents(path).orElse(path);
        return open.childNames(at).stream()
                .map(at::child)
                .filter(child ->
                        open.spec(child).filter(StructureTree::isListed).isPresent())
                .toList();
    }

    private static boolean isListed(PrimSpec prim) {
        boolean guide = prim.attribute("purpose")
                .flatMap(AttributeSpec::value)
                .filter(new Value.Token("guide")::equals)
                .isPresent();
        return !prim.typeName().equals("Scope") && !guide;
    }

    private void showSelection() {
        if (selecting) {
            return;
        }
        Set<SdfPath> chosen = model.selectionProperty().get();
        selecting = true;
        getSelectionModel().clearSelection();
        if (getRoot() != null) {
            chosen.stream().limit(MOST_SHOWN).forEach(path -> {
                find(path).ifPresent(line -> getSelectionModel().select(line));
            });
            int first = getSelectionModel().getSelectedIndex();
            if (chosen.size() == 1 && first >= 0) {
                scrollTo(Math.max(0, first - 4));
            }
        }
        selecting = false;
    }

    /** The line of an object; of shared contents, that within the use through which it was reached. */
    private Optional<TreeItem<SdfPath>> find(SdfPath path) {
        List<SdfPath> way =
                model.selection().occurrence(path).map(Occurrence::through).orElse(List.of());
        Optional<TreeItem<SdfPath>> line = Optional.of(getRoot());
        for (SdfPath use : way) {
            line = line.flatMap(from -> within(from, use));
        }
        return line.flatMap(from -> within(from, path));
    }

    /** The line of an object below another line, also below one that lists what it shares with others. */
    private Optional<TreeItem<SdfPath>> within(TreeItem<SdfPath> from, SdfPath path) {
        if (scene.flatMap(open -> open.instancing().contents(from.getValue())).isEmpty()) {
            return find(from, path);
        }
        from.setExpanded(true);
        for (TreeItem<SdfPath> line : from.getChildren()) {
            if (path.equals(line.getValue())) {
                return Optional.of(line);
            }
            if (path.startsWith(line.getValue())) {
                return find(line, path);
            }
        }
        return Optional.empty();
    }

    /** The line of an object, unfolded down to it. */
    private static Optional<TreeItem<SdfPath>> find(TreeItem<SdfPath> from, SdfPath path) {
        for (TreeItem<SdfPath> line :
                path.startsWith(from.getValue()) ? from.getChildren() : List.<TreeItem<SdfPath>>of()) {
            if (path.equals(line.getValue())) {
                return Optional.of(line);
            }
            if (path.startsWith(line.getValue())) {
                line.setExpanded(true);
                return find(line, path);
            }
        }
        return Optional.empty();
    }

    /** A line of the structure: its name, and how it is held. */
    private final class PrimCell extends TreeCell<SdfPath> {
        /** Whether this is the one of several that was chosen last. */
        private final InvalidationListener marks = change -> mark();

        PrimCell() {
            model.selectionProperty().addListener(new WeakInvalidationListener(marks));
            itemProperty().addListener(marks);
            // No wider than the tree: names give way before the number does.
            setPrefWidth(1);
            setOnDragDetected(event -> {
                if (getItem() != null && !model.selectionProperty().get().isEmpty()) {
                    ClipboardContent content = new ClipboardContent();
                    content.putString(model.selectionProperty().get().stream()
                            .map(SdfPath::toString)
                            .collect(Collectors.joining("\n")));
                    startDragAndDrop(TransferMode.MOVE).setContent(content);
                    event.consume();
                }
            });
            setOnMouseClicked(event -> {
                if (event.getClickCount() == 2 && event.getButton() == MouseButton.PRIMARY && getItem() != null) {
                    enter.accept(getItem());
                    event.consume();
                } else if (getItem() == null && !event.isShortcutDown()) {
                    // Beside all lines.
                    model.selectionProperty().set(Set.of());
                }
            });
            setOnDragOver(this::over);
            setOnDragDropped(this::dropped);
        }

        private void mark() {
            boolean last = getItem() != null
                    && model.selection()
                            .lastOfSeveral()
                            .filter(getItem()::equals)
                            .isPresent();
            pseudoClassStateChanged(LAST, last);
        }

        private void show(PlacementParts.Part part) {
            Controls.hint(this, part.overridden() ? "a part, otherwise than its asset has it" : "a part of its asset");
            setGraphic(line(part));
        }

        private void over(DragEvent event) {
            if (event.getGestureSource() instanceof PrimCell && getItem() != null) {
                event.acceptTransferModes(TransferMode.MOVE);
                event.consume();
            }
        }

        private void dropped(DragEvent event) {
            if (getItem() != null) {
                List<SdfPath> paths = event.getDragboard()
                        .getString()
                        .lines()
                        .map(SdfPath::of)
                        .toList();
                boolean inside = scene.flatMap(open -> open.instancing().contents(getItem()))
                        .isPresent();
                model.edits()
                        .hang(
                                paths,
                                inside
                                        ? scene.orElseThrow()
                                                .instancing()
                                                .contents(getItem())
                                                .orElseThrow()
                                        : getItem());
                event.setDropCompleted(true);
                event.consume();
            }
        }

        @Override
        protected void updateItem(SdfPath path, boolean empty) {
            super.updateItem(path, empty);
            setText(null);
            Optional<PlacementParts.Part> part =
                    empty || path == null ? Optional.empty() : model.selection().part(path);
            if (part.isPresent()) {
                show(part.get());
                return;
            }
            Optional<PrimSpec> spec = empty || path == null ? Optional.empty() : scene.flatMap(open -> open.spec(path));
            if (spec.isEmpty()) {
                setGraphic(null);
                Controls.hint(this, "");
                return;
            }
            Held held = held(path, spec.get());
            // Names that differ in their numbers only are to be told apart however narrow the list is.
            Label name = Controls.path(
                    spec.get().text("displayName").orElse(path.name().replace('_', ' ')));
            HBox line = new HBox(8, new FontIcon(held.sign()), name);
            line.setAlignment(Pos.CENTER_LEFT);
            String state = state(spec.get());
            if (!state.isEmpty()) {
                name.getStyleClass().add(Styles.FAINT);
            }
            Label more = Controls.label(
                    (state + (held.like() > 1 ? "  × " + held.like() : "")).strip(), Styles.FIGURE, Styles.FAINT);
            more.setMinWidth(USE_PREF_SIZE);
            line.getChildren().add(Controls.spring());
            if (held.behind() > 0) {
                Label behind = Controls.label(String.valueOf(held.behind()), "status", "caution");
                behind.setGraphic(new FontIcon("remixal-arrow-up-circle-line"));
                behind.setMinWidth(USE_PREF_SIZE);
                line.getChildren().add(behind);
            }
            holder(path).ifPresent(who -> {
                Label of = Controls.label(who, "status", "caution");
                of.setGraphic(new FontIcon("remixmz-user-line"));
                of.setMinWidth(USE_PREF_SIZE);
                line.getChildren().add(of);
            });
            line.getChildren().add(more);
            Controls.hint(this, held.words());
            setGraphic(line);
        }
    }

    /** Who else holds a section; empty where it is free, or one's own. */
    private Optional<String> holder(SdfPath path) {
        return scene.flatMap(open -> open.sections().at(path))
                .map(section -> model.sections().holdersProperty().get().get(section.layer()))
                .filter(who -> !who.equals(model.session().workbench().who()));
    }

    /** What the line of a part shows: that something is said of it otherwise, and that it is hidden. */
    private static HBox line(PlacementParts.Part part) {
        Label name = Controls.path(part.name());
        HBox line = new HBox(
                8,
                new FontIcon(part.overridden() ? "remixmz-pencil-line" : "remixmz-shape-line"),
                name,
                Controls.spring());
        line.setAlignment(Pos.CENTER_LEFT);
        if (part.hidden()) {
            name.getStyleClass().add(Styles.FAINT);
            line.getChildren().add(Controls.label("hidden", Styles.FIGURE, Styles.FAINT));
        }
        return line;
    }

    /**
     * How something is held, with its sign.
     *
     * @param like how many there are of the same
     * @param behind how many versions it is behind
     */
    private record Held(String sign, String words, long like, int behind) {}

    private Held held(SdfPath path, PrimSpec spec) {
        Scene open = scene.orElseThrow();
        Optional<Placement> placement = open.placements().at(path);
        if (placement.isPresent()) {
            long like = model.like(placement.get());
            boolean overridden = !spec.children().isEmpty();
            int behind = newer.behind(placement.get());
            String words = (model.isSection(path)
                            ? "a section, in " + placement.get().layer().getFileName()
                                    + "; a double click opens it where it stands"
                            : words(placement.get().held()))
                    + (overridden ? "; with overrides inside" : "")
                    + (like > 1 ? "; one of " + like + " of the same" : "")
                    + (behind > 0 ? "; " + Units.counted(behind, "version") + " behind the ready one" : "");
            return new Held(
                    overridden
                            ? "remixmz-pencil-line"
                            : model.isSection(path)
                                    ? "remixal-layout-grid-line"
                                    : sign(placement.get().held()),
                    words,
                    like,
                    behind);
        }
        if (open.instancing().contents(path).isPresent()) {
            SdfPath inside = open.instancing().contents(path).get();
            long uses = open.instancing().uses(inside);
            return new Held(
                    "remixal-git-merge-line",
                    "a use of a group; what is changed inside is changed in all " + uses + " uses",
                    uses,
                    0);
        }
        if (open.anchors().mark(path).isPresent()) {
            return new Held("remixmz-map-pin-line", "an anchor with a mark", 1, 0);
        }
        boolean group = spec.typeName().equals("Xform");
        return new Held(
                group ? "remixal-folder-line" : "remixmz-shape-line",
                group ? "a group" : "the scene's own: " + spec.typeName(),
                1,
                0);
    }

    private static String state(PrimSpec spec) {
        if (spec.flag("active").filter(on -> !on).isPresent()) {
            return "off";
        }
        boolean hidden = spec.attribute("visibility")
                .flatMap(attribute -> attribute.value())
                .filter(new Value.Token("invisible")::equals)
                .isPresent();
        return hidden ? "hidden" : UsdModelReader.isKeptOnly(spec.typeName()) ? "not drawn" : "";
    }

    private static String sign(Placement.Held held) {
        return switch (held) {
            case PINNED -> "remixmz-pushpin-line";
            case FOLLOWING -> "remixal-links-line";
            case FILE -> "remixal-file-copy-line";
            case MISSING -> "remixal-error-warning-line";
            case REFUSED -> "remixmz-shield-keyhole-line";
        };
    }

    private static String words(Placement.Held held) {
        return switch (held) {
            case PINNED -> "referenced, pinned to one version";
            case FOLLOWING -> "referenced, follows the ready version";
            case FILE -> "referenced, a file outside the libraries";
            case MISSING -> "missing: what it refers to is not there";
            case REFUSED -> "not read: it lies outside of the scene's folder, its project and the libraries";
        };
    }
}
