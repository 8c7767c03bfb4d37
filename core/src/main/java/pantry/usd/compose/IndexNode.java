package pantry.usd.compose;

import java.util.ArrayList;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import pantry.usd.LayerOffset;
import pantry.usd.SdfPath;

/** One site that contributes to a prim: a path in a layer stack, and the arc by which it does. */
final class IndexNode {
    final LayerStack stack;
    final SdfPath path;
    final List<LayerStack.SpecAt> specs;
    final Link link;
    final @Nullable IndexNode parent;

    /** Strongest first. */
    private List<IndexNode> children = List.of();

    /** For the site of a class: the sites of the same class in the layer stacks further out. */
    private List<IndexNode> implied = List.of();

    /** How many arcs lead here. */
    private final int depth;

    /** Whether the arc was found at a prim above this one. */
    final boolean ancestral;

    /**
     * The arc from the parent.
     *
     * @param source the arc's source in this node's namespace
     * @param target and its target in the parent's
     * @param offset how this node's time maps to the root's
     * @param depth of the prim at which the arc was found; of two alike, the deeper one is stronger
     * @param rank of two alike in all this, the one with the smaller rank is stronger
     */
    record Link(Arc arc, SdfPath source, SdfPath target, LayerOffset offset, int depth, int rank) {}

    /** A path of a layer stack: where an arc leads to. */
    record Site(LayerStack stack, SdfPath path) {
        List<LayerStack.SpecAt> specs() {
            return stack.specs(path);
        }
    }

    IndexNode(Site site, List<LayerStack.SpecAt> specs, Link link, @Nullable IndexNode parent, boolean ancestral) {
        this.stack = site.stack;
        this.path = site.path;
        this.specs = specs;
        this.link = link;
        this.parent = parent;
        this.ancestral = ancestral;
        this.depth = parent == null ? 0 : parent.depth + 1;
        stack.budget().site(depth, () -> parent == null ? List.of() : parent.chain());
    }

    static IndexNode root(Site site) {
        Link link = new Link(Arc.ROOT, site.path, site.path, LayerOffset.NONE, 0, 0);
        return new IndexNode(site, site.specs(), link, null, false);
    }

    Arc arc() {
        return link.arc;
    }

    List<IndexNode> children() {
        return children;
    }

    List<IndexNode> implied() {
        return implied;
    }

    void addImplied(IndexNode twin) {
        if (implied.isEmpty()) {
            implied = new ArrayList<>(2);
        }
        implied.add(twin);
    }

    /** Adds a child where its strength puts it: by arc, then the deeper first, then behind those alike. */
    void insert(IndexNode child) {
        insert(child, sibling -> false);
    }

    /** As {@link #insert(IndexNode)}, but before those alike that are weaker for another reason. */
    void insert(IndexNode child, Predicate<IndexNode> weaker) {
        if (children.isEmpty()) {
            children = new ArrayList<>(2);
        }
        int at = children.size();
        while (at > 0) {
            IndexNode before = children.get(at - 1);
            boolean alike = before.arc() == child.arc() && before.link.depth == child.link.depth;
            if (!isStronger(child.link, before.link) && !(alike && weaker.test(before))) {
                break;
            }
            at--;
        }
        children.add(at, child);
    }

    private static boolean isStronger(Link one, Link other) {
        int byArc = one.arc.compareTo(other.arc);
        if (byArc != 0) {
            return byArc < 0;
        }
        return one.depth != other.depth ? one.depth > other.depth : one.rank < other.rank;
    }

    /** This node and those below it, each before its children. */
    void visit(Consumer<IndexNode> visitor) {
        visitor.accept(this);
        for (IndexNode child : children) {
            child.visit(visitor);
        }
    }

    /** All nodes of the tree, as they are now. */
    List<IndexNode> all() {
        List<IndexNode> all = new ArrayList<>();
        visit(all::add);
        return all;
    }

    /** Whether it is the root's own site, or one within its variants. */
    boolean isOwn() {
        for (IndexNode node = this; node.parent != null; node = node.parent) {
            if (node.arc() != Arc.VARIANT) {
                return false;
            }
        }
        return true;
    }

    /** Whether it belongs to a class that the prim itself inherits or specializes, not one above it. */
    boolean isOfClass() {
        for (IndexNode node = this; node.parent != null; node = node.parent) {
            if (node.arc().isClass() && !node.ancestral) {
                return true;
            }
        }
        return false;
    }

    boolean hasSpecs() {
        if (!specs.isEmpty()) {
            return true;
        }
        for (IndexNode child : children) {
            if (child.hasSpecs()) {
                return true;
            }
        }
        return false;
    }

    /** A path of this node's namespace in the parent's, for a class, which may also stand outside what is mapped. */
    SdfPath classToParent(SdfPath inner) {
        return inner.withoutVariants().replacePrefix(link.source.withoutVariants(), link.target.withoutVariants());
    }

    /**
     * A path of this node's namespace in that of the root node.
     *
     * @return empty where the path is outside of what the arcs on the way bring in
     */
    Optional<SdfPath> toRoot(SdfPath inner) {
        Optional<SdfPath> mapped = Optional.of(inner.withoutVariants());
        for (IndexNode node = this; node.parent != null && mapped.isPresent(); node = node.parent) {
            mapped = node.toParent(mapped.get());
        }
        return mapped;
    }

    /**
     * A path of this node's namespace in the parent's. An arc that stays in its layer stack maps what is outside of its
     * source to itself; but nothing to below its target, which would lead back to the source.
     *
     * <p>Source: namespace mapping of arcs as the OpenUSD reference implementation has it, from memory.
     */
    private Optional<SdfPath> toParent(SdfPath inner) {
        if (link.arc == Arc.VARIANT) {
            return Optional.of(inner);
        }
        SdfPath source = link.source.withoutVariants();
        SdfPath target = link.target.withoutVariants();
        if (inner.startsWith(source)) {
            return Optional.of(inner.replacePrefix(source, target));
        }
        boolean within = parent != null && parent.stack == stack;
        return within && !inner.startsWith(target) ? Optional.of(inner) : Optional.empty();
    }

    /** The tree one name further down; sites at which nothing is said are left out. */
    IndexNode descend(SdfPath childPath) {
        return descend(childPath, link, null, true);
    }

    /** The tree one name further down as a branch of another: what is found above becomes part of the new arc. */
    IndexNode descendAs(String name, Link newLink, IndexNode newParent) {
        return descend(path.child(name), newLink, newParent, false);
    }

    private IndexNode descend(SdfPath childPath, Link newLink, @Nullable IndexNode newParent, boolean asAncestral) {
        Map<IndexNode, IndexNode> copies = children.isEmpty() ? Map.of() : new IdentityHashMap<>();
        IndexNode node = descend(childPath, newLink, newParent, new Descent(asAncestral, newLink.offset, copies));
        copies.forEach((old, copy) -> {
            for (IndexNode twin : old.implied) {
                IndexNode twinCopy = copies.get(twin);
                if (twinCopy != null) {
                    copy.addImplied(twinCopy);
                }
            }
        });
        return node;
    }

    /**
     * What is the same for all nodes of a tree that goes one name further down.
     *
     * @param outer how the time of the tree maps to that of what it becomes part of
     * @param copies takes the new nodes of classes, by the old ones
     */
    private record Descent(boolean ancestral, LayerOffset outer, Map<IndexNode, IndexNode> copies) {}

    private IndexNode descend(SdfPath childPath, Link newLink, @Nullable IndexNode newParent, Descent descent) {
        String name = childPath.name();
        List<LayerStack.SpecAt> below = List.of();
        if (specs.size() == 1) {
            LayerStack.SpecAt only = specs.getFirst();
            below = only.spec()
                    .child(name)
                    .map(child -> List.of(new LayerStack.SpecAt(only.member(), child)))
                    .orElse(List.of());
        } else if (!specs.isEmpty()) {
            List<LayerStack.SpecAt> found = new ArrayList<>(specs.size());
            for (LayerStack.SpecAt at : specs) {
                at.spec().child(name).ifPresent(child -> found.add(new LayerStack.SpecAt(at.member(), child)));
            }
            below = found;
        }
        IndexNode node = new IndexNode(new Site(stack, childPath), below, newLink, newParent, descent.ancestral);
        if (!implied.isEmpty() || link.arc.isClass()) {
            descent.copies.put(this, node);
        }
        for (IndexNode child : children) {
            Link childLink = child.link;
            if (!descent.ancestral && !descent.outer.equals(LayerOffset.NONE)) {
                childLink = new Link(
                        childLink.arc,
                        childLink.source,
                        childLink.target,
                        descent.outer.after(childLink.offset),
                        childLink.depth,
                        childLink.rank);
            }
            IndexNode lower = child.descend(child.path.child(name), childLink, node, descent);
            // Sites of classes stay without a word of their own, so that those further out keep their place.
            if (!lower.specs.isEmpty()
                    || !lower.children.isEmpty()
                    || lower.arc().isClass()) {
                if (node.children.isEmpty()) {
                    node.children = new ArrayList<>(children.size());
                }
                node.children.add(lower);
            }
        }
        return node;
    }

    /** Leaves out the sites that the given ones have already, with all below them. */
    void removeThoseIn(List<IndexNode> known) {
        if (children.isEmpty()) {
            return;
        }
        children.removeIf(child -> known.stream()
                .anyMatch(node -> node.stack == child.stack && node.path.equals(child.path) && !node.specs.isEmpty()));
        children.forEach(child -> child.removeThoseIn(known));
    }

    /** A copy for a prototype: without what is said by the instance itself and above it. */
    IndexNode withoutLocal(@Nullable IndexNode newParent) {
        boolean local = parent == null || ancestral;
        IndexNode copy = new IndexNode(new Site(stack, path), local ? List.of() : specs, link, newParent, ancestral);
        if (!children.isEmpty()) {
            copy.children = new ArrayList<>(children.size());
            for (IndexNode child : children) {
                copy.children.add(child.withoutLocal(copy));
            }
        }
        return copy;
    }

    /** The sites from the outermost arc down to this node. */
    List<Opinion.Site> chain() {
        List<Opinion.Site> chain = new ArrayList<>();
        for (IndexNode node = this; node != null; node = node.parent) {
            chain.addFirst(new Opinion.Site(node.stack.root(), node.path, node.arc()));
        }
        return chain;
    }
}
