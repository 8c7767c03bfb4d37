package pantry.usd.compose;

import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import pantry.usd.SdfPath;

/**
 * Which prims of a stage are made of which sites: for each layer stack, the prims that an arc leads to, and the prims
 * of the stage that have that arc. What lies below follows from the paths.
 */
final class Dependencies {
    private final Map<LayerStack, NavigableMap<SdfPath, Set<SdfPath>>> users = new IdentityHashMap<>();

    void add(SdfPath stagePath, PrimIndex index) {
        if (index.root().children().isEmpty()) {
            return;
        }
        index.root().visit(node -> {
            if (node.parent != null && !node.ancestral) {
                add(stagePath, node.stack, node.path);
            }
        });
    }

    /** Takes note that a prim of the stage has, or would have, what stands at a path of a layer stack. */
    void add(SdfPath stagePath, LayerStack stack, SdfPath path) {
        users.computeIfAbsent(stack, key -> new TreeMap<>())
                .computeIfAbsent(path.withoutVariants(), key -> new HashSet<>())
                .add(stagePath);
    }

    /** The prims of the stage that are composed anew when the spec at a path comes, goes or changes its arcs. */
    Set<SdfPath> structure(LayerStack stack, SdfPath path, boolean ofRoot) {
        Set<SdfPath> prims = below(stack, path, ofRoot);
        NavigableMap<SdfPath, Set<SdfPath>> ofStack = users.get(stack);
        if (ofStack != null) {
            for (Map.Entry<SdfPath, Set<SdfPath>> user :
                    ofStack.tailMap(path, true).entrySet()) {
                if (!user.getKey().toString().startsWith(path.toString())) {
                    break;
                }
                if (user.getKey().startsWith(path)) {
                    prims.addAll(user.getValue());
                }
            }
        }
        return prims;
    }

    /** The places of the stage at which a path of a layer stack is heard. */
    Set<SdfPath> below(LayerStack stack, SdfPath path, boolean ofRoot) {
        Set<SdfPath> prims = new HashSet<>();
        if (ofRoot) {
            prims.add(path);
        }
        Map<SdfPath, Set<SdfPath>> ofStack = users.getOrDefault(stack, new TreeMap<>());
        for (SdfPath above = path; ; above = above.parent()) {
            SdfPath source = above;
            ofStack.getOrDefault(source, Set.of()).forEach(target -> prims.add(path.replacePrefix(source, target)));
            if (above.equals(SdfPath.ROOT)) {
                return prims;
            }
        }
    }
}
