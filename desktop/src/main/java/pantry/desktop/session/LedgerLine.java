package pantry.desktop.session;

import java.time.LocalTime;
import java.util.List;
import java.util.Optional;

/**
 * Something that was done or that went wrong.
 *
 * @param id tells it from all others
 * @param details what it consists of, where that is more than one thing
 * @param reversal takes it back and does it again, where that is possible
 * @param why it cannot be taken back; empty where it can, and where there is nothing to be taken back
 */
public record LedgerLine(
        long id,
        LocalTime when,
        Kind kind,
        String text,
        List<String> details,
        Optional<Reversal> reversal,
        State state,
        String why) {
    /** What a line tells. */
    public enum Kind {
        DONE,
        WRONG
    }

    /** Whether what a line tells holds. */
    public enum State {
        STANDS,
        /** It is being taken back, or done again. */
        UNDER_WAY,
        TAKEN_BACK,
        /** Taking it back, or doing it again, was tried and failed. */
        LOST
    }

    LedgerLine now(State other, String reason) {
        return new LedgerLine(id, when, kind, text, details, reversal, other, reason);
    }
}
