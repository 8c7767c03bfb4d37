package pantry.desktop.frame;

import java.io.File;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.binding.Bindings;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import org.kordamp.ikonli.javafx.FontIcon;
import pantry.catalogue.Item;
import pantry.desktop.look.Bits;
import pantry.desktop.look.Look;
import pantry.desktop.look.Styles;
import pantry.desktop.look3d.View3d;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.receive.ReceiveView;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.scenes.ScenesView;
import pantry.desktop.session.Job;
import pantry.desktop.session.LedgerLine;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.desktop.shelves.ShelvesModel;
import pantry.desktop.shelves.ShelvesView;
import pantry.desktop.shelves.Thumbs;
import pantry.desktop.waiting.WaitingView;
import pantry.library.Library;
import pantry.scene.Weight;

/** The whole window: counter above, rail at the left, a workplace, scale and ledger below. */
public final class FrameView extends StackPane {
    private static final String EVERYWHERE = "Everywhere";
    private static final int HITS_SHOWN = 8;
    private static final double HIT_HEIGHT = 32;
    private static final double HITS_HEIGHT = 420;

    private final Session session;
    private final ShelvesModel shelvesModel;
    private final ScenesModel scenesModel;
    private final ReceiveModel receiveModel;
    private final ReceiveView receive;
    private final ShelvesView shelves;
    private final ScenesView scenes;
    private final Map<Workplace, Node> views = new EnumMap<>(Workplace.class);
    private final Map<Workplace, ToggleButton> railButtons = new EnumMap<>(Workplace.class);
    private final ObjectProperty<Workplace> workplace = new SimpleObjectProperty<>(Workplace.SHELVES);
    private final BorderPane frame = new BorderPane();
    private final TextField find = new TextField();
    private final ListView<Object> hits = new ListView<>();
    private final VBox drawer = new VBox();
    private final List<Command> commands = new ArrayList<>();
    private double textSize = 13;

    public FrameView(Session session, ReceiveModel receiveModel, ShelvesModel shelvesModel, ScenesModel scenesModel) {
        this.session = session;
        this.receiveModel = receiveModel;
        this.shelvesModel = shelvesModel;
        this.scenesModel = scenesModel;
        Pane ghosts = new Pane();
        ghosts.setMouseTransparent(true);
        Thumbs thumbs = new Thumbs();
        receive = new ReceiveView(receiveModel, session.workbench().renderCache());
        shelves = new ShelvesView(shelvesModel, session, thumbs);
        scenes = new ScenesView(scenesModel, shelvesModel, session, thumbs, ghosts);
        shelves.setOnReceive(() -> {
            go(Workplace.RECEIVE);
            receive.chooseFiles();
        });
        shelves.setOnPlace(this::place);
        views.put(Workplace.RECEIVE, receive);
        views.put(Workplace.SHELVES, shelves);
        views.put(Workplace.SCENES, scenes);
        views.put(
                Workplace.PREP,
                new WaitingView(
                        "remixmz-tools-line",
                        "Prep is not built yet",
                        "Here assets will be inspected and cleaned: names, leftovers, twins, pivots, proxies and plan"
                                + " symbols. Until then, Receive measures each file before it is shelved.",
                        Bits.button("Go to Receive", "", "", () -> go(Workplace.RECEIVE))));
        views.put(
                Workplace.REACH,
                new WaitingView(
                        "remixal-git-branch-line",
                        "Reach is not built yet",
                        "Here you will see which scene uses what, in which version, and what an update would change."
                                + " Until then, Scenes shows how each placement is held.",
                        Bits.button("Go to Scenes", "", "", () -> go(Workplace.SCENES))));
        frame.setTop(counter());
        frame.setLeft(rail());
        frame.setBottom(foot());
        workplace.addListener(change -> show());
        getChildren().setAll(frame, hits, drawer, ghosts);
        floatHits();
        floatDrawer();
        makeCommands();
        addEventFilter(KeyEvent.KEY_PRESSED, this::key);
        addEventHandler(KeyEvent.KEY_TYPED, this::typed);
        show();
    }

    public ReceiveView receive() {
        return receive;
    }

    public ShelvesView shelves() {
        return shelves;
    }

    public ScenesView scenes() {
        return scenes;
    }

    /** Looks for words, as if they were typed into the search field; blank ones leave it. */
    public void look(String words) {
        find.setText(words);
        (words.isBlank() ? frame.getCenter() : find).requestFocus();
    }

    /** Opens a workplace. */
    public void go(Workplace chosen) {
        workplace.set(chosen);
    }

    private void show() {
        frame.setCenter(views.get(workplace.get()));
        railButtons.get(workplace.get()).setSelected(true);
        session.weightProperty()
                .set(
                        workplace.get() == Workplace.SCENES
                                ? scenesModel.shownProperty().get().weight()
                                : Weight.NOTHING);
    }

    private void place(Item item) {
        if (scenesModel.sceneProperty().get().isEmpty()) {
            session.attempt(() -> {
                throw new pantry.base.PantryException(
                        "no scene is open to place " + item.name() + " in; open or make one in Scenes first");
            });
            go(Workplace.SCENES);
            return;
        }
        scenes.placeInMiddle(item);
        go(Workplace.SCENES);
    }

    private HBox counter() {
        Label wordmark = Bits.label("Pantry", "wordmark");
        MenuButton libraries = new MenuButton();
        libraries.setId("libraries");
        libraries
                .textProperty()
                .bind(Bindings.createStringBinding(
                        () -> switch (session.libraries().size()) {
                            case 0 -> "No library open";
                            case 1 -> session.libraries().getFirst().info().name();
                            default -> session.libraries().size() + " libraries";
                        },
                        session.libraries()));
        libraries.setOnShowing(event -> fillLibraries(libraries));
        fillLibraries(libraries);
        find.setId("find");
        find.getStyleClass().add("find-field");
        find.setPromptText("Find an asset, or an action by its name   /");
        find.textProperty().addListener((property, before, now) -> {
            shelvesModel.wordsProperty().set(now);
            showHits();
        });
        find.focusedProperty().addListener((property, before, now) -> showHits());
        HBox jobs = new HBox(8);
        jobs.setAlignment(Pos.CENTER_RIGHT);
        jobs.setMinWidth(220);
        session.jobs().addListener((javafx.beans.InvalidationListener) change -> showJobs(jobs));
        Label who = Bits.label(System.getProperty("user.name", ""), Styles.FAINT);
        HBox counter = new HBox(16, wordmark, libraries, Bits.spring(), find, Bits.spring(), jobs, who);
        counter.setAlignment(Pos.CENTER_LEFT);
        counter.getStyleClass().add(Styles.COUNTER);
        return counter;
    }

    private void fillLibraries(MenuButton menu) {
        menu.getItems().clear();
        for (Library library : session.libraries()) {
            MenuItem item = new MenuItem(library.info().name() + "   " + library.root());
            item.setDisable(true);
            menu.getItems().add(item);
        }
        if (!session.libraries().isEmpty()) {
            menu.getItems().add(new SeparatorMenuItem());
        }
        menu.getItems()
                .addAll(
                        item("Open a library…", this::openLibrary),
                        item("New library in a folder…", this::newLibrary),
                        item("Open a project folder…", this::openProject));
    }

    private static MenuItem item(String text, Runnable action) {
        MenuItem item = new MenuItem(text);
        item.setOnAction(event -> action.run());
        return item;
    }

    private Optional<File> chooseFolder(String title) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        return Optional.ofNullable(chooser.showDialog(getScene().getWindow()));
    }

    private void openLibrary() {
        chooseFolder("Open a library").ifPresent(folder -> session.openLibrary(folder.toPath()));
    }

    private void newLibrary() {
        chooseFolder("Folder for the new library")
                .ifPresent(folder -> session.createLibrary(folder.toPath(), folder.getName()));
    }

    private void openProject() {
        chooseFolder("Open a project")
                .ifPresent(folder -> session.projectProperty().set(Optional.of(folder.toPath())));
    }

    private void showJobs(HBox box) {
        box.getChildren().clear();
        if (session.jobs().isEmpty()) {
            return;
        }
        Job job = session.jobs().getFirst();
        Label what = Bits.label("", Styles.FAINT);
        what.setMaxWidth(180);
        int others = session.jobs().size() - 1;
        what.textProperty().bind(job.whatProperty().concat(others > 0 ? "  (+" + others + ")" : ""));
        ProgressBar bar = new ProgressBar();
        bar.setPrefWidth(80);
        bar.progressProperty().bind(job.fractionProperty());
        Button cancel = Bits.button("", "remixal-close-line", "Cancel", job::cancel);
        cancel.getStyleClass().add(Styles.QUIET);
        box.getChildren().setAll(what, bar, cancel);
    }

    private VBox rail() {
        VBox rail = new VBox();
        rail.getStyleClass().add(Styles.RAIL);
        ToggleGroup group = new ToggleGroup();
        for (Workplace place : Workplace.values()) {
            ToggleButton button = new ToggleButton(place.word(), new FontIcon(place.icon()));
            button.setId("rail-" + place.word());
            button.getStyleClass().setAll(Styles.RAIL_BUTTON);
            button.setToggleGroup(group);
            button.setTooltip(new Tooltip(place.hint() + " (Ctrl+" + (place.ordinal() + 1) + ")"));
            button.setOnAction(event -> {
                button.setSelected(true);
                go(place);
            });
            railButtons.put(place, button);
            if (place == Workplace.RECEIVE) {
                Label badge = Bits.label("", "badge");
                badge.setMouseTransparent(true);
                badge.textProperty()
                        .bind(Bindings.createStringBinding(
                                () -> Long.toString(receiveModel.waiting()), receiveModel.arrivals()));
                badge.visibleProperty()
                        .bind(Bindings.createBooleanBinding(() -> receiveModel.waiting() > 0, receiveModel.arrivals()));
                StackPane stack = new StackPane(button, badge);
                StackPane.setAlignment(badge, Pos.TOP_RIGHT);
                StackPane.setMargin(badge, new Insets(4, 12, 0, 0));
                rail.getChildren().add(stack);
            } else {
                rail.getChildren().add(button);
            }
        }
        return rail;
    }

    private HBox foot() {
        Label scale = Bits.label("", Styles.FIGURE);
        scale.setId("scale");
        scale.setMinWidth(USE_PREF_SIZE);
        scale.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> weigh(session.weightProperty().get()), session.weightProperty()));
        Label after = Bits.label("", Styles.FIGURE, "after");
        after.textProperty()
                .bind(Bindings.createStringBinding(
                        () -> session.weightAfterProperty()
                                .get()
                                .map(weight -> "→ " + Units.count(weight.trianglesDrawn()) + " drawn, "
                                        + Units.count(weight.placements()) + " placements")
                                .orElse(""),
                        session.weightAfterProperty()));
        FontIcon sign = new FontIcon("remixmz-scales-3-line");
        Label last = Bits.label("", Styles.FAINT);
        last.setId("ledger-last");
        last.setMaxWidth(420);
        last.setMinWidth(60);
        Button undo = Bits.button("Undo", "", "Take it back (Ctrl+Z)", this::undoLast);
        undo.setId("ledger-undo");
        undo.setMinWidth(USE_PREF_SIZE);
        undo.getStyleClass().add(Styles.QUIET);
        Button ledger = Bits.button("Ledger", "remixal-booklet-line", "All that was done (Ctrl+L)", this::toggleLedger);
        ledger.getStyleClass().add(Styles.QUIET);
        ledger.setMinWidth(USE_PREF_SIZE);
        session.ledger().addListener((javafx.beans.InvalidationListener) change -> {
            Optional<LedgerLine> line = session.ledger().stream().findFirst();
            last.setText(line.map(LedgerLine::text).orElse(""));
            last.setTooltip(line.map(l -> new Tooltip(l.text())).orElse(null));
            boolean wrong = line.filter(l -> l.kind() == LedgerLine.Kind.WRONG).isPresent();
            last.getStyleClass().removeAll(Styles.WRONG, Styles.FAINT);
            last.getStyleClass().add(wrong ? Styles.WRONG : Styles.FAINT);
            undo.setDisable(line.flatMap(LedgerLine::undo).isEmpty());
        });
        undo.setDisable(true);
        HBox foot = new HBox(12, sign, scale, after, Bits.spring(), last, undo, ledger);
        foot.setAlignment(Pos.CENTER_LEFT);
        foot.getStyleClass().add(Styles.FOOT);
        return foot;
    }

    private static String weigh(Weight weight) {
        if (weight.equals(Weight.NOTHING)) {
            return "nothing on the scale";
        }
        return Units.count(weight.trianglesStored()) + " triangles stored, " + Units.count(weight.trianglesDrawn())
                + " drawn · " + Units.count(weight.placements()) + " placements · "
                + Units.bytes(weight.textureBytes()) + " textures · " + Units.bytes(weight.fileBytes()) + " files";
    }

    private void undoLast() {
        session.ledger().stream().findFirst().flatMap(LedgerLine::undo).ifPresent(Runnable::run);
    }

    private void floatHits() {
        hits.setId("hits");
        hits.getStyleClass().addAll(Styles.PANEL, "view-note");
        hits.setMaxWidth(460);
        hits.setFixedCellSize(HIT_HEIGHT);
        hits.setCellFactory(cells -> new HitCell());
        hits.setVisible(false);
        hits.setFocusTraversable(false);
        hits.setOnMouseClicked(event -> choose());
        StackPane.setAlignment(hits, Pos.TOP_CENTER);
        StackPane.setMargin(hits, new Insets(48, 0, 0, 0));
        find.addEventFilter(KeyEvent.KEY_PRESSED, event -> {
            int at = hits.getSelectionModel().getSelectedIndex();
            switch (event.getCode()) {
                case DOWN -> {
                    hits.getSelectionModel()
                            .select(Math.min(at + 1, hits.getItems().size() - 1));
                    event.consume();
                }
                case UP -> {
                    hits.getSelectionModel().select(Math.max(at - 1, 0));
                    event.consume();
                }
                case ENTER -> {
                    choose();
                    event.consume();
                }
                case ESCAPE -> {
                    find.clear();
                    frame.getCenter().requestFocus();
                    event.consume();
                }
                default -> {}
            }
        });
        shelvesModel.items().addListener((javafx.beans.InvalidationListener) change -> showHits());
    }

    private void showHits() {
        String words = find.getText().strip().toLowerCase(Locale.ROOT);
        List<Object> found = new ArrayList<>();
        if (!words.isEmpty() && find.isFocused()) {
            commands.stream()
                    .filter(command -> command.name().toLowerCase(Locale.ROOT).contains(words))
                    .limit(4)
                    .forEach(found::add);
            if (workplace.get() != Workplace.SHELVES) {
                shelvesModel.items().stream().limit(HITS_SHOWN).forEach(found::add);
            }
        }
        hits.getItems().setAll(found);
        hits.setMaxHeight(Math.min(HITS_HEIGHT, found.size() * HIT_HEIGHT + 12.0));
        hits.setVisible(!found.isEmpty());
    }

    private void choose() {
        Object chosen = hits.getSelectionModel().getSelectedItem();
        if (chosen == null) {
            chosen = hits.getItems().stream().findFirst().orElse(null);
        }
        switch (chosen) {
            case Command command -> {
                find.clear();
                command.action().run();
            }
            case Item item -> {
                go(Workplace.SHELVES);
                shelvesModel.selectedProperty().set(Optional.of(item));
                shelves.mainPlace().requestFocus();
            }
            case null, default -> {
                go(Workplace.SHELVES);
                shelvesModel.items().stream()
                        .findFirst()
                        .ifPresent(item -> shelvesModel.selectedProperty().set(Optional.of(item)));
                shelves.mainPlace().requestFocus();
            }
        }
        hits.setVisible(false);
    }

    private static final class HitCell extends ListCell<Object> {
        @Override
        protected void updateItem(Object hit, boolean empty) {
            super.updateItem(hit, empty);
            setText(null);
            setGraphic(
                    switch (hit) {
                        case Command command
                        when !empty ->
                            line(
                                    "remixmz-play-list-add-line",
                                    command.name(),
                                    command.keyText().isEmpty() ? command.group() : command.keyText());
                        case Item item when !empty -> line("remixal-archive-line", item.name(), item.shelf());
                        case null, default -> null;
                    });
        }

        private static HBox line(String icon, String name, String side) {
            HBox line =
                    new HBox(8, new FontIcon(icon), Bits.label(name), Bits.spring(), Bits.label(side, Styles.FAINT));
            line.setAlignment(Pos.CENTER_LEFT);
            return line;
        }
    }

    private void floatDrawer() {
        drawer.getStyleClass().addAll(Styles.PANEL, "view-note");
        drawer.setMaxSize(460, 480);
        drawer.setVisible(false);
        StackPane.setAlignment(drawer, Pos.BOTTOM_RIGHT);
        StackPane.setMargin(drawer, new Insets(0, 16, 48, 0));
    }

    private void toggleLedger() {
        if (drawer.isVisible()) {
            drawer.setVisible(false);
            return;
        }
        ListView<LedgerLine> lines = new ListView<>(session.ledger());
        lines.setPlaceholder(Bits.label("Nothing was done yet.", Styles.FAINT));
        lines.setCellFactory(cells -> new ListCell<>() {
            @Override
            protected void updateItem(LedgerLine line, boolean empty) {
                super.updateItem(line, empty);
                setText(null);
                setPrefWidth(10);
                if (empty) {
                    setGraphic(null);
                    return;
                }
                Label when = Bits.label(
                        line.when()
                                .truncatedTo(java.time.temporal.ChronoUnit.SECONDS)
                                .toString(),
                        Styles.FIGURE,
                        Styles.FAINT);
                when.setMinWidth(USE_PREF_SIZE);
                Label text = Bits.wrapped(line.text());
                if (line.kind() == LedgerLine.Kind.WRONG) {
                    text.getStyleClass().add(Styles.WRONG);
                }
                HBox.setHgrow(text, Priority.ALWAYS);
                setGraphic(new HBox(10, when, text));
            }
        });
        openDrawer("Ledger", lines);
    }

    private void showKeys() {
        GridPane grid = new GridPane();
        grid.setHgap(20);
        grid.setVgap(6);
        grid.setPadding(new Insets(8, 12, 12, 12));
        int row = 0;
        for (Command command : commands) {
            boolean here = command.group().equals(EVERYWHERE)
                    || command.group().equals(workplace.get().word());
            if (here && !command.keyText().isEmpty()) {
                grid.addRow(row++, Bits.label(command.keyText(), Styles.FIGURE), Bits.label(command.name()));
            }
        }
        for (String[] line : new String[][] {
            {"/", "Find"},
            {"?", "These keys"},
            {"arrows", "In a view: turn; with Shift: move"},
            {"+ and −", "In a view: nearer and farther"},
            {"Home", "In a view: show everything"}
        }) {
            grid.addRow(row++, Bits.label(line[0], Styles.FIGURE), Bits.label(line[1]));
        }
        openDrawer("Keys in " + workplace.get().word(), Bits.scrolling(grid));
    }

    private void openDrawer(String title, Node content) {
        Button close = Bits.button("", "remixal-close-line", "Close (Esc)", () -> drawer.setVisible(false));
        close.getStyleClass().add(Styles.QUIET);
        HBox head = new HBox(8, Bits.label(title, Styles.TITLE), Bits.spring(), close);
        head.setAlignment(Pos.CENTER_LEFT);
        VBox.setVgrow(content, Priority.ALWAYS);
        drawer.getChildren().setAll(head, content);
        drawer.setVisible(true);
    }

    private void makeCommands() {
        for (Workplace place : Workplace.values()) {
            commands.add(Command.of(
                    EVERYWHERE, "Go to " + place.word(), "Shortcut+" + (place.ordinal() + 1), () -> go(place)));
        }
        commands.add(Command.of(EVERYWHERE, "Open a library…", "", this::openLibrary));
        commands.add(Command.of(EVERYWHERE, "New library in a folder…", "", this::newLibrary));
        commands.add(Command.of(EVERYWHERE, "Open a project folder…", "", this::openProject));
        commands.add(Command.of(EVERYWHERE, "Undo", "Shortcut+Z", () -> {
            if (workplace.get() == Workplace.SCENES) {
                scenesModel.undo();
            } else {
                undoLast();
            }
        }));
        commands.add(Command.of(EVERYWHERE, "Open or close the ledger", "Shortcut+L", this::toggleLedger));
        commands.add(
                Command.of(EVERYWHERE, "Larger text", "Shortcut+EQUALS Shortcut+PLUS Shortcut+ADD", () -> enlarge(1)));
        commands.add(Command.of(EVERYWHERE, "Smaller text", "Shortcut+MINUS Shortcut+SUBTRACT", () -> enlarge(-1)));
        commands.add(Command.of(EVERYWHERE, "Night or day", "Shortcut+Shift+N", this::turnDay));
        commands.add(Command.of(Workplace.RECEIVE.word(), "Choose files to take in…", "Shortcut+O", () -> {
            go(Workplace.RECEIVE);
            receive.chooseFiles();
        }));
        commands.add(Command.of(
                Workplace.RECEIVE.word(), "Shelve all ticked arrivals", "Shortcut+ENTER", receiveModel::shelve));
        commands.add(Command.of(Workplace.SCENES.word(), "Save the scene", "Shortcut+S", scenesModel::save));
        commands.add(Command.of(Workplace.SCENES.word(), "Redo", "Shortcut+Y", scenesModel::redo));
        commands.add(Command.of(
                Workplace.SCENES.word(), "Once more: duplicate", "Shortcut+D", scenesModel::duplicateSelected));
        commands.add(Command.of(
                Workplace.SCENES.word(), "Remove the selected placements", "DELETE", scenesModel::removeSelected));
        commands.add(
                Command.of(Workplace.SCENES.word(), "Zoom to the selected placements", "Shift+HOME", scenes::zoomTo));
        commands.add(Command.of(Workplace.SCENES.word(), "Select nothing", "ESCAPE", () -> scenesModel
                .selectionProperty()
                .set(Set.of())));
    }

    private void enlarge(double by) {
        textSize = Math.clamp(textSize + by, 10, 22);
        setStyle("-fx-font-size: " + textSize + "px;");
    }

    private void turnDay() {
        Look.setNight(getScene(), !Look.isNight(getScene()));
        for (View3d view : List.of(receive.view(), shelves.view(), scenes.view())) {
            view.followDay();
        }
    }

    private void key(KeyEvent event) {
        if (event.getCode() == KeyCode.ESCAPE && drawer.isVisible()) {
            drawer.setVisible(false);
            event.consume();
            return;
        }
        boolean typing = event.getTarget() instanceof TextInputControl;
        for (Command command : commands) {
            boolean here = command.group().equals(EVERYWHERE)
                    || command.group().equals(workplace.get().word());
            if (here
                    && command.matches(event)
                    && !(typing
                            && (!event.isShortcutDown()
                                    || event.getCode() == KeyCode.Z
                                    || event.getCode() == KeyCode.Y))) {
                command.action().run();
                event.consume();
                return;
            }
        }
    }

    private void typed(KeyEvent event) {
        if (event.getTarget() instanceof TextInputControl) {
            return;
        }
        if (event.getCharacter().equals("/")) {
            find.requestFocus();
            find.selectAll();
            event.consume();
        } else if (event.getCharacter().equals("?")) {
            showKeys();
            event.consume();
        }
    }

    /** Goes on once the open scene is saved or given up. */
    public void leave(Runnable then) {
        if (scenesModel.changedProperty().get()) {
            go(Workplace.SCENES);
        }
        scenes.leave(then);
    }
}
