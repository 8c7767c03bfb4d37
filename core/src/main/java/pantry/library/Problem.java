package pantry.library;

import com.fasterxml.jackson.annotation.JsonValue;
import java.nio.file.Path;
import java.util.Locale;

/** Something in a library that is not as it should be. */
public record Problem(Path path, Kind kind, String message) {
    /** What is wrong. */
    public enum Kind {
        /** A file differs from its checksum. */
        CHANGED,
        /** A sealed file is gone. */
        MISSING,
        /** A file was added to a sealed version. */
        EXTRA,
        /** A version without a seal. */
        UNSEALED,
        /** A card that cannot be understood. */
        CARD,
        /** Versions whose card is gone. */
        CARDLESS,
        /** An asset that is not where Pantry put it. */
        MOVED,
        /** Two assets with one id. */
        SAME_ID,
        /** The layer that followers reference is gone or leads elsewhere. */
        READY,
        /** A layer by which an asset uses another one, and which leads nowhere. */
        USE,
        /** A version that the card or the journal knows and that is not there. */
        GONE_VERSION,
        /** An asset that the journal knows and that is neither on a shelf nor in the trash. */
        GONE_ASSET,
        /** A version that was sealed under another number. */
        MISNUMBERED,
        /** A symbolic link, which might lead anywhere. */
        LINK,
        /** A folder whose name a library keeps for its own, on the way to assets. */
        RESERVED_NAME,
        /** A file that was being written when a process ended. */
        LEFT_OVER,
        /** A reservation that cannot be read. */
        RESERVATION,
        /** Something cannot be read at all. */
        UNREADABLE;

        @JsonValue
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', ' ');
        }
    }
}
