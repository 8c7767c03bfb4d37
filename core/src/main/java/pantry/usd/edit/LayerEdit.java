package pantry.usd.edit;

import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.usd.Layer;
import pantry.usd.Ordered;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * The smallest change of a layer: what stands at a place before and after it. A change and its inverse leave the layer
 * as it was, order included. Edits are applied and taken back in the order of a stack, so that the specs they hold are
 * those that the layer holds, and nothing is copied.
 */
sealed interface LayerEdit {
    Layer layer();

    /** Does it; the layer must be as it was when the edit was made. */
    void apply();

    /** What takes it back. */
    LayerEdit inverse();

    /** Adds what it changes. */
    void tell(Notice notice);

    /** The same edit of copies of the layers, with the specs of these. */
    LayerEdit in(LayerCopies copies);

    /** Names the specs that it holds. */
    default void hold(Consumer<Spec> held) {}

    /** How many prims come by it. */
    default int coming() {
        return 0;
    }

    /** A prim spec comes, goes or is replaced. */
    record Child(
            Layer layer,
            SdfPath parent,
            String name,
            int position,
            @Nullable PrimSpec before,
            @Nullable PrimSpec after) implements LayerEdit {
        static Child of(Layer layer, SdfPath parent, String name, @Nullable PrimSpec after) {
            PrimSpec owner = spec(layer, parent);
            int position = Ordered.position(owner.childNames(), name);
            return new Child(layer, parent, name, position, owner.child(name).orElse(null), after);
        }

        Child at(int newPosition) {
            return new Child(layer, parent, name, newPosition, before, after);
        }

        @Override
        public void apply() {
            PrimSpec owner = spec(layer, parent);
            if (after == null) {
                owner.removeChild(name);
            } else {
                owner.insert(position, after);
            }
        }

        @Override
        public LayerEdit inverse() {
            return new Child(layer, parent, name, position, after, before);
        }

        @Override
        public void tell(Notice notice) {
            notice.structure(layer, parent.child(name));
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new Child(copies.of(layer), parent, name, position, copies.ofAny(before), copies.ofAny(after));
        }

        @Override
        public void hold(Consumer<Spec> held) {
            LayerEdit.hold(held, before, after);
        }

        @Override
        public int coming() {
            return after == null ? 0 : size(after);
        }

        private static int size(PrimSpec spec) {
            return 1 + spec.children().stream().mapToInt(Child::size).sum();
        }
    }

    /**
     * Many of a prim's children come or go at once: each by itself would cost as much as the prim has children. Those that
     * stay keep their order.
     */
    record Children(Layer layer, SdfPath parent, List<PrimSpec> before, List<PrimSpec> after) implements LayerEdit {
        @Override
        public void apply() {
            spec(layer, parent).setChildren(after);
        }

        @Override
        public LayerEdit inverse() {
            return new Children(layer, parent, after, before);
        }

        @Override
        public void tell(Notice notice) {
            Stream.concat(only(before, after), only(after, before))
                    .forEach(spec -> notice.structure(layer, parent.child(spec.name())));
        }

        private static Stream<PrimSpec> only(List<PrimSpec> some, List<PrimSpec> others) {
            Set<PrimSpec> there = Collections.newSetFromMap(new IdentityHashMap<>());
            there.addAll(others);
            return some.stream().filter(spec -> !there.contains(spec));
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new Children(
                    copies.of(layer),
                    parent,
                    before.stream().map(copies::of).toList(),
                    after.stream().map(copies::of).toList());
        }

        @Override
        public void hold(Consumer<Spec> held) {
            before.forEach(held);
            after.forEach(held);
        }

        @Override
        public int coming() {
            return only(after, before).mapToInt(Child::size).sum();
        }
    }

    /** A property spec comes, goes or is replaced. */
    record Property(
            Layer layer,
            SdfPath prim,
            String name,
            int position,
            @Nullable PropertySpec before,
            @Nullable PropertySpec after)
            implements LayerEdit {
        static Property of(Layer layer, SdfPath prim, String name, @Nullable PropertySpec after) {
            PrimSpec owner = spec(layer, prim);
            int position = Ordered.position(owner.propertyNames(), name);
            return new Property(
                    layer, prim, name, position, owner.property(name).orElse(null), after);
        }

        @Override
        public void apply() {
            PrimSpec owner = spec(layer, prim);
            if (after == null) {
                owner.removeProperty(name);
            } else if (before == null) {
                owner.insert(position, after);
            } else {
                owner.put(after);
            }
        }

        @Override
        public LayerEdit inverse() {
            return new Property(layer, prim, name, position, after, before);
        }

        @Override
        public void tell(Notice notice) {
            notice.value(layer, prim.property(name));
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new Property(copies.of(layer), prim, name, position, copies.ofAny(before), copies.ofAny(after));
        }

        @Override
        public void hold(Consumer<Spec> held) {
            LayerEdit.hold(held, before, after);
        }
    }

    /** A field of a prim, or of the layer itself where the path is the root, comes, goes or changes. */
    record Field(
            Layer layer,
            SdfPath owner,
            String name,
            int position,
            @Nullable Value before,
            @Nullable Value after) implements LayerEdit {
        /** Fields that decide what a prim is composed of or whether it is there. */
        private static final Set<String> OF_COMPOSITION = Set.of(
                "references",
                "payload",
                "inherits",
                "specializes",
                "variantSets",
                "variants",
                "active",
                "instanceable",
                "primOrder");

        /** Fields of a layer that decide how it is found and timed by others. */
        private static final Set<String> OF_LAYER =
                Set.of("defaultPrim", "relocates", "timeCodesPerSecond", "framesPerSecond");

        static Field of(Layer layer, SdfPath owner, String name, @Nullable Value after) {
            Map<String, Value> fields = fields(layer, owner, name).metadata();
            return new Field(layer, owner, name, Ordered.position(fields.keySet(), name), fields.get(name), after);
        }

        /** The order of the root prims is kept with the root, all else with the layer. */
        private static Spec fields(Layer layer, SdfPath owner, String name) {
            return owner.equals(SdfPath.ROOT) && !name.equals("primOrder") ? layer : spec(layer, owner);
        }

        @Override
        public void apply() {
            Map<String, Value> fields = fields(layer, owner, name).metadata();
            if (after == null) {
                fields.remove(name);
            } else {
                Ordered.insert(fields, position, name, after);
            }
        }

        @Override
        public LayerEdit inverse() {
            return new Field(layer, owner, name, position, after, before);
        }

        @Override
        public void tell(Notice notice) {
            if (owner.equals(SdfPath.ROOT) && OF_LAYER.contains(name)) {
                notice.everything();
            } else if (OF_COMPOSITION.contains(name)) {
                notice.structure(layer, owner);
            } else {
                notice.value(layer, owner);
            }
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new Field(copies.of(layer), owner, name, position, before, after);
        }
    }

    /** What a prim spec is: its specifier and type. */
    record Header(Layer layer, SdfPath prim, Kind before, Kind after) implements LayerEdit {
        record Kind(Specifier specifier, String typeName) {
            static Kind of(PrimSpec spec) {
                return new Kind(spec.specifier(), spec.typeName());
            }
        }

        @Override
        public void apply() {
            PrimSpec spec = spec(layer, prim);
            spec.setSpecifier(after.specifier());
            spec.setTypeName(after.typeName());
        }

        @Override
        public LayerEdit inverse() {
            return new Header(layer, prim, after, before);
        }

        @Override
        public void tell(Notice notice) {
            notice.structure(layer, prim);
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new Header(copies.of(layer), prim, before, after);
        }
    }

    /** A variant, new and last in its set, comes or goes; so does the set where the variant is its first. */
    record Variant(Layer layer, SdfPath prim, String set, VariantSpec variant, boolean first, boolean comes)
            implements LayerEdit {
        static Variant added(Layer layer, SdfPath prim, String set, VariantSpec variant) {
            boolean first = !spec(layer, prim).variantSets().containsKey(set);
            return new Variant(layer, prim, set, variant, first, true);
        }

        @Override
        public void apply() {
            Map<String, Map<String, VariantSpec>> sets = spec(layer, prim).variantSets();
            if (comes) {
                sets.computeIfAbsent(set, s -> new LinkedHashMap<>()).put(variant.name(), variant);
            } else {
                sets.getOrDefault(set, Map.of()).remove(variant.name());
                if (first) {
                    sets.remove(set);
                }
            }
        }

        @Override
        public LayerEdit inverse() {
            return new Variant(layer, prim, set, variant, first, !comes);
        }

        @Override
        public void tell(Notice notice) {
            notice.structure(layer, prim);
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            VariantSpec like = new VariantSpec(variant.name(), copies.of(variant.contents()));
            return new Variant(copies.of(layer), prim, set, like, first, comes);
        }

        @Override
        public void hold(Consumer<Spec> held) {
            held.accept(variant.contents());
        }
    }

    /** Other layers are brought in. */
    record SubLayers(Layer layer, List<Layer.SubLayer> before, List<Layer.SubLayer> after) implements LayerEdit {
        @Override
        public void apply() {
            layer.subLayers().clear();
            layer.subLayers().addAll(after);
        }

        @Override
        public LayerEdit inverse() {
            return new SubLayers(layer, after, before);
        }

        @Override
        public void tell(Notice notice) {
            notice.everything();
        }

        @Override
        public LayerEdit in(LayerCopies copies) {
            return new SubLayers(copies.of(layer), before, after);
        }
    }

    private static void hold(Consumer<Spec> held, @Nullable Spec before, @Nullable Spec after) {
        Stream.of(Optional.ofNullable(before), Optional.ofNullable(after))
                .flatMap(Optional::stream)
                .forEach(held);
    }

    /** The spec at a path that must be there. */
    static PrimSpec spec(Layer layer, SdfPath path) {
        return layer.prim(path)
                .orElseThrow(() -> new UsdException(layer.name(), path.toString(), "there is no such prim", null));
    }
}
