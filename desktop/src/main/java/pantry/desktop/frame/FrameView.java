package pantry.desktop.frame;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.scene.Node;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.StackPane;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.look.Controls;
import pantry.desktop.look.Look;
import pantry.desktop.look.OwnKeys;
import pantry.desktop.look3d.View3d;
import pantry.desktop.prep.Opened;
import pantry.desktop.prep.PrepModel;
import pantry.desktop.prep.PrepView;
import pantry.desktop.receive.ReceiveModel;
import pantry.desktop.receive.ReceiveView;
import pantry.desktop.scenes.ScenesModel;
import pantry.desktop.scenes.ScenesView;
import pantry.desktop.session.Session;
import pantry.desktop.shelves.ShelvesModel;
import pantry.desktop.shelves.ShelvesView;
import pantry.desktop.shelves.Thumbs;
import pantry.desktop.waiting.WaitingView;
import pantry.model.Weight;

/** The whole window: counter above, rail at the left, a workplace, scale and ledger below. */
public final class FrameView extends StackPane {
    private static final String EVERYWHERE = "Everywhere";

    /** With Ctrl, these belong to the text that is being written. */
    private static final Set<KeyCode> OF_TEXT =
            EnumSet.of(KeyCode.A, KeyCode.C, KeyCode.V, KeyCode.X, KeyCode.Y, KeyCode.Z);

    private final Session session;
    private final ShelvesModel shelvesModel;
    private final ScenesModel scenesModel;
    private final ReceiveModel receiveModel;
    private final ReceiveView receive;
    private final ShelvesView shelves;
    private final ScenesView scenes;
    private final PrepModel prepModel;
    private final PrepView prep;
    private final Map<Workplace, Node> views = new EnumMap<>(Workplace.class);
    private final Rail rail;
    private final Foot foot;
    private final Folders folders;
    private final ObjectProperty<Workplace> workplace = new SimpleObjectProperty<>(Workplace.SHELVES);
    private final BorderPane frame = new BorderPane();
    private final FindBox find;
    private final Drawer drawer;
    private final List<Command> commands = new ArrayList<>();
    private double textSize = 13;
    private boolean warned;

    public FrameView(
            Session session,
            ReceiveModel receiveModel,
            ShelvesModel shelvesModel,
            PrepModel prepModel,
            ScenesModel scenesModel) {
        this.session = session;
        this.receiveModel = receiveModel;
        this.shelvesModel = shelvesModel;
        this.scenesModel = scenesModel;
        this.prepModel = prepModel;
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
        prep = new PrepView(prepModel, () -> go(Workplace.RECEIVE));
        views.put(Workplace.PREP, prep);
        views.put(
                Workplace.REACH,
                new WaitingView(
                        "remixal-git-branch-line",
                        "Reach is not built yet",
                        "Here you will see which scene uses what, in which version, and what an update would change."
                                + " Until then, Scenes shows how each placement is held.",
                        Controls.button("Go to Scenes", "", "", () -> go(Workplace.SCENES))));
        find = new FindBox(
                shelvesModel,
                commands,
                () -> workplace.get() == Workplace.SHELVES,
                this::showAsset,
                () -> frame.getCenter().requestFocus());
        folders = new Folders(session, this);
        rail = new Rail(receiveModel, prepModel, this::go);
        drawer = new Drawer(session);
        foot = new Foot(session, drawer::toggleLedger);
        frame.setTop(new Counter(session, folders, find.field()));
        frame.setLeft(rail);
        frame.setBottom(foot);
        workplace.addListener(change -> show());
        shelvesModel.card().weightProperty().addListener(change -> weigh());
        prepModel.openedProperty().addListener(change -> weigh());
        getChildren().setAll(frame, find.hits(), drawer, ghosts);
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

    public PrepView prep() {
        return prep;
    }

    public ScenesView scenes() {
        return scenes;
    }

    /** Looks for words, as if they were typed into the search field; blank ones leave it. */
    public void look(String words) {
        find.field().setText(words);
        (words.isBlank() ? frame.getCenter() : find.field()).requestFocus();
    }

    /** Opens a workplace. */
    public void go(Workplace chosen) {
        workplace.set(chosen);
    }

    private void show() {
        if (workplace.get() == Workplace.PREP) {
            prepModel.refresh();
        } else {
            session.weightAfterProperty().set(Optional.empty());
        }
        frame.setCenter(views.get(workplace.get()));
        rail.show(workplace.get());
        weigh();
    }

    /** The scale weighs what is on the screen. */
    private void weigh() {
        session.weightProperty()
                .set(
                        switch (workplace.get()) {
                            case SCENES -> scenesModel.shownProperty().get().weight();
                            case SHELVES -> shelvesModel.card().weightProperty().get();
                            case PREP ->
                                prepModel
                                        .openedProperty()
                                        .get()
                                        .map(Opened::weight)
                                        .orElse(Weight.NOTHING);
                            default -> Weight.NOTHING;
                        });
    }

    private void showAsset(IndexedAsset item) {
        go(Workplace.SHELVES);
        shelvesModel.selectedProperty().set(Optional.of(item));
        shelves.mainPlace().requestFocus();
    }

    private void place(IndexedAsset item) {
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

    private void makeCommands() {
        for (Workplace place : Workplace.values()) {
            commands.add(Command.of(
                    EVERYWHERE, "Go to " + place.word(), "Shortcut+" + (place.ordinal() + 1), () -> go(place)));
        }
        commands.add(Command.of(EVERYWHERE, "Open a library…", "", folders::openLibrary));
        commands.add(Command.of(EVERYWHERE, "New library in a folder…", "", folders::newLibrary));
        commands.add(Command.of(EVERYWHERE, "Open a project folder…", "", folders::openProject));
        commands.add(Command.of(EVERYWHERE, "Undo", "Shortcut+Z", () -> {
            if (workplace.get() == Workplace.SCENES) {
                scenesModel.undo();
            } else if (workplace.get() == Workplace.PREP
                    && prepModel.openedProperty().get().filter(Opened::changed).isPresent()) {
                prepModel.undo();
            } else {
                foot.undoLast();
            }
        }));
        commands.add(Command.of(EVERYWHERE, "Open or close the ledger", "Shortcut+L", drawer::toggleLedger));
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
        commands.add(Command.of(Workplace.RECEIVE.word(), "Take in a folder…", "Shortcut+Shift+O", () -> {
            go(Workplace.RECEIVE);
            receive.chooseFolder();
        }));
        commands.add(
                Command.of(Workplace.RECEIVE.word(), "Find missing textures in a folder…", "", receive::findTextures));
        commands.add(Command.of(
                Workplace.RECEIVE.word(), "Watch a folder for arrivals, or stop", "", receive::chooseDropFolder));
        commands.add(Command.of(Workplace.RECEIVE.word(), "Save the report…", "", receive::saveReport));
        commands.add(Command.of(
                Workplace.RECEIVE.word(), "Take what is finished off the list", "", receiveModel::clearFinished));
        shelvesCommands();
        prepCommands();
        commands.add(Command.of(Workplace.SCENES.word(), "Save the scene", "Shortcut+S", scenesModel.keeping()::save));
        commands.add(Command.of(Workplace.SCENES.word(), "Redo", "Shortcut+Y", scenesModel::redo));
        commands.add(Command.of(Workplace.SCENES.word(), "Group what is selected", "Shortcut+G", () -> scenesModel
                .handling()
                .group("Group")));
        commands.add(Command.of(
                Workplace.SCENES.word(),
                "Take the selected groups apart",
                "Shortcut+Shift+G",
                scenesModel.handling()::ungroup));
        commands.add(Command.of(
                Workplace.SCENES.word(), "Drop onto what is below", "Shift+D", scenesModel.handling()::drop));
        commands.add(Command.of(Workplace.SCENES.word(), "Break out", "", scenesModel.handling()::breakOut));
        commands.add(Command.of(Workplace.SCENES.word(), "Work with proxies, or with originals", "P", () -> scenesModel
                .lightProperty()
                .set(!scenesModel.lightProperty().get())));
        commands.add(Command.of(
                Workplace.SCENES.word(),
                "Once more: duplicate",
                "Shortcut+D",
                scenesModel.handling()::duplicateSelected));
        commands.add(Command.of(
                Workplace.SCENES.word(),
                "Remove the selected placements",
                "DELETE",
                scenesModel.handling()::removeSelected));
        commands.add(
                Command.of(Workplace.SCENES.word(), "Zoom to the selected placements", "Shift+HOME", scenes::zoomTo));
        commands.add(Command.of(
                Workplace.SCENES.word(),
                "Publish what is selected as the next version of the asset shown in Shelves",
                "",
                () -> shelvesModel
                        .card()
                        .detailsProperty()
                        .get()
                        .ifPresentOrElse(
                                details -> scenesModel
                                        .handing()
                                        .publish(
                                                details.asset(),
                                                details.library(),
                                                "from "
                                                        + scenesModel
                                                                .sceneProperty()
                                                                .get()
                                                                .map(s -> s.file()
                                                                        .getFileName()
                                                                        .toString())
                                                                .orElse("a scene")),
                                () -> session.wrong(new pantry.base.PantryException(
                                        "no asset is chosen in Shelves; choose the one that gets the version")))));
        commands.add(Command.of(Workplace.SCENES.word(), "Select nothing", "Esc", () -> {
            scenes.bringNothing();
            scenesModel.selectionProperty().set(Set.of());
        }));
        sceneCommands();
    }

    private void sceneCommands() {
        String here = Workplace.SCENES.word();
        commands.add(Command.of(here, "Bring in from another scene or file…", "Shortcut+B", scenes::bringIn));
        commands.add(Command.of(here, "Copy", "Shortcut+C", scenesModel.handling()::copy));
        commands.add(Command.of(here, "Cut", "Shortcut+X", scenesModel.handling()::cut));
        commands.add(Command.of(here, "Paste, here or in another scene", "Shortcut+V", scenesModel.handling()::paste));
        commands.add(Command.of(here, "Copy as its own", "Shortcut+Shift+D", scenesModel.handling()::copyAsOwn));
        commands.add(Command.of(here, "Do the last step again", "A", scenesModel.handling()::repeat));
        commands.add(Command.of(here, "Select what hangs on it", "Alt+DOWN", scenesModel::selectChildren));
        commands.add(Command.of(here, "Select what it hangs on", "Alt+UP", scenesModel::selectAbove));
        commands.add(Command.of(here, "Show it alone, or everything", "I", scenesModel::isolate));
        commands.add(Command.of(here, "Measure between two points", "M", scenes::measure));
        commands.add(Command.of(
                here, "Show the scene in the light of its lamps, or in Pantry's", "L", scenesModel::switchLamps));
        for (int number = 1; number <= 9; number++) {
            int which = number;
            commands.add(Command.of(here, "Look by focus " + number, String.valueOf(number), () -> scenes.look(which)));
        }
    }

    private void shelvesCommands() {
        String here = Workplace.SHELVES.word();
        commands.add(Command.of(here, "Show on shelves", "Alt+1", () -> showShelves(ShelvesView.Way.EDGES)));
        commands.add(Command.of(here, "Show as a table", "Alt+2", () -> showShelves(ShelvesView.Way.TABLE)));
        commands.add(Command.of(here, "Line up at true scale", "Alt+3", () -> showShelves(ShelvesView.Way.LINE_UP)));
        commands.add(Command.of(here, "Make it a favourite, or no longer", "F", shelvesModel::toggleFavourites));
        commands.add(Command.of(here, "Choose all", "Shortcut+A", shelvesModel::chooseAll));
        commands.add(Command.of(here, "Like this one: similar shapes", "Shortcut+K", shelvesModel::showAlike));
        commands.add(Command.of(here, "Keep this search…", "Shortcut+Shift+K", shelves::keepSearch));
        commands.add(Command.of(here, "Make a shelf…", "Shortcut+Shift+M", shelves::makeShelf));
        commands.add(Command.of(here, "Move or copy to a shelf…", "Shortcut+M", shelves::moveTo));
        commands.add(Command.of(here, "Put into the trash", "DELETE", shelves::discardChosen));
        commands.add(Command.of(here, "Reserve the asset", "Shortcut+R", shelves.care()::reserve));
        commands.add(Command.of(here, "Release the asset", "Shortcut+Shift+R", shelves.care()::release));
        commands.add(Command.of(here, "Edit a copy…", "Shortcut+E", shelves::editCopy));
        commands.add(Command.of(here, "Publish a file as the next version…", "Shortcut+P", shelves::publishFile));
        commands.add(Command.of(here, "Hand out as files…", "Shortcut+H", shelves::handOut));
        commands.add(Command.of(here, "Copy the table", "Shortcut+Shift+C", shelves::copyTable));
        commands.add(Command.of(here, "Save the table as CSV…", "", shelves::saveTable));
        commands.add(Command.of(here, "Check the library, and its trash", "", () -> {
            go(Workplace.SHELVES);
            shelves.check();
        }));
        commands.add(Command.of(here, "Back to the shelves", "Esc", shelves::uncover));
    }

    private void prepCommands() {
        String here = Workplace.PREP.word();
        commands.add(Command.of(here, "Inspect files…", "Shortcut+O", () -> {
            go(Workplace.PREP);
            prep.chooseFiles();
        }));
        commands.add(Command.of(here, "Put right what is ticked", "Shortcut+ENTER", prepModel::tidy));
        commands.add(Command.of(
                here, "Tick all that can be put right", "Shortcut+A", () -> prepModel.tick(finding -> true, true)));
        commands.add(Command.of(here, "Untick all", "Shortcut+Shift+A", () -> prepModel.tick(finding -> true, false)));
        commands.add(Command.of(here, "Redo", "Shortcut+Y", prepModel::redo));
        commands.add(Command.of(here, "Before and after, side by side", "B", prep::toggleBeside));
        commands.add(Command.of(here, "Select all that share their shape with it", "Shortcut+K", prep::selectLike));
        commands.add(Command.of(here, "Save the working copy as a file…", "Shortcut+S", prep::save));
        commands.add(Command.of(here, "Select nothing", "Esc", () -> prepModel
                .selectionProperty()
                .set(Set.of())));
        for (PrepView.Tool tool : PrepView.Tool.values()) {
            commands.add(Command.of(
                    here,
                    "Tool: " + tool.name().toLowerCase(java.util.Locale.ROOT),
                    "Alt+" + (tool.ordinal() + 1),
                    () -> {
                        go(Workplace.PREP);
                        prep.show(tool);
                    }));
        }
        commands.add(Command.of(Workplace.SHELVES.word(), "Inspect in Prep", "Shortcut+I", () -> shelvesModel
                .selectedProperty()
                .get()
                .ifPresent(item -> {
                    go(Workplace.PREP);
                    prepModel.open(session.shelving().at(item.library()), shelvesModel.asset(item));
                })));
        commands.add(Command.of(Workplace.RECEIVE.word(), "Inspect in Prep", "Shortcut+I", () -> receiveModel
                .selectedProperty()
                .get()
                .ifPresent(arrival -> {
                    go(Workplace.PREP);
                    prepModel.openArrival(arrival.file());
                })));
    }

    private void showShelves(ShelvesView.Way way) {
        go(Workplace.SHELVES);
        shelves.uncover();
        shelves.show(way);
    }

    private void enlarge(double by) {
        textSize = Math.clamp(textSize + by, 10, 22);
        setStyle("-fx-font-size: " + textSize + "px;");
    }

    private void turnDay() {
        Look.setNight(getScene(), !Look.isNight(getScene()));
        List<View3d> shown = new ArrayList<>(shelves.views());
        shown.add(receive.view());
        shown.add(scenes.view());
        shown.addAll(prep.views());
        shown.forEach(View3d::followDay);
    }

    private boolean isHere(Command command) {
        return command.group().equals(EVERYWHERE)
                || command.group().equals(workplace.get().word());
    }

    private void key(KeyEvent event) {
        if (event.getCode() == KeyCode.ESCAPE && drawer.isVisible()) {
            drawer.close();
            event.consume();
            return;
        }
        if (OwnKeys.claimed(event)) {
            return;
        }
        boolean typing = event.getTarget() instanceof TextInputControl;
        for (Command command : commands) {
            if (isHere(command)
                    && command.matches(event)
                    && !(typing && (!event.isShortcutDown() || OF_TEXT.contains(event.getCode())))) {
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
            find.field().requestFocus();
            find.field().selectAll();
            event.consume();
        } else if (event.getCharacter().equals("?")) {
            drawer.showKeys(
                    workplace.get(), commands.stream().filter(this::isHere).toList());
            event.consume();
        }
    }

    /** Goes on once the open scene is saved or given up. */
    public void leave(Runnable then) {
        long copies = prepModel.unsaved();
        if (copies > 0 && !warned) {
            warned = true;
            go(Workplace.PREP);
            session.wrong(new pantry.base.PantryException(
                    (copies == 1 ? "a working copy has" : copies + " working copies have")
                            + " changes that are not saved; save them, or close once more to give them up"));
            return;
        }
        if (scenesModel.changedProperty().get()) {
            go(Workplace.SCENES);
        }
        scenes.leave(then);
    }
}
