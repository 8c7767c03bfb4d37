package pantry.desktop.shelves;

import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.beans.InvalidationListener;
import javafx.css.PseudoClass;
import javafx.geometry.Bounds;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.TraversalDirection;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.Slider;
import javafx.scene.control.SplitPane;
import javafx.scene.control.Toggle;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.input.ContextMenuEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.desktop.controls.Ask;
import pantry.desktop.controls.Choice;
import pantry.desktop.controls.Controls;
import pantry.desktop.controls.Styles;
import pantry.desktop.controls.WrappingRow;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.SearchScope;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.desktop.view3d.View3d;
import pantry.desktop.workplace.Request;
import pantry.library.Library;

/** Places on the left, assets in the middle (on their shelves' edges, as a table, or lined up), the card on the right. */
public final class ShelvesView extends BorderPane {
    private static final PseudoClass WORDS = PseudoClass.getPseudoClass("words");

    private final ShelvesModel model;
    private final Session session;
    private final LibraryActions actions;
    private final CheckModel checks;
    private final PlacesPane places;
    private final EdgesPane edges;
    private final ItemTable table;
    private final LineUp lineUp;
    private final FacetBar facets;
    private final CardPane card;
    private final ComparePane compare;
    private final CheckPane check;
    private final StackPane middle = new StackPane();
    private final BorderPane found = new BorderPane();
    private final StackPane centre = new StackPane();
    private final Label heading = Controls.label("", Styles.TITLE);
    private final Label count = Controls.label("", Styles.FAINT);
    private final Label complaint = Controls.wrapped("", Styles.CAUTION);
    private final ToggleButton asEdges = way("Shelves", "as-edges", "Standing on their shelves' edges");
    private final ToggleButton asTable = way("Table", "as-table", "With columns to sort and choose");
    private final ToggleButton asLineUp = way("Line-up", "as-line-up", "Side by side at true scale");
    private final HBox sizing;
    private final Button elsewhere =
            Controls.button("", "", "Look on all shelves, whatever is chosen at the left", this::lookEverywhere);
    private Runnable onReceive = () -> {};

    public ShelvesView(ShelvesModel model, Session session, AssetPictures thumbs) {
        this.model = model;
        this.session = session;
        this.actions = new LibraryActions(model);
        this.checks = new CheckModel(session);
        AssetDrag drag = new AssetDrag(model, actions, thumbs);
        places = new PlacesPane(model, actions, drag);
        edges = new EdgesPane(model, thumbs, drag);
        table = new ItemTable(model, thumbs, drag);
        lineUp = new LineUp(model);
        facets = new FacetBar(model);
        card = new CardPane(model, actions, thumbs);
        compare = new ComparePane(model);
        check = new CheckPane(checks, actions);
        sizing = sizing();
        found.setTop(new VBox(head(), facets, complaint));
        found.setCenter(middle);
        complaint.getStyleClass().add("complaint");
        centre.getChildren().setAll(found);
        SplitPane parts = new SplitPane(places, centre, card);
        parts.setDividerPositions(0.18, 0.73);
        SplitPane.setResizableWithParent(places, false);
        SplitPane.setResizableWithParent(card, false);
        setCenter(parts);
        edges.list().setOnContextMenuRequested(event -> showMenu(edges.list(), event));
        table.setOnContextMenuRequested(event -> showMenu(table, event));
        InvalidationListener layOut = change -> layOut();
        model.search().foundProperty().addListener(layOut);
        model.card().favouritesProperty().addListener(layOut);
        session.shelving().open().addListener(layOut);
        model.chosenProperty().addListener(change -> {
            if (asLineUp.isSelected()) {
                lineUp.layOut();
            }
        });
        InvalidationListener which = change -> showCentre();
        model.card().comparedProperty().addListener(which);
        checks.checkedProperty().addListener(which);
        layOut();
    }

    private static ToggleButton way(String text, String id, String hint) {
        ToggleButton way = new ToggleButton(text);
        way.setId(id);
        way.setMinWidth(Region.USE_PREF_SIZE);
        way.getStyleClass().add("small");
        Controls.hint(way, hint);
        return way;
    }

    private WrappingRow head() {
        ToggleGroup ways = new ToggleGroup();
        for (ToggleButton way : List.of(asEdges, asTable, asLineUp)) {
            way.setToggleGroup(ways);
        }
        asEdges.setSelected(true);
        ways.selectedToggleProperty().addListener((property, before, now) -> {
            if (now == null) {
                ways.selectToggle(before);
            } else {
                layOut();
            }
        });
        HBox how = new HBox(2, asEdges, asTable, asLineUp);
        how.getStyleClass().add("ways");
        how.setAlignment(Pos.CENTER);
        WrappingRow head = new WrappingRow(8, heading, count, elsewhere, Controls.spring(), sizing, order(), how);
        heading.setMinWidth(60);
        count.setMinWidth(Region.USE_PREF_SIZE);
        elsewhere.setId("found-elsewhere");
        elsewhere.getStyleClass().add("small");
        elsewhere.setMinWidth(Region.USE_PREF_SIZE);
        head.getStyleClass().add(Styles.PANEL_TITLE);
        return head;
    }

    private HBox sizing() {
        Slider size = new Slider(EdgesPane.SMALLEST, EdgesPane.LARGEST, 120);
        size.setPrefWidth(70);
        size.setMinWidth(50);
        size.setAccessibleText("Size of the pictures");
        Controls.hint(size, "Size of the pictures");
        edges.sizeProperty().bind(size.valueProperty());
        HBox box = new HBox(size);
        box.setAlignment(Pos.CENTER);
        return box;
    }

    private ComboBox<Order> order() {
        Choice<Order> order = new Choice<>();
        order.setId("order");
        order.getItems().setAll(Order.values());
        order.shownAs(each -> "by " + each.word());
        order.getStyleClass().add("small");
        Controls.hint(order, "The order; while words are looked for, “by shelf” puts the best first");
        order.valueProperty().bindBidirectional(model.search().orderProperty());
        return order;
    }

    /** What can be done with what is chosen: where the mouse is, or where the last chosen stands. */
    private void showMenu(Region list, ContextMenuEvent event) {
        event.consume();
        ContextMenu menu = new ContextMenu(card.actionsOfChosen().toArray(MenuItem[]::new));
        if (menu.getItems().isEmpty()) {
            return;
        }
        if (event.isKeyboardTrigger()) {
            Region at = model.selectedProperty()
                    .get()
                    .filter(item -> list == edges.list())
                    .map(edges::standing)
                    .orElse(list);
            Bounds place = at.localToScreen(at.getLayoutBounds());
            menu.show(list, place.getCenterX(), place.getCenterY());
        } else {
            menu.show(list, event.getScreenX(), event.getScreenY());
        }
    }

    /** Called when somebody wants to take files in. */
    public void setOnReceive(Runnable action) {
        onReceive = action;
    }

    /** Called when an asset is to be placed in the scene. */
    public void setOnPlace(Consumer<IndexedAsset> action) {
        card.setOnPlace(action);
        edges.setOnOpen(action);
    }

    /** Called when something is asked for that another workplace shows. */
    public void setOnRequest(Consumer<Request> action) {
        card.setOnRequest(action);
    }

    private void showCentre() {
        if (model.card().comparedProperty().get().isPresent()) {
            centre.getChildren().setAll(compare);
        } else if (checks.checkedProperty().get().isPresent()) {
            centre.getChildren().setAll(check);
        } else {
            centre.getChildren().setAll(found);
        }
    }

    private void layOut() {
        heading.setText(model.search().scopeProperty().get().title());
        String words = model.search().wordsProperty().get();
        int number = model.search().foundProperty().get().count();
        count.setText(number == 1 ? "1 asset" : Units.count(number) + " assets");
        count.pseudoClassStateChanged(WORDS, !words.isBlank());
        int everywhere = model.search().everywhereProperty().get();
        // Where nothing is found here, that is said in the middle.
        boolean beside = !words.isBlank() && number > 0 && everywhere > number;
        elsewhere.setText(Units.count(everywhere) + " on all shelves");
        elsewhere.setVisible(beside);
        elsewhere.setManaged(beside);
        String complaints =
                String.join("; ", model.search().foundProperty().get().complaints());
        complaint.setText(complaints);
        complaint.setVisible(!complaints.isEmpty());
        complaint.setManaged(!complaints.isEmpty());
        facets.layOut();
        sizing.setVisible(asEdges.isSelected());
        sizing.setManaged(asEdges.isSelected());
        if (session.libraries().isEmpty()) {
            Button open = Controls.button("Open a library…", "", "", this::openLibrary);
            open.getStyleClass().add(Styles.PRIMARY);
            middle.getChildren()
                    .setAll(Controls.empty(
                            "remixal-archive-drawer-line",
                            "No library is open",
                            "A library is a folder that a team shares.",
                            open,
                            Controls.button("Make a new one…", "", "", this::makeLibrary)));
        } else if (number == 0) {
            middle.getChildren().setAll(nothing(words));
        } else if (asTable.isSelected()) {
            table.layOut();
            middle.getChildren().setAll(table);
        } else if (asLineUp.isSelected()) {
            lineUp.layOut();
            middle.getChildren().setAll(lineUp);
        } else {
            edges.layOut();
            middle.getChildren().setAll(edges);
        }
    }

    private void openLibrary() {
        Ask.of(this, "Open a library").folder().ifPresent(session::openLibrary);
    }

    private void makeLibrary() {
        Ask.of(this, "Folder for the new library").folder().ifPresent(session::createLibrary);
    }

    /** Takes the keys to what was found, and chooses the first where nothing is chosen. */
    public void enterFound() {
        List<IndexedAsset> items = model.search().items();
        if (items.isEmpty()) {
            return;
        }
        if (model.chosenProperty().get().isEmpty()) {
            model.choose(List.of(items.getFirst()), Optional.of(items.getFirst()));
        }
        enter();
    }

    /** Takes the keys to what is found, as it is shown; to what lies over it, or to the places where nothing is. */
    public void enter() {
        Node shown = centre.getChildren().getFirst();
        if (shown != found) {
            shown.requestFocus();
            shown.requestFocusTraversal(TraversalDirection.NEXT);
        } else if (model.search().items().isEmpty()) {
            places.enter();
        } else if (asTable.isSelected()) {
            table.requestFocus();
        } else if (asEdges.isSelected()) {
            edges.enter();
        } else {
            lineUp.requestFocus();
        }
    }

    private VBox nothing(String words) {
        if (model.search().isPending()) {
            return Controls.empty(
                    "remixal-archive-drawer-line", "Looking…", "What stands in the library is being read.");
        }
        String missed = session.shelving().missed().stream()
                .map(library -> library.info().name())
                .collect(Collectors.joining(", "));
        if (!missed.isEmpty() && session.shelving().present().isEmpty()) {
            return Controls.empty(
                    "remixal-archive-drawer-line",
                    missed + (session.shelving().missed().size() == 1 ? " is away" : " are away"),
                    "The folder is not there now, as when a drive or the network is not connected. What stands in it is"
                            + " shown again once it is back.");
        }
        if (!words.isBlank()) {
            return Controls.empty(
                    "remixmz-search-line",
                    "Nothing matches “" + words.strip() + "”",
                    "Every word must begin some word of the name, tags, notes, materials, parts or shelf. Facts are"
                            + " asked as kind:model, tag:sensor, triangles:<5000 or height:1..3m."
                            + (missed.isEmpty() ? "" : " Not looked through, for it is away: " + missed + "."),
                    model.search().everywhereProperty().get() > 0
                            ? Controls.button("Show the " + elsewhere.getText(), "", "", this::lookEverywhere)
                            : Controls.button("Look for everything", "", "", () -> model.search()
                                    .clear()));
        }
        Button receive = Controls.button("Take files in…", "", "", () -> onReceive.run());
        receive.getStyleClass().add(Styles.PRIMARY);
        return switch (model.search().scopeProperty().get()) {
            case SearchScope.Favourites() ->
                Controls.empty(
                        "remixmz-star-line",
                        "No favourites yet",
                        "Choose an asset and press F, or click the star on its card.");
            case SearchScope.Recent() ->
                Controls.empty("remixmz-time-line", "Nothing was looked at yet", "What you look at is listed here.");
            case SearchScope.Alike alike ->
                Controls.empty(
                        "remixmz-shape-line", "Nothing else has nearly this shape", "Size and turn do not matter.");
            case SearchScope.OnShelf shelf ->
                Controls.empty(
                        "remixal-archive-drawer-line",
                        "The shelf is empty",
                        "Drag assets here from another shelf, or take files in.",
                        receive);
            default ->
                Controls.empty(
                        "remixal-archive-drawer-line",
                        "The shelves are empty",
                        "Assets stand here once files have been received.",
                        receive);
        };
    }

    private void lookEverywhere() {
        model.search().scopeProperty().set(new SearchScope.All());
    }

    // What can be done by key or by name

    public LibraryActions actions() {
        return actions;
    }

    /** How assets are shown. */
    public enum Way {
        EDGES,
        TABLE,
        LINE_UP
    }

    public void show(Way way) {
        Toggle toggle =
                switch (way) {
                    case EDGES -> asEdges;
                    case TABLE -> asTable;
                    case LINE_UP -> asLineUp;
                };
        toggle.setSelected(true);
    }

    /** Lays compared versions over each other, rather than side by side. */
    public void showOver() {
        compare.layOver();
    }

    public void makeShelf() {
        places.makeShelf();
    }

    public void keepSearch() {
        places.keepSearch();
    }

    public void discardChosen() {
        if (!model.chosenProperty().get().isEmpty()) {
            actions.discard(model.chosenProperty().get());
        }
    }

    /** Checks the library of the chosen asset, or the first that is open. */
    public void check() {
        Optional<Library> library = model.selectedProperty()
                .get()
                .map(item -> session.shelving().at(item.library()))
                .or(() -> session.shelving().present().stream().findFirst());
        library.ifPresent(checks::check);
    }

    public CheckModel checks() {
        return checks;
    }

    public void copyTable() {
        show(Way.TABLE);
        table.copy();
        session.told("copied the table");
    }

    public void saveTable() {
        show(Way.TABLE);
        Ask.of(this, "Save the table as CSV")
                .named("assets.csv")
                .saveAs()
                .ifPresent(file -> session.attempt(() -> {
                    table.write(file);
                    session.told("wrote the table to " + file.getFileName());
                }));
    }

    public void editCopy() {
        card.questions().editCopy();
    }

    public void publishFile() {
        card.questions().publishFile();
    }

    public void moveTo() {
        card.questions().moveTo();
    }

    public void handOut() {
        card.questions().handOut();
    }

    /** Ends what covers the shelves; whether there was something. */
    public boolean uncover() {
        boolean covered = centre.getChildren().getFirst() != found;
        model.card().endComparison();
        checks.leave();
        return covered;
    }

    /** The card's view, for those who look at it from outside. */
    public View3d view() {
        return card.view();
    }

    /** All views, which follow day and night. */
    public List<View3d> views() {
        List<View3d> views = new java.util.ArrayList<>(compare.views());
        views.add(card.view());
        views.add(lineUp.view());
        return views;
    }
}
