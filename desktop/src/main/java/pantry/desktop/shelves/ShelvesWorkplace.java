package pantry.desktop.shelves;

import java.util.List;
import java.util.Optional;
import javafx.beans.value.ObservableValue;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetPictures;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.KeyHint;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;
import pantry.model.Weight;

/** The workplace with the catalogue: finding, looking, keeping in order, handing out. */
public final class ShelvesWorkplace implements Workplace {
    private final Session session;
    private final Navigation navigation;
    private final ShelvesModel model;
    private final ShelvesView view;
    private final List<Command> commands;

    public ShelvesWorkplace(Session session, AssetSearch search, AssetPictures pictures, Navigation navigation) {
        this.session = session;
        this.navigation = navigation;
        model = new ShelvesModel(session, search);
        view = new ShelvesView(model, session, pictures);
        view.setOnReceive(() -> navigation.send(new Request.ChooseArrivals()));
        view.setOnPlace(item -> navigation.send(new Request.PlaceAsset(item)));
        view.setOnRequest(navigation::send);
        commands = List.of(
                Command.of("Take files in…", "Shortcut+O", () -> navigation.send(new Request.ChooseArrivals())),
                Command.of(
                        "Take a folder in…",
                        "Shortcut+Shift+O",
                        () -> navigation.send(new Request.ChooseArrivalFolder())),
                Command.of("Show on shelves", "Alt+1", () -> show(ShelvesView.Way.EDGES)),
                Command.of("Show as a table", "Alt+2", () -> show(ShelvesView.Way.TABLE)),
                Command.of("Line up at true scale", "Alt+3", () -> show(ShelvesView.Way.LINE_UP)),
                Command.of("Make it a favourite, or no longer", "F", model::toggleFavourites),
                Command.of("Choose all", "Shortcut+A", model::chooseAll),
                Command.of("Like this one: similar shapes", "Shortcut+K", model::showAlike),
                Command.of("Keep this search…", "Shortcut+Shift+K", view::keepSearch),
                Command.of("Make a shelf…", "Shortcut+Shift+M", view::makeShelf),
                Command.of("Move or copy to a shelf…", "Shortcut+M", view::moveTo),
                Command.of("Put into the trash", "DELETE", view::discardChosen),
                Command.of("Reserve the asset", "Shortcut+R", view.actions()::reserve),
                Command.of("Release the asset", "Shortcut+Shift+R", view.actions()::release),
                Command.of("Edit a copy…", "Shortcut+E", view::editCopy),
                Command.of("Publish a file as the next version…", "Shortcut+P", view::publishFile),
                Command.of("Hand out as files…", "Shortcut+H", view::handOut),
                Command.of("Copy the table", "Shortcut+Shift+C", view::copyTable),
                Command.of("Save the table as CSV…", view::saveTable),
                Command.of("Check the library, and its trash", view::check),
                Command.of("Back to the shelves", "Esc", view::uncover),
                Command.of("Inspect in Prep", "Shortcut+I", this::inspect),
                Command.of("What uses it, in Reach", "Shortcut+U", this::showUses));
    }

    private void show(ShelvesView.Way way) {
        view.uncover();
        view.show(way);
    }

    private void inspect() {
        model.selectedProperty()
                .get()
                .ifPresent(item -> navigation.send(
                        new Request.InspectAsset(session.shelving().at(item.library()), item)));
    }

    private void showUses() {
        model.selectedProperty().get().ifPresent(item -> navigation.send(new Request.ShowUses(item)));
    }

    private void show(IndexedAsset item) {
        model.selectedProperty().set(Optional.of(item));
        view.enter();
    }

    public ShelvesModel model() {
        return model;
    }

    @Override
    public String name() {
        return "Shelves";
    }

    @Override
    public String icon() {
        return "remixal-archive-drawer-line";
    }

    @Override
    public String hint() {
        return "Find, look, hand out";
    }

    @Override
    public ShelvesView node() {
        return view;
    }

    @Override
    public void enter() {
        view.enter();
    }

    @Override
    public List<Command> commands() {
        return commands;
    }

    @Override
    public List<KeyHint> keyHints() {
        return List.of(new KeyHint("F2", "Among places: rename a shelf or a tag"));
    }

    @Override
    public ObservableValue<Weight> weight() {
        return model.card().weightProperty();
    }

    @Override
    public boolean listsFoundAssets() {
        return true;
    }

    @Override
    public void enterFoundAssets() {
        view.enterFound();
    }

    @Override
    public Optional<Runnable> accept(Request request) {
        return request instanceof Request.ShowAsset show ? Optional.of(() -> show(show.item())) : Optional.empty();
    }
}
