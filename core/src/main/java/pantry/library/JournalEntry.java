package pantry.library;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.Map;

/**
 * A change of a library, as its journal tells it.
 *
 * @param when by the clock of the machine that made the change
 * @param what such as {@code shelved}, {@code published}, {@code moved}, {@code card}
 * @param asset its id; empty where a shelf is concerned
 * @param name the asset's or shelf's name at that time
 * @param shelf where the asset stands after the change
 * @param from where it stood before, or who held it
 * @param note what was said about it
 * @param changes the card's fields that were changed, by name
 */
@JsonInclude(JsonInclude.Include.NON_EMPTY)
public record JournalEntry(
        Instant when,
        String who,
        String what,
        String asset,
        String version,
        String name,
        String shelf,
        String from,
        String note,
        Map<String, CardChanges.Change> changes) {
    public JournalEntry {
        asset = asset == null ? "" : asset;
        version = version == null ? "" : version;
        name = name == null ? "" : name;
        shelf = shelf == null ? "" : shelf;
        from = from == null ? "" : from;
        note = note == null ? "" : note;
        changes = changes == null ? Map.of() : Map.copyOf(changes);
    }
}
