package pantry.usd;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What all specs have: metadata fields by name, in the order in which they were set. */
public abstract sealed class Spec permits Layer, PrimSpec, PropertySpec {
    // Most properties have none, so the map is made when it is first asked for.
    private @Nullable Map<String, Value> metadata;

    /** The fields; live. */
    public Map<String, Value> metadata() {
        Map<String, Value> fields = metadata;
        if (fields == null) {
            fields = new LinkedHashMap<>();
            metadata = fields;
        }
        return fields;
    }

    private @Nullable Value field(String name) {
        return metadata == null ? null : metadata.get(name);
    }

    public Optional<Value> metadata(String field) {
        return Optional.ofNullable(field(field));
    }

    /** The text of a string or token field. */
    public Optional<String> text(String field) {
        return switch (field(field)) {
            case Value.Text(String text) -> Optional.of(text);
            case Value.Token(String text) -> Optional.of(text);
            case null, default -> Optional.empty();
        };
    }

    /** The number in a numeric field. */
    public Optional<Double> number(String field) {
        return switch (field(field)) {
            case Value.Int(long number) -> Optional.of((double) number);
            case Value.Real(double number) -> Optional.of(number);
            case null, default -> Optional.empty();
        };
    }

    /** The truth in a boolean field; numbers other than 0 are true. */
    public Optional<Boolean> flag(String field) {
        return switch (field(field)) {
            case Value.Bool(boolean flag) -> Optional.of(flag);
            case Value.Int(long number) -> Optional.of(number != 0);
            case null, default -> Optional.empty();
        };
    }

    /** Whether there are no fields. */
    public final boolean isBare() {
        return metadata == null || metadata.isEmpty();
    }

    /** Whether the other has the same fields with the same values; their order does not count. */
    final boolean sameMetadata(Spec other) {
        return isBare() || other.isBare()
                ? isBare() == other.isBare()
                : metadata().equals(other.metadata());
    }

    final void copyMetadataTo(Spec other) {
        if (!isBare()) {
            other.metadata().putAll(metadata());
        }
    }
}
