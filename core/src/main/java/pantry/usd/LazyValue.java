package pantry.usd;

import java.lang.ref.SoftReference;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * A value that is at hand, or is read when asked for. What was read is kept as long as memory allows, so that large
 * arrays cost nothing before they are used and can be let go after. To be used by one thread at a time.
 */
public final class LazyValue {
    private final @Nullable Value known;
    private final @Nullable Supplier<Value> source;
    private @Nullable SoftReference<Value> read;

    private LazyValue(@Nullable Value known, @Nullable Supplier<Value> source) {
        this.known = known;
        this.source = source;
    }

    public static LazyValue of(Value value) {
        return new LazyValue(value, null);
    }

    /** @param source gives the same value every time */
    public static LazyValue from(Supplier<Value> source) {
        return new LazyValue(null, source);
    }

    /**
     * The value.
     *
     * @throws UsdException where it has to be read and cannot be
     */
    public Value get() {
        if (source == null) {
            return java.util.Objects.requireNonNull(known);
        }
        Value value = read == null ? null : read.get();
        if (value == null) {
            value = source.get();
            read = new SoftReference<>(value);
        }
        return value;
    }

    /** Compares the values, which are read for it. */
    @Override
    public boolean equals(Object o) {
        return o instanceof LazyValue other && get().equals(other.get());
    }

    @Override
    public int hashCode() {
        return get().hashCode();
    }

    @Override
    public String toString() {
        return source == null ? String.valueOf(known) : "a value to be read";
    }
}
