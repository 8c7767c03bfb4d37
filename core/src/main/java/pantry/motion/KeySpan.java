package pantry.motion;

import java.util.Arrays;

/**
 * The two keys that a time stands between; before the first key and after the last, that key alone.
 *
 * @param before the number of the key at or before the time
 * @param after the number of the next
 * @param seconds from the one to the other
 * @param share how far on the time is, 0 at the one to 1 at the other
 */
public record KeySpan(int before, int after, double seconds, double share) {
    /** @param times of the keys, seconds, rising, at least one */
    public static KeySpan at(float[] times, double time) {
        int found = Arrays.binarySearch(times, (float) time);
        int before = Math.clamp(found >= 0 ? found : -found - 2, 0, times.length - 1);
        int after = Math.min(before + 1, times.length - 1);
        double span = times[after] - times[before];
        return new KeySpan(before, after, span, span > 0 ? Math.clamp((time - times[before]) / span, 0, 1) : 0);
    }
}
