package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.Session;
import pantry.intake.Origin;
import pantry.intake.Round;
import pantry.intake.Slip;

/** Writes down how far the round is, so that it can go on. That it cannot be written is said, and stops nothing. */
final class RoundKeeper {
    private final Session session;
    private @Nullable Round round;

    RoundKeeper(Session session) {
        this.session = session;
    }

    private interface Step {
        void on(Round round);
    }

    private void step(Step step) {
        try {
            Round open = round;
            if (open == null) {
                open = session.workbench().round();
                round = open;
            }
            step.on(open);
        } catch (PantryException e) {
            session.wrong(e);
        }
    }

    /** Where an arrival comes from, told so that it means something after this session. */
    Origin origin(Arrival arrival) {
        return session.workbench().archives().origin(arrival.file());
    }

    void arrived(List<Arrival> arrivals) {
        step(open -> open.arrived(arrivals.stream().map(this::origin).toList()));
    }

    void chosen(Arrival arrival, Slip slip) {
        step(open -> open.chosen(origin(arrival), slip));
    }

    void over(Arrival arrival) {
        step(open -> open.over(origin(arrival)));
    }

    /** What was not finished, by where it comes from, with the choices made so far. */
    Map<Origin, Optional<Slip>> waiting() {
        Map<Origin, Optional<Slip>> waiting = new LinkedHashMap<>();
        step(open -> waiting.putAll(open.waiting()));
        return waiting;
    }

    void forget() {
        List.copyOf(waiting().keySet()).forEach(origin -> step(open -> open.over(origin)));
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
