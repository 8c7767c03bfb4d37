package pantry.scene;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.Json;
import pantry.usd.PrimSpec;
import pantry.usd.Value;

/**
 * What Pantry keeps in files beside what OpenUSD knows: texts of JSON in {@code customData} of prims and
 * {@code customLayerData} of layers. Others leave these as they are.
 */
final class CustomData {
    static final String PRIM = "customData";
    static final String LAYER = "customLayerData";

    private CustomData() {}

    /** A kept value of a field. */
    static <T> Optional<T> read(@Nullable Value field, String key, Class<T> type) {
        if (field instanceof Value.Dictionary data
                && data.entries().get(key) instanceof Value.Dictionary.Entry(var name, Value.Text(String text))) {
            return Optional.of(Json.read(text, key, type));
        }
        return Optional.empty();
    }

    /** The field's value with one more kept, or without where null; null where nothing is left. */
    static @Nullable Value with(@Nullable Value field, String key, @Nullable Object kept) {
        Map<String, Value.Dictionary.Entry> data = new LinkedHashMap<>();
        if (field instanceof Value.Dictionary before) {
            data.putAll(before.entries());
        }
        if (kept == null) {
            data.remove(key);
        } else {
            data.put(key, new Value.Dictionary.Entry("string", new Value.Text(Json.line(kept))));
        }
        return data.isEmpty() ? null : new Value.Dictionary(data);
    }

    /** A value that is kept with a prim. */
    static <T> Optional<T> read(PrimSpec prim, String key, Class<T> type) {
        return read(prim.metadata().get(PRIM), key, type);
    }

    /** Keeps a value with a prim, or forgets it where null. */
    static void write(PrimSpec prim, String key, @Nullable Object kept) {
        Value field = with(prim.metadata().get(PRIM), key, kept);
        if (field == null) {
            prim.metadata().remove(PRIM);
        } else {
            prim.metadata().put(PRIM, field);
        }
    }
}
