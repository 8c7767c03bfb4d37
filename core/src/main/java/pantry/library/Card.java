package pantry.library;

import com.fasterxml.jackson.annotation.JsonAnyGetter;
import com.fasterxml.jackson.annotation.JsonAnySetter;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * An asset's facts, as {@code card.json} holds them.
 *
 * @param id stable, a UUID
 * @param licence an SPDX licence expression; empty where none is known
 * @param colourable the materials whose colour may be chosen when the asset is placed
 * @param fields the house's own facts, by name
 * @param versions statuses by version name; a version that is not named here is a draft
 * @param ready the version that followers get; null where none is ready
 * @param shelf where Pantry put the asset, by which a move by hand is noticed; null in libraries of format 1
 * @param copyOf the id of the asset that this was copied from; null where it was shelved here
 * @param others what other programs wrote beside it, kept as it is
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
        List<String> colourable,
        Map<String, String> fields,
        Map<String, VersionStatus> versions,
        @Nullable String ready,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable String shelf,
        @JsonInclude(JsonInclude.Include.NON_NULL) @Nullable String copyOf,
        @JsonAnySetter @JsonAnyGetter Map<String, Object> others) {
    public Card {
        if (id == null || id.isBlank() || name == null || name.isBlank() || kind == null) {
            throw new IllegalArgumentException("a card needs an id, a name and a kind");
        }
        tags = tags == null ? List.of() : List.copyOf(tags);
        notes = notes == null ? "" : notes;
        licence = licence == null ? "" : licence;
        credit = credit == null ? "" : credit;
        source = source == null ? "" : source;
        colourable = colourable == null ? List.of() : List.copyOf(colourable);
        fields = fields == null ? Map.of() : Collections.unmodifiableMap(new LinkedHashMap<>(fields));
        versions = versions == null ? Map.of() : Collections.unmodifiableMap(new TreeMap<>(versions));
        others = others == null ? Map.of() : Collections.unmodifiableMap(new LinkedHashMap<>(others));
    }

    /** A card without versions yet. */
    public static Card fresh(String id, String name, AssetKind kind) {
        return new Card(
                id, name, kind, List.of(), "", "", "", "", List.of(), Map.of(), Map.of(), null, null, null, Map.of());
    }

    public Card described(
            List<String> newTags, String newNotes, String newLicence, String newCredit, String newSource) {
        return withTags(newTags)
                .withNotes(newNotes)
                .withLicence(newLicence)
                .withCredit(newCredit)
                .withSource(newSource);
    }

    public Card withTags(List<String> newTags) {
        return changed(next -> next.tags = newTags);
    }

    /** This card with a tag it may have already. */
    public Card tagged(String tag) {
        if (tags.contains(tag)) {
            return this;
        }
        List<String> more = new ArrayList<>(tags);
        more.add(tag);
        return withTags(more);
    }

    /** This card without a tag. */
    public Card untagged(String tag) {
        return withTags(tags.stream().filter(each -> !each.equals(tag)).toList());
    }

    /** This card with one tag instead of another, in its place; where it has both, once. */
    public Card retagged(String tag, String instead) {
        return withTags(tags.stream()
                .map(each -> each.equals(tag) ? instead : each)
                .distinct()
                .toList());
    }

    public Card withNotes(String newNotes) {
        return changed(next -> next.notes = newNotes);
    }

    public Card withLicence(String newLicence) {
        return changed(next -> next.licence = newLicence);
    }

    public Card withCredit(String newCredit) {
        return changed(next -> next.credit = newCredit);
    }

    public Card withSource(String newSource) {
        return changed(next -> next.source = newSource);
    }

    public Card withName(String newName) {
        return changed(next -> next.name = newName);
    }

    public Card withKind(AssetKind newKind) {
        return changed(next -> next.kind = newKind);
    }

    public Card withColourable(List<String> parts) {
        return changed(next -> next.colourable = parts);
    }

    /** This card with more of the house's own facts. */
    public Card withFields(Map<String, String> more) {
        Map<String, String> all = new LinkedHashMap<>(fields);
        all.putAll(more);
        return changed(next -> next.fields = all);
    }

    /** This card with one of the house's own facts; a blank value removes it. */
    public Card withField(String field, String value) {
        Map<String, String> more = new LinkedHashMap<>(fields);
        if (value.isBlank()) {
            more.remove(field);
        } else {
            more.put(field, value);
        }
        return changed(next -> next.fields = more);
    }

    /** This card with a version that it may know already; which one is followed does not change. */
    Card knowing(String version, VersionStatus status) {
        Map<String, VersionStatus> more = new TreeMap<>(versions);
        more.put(version, status);
        return changed(next -> next.versions = more);
    }

    /** This card with another version that is followed, or with none. */
    Card following(@Nullable String version) {
        return changed(next -> next.ready = version);
    }

    /** This card without a version, which is not the one that is followed. */
    Card without(String version) {
        Map<String, VersionStatus> less = new TreeMap<>(versions);
        less.remove(version);
        return changed(next -> next.versions = less);
    }

    /**
     * This card with a version's status. What is made ready is followed from then on; when what is followed is no longer
     * ready, the newest that still is.
     */
    public Card with(String version, VersionStatus status) {
        Map<String, VersionStatus> more = new TreeMap<>(versions);
        more.put(version, status);
        return changed(next -> {
            next.versions = more;
            if (status == VersionStatus.READY) {
                next.ready = version;
            } else if (version.equals(ready)) {
                next.ready = newestReady(more);
            }
        });
    }

    private static @Nullable String newestReady(Map<String, VersionStatus> versions) {
        return versions.entrySet().stream()
                .filter(entry -> entry.getValue() == VersionStatus.READY)
                .map(Map.Entry::getKey)
                .max(VersionName.ORDER)
                .orElse(null);
    }

    /** This card of an asset that stands on a shelf. */
    Card on(@Nullable String newShelf) {
        return changed(next -> next.shelf = newShelf);
    }

    /** The card of a copy of this asset. */
    Card copied(String newId) {
        return changed(next -> {
            next.id = newId;
            next.copyOf = id;
        });
    }

    private Card changed(Consumer<Builder> change) {
        Builder next = new Builder(this);
        change.accept(next);
        return next.build();
    }

    /** This, with some of it changed. */
    private static final class Builder {
        private String id;
        private String name;
        private AssetKind kind;
        private List<String> tags;
        private String notes;
        private String licence;
        private String credit;
        private String source;
        private List<String> colourable;
        private Map<String, String> fields;
        private Map<String, VersionStatus> versions;
        private @Nullable String ready;
        private @Nullable String shelf;
        private @Nullable String copyOf;
        private Map<String, Object> others;

        Builder(Card from) {
            id = from.id;
            name = from.name;
            kind = from.kind;
            tags = from.tags;
            notes = from.notes;
            licence = from.licence;
            credit = from.credit;
            source = from.source;
            colourable = from.colourable;
            fields = from.fields;
            versions = from.versions;
            ready = from.ready;
            shelf = from.shelf;
            copyOf = from.copyOf;
            others = from.others;
        }

        Card build() {
            return new Card(
                    id,
                    name,
                    kind,
                    tags,
                    notes,
                    licence,
                    credit,
                    source,
                    colourable,
                    fields,
                    versions,
                    ready,
                    shelf,
                    copyOf,
                    others);
        }
    }
}
