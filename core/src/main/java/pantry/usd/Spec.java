package pantry.usd;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;

/** What all specs have: metadata fields by name, in the order in which they were set. */
public abstract sealed class Spec permits Layer, PrimSpec, PropertySpec {
    private final Map<String, Value> metadata = new LinkedHashMap<>();

    /** The fields; live. */
    public Map<String, Value> metadata() {
        return metadata;
    }

    public Optional<Value> metadata(String field) {
        return Optional.ofNullable(metadata.get(field));
    }

    /** The text of a string or token field. */
    public Optional<String> text(String field) {
        return switch (metadata.get(field)) {
            case Value.Text(String text) -> Optional.of(text);
            case Value.Token(String text) -> Optional.of(text);
            case null, default -> Optional.empty();
        };
    }

    /** The number in a numeric field. */
    public Optional<Double> number(String field) {
        return switch (metadata.get(field)) {
            case Value.Int(long number) -> Optional.of((double) number);
            case Value.Real(double number) -> Optional.of(number);
            case null, default -> Optional.empty();
        };
    }

    /** The truth in a boolean field; numbers other than 0 are true. */
    public Optional<Boolean> flag(String field) {
        return switch (metadata.get(field)) {
            case Value.Bool(boolean flag) -> Optional.of(flag);
            case Value.Int(long number) -> Optional.of(number != 0);
            case null, default -> Optional.empty();
        };
    }

    /** Whether the other has the same fields with the same values; their order does not count. */
    final boolean sameMetadata(Spec other) {
        return metadata.equals(other.metadata);
    }

    final void copyMetadataTo(Spec other) {
        other.metadata.putAll(metadata);
    }
}
