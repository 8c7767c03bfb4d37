package pantry.scene;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import pantry.base.Names;
import pantry.usd.SdfPath;
import pantry.usd.edit.Transaction;

/** The names that prims have below one another, and those that are given to many at once. */
final class ChildNames {
    private final Set<String> taken;

    /** The number that was given last behind a name, so that thousands of the same name do not all count from 2. */
    private final Map<String, Integer> numbers = new HashMap<>();

    private ChildNames(Set<String> taken) {
        this.taken = taken;
    }

    /** The names below a prim. */
    static ChildNames below(Transaction edits, SdfPath parent) {
        return new ChildNames(taken(edits, parent));
    }

    /** A name that nothing has, and that is taken from then on. */
    String take(String name) {
        String wanted = Names.identifier(name);
        String free = wanted;
        while (!taken.add(free)) {
            free = wanted + "_" + numbers.merge(wanted, 2, (last, first) -> last + 1);
        }
        return free;
    }

    /** A name that nothing has below a prim, what belongs to alternates that are switched out included. */
    static String free(Transaction edits, SdfPath parent, String name) {
        return below(edits, parent).take(name);
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
