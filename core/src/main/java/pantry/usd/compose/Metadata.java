package pantry.usd.compose;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.usd.ListEdit;
import pantry.usd.Value;

/**
 * What several opinions of one metadata field come to: the strongest, but for dictionaries, which are merged entry by
 * entry, and list edits, which are applied from the weakest up (AOUSD Core Specification 1.0, value resolution).
 */
final class Metadata {
    private Metadata() {}

    /** @param values strongest first */
    static Optional<Value> composed(List<Value> values) {
        if (values.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(
                switch (values.getFirst()) {
                    case Value.Dictionary first -> dictionaries(first, values);
                    case Value.TokenEdit first -> {
                        List<String> items = List.of();
                        for (Value value : values.reversed()) {
                            if (value instanceof Value.TokenEdit(ListEdit<String> edit)) {
                                items = edit.applyTo(items);
                            }
                        }
                        yield new Value.TokenEdit(ListEdit.explicit(items));
                    }
                    case Value.NumberEdit first -> {
                        List<Long> items = List.of();
                        for (Value value : values.reversed()) {
                            if (value instanceof Value.NumberEdit(ListEdit<Long> edit)) {
                                items = edit.applyTo(items);
                            }
                        }
                        yield new Value.NumberEdit(ListEdit.explicit(items));
                    }
                    case Value strongest -> strongest;
                });
    }

    private static Value dictionaries(Value.Dictionary first, List<Value> values) {
        Value.Dictionary merged = first;
        for (Value value : values.subList(1, values.size())) {
            if (value instanceof Value.Dictionary weaker) {
                merged = merged(merged, weaker);
            }
        }
        return merged;
    }

    private static Value.Dictionary merged(Value.Dictionary stronger, Value.Dictionary weaker) {
        if (weaker.entries().isEmpty()) {
            return stronger;
        }
        Map<String, Value.Dictionary.Entry> entries = new LinkedHashMap<>(stronger.entries());
        weaker.entries().forEach((key, entry) -> {
            Value.Dictionary.Entry own = entries.get(key);
            if (own == null) {
                entries.put(key, entry);
            } else if (own.value() instanceof Value.Dictionary one && entry.value() instanceof Value.Dictionary other) {
                entries.put(key, new Value.Dictionary.Entry("dictionary", merged(one, other)));
            }
        });
        return new Value.Dictionary(entries);
    }
}
