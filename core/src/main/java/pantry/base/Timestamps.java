package pantry.base;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** Moments as a person reads them. */
public final class Timestamps {
    private static final DateTimeFormatter MINUTES = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT);

    private Timestamps() {}

    /** A moment to the minute, in the machine's time zone. */
    public static String minutes(Instant moment) {
        return MINUTES.format(moment.atZone(ZoneId.systemDefault()));
    }
}
