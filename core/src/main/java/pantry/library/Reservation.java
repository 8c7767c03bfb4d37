package pantry.library;

import java.time.Instant;

/**
 * That somebody holds an asset for editing.
 *
 * @param host the machine it was reserved from
 */
public record Reservation(String asset, String who, String host, Instant since) {}
