package pantry.usd;

import java.util.LinkedHashMap;
import java.util.Map;

/** Maps that keep their entries in an order of their own, and how something is put back where it was. */
public final class Ordered {
    private Ordered() {}

    /** The position of a key, from 0; the number of entries where it is not there. */
    public static int position(Iterable<String> keys, String key) {
        int at = 0;
        for (String each : keys) {
            if (each.equals(key)) {
                return at;
            }
            at++;
        }
        return at;
    }

    /** Puts an entry at a position, 0 being the first; one that is there already moves to it. */
    public static <V> void insert(Map<String, V> map, int position, String key, V value) {
        map.remove(key);
        if (position >= map.size()) {
            map.put(key, value);
            return;
        }
        Map<String, V> behind = new LinkedHashMap<>();
        int at = 0;
        for (Map.Entry<String, V> entry : map.entrySet()) {
            if (at++ >= position) {
                behind.put(entry.getKey(), entry.getValue());
            }
        }
        behind.keySet().forEach(map::remove);
        map.put(key, value);
        map.putAll(behind);
    }
}
