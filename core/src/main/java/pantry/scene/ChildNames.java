package pantry.scene;

import java.util.LinkedHashSet;
import java.util.Set;
import pantry.base.Names;
import pantry.usd.SdfPath;
import pantry.usd.edit.Transaction;

/** The names that prims have below one another. */
final class ChildNames {
    private ChildNames() {}

    /** A name that nothing has below a prim, what belongs to alternates that are switched out included. */
    static String free(Transaction edits, SdfPath parent, String name) {
        Set<String> taken = taken(edits, parent);
        return Names.free(Names.identifier(name), taken::contains);
    }

    /** The names that are taken below a prim. */
    static Set<String> taken(Transaction edits, SdfPath parent) {
        Set<String> taken = new LinkedHashSet<>();
        edits.stage().prim(parent).ifPresent(prim -> prim.children().forEach(child -> taken.add(child.name())));
        edits.stage().rootLayer().prim(parent).ifPresent(spec -> spec.variantSets()
                .values()
                .forEach(variants -> variants.values()
                        .forEach(variant -> taken.addAll(variant.contents().childNames()))));
        return taken;
    }
}
