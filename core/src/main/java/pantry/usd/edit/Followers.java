package pantry.usd.edit;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** Lets what a layer says of other prims follow when those get other paths: targets, connections, classes, references. */
final class Followers {
    private final UnaryOperator<SdfPath> follow;

    private Followers(UnaryOperator<SdfPath> follow) {
        this.follow = follow;
    }

    /** Follows in a prim spec of a layer and everything below it, variants included, by edits of a transaction. */
    static void follow(Transaction transaction, Layer layer, SdfPath at, UnaryOperator<SdfPath> follow) {
        new Followers(follow).follow(transaction, layer, at, LayerEdit.spec(layer, at));
    }

    private void follow(Transaction transaction, Layer layer, SdfPath at, PrimSpec spec) {
        // Edits replace entries of the very maps that are walked, hence the copies.
        for (Map.Entry<String, Value> field : List.copyOf(spec.metadata().entrySet())) {
            Value followed = followed(field.getValue());
            if (followed != null) {
                transaction.run(LayerEdit.Field.of(layer, at, field.getKey(), followed));
            }
        }
        for (PropertySpec property : List.copyOf(spec.properties())) {
            PropertySpec followed = followed(property);
            if (followed != null) {
                transaction.run(LayerEdit.Property.of(layer, at, property.name(), followed));
            }
        }
        for (PrimSpec child : spec.children()) {
            follow(transaction, layer, at.child(child.name()), child);
        }
        spec.variantSets().forEach((set, variants) -> variants.values()
                .forEach(variant -> follow(transaction, layer, at.variant(set, variant.name()), variant.contents())));
    }

    /** Leads what a spec of no layer yet says of other prims to other paths, with everything below it. */
    static void lead(PrimSpec spec, UnaryOperator<SdfPath> follow) {
        new Followers(follow).lead(spec);
    }

    private void lead(PrimSpec spec) {
        spec.metadata().replaceAll((field, value) -> {
            Value followed = followed(value);
            return followed == null ? value : followed;
        });
        for (PropertySpec property : List.copyOf(spec.properties())) {
            PropertySpec followed = followed(property);
            if (followed != null) {
                spec.put(followed);
            }
        }
        spec.children().forEach(this::lead);
        spec.variantSets().values().forEach(variants -> variants.values().forEach(variant -> lead(variant.contents())));
    }

    /** The property with other targets; null where it has none that move. */
    private @Nullable PropertySpec followed(PropertySpec property) {
        return switch (property) {
            case RelationshipSpec relationship -> {
                ListEdit<SdfPath> targets = relationship.targets().map(follow);
                yield targets.equals(relationship.targets())
                        ? null
                        : relationship.copyAs(relationship.name()).setTargets(targets);
            }
            case AttributeSpec attribute -> {
                ListEdit<SdfPath> connections = attribute.connections().map(follow);
                yield connections.equals(attribute.connections())
                        ? null
                        : attribute.copyAs(attribute.name()).setConnections(connections);
            }
        };
    }

    /** The field's value with other paths; null where it has none that move. */
    private @Nullable Value followed(Value value) {
        Value followed =
                switch (value) {
                    case Value.PathEdit(ListEdit<SdfPath> edit) -> new Value.PathEdit(edit.map(follow));
                    case Value.ReferenceEdit(ListEdit<Reference> edit) ->
                        new Value.ReferenceEdit(edit.map(this::followed));
                    case Value.PathValue(SdfPath path) -> new Value.PathValue(follow.apply(path));
                    case Value.Relocates(Map<SdfPath, SdfPath> moves) -> {
                        Map<SdfPath, SdfPath> moved = new LinkedHashMap<>();
                        moves.forEach((from, to) -> moved.put(follow.apply(from), follow.apply(to)));
                        yield new Value.Relocates(moved);
                    }
                    default -> value;
                };
        return followed.equals(value) ? null : followed;
    }

    private Reference followed(Reference reference) {
        Optional<SdfPath> prim = reference.prim().map(follow);
        return reference.isInternal() && !prim.equals(reference.prim())
                ? new Reference("", prim, reference.offset(), reference.customData())
                : reference;
    }
}
