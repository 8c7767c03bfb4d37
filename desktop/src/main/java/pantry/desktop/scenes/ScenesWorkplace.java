package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.value.ObservableValue;
import javafx.scene.Node;
import javafx.scene.layout.Pane;
import pantry.base.PantryException;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.KeyHint;
import pantry.desktop.workplace.MadeOnce;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;
import pantry.model.Weight;

/** The workplace where scenes are composed. */
public final class ScenesWorkplace implements Workplace {
    private static final int FOCUS_KEYS = 9;

    private final Session session;
    private final Navigation navigation;
    private final ScenesModel model;
    private final MadeOnce<ScenesView> view;
    private final Pane dragged = new Pane();
    private final ObservableValue<Weight> weight;
    private final List<Command> commands;

    public ScenesWorkplace(Session session, AssetSearch search, AssetPictures pictures, Navigation navigation) {
        this.session = session;
        this.navigation = navigation;
        dragged.setMouseTransparent(true);
        model = new ScenesModel(session);
        view = new MadeOnce<>(() -> new ScenesView(model, search, pictures, dragged));
        weight = model.shownProperty().map(SceneDisplay.Shown::weight);
        commands = makeCommands();
    }

    private List<Command> makeCommands() {
        SelectionEdits edits = model.edits();
        List<Command> all = new ArrayList<>(List.of(
                Command.of("Open a scene's file…", "Shortcut+O", view.doing(ScenesView::openFile)),
                Command.of("Save the scene", "Shortcut+S", model.keeping()::save),
                Command.of("Group what is selected", "Shortcut+G", () -> edits.group("Group")),
                Command.of("Take the selected groups apart", "Shortcut+Shift+G", edits::ungroup),
                Command.of("Drop onto what is below", "Shift+D", edits::drop),
                Command.of("Break out", edits::breakOut),
                Command.of("Work with proxies, or with originals", "P", () -> model.display()
                        .proxiesProperty()
                        .set(!model.display().proxiesProperty().get())),
                Command.of("Once more: duplicate", "Shortcut+D", edits::duplicateSelected),
                Command.of("Remove the selected placements", "DELETE", edits::removeSelected),
                Command.of("Zoom to the selected placements", "Shift+HOME", view.doing(ScenesView::zoomTo)),
                Command.of(
                        "Publish what is selected as the next version of the asset shown in Shelves",
                        this::publishSelected),
                Command.of(
                        "Go back one step, out of a group or a placement; or select nothing",
                        "Esc",
                        view.doing(ScenesView::goBack)),
                Command.of("Go into the selected group or placement", "ENTER", () -> model.selection()
                        .lastChosen()
                        .ifPresent(group -> view.get().enter(group))),
                Command.of("Select everything", "Shortcut+A", model.selection()::selectAll),
                Command.of("Select the others", "Shortcut+I", model.selection()::selectOthers),
                Command.of("Select all of the same asset", "Shift+S", model.selection()::selectSameAsset),
                Command.of("Select all of the same material", model::selectSameMaterial),
                Command.of("Select all in the same drawer", model.selection()::selectSameDrawer),
                Command.of("Bring in from another scene or file…", "Shortcut+B", view.doing(ScenesView::bringIn)),
                Command.of("Copy", "Shortcut+C", edits::copy),
                Command.of("Cut", "Shortcut+X", edits::cut),
                Command.of("Paste, here or in another scene", "Shortcut+V", edits::paste),
                Command.of("Copy as its own", "Shortcut+Shift+D", edits::copyAsOwn),
                Command.of("Do the last step again", "A", edits::repeat),
                Command.of("Select what hangs on it", "Alt+DOWN", model.selection()::selectChildren),
                Command.of("Select what it hangs on", "Alt+UP", model.selection()::selectAbove),
                Command.of("Show it alone, or everything", "I", model.display()::isolate),
                Command.of("Play what moves, or stop", "Shift+SPACE", () -> model.display()
                        .clock()
                        .toggle()),
                Command.of("Measure between points", "M", view.doing(ScenesView::measure)),
                Command.of("Step, align, spread, mirror, settle: show the page", view.doing(made -> made.slip()
                        .show(PlacementSlip.Page.ARRANGE))),
                Command.of("Group, take apart, rename, break out, anchor: show the page", view.doing(made -> made.slip()
                        .show(PlacementSlip.Page.GROUP))),
                Command.of("Lay out in a grid, a ring, along a path: show the page", view.doing(made -> made.slip()
                        .show(PlacementSlip.Page.LAY_OUT))),
                Command.of("Cut out a section, put a prefab on the shelf: show the page", view.doing(made -> made.slip()
                        .show(PlacementSlip.Page.HAND_ON))),
                Command.of(
                        "Swap for another asset, pin, choose a variant: show the page",
                        view.doing(made -> made.slip().show(PlacementSlip.Page.PLACE))),
                Command.of("Pack the scene with all that it names…", view.doing(made -> made.written()
                        .pack())),
                Command.of("Export the scene as a model…", view.doing(made -> made.written()
                        .export())),
                Command.of("Flatten the scene into one layer…", view.doing(made -> made.written()
                        .flatten())),
                Command.of(
                        "Show the scene in the light of its lamps, or in Pantry's",
                        "L",
                        model.display()::switchLamps)));
        for (int number = 1; number <= FOCUS_KEYS; number++) {
            int which = number;
            all.add(Command.of(
                    "Look by focus " + number, String.valueOf(number), view.doing(made -> made.showFocus(which))));
        }
        return List.copyOf(all);
    }

    @Override
    public List<KeyHint> keyHints() {
        return List.of(
                new KeyHint("Ctrl+click", "In the view or the list: choose one more, or one less"),
                new KeyHint("Ctrl+drag", "In the view: choose all that a frame touches; with Shift: all that is in it"),
                new KeyHint("double click", "Go into a group, an asset or a section"),
                new KeyHint("Alt+drop", "From the tray: let it lean on the surface below the mouse"));
    }

    private void publishSelected() {
        Optional<IndexedAsset> chosen = session.chosenAssetProperty().get();
        if (chosen.isEmpty()) {
            session.wrong(new PantryException("no asset is chosen in Shelves; choose the one that gets the version"));
            return;
        }
        String origin = model.sceneProperty()
                .get()
                .map(scene -> scene.file().getFileName().toString())
                .orElse("a scene");
        session.attempt(() -> model.exports()
                .publish(
                        session.shelving().asset(chosen.get()),
                        session.shelving().at(chosen.get().library()),
                        "from " + origin));
    }

    private void place(IndexedAsset item) {
        view.get().placeInMiddle(item);
    }

    public ScenesModel model() {
        return model;
    }

    @Override
    public String name() {
        return "Scenes";
    }

    @Override
    public String icon() {
        return "remixal-landscape-line";
    }

    @Override
    public String hint() {
        return "Compose";
    }

    @Override
    public ScenesView node() {
        return view.get();
    }

    @Override
    public void enter() {
        view.get().enter();
    }

    @Override
    public List<Command> commands() {
        return commands;
    }

    @Override
    public ObservableValue<Weight> weight() {
        return weight;
    }

    @Override
    public boolean takeFound(IndexedAsset item) {
        boolean isOpen = model.sceneProperty().get().isPresent();
        if (isOpen) {
            view.get().tray().take(item);
        }
        return isOpen;
    }

    @Override
    public void enterFoundAssets() {
        view.get().tray().enter();
    }

    @Override
    public Optional<Node> overlay() {
        return Optional.of(dragged);
    }

    @Override
    public void leave(Runnable then) {
        if (model.changedProperty().get()) {
            navigation.go(this);
        }
        view.ifMade().ifPresentOrElse(made -> made.leave(then), then);
    }

    @Override
    public Optional<Runnable> accept(Request request) {
        if (request instanceof Request.PlaceAsset placing) {
            return Optional.of(() -> place(placing.item()));
        }
        if (request instanceof Request.OpenScene opening) {
            return Optional.of(() -> model.open(opening.file()));
        }
        return Optional.empty();
    }
}
