package pantry.desktop.prep;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.LongExpression;
import javafx.beans.value.ObservableValue;
import pantry.base.PantryException;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Session;
import pantry.desktop.workplace.Command;
import pantry.desktop.workplace.MadeOnce;
import pantry.desktop.workplace.Navigation;
import pantry.desktop.workplace.Request;
import pantry.desktop.workplace.Workplace;
import pantry.model.Weight;

/** The workplace where files and assets are inspected and cleaned. */
public final class PrepWorkplace implements Workplace {
    private final Session session;
    private final Navigation navigation;
    private final PrepModel model;
    private final MadeOnce<PrepView> view;
    private final LongExpression waiting;
    private final ObservableValue<Weight> weight;
    private final List<Command> commands;
    private boolean warned;

    public PrepWorkplace(Session session, ArrivalSource arrivals, Navigation navigation) {
        this.session = session;
        this.navigation = navigation;
        model = new PrepModel(session, arrivals);
        view = new MadeOnce<>(() -> new PrepView(model, file -> navigation.send(new Request.TakeIn(List.of(file)))));
        waiting = Bindings.createLongBinding(model.list()::waiting, model.items());
        weight = model.openedProperty().map(now -> now.map(Opened::weight).orElse(Weight.NOTHING));
        commands = makeCommands();
    }

    private List<Command> makeCommands() {
        List<Command> all = new ArrayList<>(List.of(
                Command.of("Inspect files…", "Shortcut+O", view.doing(PrepView::chooseFiles)),
                Command.of("Put right what is ticked", "Shortcut+ENTER", model::tidy),
                Command.of("Tick all that can be put right", "Shortcut+A", () -> model.chosen()
                        .tick(finding -> true, true)),
                Command.of(
                        "Untick all", "Shortcut+Shift+A", () -> model.chosen().tick(finding -> true, false)),
                Command.of("Before and after, side by side", "B", view.doing(PrepView::toggleBeside)),
                Command.of("Select all that share their shape with it", "Shortcut+K", view.doing(PrepView::selectLike)),
                Command.of("Save the working copy as a file…", "Shortcut+S", view.doing(PrepView::save)),
                Command.of("Publish as the next version…", "Shortcut+P", view.doing(PrepView::publish)),
                Command.of(
                        "Select nothing", "Esc", () -> model.selectionProperty().set(Set.of()))));
        for (PrepView.Tool tool : PrepView.Tool.values()) {
            all.add(Command.of(
                    "Tool: " + tool.name().toLowerCase(Locale.ROOT),
                    "Alt+" + (tool.ordinal() + 1),
                    view.doing(made -> made.show(tool))));
        }
        return List.copyOf(all);
    }

    public PrepModel model() {
        return model;
    }

    @Override
    public String name() {
        return "Prep";
    }

    @Override
    public String icon() {
        return "remixmz-tools-line";
    }

    @Override
    public String hint() {
        return "Inspect and clean";
    }

    @Override
    public PrepView node() {
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
    public LongExpression waiting() {
        return waiting;
    }

    @Override
    public ObservableValue<Weight> weight() {
        return weight;
    }

    @Override
    public void shown() {
        model.list().refresh();
        session.weightAfterProperty().set(model.chosen().foreseenProperty().get());
    }

    /** Warns once; who closes again gives the changes up. */
    @Override
    public void leave(Runnable then) {
        long copies = model.unsaved();
        if (copies == 0 || warned) {
            then.run();
            return;
        }
        warned = true;
        navigation.go(this);
        session.wrong(new PantryException((copies == 1 ? "a working copy has" : copies + " working copies have")
                + " changes that are not saved; save them, or close once more to give them up"));
    }

    @Override
    public Optional<Runnable> accept(Request request) {
        if (request instanceof Request.InspectAsset inspect) {
            return Optional.of(() -> model.open(inspect.library(), inspect.asset()));
        }
        if (request instanceof Request.InspectArrival inspect) {
            return Optional.of(() -> model.openArrival(inspect.file()));
        }
        return Optional.empty();
    }
}
