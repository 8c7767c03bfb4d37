package pantry.scene;

import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;

/** The materials that stand in a scene's own layer. */
final class Materials {
    /** The scope that a scene's own materials are put into. */
    static final String SCOPE = "Materials";

    private Materials() {}

    /** The material that a path is of or in; empty where it is in none. */
    static Optional<SdfPath> holding(Layer layer, SdfPath path) {
        for (SdfPath at = path.prim(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            if (layer.prim(at)
                    .filter(spec -> spec.typeName().equals("Material"))
                    .isPresent()) {
                return Optional.of(at);
            }
        }
        return Optional.empty();
    }

    /** The materials that some objects, or what these hang on, are bound to, with those that these speak of in turn. */
    static Set<SdfPath> needed(Layer layer, Collection<SdfPath> objects) {
        Set<SdfPath> needed = new LinkedHashSet<>();
        Deque<SdfPath> pending = new ArrayDeque<>(objects);
        for (SdfPath object : objects) {
            for (SdfPath at = object.parent(); !at.equals(SdfPath.ROOT); at = at.parent()) {
                layer.prim(at).ifPresent(spec -> collect(layer, spec, pending, needed));
            }
        }
        while (!pending.isEmpty()) {
            layer.prim(pending.removeFirst()).ifPresent(spec -> collectBelow(layer, spec, pending, needed));
        }
        return needed;
    }

    private static void collectBelow(Layer layer, PrimSpec prim, Deque<SdfPath> pending, Set<SdfPath> needed) {
        collect(layer, prim, pending, needed);
        prim.children().forEach(child -> collectBelow(layer, child, pending, needed));
        prim.variantSets().values().forEach(variants -> variants.values()
                .forEach(variant -> collectBelow(layer, variant.contents(), pending, needed)));
    }

    private static void collect(Layer layer, PrimSpec prim, Deque<SdfPath> pending, Set<SdfPath> needed) {
        for (PropertySpec property : prim.properties()) {
            List<SdfPath> paths =
                    switch (property) {
                        case RelationshipSpec relationship
                        when property.name().startsWith("material:binding") ->
                            relationship.targets().applyTo(List.of());
                        case RelationshipSpec other -> List.of();
                        case AttributeSpec attribute -> attribute.connections().applyTo(List.of());
                    };
            for (SdfPath path : paths) {
                holding(layer, path).filter(needed::add).ifPresent(pending::addLast);
            }
        }
    }
}
