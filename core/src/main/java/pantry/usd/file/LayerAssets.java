package pantry.usd.file;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
    /** The one asset path that OpenUSD keeps as a plain string, in the dictionaries of {@code clips}. */
    private static final String CLIP_TEMPLATE = "templateAssetPath";

    private final UnaryOperator<String> rename;
    private final Optional<Path> folder;

    /** @param folder in which files that a pattern names are looked for; empty where they cannot be */
    private LayerAssets(UnaryOperator<String> rename, Optional<Path> folder) {
        this.rename = path -> path.isEmpty() ? path : rename.apply(path);
        this.folder = folder;
    }

    private static LayerAssets of(Layer layer, UnaryOperator<String> rename) {
        return new LayerAssets(rename, layer.file().map(Path::getParent));
    }

    /**
     * A value with other asset paths, also within dictionaries and lists.
     *
     * @param type of the value; of a metadata field, whose values tell what they are, empty
     * @param layer that holds the value
     */
    public static Value renamed(Value value, String type, Layer layer, UnaryOperator<String> rename) {
        LayerAssets assets = of(layer, rename);
        return type.startsWith("asset") ? assets.texts(value) : assets.value(value);
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
        return filled(new Layer(location), layer);
    }

    /** A copy of a layer that lives where it does. */
    public static Layer copied(Layer layer) {
        return filled(layer.location().map(Layer::new).orElseGet(Layer::anonymous), layer);
    }

    private static Layer filled(Layer copy, Layer layer) {
        copy.metadata().putAll(layer.metadata());
        copy.subLayers().addAll(layer.subLayers());
        copy.root().metadata().putAll(layer.root().metadata());
        layer.root().children().forEach(child -> copy.root().add(child.copy()));
        return copy;
    }

    /** A copy of a layer that lives elsewhere, with other asset paths. Values that hold none are shared, unread. */
    public static Layer renamed(Layer layer, AssetLocation location, UnaryOperator<String> rename) {
        LayerAssets assets = of(layer, rename);
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

    /** Gives a prim spec, with all below it, other asset paths. */
    public static void rename(PrimSpec prim, Layer layer, UnaryOperator<String> rename) {
        of(layer, rename).prim(prim);
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
                entries.forEach((name, entry) ->
                        renamed.put(name, new Value.Dictionary.Entry(entry.type(), value(name, entry))));
                yield new Value.Dictionary(renamed);
            }
            default -> value;
        };
    }

    private Value value(String name, Value.Dictionary.Entry entry) {
        if (name.equals(CLIP_TEMPLATE) && entry.value() instanceof Value.Text(String pattern) && !pattern.isEmpty()) {
            return new Value.Text(pattern(pattern));
        }
        return entry.type().startsWith("asset") ? texts(entry.value()) : value(entry.value());
    }

    /**
     * A pattern that stands for the files of a value clip set, such as {@code walk.###.usd}. Each of the files that are
     * there is renamed; where these have no pattern any more, the pattern itself is, as if it were a file's path.
     */
    private String pattern(String pattern) {
        List<String> files =
                folder.map(in -> NumberedFiles.matching(in, pattern)).orElse(List.of());
        List<String> renamed = files.stream().map(rename).toList();
        return NumberedFiles.pattern(pattern, files, renamed).orElseGet(() -> rename.apply(pattern));
    }
}
