package pantry.library;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import pantry.base.Json;

/**
 * What differs between two states of a card, field by field; it can be undone although other fields, or other tags,
 * were changed meanwhile.
 *
 * @param fields by the names they have in {@code card.json}
 */
public record CardChanges(Map<String, Change> fields) {
    /** A field before and after; null where it was not there. */
    public record Change(@Nullable Object before, @Nullable Object after) {}

    public CardChanges {
        fields = Map.copyOf(fields);
    }

    /** What changes one state into the other. */
    public static CardChanges between(Card before, Card after) {
        Map<String, Object> old = Json.asMap(before);
        Map<String, Object> now = Json.asMap(after);
        Map<String, Change> changes = new LinkedHashMap<>();
        Map<String, Object> all = new LinkedHashMap<>(old);
        all.putAll(now);
        for (String field : all.keySet()) {
            if (!Objects.equals(old.get(field), now.get(field))) {
                changes.put(field, new Change(old.get(field), now.get(field)));
            }
        }
        return new CardChanges(changes);
    }

    public boolean isEmpty() {
        return fields.isEmpty();
    }

    /** A card with these changes taken back, and everything else as it is now. */
    public Card undone(Card now) {
        Map<String, Object> card = new LinkedHashMap<>(Json.asMap(now));
        fields.forEach((field, change) -> {
            Object undone = undone(card.get(field), change);
            if (undone == null) {
                card.remove(field);
            } else {
                card.put(field, undone);
            }
        });
        return Json.ofMap(card, Card.class);
    }

    private static @Nullable Object undone(@Nullable Object now, Change change) {
        if (now instanceof List<?> list
                && change.before() instanceof List<?> before
                && change.after() instanceof List<?> after) {
            List<Object> kept = new ArrayList<>(list);
            kept.removeIf(each -> after.contains(each) && !before.contains(each));
            before.stream()
                    .filter(each -> !after.contains(each) && !kept.contains(each))
                    .forEach(kept::add);
            return kept;
        }
        if (now instanceof Map<?, ?> map
                && change.before() instanceof Map<?, ?> before
                && change.after() instanceof Map<?, ?> after) {
            Map<Object, Object> kept = new LinkedHashMap<>(map);
            after.forEach((key, value) -> {
                if (!Objects.equals(before.get(key), value)) {
                    kept.remove(key);
                }
            });
            before.forEach((key, value) -> {
                if (!Objects.equals(after.get(key), value)) {
                    kept.put(key, value);
                }
            });
            return kept;
        }
        return change.before();
    }
}
