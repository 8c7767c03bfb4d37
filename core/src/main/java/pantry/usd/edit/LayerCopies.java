package pantry.usd.edit;

import java.util.Collection;
import java.util.IdentityHashMap;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Spec;
import pantry.usd.file.LayerAssets;

/**
 * Copies of layers under edit. An edit holds the very specs that its layer holds; so that one of the original can be taken
 * back and done again in the copy, each such spec is known with its like there.
 */
final class LayerCopies {
    private final Map<Layer, Layer> layers = new IdentityHashMap<>();
    private final Map<Spec, Spec> specs = new IdentityHashMap<>();

    /** @param held the specs, by identity, whose likes are asked for */
    LayerCopies(Collection<Layer> originals, Set<Spec> held) {
        for (Layer original : originals) {
            Layer copy = LayerAssets.copied(original);
            layers.put(original, copy);
            if (!held.isEmpty()) {
                match(original.root(), copy.root(), held);
            }
        }
    }

    private void match(PrimSpec original, PrimSpec copy, Set<Spec> held) {
        if (held.contains(original)) {
            specs.put(original, copy);
        }
        Iterator<PropertySpec> properties = copy.properties().iterator();
        original.properties().forEach(property -> {
            PropertySpec like = properties.next();
            if (held.contains(property)) {
                specs.put(property, like);
            }
        });
        Iterator<PrimSpec> children = copy.children().iterator();
        original.children().forEach(child -> match(child, children.next(), held));
        original.variantSets()
                .forEach((set, variants) -> variants.forEach((name, variant) -> match(
                        variant.contents(),
                        copy.variantSets().get(set).get(name).contents(),
                        held)));
    }

    /** The copy of a layer; of one that is not edited, that one itself. */
    Layer of(Layer original) {
        return layers.getOrDefault(original, original);
    }

    /** The like of a spec in the copy; of one that stands in no layer, that one itself. */
    PrimSpec of(PrimSpec original) {
        return (PrimSpec) specs.getOrDefault(original, original);
    }

    /** As above; of nothing, nothing. */
    @Nullable
    PrimSpec ofAny(@Nullable PrimSpec original) {
        return original == null ? null : of(original);
    }

    /** The like of a property's spec in the copy; of nothing, nothing. */
    @Nullable
    PropertySpec ofAny(@Nullable PropertySpec original) {
        return original == null ? null : (PropertySpec) specs.getOrDefault(original, original);
    }
}
