package pantry.library;

import java.time.Clock;
import java.time.Instant;

/**
 * Who changes a library, and by which clock.
 *
 * @param who the name that journal, seals and reservations give
 */
record Author(String who, Clock clock) {
    Instant now() {
        return clock.instant();
    }
}
