package pantry.usd.compose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;

/**
 * The sites that contribute to one prim, as a tree and as a list in order of strength.
 *
 * <p>Source: AOUSD Core Specification 1.0, composition: local, inherits, variants, references, payloads, specializes,
 * applied anew at each site; of equal arcs those found at the deeper prim first; specializes weaker than all else.
 */
final class PrimIndex {
    private final IndexNode root;
    private final List<IndexNode> nodes;
    private final boolean payloadsLeftOut;

    PrimIndex(IndexNode root, boolean payloadsLeftOut) {
        this.root = root;
        this.payloadsLeftOut = payloadsLeftOut;
        this.nodes = inOrder(root);
    }

    static PrimIndex ofRoot(LayerStack stack) {
        return new PrimIndex(IndexNode.root(new IndexNode.Site(stack, SdfPath.ROOT)), false);
    }

    /** Of a prim that no layer says anything of. */
    static PrimIndex ofNothing(LayerStack stack, SdfPath path) {
        return new PrimIndex(IndexNode.root(new IndexNode.Site(stack, path)), false);
    }

    /** The sites of a tree that say something, strongest first. */
    static List<IndexNode> inOrder(IndexNode root) {
        if (root.children().isEmpty()) {
            return root.specs.isEmpty() ? List.of() : List.of(root);
        }
        List<IndexNode> order = allInOrder(root);
        order.removeIf(node -> node.specs.isEmpty());
        return order;
    }

    /** The sites of a tree, strongest first. */
    static List<IndexNode> allInOrder(IndexNode root) {
        List<IndexNode> order = new ArrayList<>();
        List<IndexNode> level = List.of(root);
        while (!level.isEmpty()) {
            List<IndexNode> weaker = new ArrayList<>(0);
            for (IndexNode node : level) {
                regular(node, order);
                specialized(node, weaker);
            }
            level = weaker;
        }
        return order;
    }

    private static void regular(IndexNode node, List<IndexNode> order) {
        order.add(node);
        for (IndexNode child : node.children()) {
            if (child.arc() != Arc.SPECIALIZE) {
                regular(child, order);
            }
        }
    }

    /** The specialized sites below a node: the outer layer stacks' first, since they refine those further in. */
    private static void specialized(IndexNode node, List<IndexNode> found) {
        for (IndexNode child : node.children()) {
            if (child.arc() == Arc.SPECIALIZE) {
                found.add(child);
            }
        }
        for (IndexNode child : node.children()) {
            if (child.arc() != Arc.SPECIALIZE) {
                specialized(child, found);
            }
        }
    }

    IndexNode root() {
        return root;
    }

    /** The contributing sites, strongest first. */
    List<IndexNode> nodes() {
        return nodes;
    }

    /** Whether there are payloads that were not loaded. */
    boolean payloadsLeftOut() {
        return payloadsLeftOut;
    }

    /** The index of a child prim, by its path in the namespace of this index's root. */
    PrimIndex child(SdfPath path, SdfPath stagePath, Stage stage) {
        return new IndexBuilder(root.descend(path), stagePath, stage, stage.loads(stagePath)).build();
    }

    /** The index that all instances with the same {@link #instanceKey} share. */
    PrimIndex prototype() {
        return new PrimIndex(root.withoutLocal(null), payloadsLeftOut);
    }

    /**
     * What makes two instances share a prototype: the same arcs to the same sites, reached through the same layer stacks
     * as far as these may refine classes that are inherited further in.
     */
    List<Object> instanceKey() {
        List<Object> key = new ArrayList<>();
        root.visit(node -> {
            if (node != root && !node.ancestral) {
                key.add(node.stack);
                key.add(node.path);
                key.add(node.link.arc());
                key.add(node.link.offset());
            } else if (node != root && node.stack.refinesClasses()) {
                key.add(node.stack);
            }
        });
        key.add(payloadsLeftOut);
        return key;
    }

    boolean hasArcs() {
        return hasArcs(root);
    }

    private static boolean hasArcs(IndexNode node) {
        for (IndexNode child : node.children()) {
            if (!child.ancestral || hasArcs(child)) {
                return true;
            }
        }
        return false;
    }

    /**
     * The specifier of the strongest opinion that defines the prim; that of a class which the prim itself inherits or
     * specializes counts only where nothing else defines it, however strong its site is.
     */
    Optional<Specifier> definingSpecifier() {
        Optional<Specifier> inherited = Optional.empty();
        for (IndexNode node : nodes) {
            for (LayerStack.SpecAt at : node.specs) {
                Specifier specifier = at.spec().specifier();
                if (specifier == Specifier.OVER) {
                    continue;
                }
                if (specifier != Specifier.CLASS || !node.isOfClass()) {
                    return Optional.of(specifier);
                }
                inherited = Optional.of(specifier);
            }
        }
        return inherited;
    }

    /** The first answer of a spec, strongest first. */
    <T> Optional<T> strongest(Function<PrimSpec, @Nullable T> question) {
        for (IndexNode node : nodes) {
            for (LayerStack.SpecAt at : node.specs) {
                T answer = question.apply(at.spec());
                if (answer != null) {
                    return Optional.of(answer);
                }
            }
        }
        return Optional.empty();
    }
}
