package pantry.library;

import java.time.Instant;

/**
 * That somebody holds an asset for editing.
 *
 * @param host the machine it was reserved from
 */
public record Reservation(String asset, String who, String host, Instant since) {
    /** Stands for whoever holds an asset by a reservation that cannot be read; nobody's name has a line end. */
    static final String UNKNOWN = "\nunknown";

    /** Whether it is known who holds it. */
    public boolean isReadable() {
        return !who.equals(UNKNOWN);
    }
}
