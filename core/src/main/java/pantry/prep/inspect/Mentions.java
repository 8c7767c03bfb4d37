package pantry.prep.inspect;

import java.util.HashSet;
import java.util.Set;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** Which prims of a layer are spoken of by others: as targets, connections, classes, and references within it. */
final class Mentions {
    private final Set<SdfPath> fromOutside = new HashSet<>();

    static Mentions in(Layer layer) {
        Mentions mentions = new Mentions();
        mentions.collect(SdfPath.ROOT, layer.root());
        layer.defaultPrimPath().ifPresent(path -> mentions.add(path, SdfPath.ROOT));
        return mentions;
    }

    private void collect(SdfPath at, PrimSpec prim) {
        for (PropertySpec property : prim.properties()) {
            switch (property) {
                case RelationshipSpec relationship -> add(relationship.targets(), at);
                case AttributeSpec attribute -> add(attribute.connections(), at);
            }
        }
        for (Value value : prim.metadata().values()) {
            switch (value) {
                case Value.PathEdit(ListEdit<SdfPath> edit) -> add(edit, at);
                case Value.ReferenceEdit(ListEdit<Reference> edit) -> addReferences(edit, at);
                default -> {}
            }
        }
        prim.children().forEach(child -> collect(at.child(child.name()), child));
        prim.variantSets().values().forEach(variants -> variants.values()
                .forEach(variant -> collect(at, variant.contents())));
    }

    private void addReferences(ListEdit<Reference> edit, SdfPath from) {
        for (ListEdit.Operation operation : ListEdit.Operation.values()) {
            for (Reference reference : edit.items(operation)) {
                if (reference.isInternal()) {
                    reference.prim().ifPresent(path -> add(path, from));
                }
            }
        }
    }

    private void add(ListEdit<SdfPath> edit, SdfPath from) {
        for (ListEdit.Operation operation : ListEdit.Operation.values()) {
            edit.items(operation).forEach(path -> add(path, from));
        }
    }

    private void add(SdfPath path, SdfPath from) {
        for (SdfPath at = path.prim(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (!from.startsWith(at)) {
                fromOutside.add(at);
            }
        }
    }

    /** Whether something outside of a prim speaks of it or of what is below it. */
    boolean of(SdfPath path) {
        return fromOutside.contains(path);
    }
}
