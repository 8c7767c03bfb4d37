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

/** Changes what specs say of other prims when those get other paths: targets, connections, classes, references. */
public final class PathRemapping {
    private final UnaryOperator<SdfPath> mapping;

    private PathRemapping(UnaryOperator<SdfPath> mapping) {
        this.mapping = mapping;
    }

    /**
     * Where a path leads once prims have got other places.
     *
     * @param moves from where each was to where it is
     * @return empty where neither it nor anything above it has moved; of several above it, the nearest counts
     */
    public static Optional<SdfPath> moved(SdfPath path, Map<SdfPath, SdfPath> moves) {
        for (SdfPath at = path; at.depth() > 0; at = at.parent()) {
            SdfPath to = moves.get(at);
            if (to != null) {
                return Optional.of(path.replacePrefix(at, to));
            }
        }
        return Optional.empty();
    }

    /** Follows in a prim spec of a layer and everything below it, variants included, by edits of a transaction. */
    static void follow(EditLog log, Layer layer, SdfPath at, UnaryOperator<SdfPath> mapping) {
        new PathRemapping(mapping).follow(log, layer, at, LayerEdit.spec(layer, at));
    }

    private void follow(EditLog log, Layer layer, SdfPath at, PrimSpec spec) {
        // Edits replace entries of the very maps that are walked, hence the copies.
        for (Map.Entry<String, Value> field : List.copyOf(spec.metadata().entrySet())) {
            Value remapped = remapped(field.getValue());
            if (remapped != null) {
                log.run(LayerEdit.Field.of(layer, at, field.getKey(), remapped));
            }
        }
        for (PropertySpec property : List.copyOf(spec.properties())) {
            PropertySpec remapped = remapped(property);
            if (remapped != null) {
                log.run(LayerEdit.Property.of(layer, at, property.name(), remapped));
            }
        }
        for (PrimSpec child : spec.children()) {
            follow(log, layer, at.child(child.name()), child);
        }
        spec.variantSets().forEach((set, variants) -> variants.values()
                .forEach(variant -> follow(log, layer, at.variant(set, variant.name()), variant.contents())));
    }

    /**
     * Changes what a spec of no layer yet says of other prims, with everything below it, variants included.
     *
     * @param mapping the new path of a prim or property; its own where it stays
     */
    public static void apply(PrimSpec spec, UnaryOperator<SdfPath> mapping) {
        new PathRemapping(mapping).apply(spec);
    }

    private void apply(PrimSpec spec) {
        spec.metadata().replaceAll((field, value) -> {
            Value remapped = remapped(value);
            return remapped == null ? value : remapped;
        });
        for (PropertySpec property : List.copyOf(spec.properties())) {
            PropertySpec remapped = remapped(property);
            if (remapped != null) {
                spec.put(remapped);
            }
        }
        spec.children().forEach(this::apply);
        spec.variantSets().values().forEach(variants -> variants.values()
                .forEach(variant -> apply(variant.contents())));
    }

    /** The property with other targets; null where it has none that move. */
    private @Nullable PropertySpec remapped(PropertySpec property) {
        return switch (property) {
            case RelationshipSpec relationship -> {
                ListEdit<SdfPath> targets = relationship.targets().map(mapping);
                yield targets.equals(relationship.targets())
                        ? null
                        : relationship.copyAs(relationship.name()).setTargets(targets);
            }
            case AttributeSpec attribute -> {
                ListEdit<SdfPath> connections = attribute.connections().map(mapping);
                yield connections.equals(attribute.connections())
                        ? null
                        : attribute.copyAs(attribute.name()).setConnections(connections);
            }
        };
    }

    /** The field's value with other paths; null where it has none that move. */
    private @Nullable Value remapped(Value value) {
        Value remapped =
                switch (value) {
                    case Value.PathEdit(ListEdit<SdfPath> edit) -> new Value.PathEdit(edit.map(mapping));
                    case Value.ReferenceEdit(ListEdit<Reference> edit) ->
                        new Value.ReferenceEdit(edit.map(this::remapped));
                    case Value.PathValue(SdfPath path) -> new Value.PathValue(mapping.apply(path));
                    case Value.Relocates(Map<SdfPath, SdfPath> moves) -> {
                        Map<SdfPath, SdfPath> moved = new LinkedHashMap<>();
                        moves.forEach((from, to) -> moved.put(mapping.apply(from), mapping.apply(to)));
                        yield new Value.Relocates(moved);
                    }
                    default -> value;
                };
        return remapped.equals(value) ? null : remapped;
    }

    private Reference remapped(Reference reference) {
        Optional<SdfPath> prim = reference.prim().map(mapping);
        return reference.isInternal() && !prim.equals(reference.prim())
                ? new Reference("", prim, reference.offset(), reference.customData())
                : reference;
    }
}
