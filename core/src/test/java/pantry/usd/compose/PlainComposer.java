package pantry.usd.compose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.testing.TinyUsdz;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.text.UsdaWriter;

/**
 * Composition written straight from the order of strength, with nothing kept and nothing shared: for every prim, the
 * arcs of the prim and of all prims above it are followed from scratch, through as many layers as there are.
 *
 * <p>Of the features it leaves out instancing, masks, load rules, offsets and fallbacks, which have cases of their
 * own. It must not be given arcs that turn in a circle.
 */
final class PlainComposer {
    private final Map<String, Layer> layers;
    private final Map<String, List<Layer>> stacks = new HashMap<>();
    private final String main;
    private final Map<List<String>, String> selections = new HashMap<>();
    private final Map<String, PlainComposer> others = new HashMap<>();

    /** @param layers by the names by which they name each other */
    PlainComposer(Map<String, Layer> layers, String main) {
        this.layers = layers;
        this.main = main;
    }

    /** A site: a path of a layer stack, and the arc that leads to it. */
    private static final class Node {
        final String stack;
        final SdfPath path;
        final Arc arc;
        final @Nullable Node parent;
        /** The arc's own ends; below them stands what the prim has below the one with the arc. */
        final SdfPath source;

        final SdfPath target;
        final List<Node> children = new ArrayList<>();
        final List<Node> twins = new ArrayList<>();

        @Nullable
        Context context;

        Node(String stack, SdfPath path, Arc arc, @Nullable Node parent, SdfPath source, SdfPath target) {
            this.stack = stack;
            this.path = path;
            this.arc = arc;
            this.parent = parent;
            this.source = source;
            this.target = target;
        }

        boolean isClass() {
            return arc == Arc.INHERIT || arc == Arc.SPECIALIZE;
        }

        int depth() {
            return target.depth();
        }

        /** How far below the end of its arc the site lies. */
        int below() {
            return path.depth() - source.depth();
        }

        boolean isAt(String otherStack, SdfPath otherPath) {
            return stack.equals(otherStack) && path.withoutVariants().equals(otherPath.withoutVariants());
        }
    }

    /** All that the stage says, in the form of {@link TinyUsdz#facts}. */
    Map<String, String> facts() {
        Map<String, String> facts = new TreeMap<>();
        childNames(List.of(new Node(main, SdfPath.ROOT, Arc.ROOT, null, SdfPath.ROOT, SdfPath.ROOT)))
                .forEach(name -> collect(SdfPath.ROOT.child(name), facts));
        return facts;
    }

    private void collect(SdfPath path, Map<String, String> facts) {
        List<Node> sites = sites(path);
        facts.put(
                path.toString(),
                strongest(sites, spec -> Optional.of(spec.typeName()).filter(t -> !t.isEmpty()))
                        .orElse(""));
        Set<String> properties = new LinkedHashSet<>();
        specs(sites).forEach(spec -> properties.addAll(spec.propertyNames()));
        for (String name : properties) {
            String at = path.property(name).toString();
            value(sites, name).ifPresent(text -> facts.put(at, text));
            targets(sites, name).forEach(target -> facts.put(at + " -> " + target, ""));
        }
        if (strongest(sites, spec -> spec.flag("active")).orElse(true)) {
            childNames(sites).forEach(name -> collect(path.child(name), facts));
        }
    }

    private Optional<String> value(List<Node> sites, String name) {
        return strongest(sites, spec -> spec.attribute(name).filter(AttributeSpec::hasValue))
                .flatMap(attribute -> attribute
                        .value()
                        .filter(value -> !(value instanceof Value.Block))
                        .map(value -> UsdaWriter.write(attribute.typeName(), value)))
                .or(() -> strongest(sites, spec -> spec.attribute(name).filter(AttributeSpec::hasValue))
                        .map(blocked -> "None"));
    }

    private List<SdfPath> targets(List<Node> sites, String name) {
        List<SdfPath> targets = List.of();
        for (Node site : sites.reversed()) {
            for (PrimSpec spec : local(site.stack, site.path).reversed()) {
                ListEdit<SdfPath> edit =
                        switch (spec.property(name).orElse(null)) {
                            case RelationshipSpec relationship -> relationship.targets();
                            case AttributeSpec attribute -> attribute.connections();
                            case null, default -> ListEdit.none();
                        };
                targets = edit.mapPresent(target -> inStage(site, target)).applyTo(targets);
            }
        }
        return targets;
    }

    /**
     * Where a target leads in the stage. What an arc brings in is at the arc's own prim now; the rest of the layer is
     * there for arcs that do not leave it, but for what the brought in has taken the place of.
     */
    private static Optional<SdfPath> inStage(Node site, SdfPath target) {
        SdfPath path = target.withoutVariants();
        for (Node at = site; at.parent != null; at = at.parent) {
            boolean broughtIn = at.arc == Arc.VARIANT || path.startsWith(at.source.withoutVariants());
            boolean sameLayers = at.stack.equals(at.parent.stack);
            boolean hidden = path.startsWith(at.target.withoutVariants());
            if (!broughtIn && (!sameLayers || hidden)) {
                return Optional.empty();
            }
            path = up(at, path);
        }
        return Optional.of(path);
    }

    /** A path below a node's arc as the parent has it. */
    private static SdfPath up(Node node, SdfPath path) {
        return node.arc == Arc.VARIANT
                ? path
                : path.replacePrefix(node.source.withoutVariants(), node.target.withoutVariants());
    }

    private List<PrimSpec> specs(List<Node> sites) {
        return sites.stream()
                .flatMap(site -> local(site.stack, site.path).stream())
                .toList();
    }

    private <T> Optional<T> strongest(List<Node> sites, Function<PrimSpec, Optional<T>> question) {
        return specs(sites).stream().map(question).flatMap(Optional::stream).findFirst();
    }

    private Set<String> childNames(List<Node> sites) {
        Set<String> names = new LinkedHashSet<>();
        specs(sites).forEach(spec -> names.addAll(spec.childNames()));
        return names;
    }

    /** A layer and its sublayers, depth first. */
    private List<Layer> stack(String name) {
        return stacks.computeIfAbsent(name, root -> {
            List<Layer> stack = new ArrayList<>();
            add(layers.get(root), stack);
            return stack;
        });
    }

    private void add(Layer layer, List<Layer> stack) {
        stack.add(layer);
        layer.subLayers().forEach(sub -> add(layers.get(sub.asset()), stack));
    }

    private List<PrimSpec> local(String stack, SdfPath path) {
        return stack(stack).stream().flatMap(layer -> layer.prim(path).stream()).toList();
    }

    /** What contributes to a prim of the stage, the strongest first. */
    private List<Node> sites(SdfPath path) {
        for (int depth = 1; depth <= path.depth(); depth++) {
            settle(prefix(path, depth));
        }
        return ordered(tree(path));
    }

    private static SdfPath prefix(SdfPath path, int depth) {
        SdfPath prefix = path;
        while (prefix.depth() > depth) {
            prefix = prefix.parent();
        }
        return prefix;
    }

    /** Decides the variants of a prim, one set after the other as selections come up, the strongest site's first. */
    private void settle(SdfPath path) {
        while (settleOne(path)) {
            // Each brings in more, or nothing.
        }
    }

    private boolean settleOne(SdfPath path) {
        List<Node> sites = ordered(tree(path));
        for (Node site : sites) {
            for (String set : sets(site.stack, site.path)) {
                Optional<String> selected = selected(sites, set);
                if (selected.isPresent()
                        && selections.putIfAbsent(key(path, site.stack, site.path, set), selected.get()) == null) {
                    return true;
                }
            }
        }
        return false;
    }

    private static List<String> key(SdfPath prim, String stack, SdfPath site, String set) {
        return List.of(prim.toString(), stack, site.toString(), set);
    }

    private Optional<String> selected(List<Node> sites, String set) {
        return strongest(
                sites,
                spec -> spec.metadata().get("variants") instanceof Value.Selections chosen
                        ? Optional.ofNullable(chosen.bySet().get(set))
                        : Optional.empty());
    }

    /** Where the variants of a site's prim, and of those above it, are decided. */
    private interface Context {
        /**
         * @param up how far above the site's prim the one is that has the variant set
         * @param site at which the set is
         */
        Optional<String> selection(int up, String stack, SdfPath site, String set);
    }

    private Context inStage(SdfPath path) {
        return (up, stack, site, set) ->
                Optional.ofNullable(selections.get(key(prefix(path, path.depth() - up), stack, site, set)));
    }

    /**
     * A site that was brought in from below the root of its layers has prims above it that are not in the stage: those
     * are as they are in a stage of their own.
     */
    private Context of(Node node, Context outer) {
        return (up, stack, site, set) -> up <= node.below()
                ? outer.selection(up, stack, site, set)
                : standalone(node).selection(up, stack, site, set);
    }

    private Context standalone(Node node) {
        PlainComposer other = others.computeIfAbsent(node.stack, stack -> new PlainComposer(layers, stack));
        SdfPath path = node.path.withoutVariants();
        for (int depth = 1; depth < path.depth(); depth++) {
            other.settle(prefix(path, depth));
        }
        return other.inStage(path);
    }

    private List<String> sets(String stack, SdfPath path) {
        return edited(
                stack,
                path,
                "variantSets",
                value -> value instanceof Value.TokenEdit(ListEdit<String> edit) ? edit : ListEdit.none());
    }

    private <T> List<T> edited(String stack, SdfPath path, String field, Function<Value, ListEdit<T>> edit) {
        List<T> items = List.of();
        for (PrimSpec spec : local(stack, path).reversed()) {
            Value value = spec.metadata().get(field);
            if (value != null) {
                items = edit.apply(value).applyTo(items);
            }
        }
        return items;
    }

    private Node tree(SdfPath path) {
        Node root = new Node(main, path, Arc.ROOT, null, SdfPath.ROOT, SdfPath.ROOT);
        expand(root, inStage(path));
        Map<Node, Boolean> done = new IdentityHashMap<>();
        while (true) {
            Optional<Node> found = ordered(root).stream()
                    .filter(Node::isClass)
                    .filter(node -> done.put(node, true) == null)
                    .findFirst();
            if (found.isEmpty()) {
                return root;
            }
            imply(found.get());
        }
    }

    /** Follows the arcs of a site's prim and of those above it, down to where its own arc came in. */
    private void expand(Node node, Context outer) {
        Context context = of(node, outer);
        node.context = context;
        SdfPath at = node.path;
        while (!at.equals(SdfPath.ROOT)) {
            arcs(node, at, context);
            boolean variant = at.toString().endsWith("}");
            if (variant) {
                // What the prim of the variant has by itself belongs to the site outside of it.
                return;
            }
            at = at.parent();
        }
    }

    private void arcs(Node node, SdfPath at, Context context) {
        List<SdfPath> inherits = edited(node.stack, at, "inherits", PlainComposer::paths);
        inherits.forEach(source -> child(node, node.stack, source, Arc.INHERIT, at, context));
        for (String set : sets(node.stack, at)) {
            context.selection(node.path.depth() - at.depth(), node.stack, at, set)
                    .ifPresent(selected -> {
                        SdfPath variant = at.variant(set, selected);
                        if (!local(node.stack, variant).isEmpty()) {
                            child(node, node.stack, variant, Arc.VARIANT, at, context);
                        }
                    });
        }
        for (Reference reference : edited(node.stack, at, "references", PlainComposer::references)) {
            external(node, reference, Arc.REFERENCE, at, context);
        }
        for (Reference reference : edited(node.stack, at, "payload", PlainComposer::references)) {
            external(node, reference, Arc.PAYLOAD, at, context);
        }
        List<SdfPath> specializes = edited(node.stack, at, "specializes", PlainComposer::paths);
        specializes.forEach(source -> child(node, node.stack, source, Arc.SPECIALIZE, at, context));
    }

    private static ListEdit<SdfPath> paths(Value value) {
        return value instanceof Value.PathEdit(ListEdit<SdfPath> edit) ? edit : ListEdit.none();
    }

    private static ListEdit<Reference> references(Value value) {
        return value instanceof Value.ReferenceEdit(ListEdit<Reference> edit) ? edit : ListEdit.none();
    }

    private void external(Node node, Reference reference, Arc arc, SdfPath at, Context context) {
        String stack = reference.isInternal() ? node.stack : reference.asset();
        SdfPath source =
                reference.prim().or(() -> layers.get(stack).defaultPrimPath()).orElseThrow();
        child(node, stack, source, arc, at, context);
    }

    private void child(Node node, String stack, SdfPath source, Arc arc, SdfPath at, Context context) {
        SdfPath path = node.path.equals(at) ? source : node.path.replacePrefix(at, source);
        Node child = new Node(stack, path, arc, node, source, at);
        insert(node, child);
        expand(child, context);
    }

    /** By the kind of arc, then the deeper first, then behind those that are there. */
    private static void insert(Node node, Node child) {
        int at = node.children.size();
        while (at > 0) {
            Node before = node.children.get(at - 1);
            int byArc = child.arc.compareTo(before.arc);
            if (byArc > 0 || byArc == 0 && child.depth() <= before.depth()) {
                break;
            }
            at--;
        }
        node.children.add(at, child);
    }

    /** Gives a class its site in the next layer stack further out, from which it is implied in turn. */
    private void imply(Node found) {
        Node owner = found.parent;
        if (owner.isClass()) {
            List.copyOf(owner.twins)
                    .forEach(twin -> twinAt(
                            found, twin, between(found.path, owner, twin), Math.min(found.below(), twin.below())));
            return;
        }
        SdfPath path = found.path.withoutVariants();
        int below = found.below();
        for (Node at = owner; at.parent != null; at = at.parent) {
            path = up(at, path);
            // Further out, a class that stands above what is brought in is one of the prim itself.
            below = Math.min(below, at.below());
            if (twinAt(found, at.parent, path, below)) {
                return;
            }
            if (at.parent.isClass()) {
                Node outer = at.parent;
                SdfPath inner = path;
                int innerBelow = below;
                List.copyOf(outer.twins)
                        .forEach(twin ->
                                twinAt(found, twin, between(inner, outer, twin), Math.min(innerBelow, twin.below())));
                return;
            }
        }
    }

    private static SdfPath between(SdfPath path, Node from, Node twin) {
        SdfPath mapped = path.withoutVariants();
        for (Node at = from.parent; at != null && at != twin.parent; at = at.parent) {
            mapped = up(at, mapped);
        }
        return mapped;
    }

    /** @param below how far above the prim the class stands that the site is of */
    private boolean twinAt(Node found, Node owner, SdfPath path, int below) {
        if (found.isAt(owner.stack, path)) {
            return false;
        }
        SdfPath source = prefix(path, path.depth() - below);
        SdfPath target = prefix(owner.path, owner.path.depth() - below);
        Optional<Node> there = owner.children.stream()
                .filter(child ->
                        child.arc == found.arc && child.isAt(owner.stack, path) && child.depth() == target.depth())
                .findFirst();
        if (there.isPresent()) {
            found.twins.add(there.get());
            return true;
        }
        Node twin = new Node(owner.stack, path, found.arc, owner, source, target);
        found.twins.add(twin);
        insert(owner, twin);
        expand(twin, owner.context);
        return true;
    }

    /** Each site before what it brings in, and all that is specialized behind all else. */
    private static List<Node> ordered(Node root) {
        List<Node> order = new ArrayList<>();
        List<Node> level = List.of(root);
        while (!level.isEmpty()) {
            List<Node> weaker = new ArrayList<>();
            level.forEach(node -> {
                regular(node, order);
                specialized(node, weaker);
            });
            level = weaker;
        }
        return order;
    }

    private static void regular(Node node, List<Node> order) {
        order.add(node);
        node.children.stream().filter(child -> child.arc != Arc.SPECIALIZE).forEach(child -> regular(child, order));
    }

    private static void specialized(Node node, List<Node> found) {
        node.children.stream().filter(child -> child.arc == Arc.SPECIALIZE).forEach(found::add);
        node.children.stream().filter(child -> child.arc != Arc.SPECIALIZE).forEach(child -> specialized(child, found));
    }
}
