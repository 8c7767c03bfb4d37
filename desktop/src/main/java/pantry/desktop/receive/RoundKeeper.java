package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.OrderedWork;
import pantry.desktop.session.Session;
import pantry.intake.Origin;
import pantry.intake.Round;
import pantry.intake.Slip;

/**
 * Writes down how far the round is, so that it can go on; in the background, each step after the one before. That it
 * cannot be written is said, and stops nothing.
 */
final class RoundKeeper {
    private final Session session;
    private final OrderedWork steps;
    private final ReadOnlyObjectWrapper<Map<Origin, Optional<Slip>>> waiting = new ReadOnlyObjectWrapper<>(Map.of());

    /** Written and read by one step after another. */
    private volatile Optional<Round> round = Optional.empty();

    RoundKeeper(Session session) {
        this.session = session;
        this.steps = new OrderedWork(session.background(), session::wrong);
        step(open -> {});
    }

    private void step(Consumer<Round> step) {
        steps.quietly(
                "writing down the round",
                progress -> {
                    Round open = round.orElseGet(session.workbench()::round);
                    round = Optional.of(open);
                    step.accept(open);
                    return open.waiting();
                },
                waiting::set);
    }

    /** Where an arrival comes from, told so that it means something after this session. */
    Origin origin(Arrival arrival) {
        return session.workbench().archives().origin(arrival.file());
    }

    void arrived(List<Arrival> arrivals) {
        List<Origin> origins = arrivals.stream().map(this::origin).toList();
        step(open -> open.arrived(origins));
    }

    void chosen(Arrival arrival, Slip slip) {
        Origin origin = origin(arrival);
        step(open -> open.chosen(origin, slip));
    }

    void over(Arrival arrival) {
        Origin origin = origin(arrival);
        step(open -> open.over(origin));
    }

    /** What is not finished, by where it comes from, with the choices made so far. */
    ReadOnlyObjectProperty<Map<Origin, Optional<Slip>>> waitingProperty() {
        return waiting.getReadOnlyProperty();
    }

    void forget() {
        step(open -> List.copyOf(open.waiting().keySet()).forEach(open::over));
    }

    /** The arrival that comes from somewhere; what cannot be found any more is refused when it is read. */
    Arrival located(Origin origin, Progress progress) {
        try {
            Path file = session.workbench().archives().locate(origin, progress);
            return new Arrival(file, file.getParent() == null ? file : file.getParent());
        } catch (PantryException e) {
            return new Arrival(origin.file(), origin.file());
        }
    }
}
