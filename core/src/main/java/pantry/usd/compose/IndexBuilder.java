package pantry.usd.compose;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * Adds to the tree of sites that a prim has from its parent the arcs that are found at those sites.
 *
 * <p>In this order: inherits, references, payloads and specializes of every site, and of the sites that they bring;
 * then classes that these imply; then variants, one at a time, each with the arcs it brings, since any of them may hold
 * a selection for the next. A class inherited in a referenced layer stack is implied in each stack on the way out, under
 * its own name or, where it stands within what is referenced, under the name that it has there.
 */
final class IndexBuilder {
    private final IndexNode root;
    private final SdfPath stagePath;
    private final Stage stage;
    private final boolean loads;
    private Set<IndexNode> classes = Set.of();

    /** For sites of classes further out: the site from which they are implied, whose strength decides among them. */
    private Map<IndexNode, IndexNode> origins = Map.of();

    private boolean payloadsLeftOut;

    /** A variant set of one site; sites are compared by identity. */
    private record Settled(IndexNode node, String set) {}

    /**
     * @param root the sites as they come from the prim's parent
     * @param loads whether payloads are brought in
     */
    IndexBuilder(IndexNode root, SdfPath stagePath, Stage stage, boolean loads) {
        this.root = root;
        this.stagePath = stagePath;
        this.stage = stage;
        this.loads = loads;
    }

    PrimIndex build() {
        if (root.children().isEmpty()) {
            expand(root);
        } else {
            root.all().forEach(this::expand);
        }
        imply();
        if (hasVariants(root)) {
            Set<Settled> settled = new HashSet<>();
            while (settleOneVariant(settled)) {
                imply();
            }
        }
        return new PrimIndex(root, payloadsLeftOut);
    }

    private void expand(IndexNode node) {
        boolean inherits = false;
        boolean references = false;
        boolean payloads = false;
        boolean specializes = false;
        for (LayerStack.SpecAt at : node.specs) {
            for (String field : at.spec().metadata().keySet()) {
                switch (field) {
                    case "inherits" -> inherits = true;
                    case "references" -> references = true;
                    case "payload" -> payloads = true;
                    case "specializes" -> specializes = true;
                    default -> {
                        // Not an arc.
                    }
                }
            }
        }
        if (inherits) {
            for (SdfPath path : composed(node, "inherits", IndexBuilder::pathEdit)) {
                classArc(node, path, Arc.INHERIT);
            }
        }
        if (references) {
            for (Reference reference : composed(node, "references", this::referenceEdit)) {
                external(node, reference, Arc.REFERENCE);
            }
        }
        if (payloads) {
            payloads(node);
        }
        if (specializes) {
            for (SdfPath path : composed(node, "specializes", IndexBuilder::pathEdit)) {
                classArc(node, path, Arc.SPECIALIZE);
            }
        }
    }

    private void payloads(IndexNode node) {
        List<Reference> payloads = composed(node, "payload", this::referenceEdit);
        if (loads) {
            payloads.forEach(payload -> external(node, payload, Arc.PAYLOAD));
        } else {
            payloadsLeftOut |= !payloads.isEmpty();
        }
    }

    /** A node's list field, its layers' edits applied from the weakest up. */
    private static <T> List<T> composed(
            IndexNode node, String field, BiFunction<Value, LayerStack.SpecAt, @Nullable ListEdit<T>> edit) {
        List<T> items = List.of();
        for (int i = node.specs.size() - 1; i >= 0; i--) {
            LayerStack.SpecAt at = node.specs.get(i);
            Value value = at.spec().metadata().get(field);
            ListEdit<T> own = value == null ? null : edit.apply(value, at);
            if (own != null) {
                items = own.applyTo(items);
            }
        }
        return items;
    }

    private static @Nullable ListEdit<SdfPath> pathEdit(Value value, LayerStack.SpecAt at) {
        return value instanceof Value.PathEdit(ListEdit<SdfPath> edit) ? edit : null;
    }

    private static @Nullable ListEdit<String> nameEdit(Value value, LayerStack.SpecAt at) {
        return value instanceof Value.TokenEdit(ListEdit<String> edit) ? edit : null;
    }

    /** References with asset paths resolved and times set against the layer that holds them. */
    private @Nullable ListEdit<Reference> referenceEdit(Value value, LayerStack.SpecAt at) {
        if (!(value instanceof Value.ReferenceEdit(ListEdit<Reference> edit))) {
            return null;
        }
        LayerOffset offset = at.member().offset();
        return edit.map(reference -> new Reference(
                reference.isInternal()
                        ? ""
                        : stage.resolve(at.layer(), reference.asset()).toString(),
                reference.prim(),
                offset.equals(LayerOffset.NONE) ? reference.offset() : offset.after(reference.offset())));
    }

    private void classArc(IndexNode node, SdfPath path, Arc arc) {
        // Written within a variant, a class's path is that of the prim without its variants.
        add(node, new IndexNode.Site(node.stack, path.withoutVariants()), arc, LayerOffset.NONE, "");
    }

    private void external(IndexNode node, Reference reference, Arc arc) {
        LayerStack stack = node.stack;
        LayerOffset offset = reference.offset();
        if (!reference.isInternal()) {
            Optional<LayerStack> opened = stage.stack(reference.asset(), stagePath, node);
            if (opened.isEmpty()) {
                return;
            }
            stack = opened.get();
            offset = node.stack.inTime(offset, stack);
        }
        Optional<SdfPath> source = reference.prim().or(stack::defaultPrim);
        if (source.isEmpty()) {
            problem(
                    CompositionProblem.Kind.MISSING_PRIM,
                    node,
                    reference.asset(),
                    stack.root().name() + " has no default prim, and the reference names none");
            return;
        }
        if (source.get().isProperty() || source.get().equals(SdfPath.ROOT)) {
            problem(
                    CompositionProblem.Kind.WRONG_TYPE,
                    node,
                    reference.asset(),
                    "<" + source.get() + "> is not a prim, and only prims can be referenced");
            return;
        }
        add(node, new IndexNode.Site(stack, source.get()), arc, offset, reference.asset());
    }

    private void add(IndexNode node, IndexNode.Site site, Arc arc, LayerOffset offset, String asset) {
        if (closesCycle(node, site)) {
            problem(
                    CompositionProblem.Kind.CYCLE,
                    node,
                    asset,
                    "<" + site.path() + "> of " + site.stack().root().name() + " leads back to itself");
            return;
        }
        IndexNode child = branch(node, site, arc, offset);
        boolean missing = !child.hasSpecs() && !arc.isClass();
        if (missing) {
            // It may come later.
            stage.awaits(stagePath, site.stack(), site.path());
            problem(
                    CompositionProblem.Kind.MISSING_PRIM,
                    node,
                    asset,
                    "there is no prim <" + site.path() + "> in "
                            + site.stack().root().name());
        }
        // A class that it has without a word there may be refined further out.
        if (!missing || child.all().stream().anyMatch(each -> each.arc().isClass())) {
            attach(node, child);
        }
    }

    /** The tree of the site that an arc leads to, with what it has from the prims above it. */
    private IndexNode branch(IndexNode node, IndexNode.Site site, Arc arc, LayerOffset offset) {
        SdfPath source = site.path();
        IndexNode.Link link = new IndexNode.Link(
                arc, source, node.path.withoutVariants(), node.link.offset().after(offset), node.path.depth(), 0);
        SdfPath above = source.parent();
        if (above.equals(SdfPath.ROOT)) {
            return new IndexNode(site, site.specs(), link, node, false);
        }
        Optional<PrimIndex> index = stage.indexOf(site.stack(), above, stagePath);
        if (index.isEmpty()) {
            problem(
                    CompositionProblem.Kind.CYCLE,
                    node,
                    "",
                    "<" + above + "> of " + site.stack().root().name() + " is needed to compose itself");
            return new IndexNode(site, site.specs(), link, node, false);
        }
        return index.get().root().descendAs(source.name(), link, node);
    }

    private void attach(IndexNode node, IndexNode child) {
        node.insert(child);
        follow(child);
    }

    /** Follows the arcs of what was attached. */
    private void follow(IndexNode child) {
        for (IndexNode each : child.all()) {
            if (each.arc().isClass()) {
                if (classes.isEmpty()) {
                    classes = new LinkedHashSet<>();
                }
                classes.add(each);
            }
            expand(each);
        }
    }

    private static boolean closesCycle(IndexNode node, IndexNode.Site site) {
        SdfPath source = site.path();
        for (IndexNode at = node; at != null; at = at.parent) {
            if (at.stack == site.stack()) {
                SdfPath path = at.path.withoutVariants();
                if (source.startsWith(path) || path.startsWith(source)) {
                    return true;
                }
            }
        }
        return false;
    }

    /** Gives the classes found since the last time their sites in the layer stacks further out. */
    private void imply() {
        while (!classes.isEmpty()) {
            IndexNode found = strongestClass();
            IndexNode owner = Objects.requireNonNull(found.parent);
            if (owner.arc().isClass()) {
                for (IndexNode twin : List.copyOf(owner.implied())) {
                    implyAt(found, twin, mapped(found.path, owner, Objects.requireNonNull(twin.parent)));
                }
            } else {
                implyAbove(found, owner, found.path.withoutVariants());
            }
        }
    }

    /** The next class: of those implied, the one that comes from the stronger site is the stronger. */
    private IndexNode strongestClass() {
        IndexNode strongest = classes.size() == 1
                ? classes.iterator().next()
                : PrimIndex.allInOrder(root).stream()
                        .filter(classes::contains)
                        .findFirst()
                        .orElseThrow();
        classes.remove(strongest);
        return strongest;
    }

    /** Climbs from the owner of a class to the next layer stack in which the class has another site. */
    private void implyAbove(IndexNode found, IndexNode owner, SdfPath path) {
        SdfPath mapped = path;
        for (IndexNode at = owner; at.parent != null; at = at.parent) {
            mapped = at.classToParent(mapped);
            if (at.parent.arc().isClass()) {
                // What a class brings in by reference: its twins further out refine that too.
                IndexNode outer = at.parent;
                if (implyAt(found, outer, mapped)) {
                    return;
                }
                for (IndexNode twin : List.copyOf(outer.implied())) {
                    implyAt(found, twin, mapped(mapped, outer, Objects.requireNonNull(twin.parent)));
                }
                return;
            }
            if (implyAt(found, at.parent, mapped)) {
                return;
            }
        }
    }

    private static SdfPath mapped(SdfPath path, IndexNode from, IndexNode to) {
        SdfPath mapped = path.withoutVariants();
        for (IndexNode at = from.parent; at != null && at != to; at = at.parent) {
            mapped = at.classToParent(mapped);
        }
        return mapped;
    }

    /** @return whether there is another site of the class there now, from which it is implied further out */
    private boolean implyAt(IndexNode found, IndexNode owner, SdfPath path) {
        if (owner.stack == found.stack && path.equals(found.path.withoutVariants())) {
            return false;
        }
        for (IndexNode sibling : owner.children()) {
            if (found.implied().contains(sibling)) {
                return true;
            }
            boolean same = sibling.link.depth() == owner.path.depth()
                    && sibling.arc() == found.arc()
                    && sibling.stack == owner.stack
                    && sibling.path.equals(path);
            if (same) {
                found.addImplied(sibling);
                return true;
            }
        }
        IndexNode.Site site = new IndexNode.Site(owner.stack, path);
        if (closesCycle(owner, site)) {
            return false;
        }
        IndexNode twin = branch(owner, site, found.arc(), LayerOffset.NONE);
        if (!twin.children().isEmpty()) {
            twin.removeThoseIn(root.all());
        }
        found.addImplied(twin);
        if (origins.isEmpty()) {
            origins = new HashMap<>();
        }
        origins.put(twin, found);
        List<IndexNode> order = PrimIndex.allInOrder(root);
        int strength = order.indexOf(found);
        owner.insert(twin, sibling -> {
            IndexNode origin = origins.get(sibling);
            return origin != null && order.indexOf(origin) > strength;
        });
        follow(twin);
        return true;
    }

    private static boolean hasVariants(IndexNode node) {
        for (LayerStack.SpecAt at : node.specs) {
            if (!at.spec().variantSets().isEmpty()) {
                return true;
            }
        }
        for (IndexNode child : node.children()) {
            if (hasVariants(child)) {
                return true;
            }
        }
        return false;
    }

    /** Takes one more variant: those that a layer selects before those that fall back. */
    private boolean settleOneVariant(Set<Settled> settled) {
        List<IndexNode> order = PrimIndex.inOrder(root);
        return settleOneVariant(settled, order, (node, set) -> selection(order, set))
                || settleOneVariant(settled, order, this::fallback);
    }

    private boolean settleOneVariant(
            Set<Settled> settled, List<IndexNode> order, BiFunction<IndexNode, String, Optional<String>> selection) {
        for (IndexNode node : order) {
            List<String> sets = composed(node, "variantSets", IndexBuilder::nameEdit);
            for (String set : sets) {
                Settled choice = new Settled(node, set);
                // Without a selection it stays open: what another variant brings in may have one.
                Optional<String> selected = settled.contains(choice) ? Optional.empty() : selection.apply(node, set);
                if (selected.isPresent()) {
                    settled.add(choice);
                    if (choose(node, set, selected.get(), sets.indexOf(set))) {
                        return true;
                    }
                }
            }
        }
        return false;
    }

    /** @param rank of the set among the prim's, the strongest first */
    private boolean choose(IndexNode node, String set, String selection, int rank) {
        List<LayerStack.SpecAt> specs = new ArrayList<>();
        for (LayerStack.SpecAt at : node.specs) {
            VariantSpec variant =
                    at.spec().variantSets().getOrDefault(set, Map.of()).get(selection);
            if (variant != null) {
                specs.add(new LayerStack.SpecAt(at.member(), variant.contents()));
            }
        }
        if (specs.isEmpty()) {
            return false;
        }
        SdfPath path = node.path.variant(set, selection);
        IndexNode.Link link =
                new IndexNode.Link(Arc.VARIANT, path, node.path, node.link.offset(), node.path.depth(), rank);
        attach(node, new IndexNode(new IndexNode.Site(node.stack, path), specs, link, node, false));
        return true;
    }

    /** The strongest selection of a variant set among all sites; an empty one holds back the weaker ones. */
    private static Optional<String> selection(List<IndexNode> order, String set) {
        for (IndexNode node : order) {
            for (LayerStack.SpecAt at : node.specs) {
                if (at.spec().metadata().get("variants") instanceof Value.Selections selections) {
                    String selection = selections.bySet().get(set);
                    if (selection != null) {
                        return Optional.of(selection);
                    }
                }
            }
        }
        return Optional.empty();
    }

    /** The first of the stage's fallbacks that the site has. */
    private Optional<String> fallback(IndexNode node, String set) {
        return stage.fallbacks(set).stream()
                .filter(name -> node.specs.stream().anyMatch(at -> at.spec()
                        .variantSets()
                        .getOrDefault(set, Map.of())
                        .containsKey(name)))
                .findFirst();
    }

    private void problem(CompositionProblem.Kind kind, IndexNode node, String asset, String message) {
        stage.problem(new CompositionProblem(
                kind,
                stagePath,
                asset,
                message,
                node.chain().stream().map(Opinion.Site::toString).toList()));
    }
}
