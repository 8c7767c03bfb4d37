package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.TreeCell;
import javafx.scene.control.TreeItem;
import javafx.scene.control.TreeView;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.OwnKeys;
import pantry.desktop.controls.Styles;
import pantry.desktop.session.FxThread;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.SearchScope;
import pantry.desktop.session.Units;
import pantry.library.Library;
import pantry.library.Shelf;
import pantry.workbench.Personal;

/** The left side: the user's own lists, kept searches, libraries with their shelves, and tags. */
final class PlacesPane extends VBox {
    private static final PseudoClass DROP = PseudoClass.getPseudoClass("drop");
    private static final int TAGS_SHOWN = 40;

    private final ShelvesModel model;
    private final LibraryActions actions;
    private final AssetDrag drag;
    private final TreeView<Entry> tree = new TreeView<>();
    private final Map<String, Boolean> folded = new HashMap<>();
    private final VBox asking = new VBox(6);
    private boolean filling;
    private boolean going;

    /** A line of the tree. */
    private sealed interface Entry {
        /** By which it is found again when the tree is filled anew. */
        String key();

        record Heading(String title) implements Entry {
            @Override
            public String key() {
                return title;
            }
        }

        record Where(SearchScope place, String name, String icon, int count) implements Entry {
            @Override
            public String key() {
                return place.toString();
            }
        }

        record Kept(Personal.KeptSearch search) implements Entry {
            @Override
            public String key() {
                return "kept " + search.name();
            }
        }

        record Of(Library library, boolean on, boolean away, int count) implements Entry {
            @Override
            public String key() {
                return "library " + library.root();
            }
        }

        record Tag(String tag, int count) implements Entry {
            @Override
            public String key() {
                return "tag " + tag;
            }
        }
    }

    PlacesPane(ShelvesModel model, LibraryActions actions, AssetDrag drag) {
        this.model = model;
        this.actions = actions;
        this.drag = drag;
        tree.setId("places");
        tree.setAccessibleText("Places: shelves, tags, kept searches");
        tree.setShowRoot(false);
        OwnKeys.claim(tree, KeyCode.DELETE, KeyCode.F2);
        tree.setCellFactory(cells -> new Cell());
        tree.getSelectionModel().selectedItemProperty().addListener((property, before, now) -> {
            if (!filling && now != null) {
                // What was clicked stays selected, also where it leads to all shelves.
                going = true;
                go(now.getValue());
                going = false;
            }
        });
        tree.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.F2 || event.getCode() == KeyCode.DELETE) {
                TreeItem<Entry> chosen = tree.getSelectionModel().getSelectedItem();
                if (chosen != null && event.getCode() == KeyCode.F2) {
                    rename(chosen.getValue());
                } else if (chosen != null) {
                    remove(chosen.getValue());
                }
                event.consume();
            }
        });
        Button make = Controls.button("", "remixal-add-line", "Make a shelf", this::makeShelf);
        make.setId("make-shelf");
        make.getStyleClass().add(Styles.QUIET);
        HBox head = new HBox(8, Controls.label("Places", Styles.TITLE), Controls.spring(), make);
        head.setAlignment(Pos.CENTER_LEFT);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        asking.getStyleClass().addAll("strip", "asking");
        asking.setVisible(false);
        asking.setManaged(false);
        VBox.setVgrow(tree, Priority.ALWAYS);
        getChildren().setAll(head, tree, asking);
        getStyleClass().addAll(Styles.PANEL, "left");
        Controls.width(this, 14.6, 16);
        Libraries libraries = model.session().shelving();
        InvalidationListener refill = FxThread.onceAfter(this::fill);
        libraries.contentsProperty().addListener(refill);
        libraries.open().addListener(refill);
        libraries.off().addListener(refill);
        libraries.away().addListener(refill);
        model.keptSearches().addListener(refill);
        model.card().favouritesProperty().addListener(refill);
        model.recentCountProperty().addListener(refill);
        model.search().scopeProperty().addListener(change -> showPlace());
        fill();
    }

    private void go(Entry entry) {
        switch (entry) {
            case Entry.Where(SearchScope place, String name, String icon, int count) ->
                model.search().scopeProperty().set(place);
            case Entry.Of(Library library, boolean on, boolean away, int count) ->
                model.search()
                        .scopeProperty()
                        .set(new SearchScope.Whole(
                                library.root(), library.info().name()));
            case Entry.Kept(Personal.KeptSearch search) -> {
                model.search().scopeProperty().set(new SearchScope.All());
                model.search().wordsProperty().set(search.text());
            }
            case Entry.Tag(String tag, int count) -> {
                model.search().scopeProperty().set(new SearchScope.All());
                if (!model.search().isNarrowed("tag", tag)) {
                    model.search().narrow("tag", tag);
                }
            }
            case Entry.Heading heading -> {}
        }
    }

    // Filling

    private void fill() {
        filling = true;
        try {
            remember(tree.getRoot());
            TreeItem<Entry> root = new TreeItem<>();
            Libraries libraries = model.session().shelving();
            Personal personal = model.session().workbench().personal();
            root.getChildren()
                    .add(leaf(new Entry.Where(
                            new SearchScope.All(),
                            "All shelves",
                            "remixal-archive-drawer-line",
                            libraries.finder().items().size())));
            root.getChildren()
                    .add(leaf(new Entry.Where(
                            new SearchScope.Favourites(),
                            "Favourites",
                            "remixmz-star-line",
                            personal.favourites().size())));
            root.getChildren()
                    .add(leaf(new Entry.Where(
                            new SearchScope.Recent(),
                            "Looked at last",
                            "remixmz-time-line",
                            model.recentCountProperty().get())));
            if (!model.keptSearches().isEmpty()) {
                TreeItem<Entry> kept = branch(new Entry.Heading("Kept searches"), true);
                model.keptSearches().forEach(search -> kept.getChildren().add(leaf(new Entry.Kept(search))));
                root.getChildren().add(kept);
            }
            for (Library library : libraries.open()) {
                root.getChildren().add(library(library));
            }
            Map<String, Integer> tags = model.tags();
            if (!tags.isEmpty()) {
                TreeItem<Entry> heading = branch(new Entry.Heading("Tags"), false);
                tags.entrySet().stream().limit(TAGS_SHOWN).forEach(tag -> heading.getChildren()
                        .add(leaf(new Entry.Tag(tag.getKey(), tag.getValue()))));
                root.getChildren().add(heading);
            }
            tree.setRoot(root);
        } finally {
            filling = false;
        }
        showPlace();
    }

    private void remember(TreeItem<Entry> item) {
        if (item != null) {
            if (item.getValue() != null && !item.isLeaf()) {
                folded.put(item.getValue().key(), !item.isExpanded());
            }
            item.getChildren().forEach(this::remember);
        }
    }

    private static TreeItem<Entry> leaf(Entry entry) {
        return new TreeItem<>(entry);
    }

    private TreeItem<Entry> branch(Entry entry, boolean open) {
        TreeItem<Entry> item = new TreeItem<>(entry);
        item.setExpanded(!folded.getOrDefault(entry.key(), !open));
        return item;
    }

    private TreeItem<Entry> library(Library library) {
        Libraries libraries = model.session().shelving();
        boolean on = !libraries.off().contains(library.root());
        boolean away = libraries.away().contains(library.root());
        int count = (int) libraries.finder().items().stream()
                .filter(item -> item.library().equals(library.root().toString()))
                .count();
        TreeItem<Entry> item = branch(new Entry.Of(library, on, away, count), true);
        Map<String, TreeItem<Entry>> byPath = new HashMap<>();
        if (on && !away) {
            for (ShelvesModel.ShelfCount shelf : model.shelves(library.root())) {
                int cut = shelf.path().lastIndexOf('/');
                TreeItem<Entry> above =
                        cut < 0 ? item : byPath.getOrDefault(shelf.path().substring(0, cut), item);
                TreeItem<Entry> line = branch(
                        new Entry.Where(
                                new SearchScope.OnShelf(library.root(), shelf.path()), shelf.name(), "", shelf.count()),
                        true);
                above.getChildren().add(line);
                byPath.put(shelf.path(), line);
            }
        }
        return item;
    }

    /** Selects the line of the place that is shown. */
    private void showPlace() {
        if (going) {
            return;
        }
        filling = true;
        try {
            Optional<TreeItem<Entry>> line =
                    find(tree.getRoot(), model.search().scopeProperty().get());
            if (line.isPresent()) {
                tree.getSelectionModel().select(line.get());
            } else {
                tree.getSelectionModel().clearSelection();
            }
        } finally {
            filling = false;
        }
    }

    private static Optional<TreeItem<Entry>> find(TreeItem<Entry> item, SearchScope place) {
        if (item.getValue() instanceof Entry.Where(SearchScope at, String name, String icon, int count)
                        && at.equals(place)
                || item.getValue() instanceof Entry.Of of
                        && place instanceof SearchScope.Whole(Path root, String title)
                        && of.library().root().equals(root)) {
            return Optional.of(item);
        }
        return item.getChildren().stream()
                .flatMap(child -> find(child, place).stream())
                .findFirst();
    }

    // Changing

    /** The library and shelf that a new shelf is made in. */
    private Optional<SearchScope.OnShelf> here() {
        return switch (model.search().scopeProperty().get()) {
            case SearchScope.OnShelf shelf -> Optional.of(shelf);
            case SearchScope.Whole(Path root, String name) -> Optional.of(new SearchScope.OnShelf(root, ""));
            default ->
                model.session().shelving().present().stream()
                        .findFirst()
                        .map(library -> new SearchScope.OnShelf(library.root(), ""));
        };
    }

    void makeShelf() {
        here().ifPresent(place -> ask(
                "A new shelf"
                        + (place.path().isEmpty() ? "" : " on " + place.path().replace("/", " / "))
                        + of(place.library()),
                "",
                "Make it",
                name -> actions.makeShelf(
                        model.session().shelving().at(place.library().toString()),
                        place.path().isEmpty() ? name : place.path() + "/" + name)));
    }

    /** Tells which library is meant, where there are several. */
    private String of(Path library) {
        return model.session().libraries().size() < 2
                ? ""
                : " in "
                        + model.session()
                                .shelving()
                                .at(library.toString())
                                .info()
                                .name();
    }

    /** Moves or copies what was let go over a library to a shelf of it, which is asked for. */
    private void bring(List<IndexedAsset> items, Library library, TransferMode mode) {
        ask(
                "The shelf in " + library.info().name() + " for "
                        + (items.size() == 1 ? items.getFirst().name() : Units.counted(items.size(), "asset")),
                "",
                mode == TransferMode.COPY ? "Copy there" : "Move there",
                path -> put(items, library.root(), Shelf.path(path), mode));
    }

    private void put(List<IndexedAsset> items, Path library, String shelf, TransferMode mode) {
        if (mode == TransferMode.COPY) {
            actions.copy(items, library, shelf);
        } else {
            actions.move(items, library, shelf);
        }
    }

    private void rename(Entry entry) {
        switch (entry) {
            case Entry.Where(SearchScope.OnShelf(Path root, String path), String name, String icon, int count) ->
                ask("Rename or move the shelf", path, "Rename", to -> {
                    if (!to.equals(path)) {
                        actions.moveShelf(model.session().shelving().at(root.toString()), path, to);
                        model.search().scopeProperty().set(new SearchScope.OnShelf(root, to));
                    }
                });
            case Entry.Tag(String tag, int count) ->
                ask(
                        "Rename the tag on " + count + " assets, or give the name of another to join them",
                        tag,
                        "Rename",
                        to -> actions.renameTag(tag, to));
            default -> {}
        }
    }

    private void remove(Entry entry) {
        switch (entry) {
            case Entry.Where(SearchScope.OnShelf(Path root, String path), String name, String icon, int count) -> {
                actions.removeShelf(model.session().shelving().at(root.toString()), path);
                model.search().scopeProperty().set(new SearchScope.All());
            }
            case Entry.Kept(Personal.KeptSearch search) -> model.forget(search);
            default -> {}
        }
    }

    void enter() {
        tree.requestFocus();
    }

    private interface Answer {
        void given(String text);
    }

    /** Asks for a name in the panel's foot. */
    private void ask(String question, String before, String yes, Answer answer) {
        TextField field = new TextField(before);
        field.setId("places-name");
        Runnable close = () -> {
            asking.setVisible(false);
            asking.setManaged(false);
            tree.requestFocus();
        };
        Runnable give = () -> {
            if (!field.getText().isBlank()) {
                close.run();
                // The library may have been closed while the question stood there.
                model.session().attempt(() -> answer.given(field.getText().strip()));
            }
        };
        field.setOnAction(event -> give.run());
        field.setOnKeyPressed(event -> {
            if (event.getCode() == KeyCode.ESCAPE) {
                close.run();
                event.consume();
            }
        });
        Button ok = Controls.button(yes, "", "", give);
        ok.getStyleClass().add(Styles.PRIMARY);
        Button no = Controls.button("Leave it", "", "", close);
        no.getStyleClass().add(Styles.QUIET);
        asking.getChildren().setAll(Controls.wrapped(question), field, new HBox(6, ok, no));
        asking.setVisible(true);
        asking.setManaged(true);
        field.requestFocus();
        field.selectAll();
    }

    /** Asks for the name under which what is looked for is kept. */
    void keepSearch() {
        if (!model.search().wordsProperty().get().isBlank()) {
            ask(
                    "Keep the search “" + model.search().wordsProperty().get().strip() + "” as",
                    model.search().wordsProperty().get().strip(),
                    "Keep it",
                    model::keepSearch);
        }
    }

    /** A line. */
    private final class Cell extends TreeCell<Entry> {
        Cell() {
            setOnDragOver(event -> {
                if (AssetDrag.holdsAssets(event)
                        && (shelf().isPresent() || library().isPresent())) {
                    // Moved, unless the key is held that leaves only copying.
                    boolean movable = event.getDragboard().getTransferModes().contains(TransferMode.MOVE);
                    event.acceptTransferModes(movable ? TransferMode.MOVE : TransferMode.COPY);
                    pseudoClassStateChanged(DROP, true);
                    event.consume();
                }
            });
            setOnDragExited(event -> pseudoClassStateChanged(DROP, false));
            setOnDragDropped(this::drop);
            setOnContextMenuRequested(event -> {
                if (getItem() != null) {
                    showMenu(getItem(), event.getScreenX(), event.getScreenY());
                    event.consume();
                }
            });
        }

        private Optional<SearchScope.OnShelf> shelf() {
            return getItem() instanceof Entry.Where(SearchScope.OnShelf place, String name, String icon, int count)
                    ? Optional.of(place)
                    : Optional.empty();
        }

        /** The library that its line is of, where things can be put into it. */
        private Optional<Library> library() {
            return getItem() instanceof Entry.Of(Library library, boolean on, boolean away, int count)
                            && library.writable()
                            && !away
                    ? Optional.of(library)
                    : Optional.empty();
        }

        private void drop(DragEvent event) {
            library().ifPresent(library -> {
                bring(drag.dragged(event), library, event.getTransferMode());
                event.setDropCompleted(true);
            });
            shelf().ifPresent(place -> {
                put(drag.dragged(event), place.library(), place.path(), event.getTransferMode());
                event.setDropCompleted(true);
            });
            event.consume();
        }

        @Override
        protected void updateItem(Entry entry, boolean empty) {
            super.updateItem(entry, empty);
            setText(null);
            // As wide as the panel, however long the name.
            setPrefWidth(10);
            Controls.hint(this, "");
            getStyleClass().remove("heading");
            if (empty || entry == null) {
                setGraphic(null);
                return;
            }
            setGraphic(
                    switch (entry) {
                        case Entry.Heading(String title) -> Controls.label(title, Styles.SECTION);
                        case Entry.Where(SearchScope place, String name, String icon, int count) ->
                            line(icon, name, count);
                        case Entry.Kept(Personal.KeptSearch search) -> {
                            Controls.hint(this, search.text());
                            yield line("remixmz-search-line", search.name(), -1);
                        }
                        case Entry.Of of -> library(of);
                        case Entry.Tag(String tag, int count) -> line("remixmz-price-tag-3-line", tag, count);
                    });
        }

        private HBox line(String icon, String name, int count) {
            HBox line = new HBox(6);
            if (!icon.isEmpty()) {
                line.getChildren().add(new FontIcon(icon));
            }
            Label label = Controls.label(name);
            label.setMinWidth(30);
            line.getChildren().addAll(label, Controls.spring());
            if (count >= 0) {
                Label number = Controls.label(Units.count(count), Styles.FIGURE, Styles.FAINT);
                number.setMinWidth(USE_PREF_SIZE);
                line.getChildren().add(number);
            }
            line.setAlignment(Pos.CENTER_LEFT);
            return line;
        }

        private HBox library(Entry.Of of) {
            Library library = of.library();
            ToggleButton on = new ToggleButton("", new FontIcon(of.on() ? "remixal-eye-line" : "remixal-eye-off-line"));
            on.setSelected(of.on());
            on.getStyleClass().add("library-switch");
            Controls.hint(on, of.on() ? "Shown; click to leave it out" : "Left out; click to show it");
            on.setAccessibleText("Show " + library.info().name());
            on.setOnAction(event -> model.session().shelving().switchOn(library, !of.on()));
            HBox line = line("", library.info().name(), of.on() && !of.away() ? of.count() : -1);
            line.getChildren().getFirst().getStyleClass().add(Styles.SECTION);
            if (of.away()) {
                line.getChildren().add(Controls.label("away", "status", "caution"));
            } else if (!library.writable()) {
                line.getChildren().add(Controls.label("read-only", "status"));
            }
            line.getChildren().add(on);
            Controls.hint(this, library.root().toString());
            return line;
        }

        /** Made when it is asked for: a menu is a window of its own, and there is a cell for every shelf. */
        private void showMenu(Entry entry, double x, double y) {
            List<MenuItem> items = new ArrayList<>();
            switch (entry) {
                case Entry.Where(SearchScope.OnShelf place, String name, String icon, int count) -> {
                    items.add(item("New shelf here…", () -> {
                        model.search().scopeProperty().set(place);
                        makeShelf();
                    }));
                    items.add(item("Rename or move… (F2)", () -> rename(entry)));
                    items.add(item("Remove the empty shelf (Delete)", () -> remove(entry)));
                }
                case Entry.Kept kept -> items.add(item("Forget this search (Delete)", () -> remove(entry)));
                case Entry.Tag tag -> items.add(item("Rename or join… (F2)", () -> rename(entry)));
                case Entry.Of(Library library, boolean on, boolean away, int count) -> {
                    library()
                            .ifPresent(own -> items.add(item("New shelf here…", () -> {
                                model.search()
                                        .scopeProperty()
                                        .set(new SearchScope.Whole(
                                                own.root(), own.info().name()));
                                makeShelf();
                            })));
                    items.add(item(
                            "Close this library",
                            () -> model.session().shelving().close(library)));
                }
                default -> {}
            }
            if (!items.isEmpty()) {
                new ContextMenu(items.toArray(MenuItem[]::new)).show(this, x, y);
            }
        }

        private static MenuItem item(String text, Runnable action) {
            MenuItem item = new MenuItem(text);
            item.setOnAction(event -> action.run());
            return item;
        }
    }
}
