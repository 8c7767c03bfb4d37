package pantry.usd;

import java.util.Collections;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiConsumer;

/** An attribute's values by time code, in the time of the layer that holds them. Mutable. */
public final class TimeSamples {
    private static final NavigableMap<Double, LazyValue> NONE = Collections.emptyNavigableMap();

    // Most attributes have none, so the map is made with the first.
    private NavigableMap<Double, LazyValue> byTime = NONE;

    private NavigableMap<Double, LazyValue> own() {
        if (byTime == NONE) {
            byTime = new TreeMap<>();
        }
        return byTime;
    }

    public boolean isEmpty() {
        return byTime.isEmpty();
    }

    /** The time codes, rising. */
    public Set<Double> times() {
        return Collections.unmodifiableSet(byTime.keySet());
    }

    /** The value at exactly this time. */
    public Optional<Value> at(double time) {
        return Optional.ofNullable(byTime.get(time)).map(LazyValue::get);
    }

    /** The last time not after the given one. */
    public Optional<Double> atOrBefore(double time) {
        return Optional.ofNullable(byTime.floorKey(time));
    }

    /** The first time after the given one. */
    public Optional<Double> after(double time) {
        return Optional.ofNullable(byTime.higherKey(time));
    }

    /** The earliest time; the attribute must have samples. */
    public double first() {
        return byTime.firstKey();
    }

    public void put(double time, Value value) {
        own().put(time, LazyValue.of(value));
    }

    public void put(double time, LazyValue value) {
        own().put(time, value);
    }

    public void putAll(TimeSamples others) {
        if (!others.isEmpty()) {
            own().putAll(others.byTime);
        }
    }

    public void remove(double time) {
        if (byTime != NONE) {
            byTime.remove(time);
        }
    }

    /** Gives each time with its value, which is read for it. */
    public void forEach(BiConsumer<Double, Value> action) {
        byTime.forEach((time, value) -> action.accept(time, value.get()));
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof TimeSamples other && byTime.equals(other.byTime);
    }

    @Override
    public int hashCode() {
        return byTime.keySet().hashCode();
    }

    @Override
    public String toString() {
        return byTime.toString();
    }
}
