package pantry.library;

import java.time.Instant;
import java.time.format.DateTimeParseException;
import pantry.base.Timestamps;

/**
 * A version as an asset's history tells it.
 *
 * @param when day and time in UTC as its seal says, such as {@code 2026-11-25T09:30:00Z}; only the day where the time is
 *     not known
 * @param who who published it
 * @param note what they said of it
 * @param ready whether followers get this one
 */
public record VersionInfo(String version, VersionStatus status, boolean ready, String when, String who, String note) {
    /** The day alone. */
    public String day() {
        return when.length() >= 10 ? when.substring(0, 10) : when;
    }

    /** Day and time to the minute, in the machine's time zone; as the seal has it where it says no more than the day. */
    public String minute() {
        try {
            return Timestamps.minutes(Instant.parse(when));
        } catch (DateTimeParseException e) {
            return when;
        }
    }
}
