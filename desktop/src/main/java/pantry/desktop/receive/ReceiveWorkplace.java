package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.LongExpression;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.KeyHint;
import pantry.desktop.workplace.MadeOnce;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;

/** The workplace where files come in. */
public final class ReceiveWorkplace implements Workplace {
    private final Navigation navigation;
    private final ReceiveModel model;
    private final MadeOnce<ReceiveView> view;
    private final LongExpression waiting;
    private final List<Command> commands;

    public ReceiveWorkplace(Session session, Navigation navigation) {
        this.navigation = navigation;
        model = new ReceiveModel(session);
        view = new MadeOnce<>(() -> new ReceiveView(model, session.workbench().renderCache()));
        waiting = Bindings.createLongBinding(model::waiting, model.arrivals());
        commands = List.of(
                Command.of("Choose files to take in…", "Shortcut+O", view.doing(ReceiveView::chooseFiles)),
                Command.of("Shelve all ticked arrivals", "Shortcut+ENTER", model.shelving()::shelve),
                Command.of("Take in a folder…", "Shortcut+Shift+O", view.doing(ReceiveView::chooseFolder)),
                Command.of("Find missing textures in a folder…", view.doing(ReceiveView::findTextures)),
                Command.of("Watch a folder for arrivals, or stop", view.doing(ReceiveView::chooseDropFolder)),
                Command.of("Save the report…", view.doing(ReceiveView::saveReport)),
                Command.of("Take what is finished off the list", model::clearFinished),
                Command.of("Inspect in Prep", "Shortcut+I", this::inspect));
    }

    private void inspect() {
        model.selectedProperty()
                .get()
                .ifPresent(arrival -> navigation.send(new Request.InspectArrival(arrival.file())));
    }

    public ReceiveModel model() {
        return model;
    }

    @Override
    public String name() {
        return "Receive";
    }

    @Override
    public String icon() {
        return "remixal-inbox-line";
    }

    @Override
    public String hint() {
        return "Files come in";
    }

    @Override
    public ReceiveView node() {
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
    public List<KeyHint> keyHints() {
        return List.of(
                new KeyHint("Space", "Among arrivals: tick or untick what is chosen"),
                new KeyHint("Delete", "Among arrivals: take what is chosen off the list"));
    }

    @Override
    public LongExpression waiting() {
        return waiting;
    }

    @Override
    public Optional<Runnable> accept(Request request) {
        return switch (request) {
            case Request.ChooseArrivals() -> Optional.of(view.doing(ReceiveView::chooseFiles));
            case Request.ChooseArrivalFolder() -> Optional.of(view.doing(ReceiveView::chooseFolder));
            case Request.TakeIn(List<Path> files) -> Optional.of(() -> model.add(files));
            default -> Optional.empty();
        };
    }
}
