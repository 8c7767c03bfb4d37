package pantry.desktop.session;

import java.time.LocalTime;
import java.util.Optional;

/**
 * Something that was done or that went wrong.
 *
 * @param undo takes it back, where that is possible
 */
public record LedgerLine(LocalTime when, Kind kind, String text, Optional<Runnable> undo) {
    /** What a line tells. */
    public enum Kind {
        DONE,
        WRONG
    }
}
