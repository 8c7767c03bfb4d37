package pantry.usd.compose;

import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.usd.LayerOffset;
import pantry.usd.SdfPath;

/** One site that contributes to a prim: a path in a layer stack, and the arc by which it does. */
final class IndexNode {
    final LayerStack stack;
    final SdfPath path;
    final List<LayerStack.Opinion> opinions;
    final Arc arc;
    final @Nullable IndexNode parent;
    final List<IndexNode> children = new ArrayList<>(2);

    /** The arc's source in this node's namespace, and its target in the parent's. */
    final SdfPath source;

    final SdfPath target;
    final LayerOffset offset;

    /** Whether the arc was found at a prim above this one. */
    final boolean ancestral;

    IndexNode(
            LayerStack stack,
            SdfPath path,
            List<LayerStack.Opinion> opinions,
            Arc arc,
            @Nullable IndexNode parent,
            SdfPath source,
            SdfPath target,
            LayerOffset offset,
            boolean ancestral) {
        this.stack = stack;
        this.path = path;
        this.opinions = opinions;
        this.arc = arc;
        this.parent = parent;
        this.source = source;
        this.target = target;
        this.offset = offset;
        this.ancestral = ancestral;
    }

    /** Adds a child where its arc's strength puts it: behind those of the same arc. */
    void insert(IndexNode child) {
        int at = children.size();
        while (at > 0 && children.get(at - 1).arc.compareTo(child.arc) > 0) {
            at--;
        }
        children.add(at, child);
    }

    /** This node and those below it, strongest first. */
    void visit(Consumer<IndexNode> visitor) {
        visitor.accept(this);
        for (IndexNode child : List.copyOf(children)) {
            child.visit(visitor);
        }
    }

    /** A path of this node's namespace in the namespace of the root node. */
    SdfPath toRoot(SdfPath inner) {
        SdfPath mapped = inner.withoutVariants();
        for (IndexNode node = this; node.parent != null; node = node.parent) {
            if (node.arc != Arc.VARIANT) {
                mapped = mapped.replacePrefix(node.source.withoutVariants(), node.target.withoutVariants());
            }
        }
        return mapped;
    }

    /** The same site one name further down, with its children; null where nothing there says anything. */
    @Nullable
    IndexNode descend(String name, @Nullable IndexNode newParent) {
        List<LayerStack.Opinion> below = new ArrayList<>(opinions.size());
        for (LayerStack.Opinion opinion : opinions) {
            opinion.spec().child(name).ifPresent(child -> below.add(new LayerStack.Opinion(opinion.layer(), child)));
        }
        IndexNode node = new IndexNode(stack, path.child(name), below, arc, newParent, source, target, offset, true);
        for (IndexNode child : children) {
            IndexNode lower = child.descend(name, node);
            if (lower != null) {
                node.children.add(lower);
            }
        }
        return below.isEmpty() && node.children.isEmpty() && newParent != null ? null : node;
    }

    /** A copy for a prototype: without what is said by the instance itself and above it. */
    IndexNode withoutLocal(@Nullable IndexNode newParent) {
        boolean local = parent == null || ancestral;
        IndexNode copy = new IndexNode(
                stack, path, local ? List.of() : opinions, arc, newParent, source, target, offset, ancestral);
        children.forEach(child -> copy.children.add(child.withoutLocal(copy)));
        return copy;
    }

    /** "layer path" from the outermost arc down to this node. */
    List<String> chain() {
        List<String> chain = new ArrayList<>();
        for (IndexNode node = this; node != null; node = node.parent) {
            chain.addFirst(node.stack.root().name() + " <" + node.path + ">");
        }
        return chain;
    }
}
