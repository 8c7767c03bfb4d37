package pantry.usd.file;

import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import pantry.usd.AssetLocation;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/** The asset paths that a layer holds: sublayers, references, payloads, and values that are asset paths. */
public final class LayerAssets {
    private final UnaryOperator<String> rename;

    private LayerAssets(UnaryOperator<String> rename) {
        this.rename = rename;
    }

    /** All asset paths, as written, in the order in which they stand. */
    public static Set<String> of(Layer layer) {
        Set<String> paths = new LinkedHashSet<>();
        renamed(layer, layer.location().orElseGet(() -> AssetLocation.parse("unsaved")), path -> {
            paths.add(path);
            return path;
        });
        return paths;
    }

    /** A copy of a layer that lives elsewhere and says the same. */
    public static Layer copied(Layer layer, AssetLocation location) {
        Layer copy = new Layer(location);
        copy.metadata().putAll(layer.metadata());
        copy.subLayers().addAll(layer.subLayers());
        copy.root().metadata().putAll(layer.root().metadata());
        layer.root().children().forEach(child -> copy.root().add(child.copy()));
        return copy;
    }

    /** A copy of a layer that lives elsewhere, with other asset paths. Values that hold none are shared, unread. */
    public static Layer renamed(Layer layer, AssetLocation location, UnaryOperator<String> rename) {
        LayerAssets assets = new LayerAssets(path -> path.isEmpty() ? path : rename.apply(path));
        Layer copy = new Layer(location);
        layer.metadata().forEach((field, value) -> copy.metadata().put(field, assets.value(value)));
        for (Layer.SubLayer sub : layer.subLayers()) {
            copy.subLayers().add(new Layer.SubLayer(assets.rename.apply(sub.asset()), sub.offset()));
        }
        PrimSpec root = layer.root().copy();
        assets.prim(root);
        copy.root().metadata().putAll(root.metadata());
        root.children().forEach(copy.root()::add);
        return copy;
    }

    private void prim(PrimSpec prim) {
        prim.metadata().replaceAll((field, value) -> value(value));
        for (PropertySpec property : prim.properties()) {
            if (!property.isBare()) {
                property.metadata().replaceAll((field, value) -> value(value));
            }
            if (property instanceof AttributeSpec attribute
                    && attribute.typeName().startsWith("asset")) {
                for (double time : List.copyOf(attribute.timeSamples().times())) {
                    Value value = attribute.timeSamples().at(time).orElseThrow();
                    attribute.timeSamples().put(time, texts(value));
                }
                attribute.value().ifPresent(value -> attribute.setValue(texts(value)));
            }
        }
        prim.children().forEach(this::prim);
        prim.variantSets().values().forEach(variants -> variants.values().stream()
                .map(VariantSpec::contents)
                .forEach(this::prim));
    }

    private Value texts(Value value) {
        return value instanceof Value.Strings(List<String> items)
                ? new Value.Strings(items.stream().map(rename).toList())
                : value(value);
    }

    private Value value(Value value) {
        return switch (value) {
            case Value.Asset(String path) -> new Value.Asset(rename.apply(path));
            case Value.ReferenceEdit(ListEdit<Reference> edit) ->
                new Value.ReferenceEdit(edit.map(reference -> new Reference(
                        rename.apply(reference.asset()),
                        reference.prim(),
                        reference.offset(),
                        reference.customData())));
            case Value.Dictionary(Map<String, Value.Dictionary.Entry> entries) -> {
                Map<String, Value.Dictionary.Entry> renamed = new LinkedHashMap<>();
                entries.forEach((name, entry) -> renamed.put(
                        name,
                        new Value.Dictionary.Entry(
                                entry.type(),
                                entry.type().startsWith("asset") ? texts(entry.value()) : value(entry.value()))));
                yield new Value.Dictionary(renamed);
            }
            default -> value;
        };
    }
}
