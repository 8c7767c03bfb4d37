package pantry.usd.compose;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * The sites that contribute to one prim, as a tree and as a list in order of strength.
 *
 * <p>Source: AOUSD Core Specification 1.0, composition. Not yet here: classes implied across references, the global
 * weakness of specializes, relocates.
 */
final class PrimIndex {
    private final IndexNode root;
    private final List<IndexNode> nodes = new ArrayList<>();
    private final boolean payloadsLeftOut;

    private PrimIndex(IndexNode root, boolean payloadsLeftOut) {
        this.root = root;
        this.payloadsLeftOut = payloadsLeftOut;
        root.visit(node -> {
            if (!node.opinions.isEmpty()) {
                nodes.add(node);
            }
        });
    }

    /** The contributing sites, strongest first. */
    List<IndexNode> nodes() {
        return nodes;
    }

    /** Whether there are payloads that were not loaded. */
    boolean payloadsLeftOut() {
        return payloadsLeftOut;
    }

    static PrimIndex ofRoot(LayerStack stack) {
        SdfPath path = SdfPath.ROOT;
        return new PrimIndex(
                new IndexNode(stack, path, stack.opinions(path), Arc.ROOT, null, path, path, LayerOffset.NONE, false),
                false);
    }

    /** The index of a child prim. */
    PrimIndex child(String name, SdfPath stagePath, Stage stage) {
        IndexNode child = java.util.Objects.requireNonNull(root.descend(name, null));
        Builder builder = new Builder(child, stagePath, stage);
        builder.build();
        return new PrimIndex(child, builder.payloadsLeftOut);
    }

    /** The index that all instances with the same {@link #instanceKey} share. */
    PrimIndex prototype() {
        return new PrimIndex(root.withoutLocal(null), payloadsLeftOut);
    }

    /** What makes two instances share a prototype: the same arcs to the same sites. */
    List<Object> instanceKey() {
        List<Object> key = new ArrayList<>();
        root.visit(node -> {
            if (node != root && !node.ancestral) {
                key.add(node.stack);
                key.add(node.path);
                key.add(node.arc);
            }
        });
        return key;
    }

    boolean hasArcs() {
        boolean[] found = {false};
        root.visit(node -> found[0] |= node != root && !node.ancestral);
        return found[0];
    }

    /** Adds to a freshly descended tree the arcs that are found at its own sites. */
    private static final class Builder {
        private final IndexNode root;
        private final SdfPath stagePath;
        private final Stage stage;
        private final Set<Settled> settledSets = new HashSet<>();
        private boolean payloadsLeftOut;

        /** A variant set of one site; sites are compared by identity. */
        private record Settled(IndexNode node, String set) {}

        Builder(IndexNode root, SdfPath stagePath, Stage stage) {
            this.root = root;
            this.stagePath = stagePath;
            this.stage = stage;
        }

        void build() {
            List<IndexNode> inherited = new ArrayList<>();
            root.visit(inherited::add);
            inherited.forEach(this::expand);
            while (settleOneVariant()) {
                // Each settled variant may bring arcs with variant sets of their own.
            }
        }

        private void expand(IndexNode node) {
            if (node.opinions.isEmpty()) {
                return;
            }
            for (SdfPath path : this.<SdfPath>composed(node, "inherits", PrimIndex::pathEdit)) {
                internal(node, path, Arc.INHERIT);
            }
            for (Reference reference : this.<Reference>composed(node, "references", PrimIndex::referenceEdit)) {
                external(node, reference, Arc.REFERENCE);
            }
            List<Reference> payloads = composed(node, "payload", PrimIndex::referenceEdit);
            if (stage.loads(stagePath)) {
                payloads.forEach(payload -> external(node, payload, Arc.PAYLOAD));
            } else {
                payloadsLeftOut |= !payloads.isEmpty();
            }
            for (SdfPath path : this.<SdfPath>composed(node, "specializes", PrimIndex::pathEdit)) {
                internal(node, path, Arc.SPECIALIZE);
            }
        }

        /** A node's list field, its layers' edits applied from the weakest up. */
        private <T> List<T> composed(
                IndexNode node, String field, BiFunction<Value, Layer, Optional<ListEdit<T>>> edit) {
            List<T> items = List.of();
            for (LayerStack.Opinion opinion : node.opinions.reversed()) {
                Value value = opinion.spec().metadata().get(field);
                if (value != null) {
                    List<T> weaker = items;
                    items = edit.apply(value, opinion.layer())
                            .map(e -> e.applyTo(weaker))
                            .orElse(weaker);
                }
            }
            return items;
        }

        private void internal(IndexNode node, SdfPath path, Arc arc) {
            add(node, node.stack, path, arc, LayerOffset.NONE, "");
        }

        private void external(IndexNode node, Reference reference, Arc arc) {
            LayerStack stack = node.stack;
            if (!reference.isInternal()) {
                // The edit has made the asset path absolute, so that the anchor no longer matters.
                Optional<LayerStack> opened =
                        stage.stack(node.stack.root(), reference.asset(), stagePath, node.chain());
                if (opened.isEmpty()) {
                    return;
                }
                stack = opened.get();
            }
            SdfPath source;
            if (reference.prim().isPresent()) {
                source = reference.prim().get();
            } else {
                Optional<String> defaultPrim = stack.root().defaultPrim();
                if (defaultPrim.isEmpty()) {
                    stage.problem(new CompositionProblem(
                            CompositionProblem.Kind.MISSING_PRIM,
                            stagePath,
                            reference.asset(),
                            "the layer has no default prim, and the reference names none",
                            node.chain()));
                    return;
                }
                String name = defaultPrim.get();
                source = SdfPath.of(name.startsWith("/") ? name : "/" + name);
            }
            add(node, stack, source, arc, reference.offset(), reference.asset());
        }

        private void add(IndexNode node, LayerStack stack, SdfPath source, Arc arc, LayerOffset offset, String asset) {
            if (closesCycle(node, stack, source)) {
                stage.problem(new CompositionProblem(
                        CompositionProblem.Kind.CYCLE,
                        stagePath,
                        asset,
                        "<" + source + "> of " + stack.root().name() + " leads back to itself",
                        node.chain()));
                return;
            }
            List<LayerStack.Opinion> opinions = stack.opinions(source);
            if (opinions.isEmpty()) {
                if (arc == Arc.REFERENCE || arc == Arc.PAYLOAD) {
                    stage.problem(new CompositionProblem(
                            CompositionProblem.Kind.MISSING_PRIM,
                            stagePath,
                            asset,
                            "there is no prim <" + source + "> in "
                                    + stack.root().name(),
                            node.chain()));
                }
                return;
            }
            IndexNode child = new IndexNode(
                    stack, source, opinions, arc, node, source, node.path, node.offset.after(offset), false);
            node.insert(child);
            expand(child);
        }

        private static boolean closesCycle(IndexNode node, LayerStack stack, SdfPath source) {
            for (IndexNode at = node; at != null; at = at.parent) {
                if (at.stack == stack) {
                    SdfPath path = at.path.withoutVariants();
                    if (source.startsWith(path) || path.startsWith(source)) {
                        return true;
                    }
                }
            }
            return false;
        }

        private boolean settleOneVariant() {
            List<IndexNode> all = new ArrayList<>();
            root.visit(all::add);
            for (IndexNode node : all) {
                for (String set : variantSets(node)) {
                    if (settledSets.add(new Settled(node, set)) && choose(node, set, all)) {
                        return true;
                    }
                }
            }
            return false;
        }

        private static Set<String> variantSets(IndexNode node) {
            Set<String> sets = new LinkedHashSet<>();
            node.opinions.forEach(
                    opinion -> sets.addAll(opinion.spec().variantSets().keySet()));
            return sets;
        }

        private boolean choose(IndexNode node, String set, List<IndexNode> all) {
            Optional<String> selection = selection(all, set);
            if (selection.isEmpty()) {
                return false;
            }
            List<LayerStack.Opinion> opinions = new ArrayList<>();
            for (LayerStack.Opinion opinion : node.opinions) {
                VariantSpec variant =
                        opinion.spec().variantSets().getOrDefault(set, Map.of()).get(selection.get());
                if (variant != null) {
                    opinions.add(new LayerStack.Opinion(opinion.layer(), variant.contents()));
                }
            }
            if (opinions.isEmpty()) {
                return false;
            }
            SdfPath path = node.path.variant(set, selection.get());
            IndexNode child =
                    new IndexNode(node.stack, path, opinions, Arc.VARIANT, node, path, node.path, node.offset, false);
            node.insert(child);
            expand(child);
            return true;
        }

        /** The strongest selection of a variant set among all sites. */
        private static Optional<String> selection(List<IndexNode> all, String set) {
            for (IndexNode node : all) {
                for (LayerStack.Opinion opinion : node.opinions) {
                    if (opinion.spec().metadata().get("variants") instanceof Value.Selections selections) {
                        String selection = selections.bySet().get(set);
                        if (selection != null && !selection.isEmpty()) {
                            return Optional.of(selection);
                        }
                    }
                }
            }
            return Optional.empty();
        }
    }

    private static Optional<ListEdit<SdfPath>> pathEdit(Value value, Layer layer) {
        return value instanceof Value.PathEdit(ListEdit<SdfPath> edit) ? Optional.of(edit) : Optional.empty();
    }

    /** References with asset paths made absolute against the layer that holds them. */
    private static Optional<ListEdit<Reference>> referenceEdit(Value value, Layer layer) {
        if (!(value instanceof Value.ReferenceEdit(ListEdit<Reference> edit))) {
            return Optional.empty();
        }
        return Optional.of(edit.map(reference -> reference.isInternal()
                ? reference
                : new Reference(
                        AssetPaths.resolve(layer, reference.asset()).toString(),
                        reference.prim(),
                        reference.offset())));
    }

    /** The first answer of a node, strongest first. */
    <T> Optional<T> strongest(Function<LayerStack.Opinion, Optional<T>> question) {
        for (IndexNode node : nodes) {
            for (LayerStack.Opinion opinion : node.opinions) {
                @Nullable T answer = question.apply(opinion).orElse(null);
                if (answer != null) {
                    return Optional.of(answer);
                }
            }
        }
        return Optional.empty();
    }
}
