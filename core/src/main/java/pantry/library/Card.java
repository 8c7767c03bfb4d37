package pantry.library;

import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * An asset's facts, as {@code card.json} holds them.
 *
 * @param id stable, a UUID
 * @param versions statuses by version name; a version that is not named here is a draft
 * @param ready the version that followers get; null where none is ready
 */
public record Card(
        String id,
        String name,
        AssetKind kind,
        List<String> tags,
        String notes,
        String licence,
        String credit,
        String source,
        Map<String, VersionStatus> versions,
        @Nullable String ready) {
    public Card {
        if (id == null || id.isBlank() || name == null || name.isBlank() || kind == null) {
            throw new IllegalArgumentException("a card needs an id, a name and a kind");
        }
        tags = tags == null ? List.of() : List.copyOf(tags);
        notes = notes == null ? "" : notes;
        licence = licence == null ? "" : licence;
        credit = credit == null ? "" : credit;
        source = source == null ? "" : source;
        versions = versions == null ? Map.of() : Collections.unmodifiableMap(new TreeMap<>(versions));
    }

    /** A card without versions yet. */
    public static Card fresh(String id, String name, AssetKind kind) {
        return new Card(id, name, kind, List.of(), "", "", "", "", Map.of(), null);
    }

    public Card described(
            List<String> newTags, String newNotes, String newLicence, String newCredit, String newSource) {
        return new Card(id, name, kind, newTags, newNotes, newLicence, newCredit, newSource, versions, ready);
    }

    /** This card with a version's status; a ready version becomes the one that is followed. */
    public Card with(String version, VersionStatus status) {
        Map<String, VersionStatus> more = new TreeMap<>(versions);
        more.put(version, status);
        String followed = status == VersionStatus.READY ? version : version.equals(ready) ? null : ready;
        return new Card(id, name, kind, tags, notes, licence, credit, source, more, followed);
    }
}
