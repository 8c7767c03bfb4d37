package pantry.usd.binary;

import java.io.IOException;
import java.lang.foreign.Arena;
import java.lang.foreign.MemorySegment;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.IoProblems;
import pantry.usd.AssetLocation;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;

/**
 * Reads layers in the binary format, versions 0.4 to 0.11. The file is mapped into memory, and arrays are read when they
 * are asked for; it must not be overwritten in place meanwhile (Pantry replaces files instead).
 *
 * <p>Whatever a damaged file says of sizes, no more than about 4,100 bytes are set aside for one of its own: LZ4
 * unpacks 255 from one, and a number of four bytes may be coded in a quarter of one.
 */
public final class UsdcReader {
    /** Deeper nesting of prims than any honest file has; guards the call stack. */
    private static final int DEEPEST = 512;

    /** Fields that only say what stands where in the file. */
    private static final Set<String> STRUCTURE = Set.of(
            "specifier",
            "typeName",
            "primChildren",
            "properties",
            "variantChildren",
            "variantSetChildren",
            "connectionChildren",
            "targetChildren",
            "custom",
            "variability",
            "default",
            "timeSamples",
            "connectionPaths",
            "targetPaths",
            "subLayers",
            "subLayerOffsets");

    private final Layer layer;
    private final Tables tables;
    private final FieldReader values;
    private final int[] specOf;
    private final int[] firstChild;
    private final int[] nextSibling;

    private UsdcReader(MemorySegment segment, Layer layer) {
        this.layer = layer;
        Bytes bytes = new Bytes(segment, layer.name());
        this.tables = new Tables(bytes);
        this.values = new FieldReader(bytes, tables);
        int paths = tables.pathCount();
        specOf = new int[paths];
        Arrays.fill(specOf, -1);
        for (int i = 0; i < tables.specPaths.length; i++) {
            int path = tables.specPaths[i];
            if (path < 0 || path >= paths) {
                throw tables.problem("spec " + i + " has no path");
            }
            specOf[path] = i;
        }
        firstChild = new int[paths];
        nextSibling = new int[paths];
        Arrays.fill(firstChild, -1);
        for (int path = paths - 1; path >= 0; path--) {
            int parent = tables.parent(path);
            if (parent >= 0) {
                nextSibling[path] = firstChild[parent];
                firstChild[parent] = path;
            }
        }
    }

    /**
     * Reads a layer from its file.
     *
     * @throws UsdException where the file cannot be read or is not a binary layer
     */
    public static Layer read(Path file) {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            MemorySegment mapped = channel.map(FileChannel.MapMode.READ_ONLY, 0, channel.size(), Arena.ofAuto());
            return read(mapped, AssetLocation.of(file));
        } catch (IOException e) {
            throw new UsdException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Reads a layer that is at hand.
     *
     * @param bytes kept by the layer until its arrays are read
     * @param location where the bytes are from
     * @throws UsdException where they are not a binary layer
     */
    public static Layer read(MemorySegment bytes, AssetLocation location) {
        Layer layer = new Layer(location);
        new UsdcReader(bytes, layer).layer();
        return layer;
    }

    private void layer() {
        int root = -1;
        for (int path = 0; path < tables.pathCount(); path++) {
            if (tables.parent(path) == -1) {
                root = path;
            }
        }
        if (root < 0 || specOf[root] < 0 || tables.specTypes[specOf[root]] != SpecTypes.ROOT) {
            throw tables.problem("there is no root spec");
        }
        Map<String, ValueRep> fields = fields(root);
        ValueRep order = fields.remove("primOrder");
        metadata(fields, layer);
        if (order != null) {
            layer.root().metadata().put("primOrder", values.read(order));
        }
        List<String> subLayers = names(fields, "subLayers");
        List<LayerOffset> offsets =
                fields.containsKey("subLayerOffsets") ? values.offsets(fields.get("subLayerOffsets")) : List.of();
        for (int i = 0; i < subLayers.size(); i++) {
            layer.subLayers()
                    .add(new Layer.SubLayer(subLayers.get(i), i < offsets.size() ? offsets.get(i) : LayerOffset.NONE));
        }
        contents(root, layer.root(), fields, 0);
    }

    private Map<String, ValueRep> fields(int path) {
        return tables.fields(tables.specFieldSets[specOf[path]]);
    }

    /** A prim's or variant's properties, children and variants, in the order that its fields say. */
    private void contents(int path, PrimSpec prim, Map<String, ValueRep> fields, int depth) {
        if (depth > DEEPEST) {
            throw tables.problem("prims are nested more than " + DEEPEST + " deep");
        }
        Map<String, PropertySpec> properties = new LinkedHashMap<>();
        Map<String, PrimSpec> children = new LinkedHashMap<>();
        Map<String, List<String>> variantOrders = new LinkedHashMap<>();
        for (int child = firstChild[path]; child >= 0; child = nextSibling[child]) {
            if (specOf[child] < 0) {
                continue;
            }
            String element = tables.element(child);
            switch (tables.specTypes[specOf[child]]) {
                case SpecTypes.ATTRIBUTE -> properties.put(element, attribute(element, fields(child)));
                case SpecTypes.RELATIONSHIP -> properties.put(element, relationship(element, fields(child)));
                case SpecTypes.PRIM -> children.put(element, prim(child, element, depth));
                case SpecTypes.VARIANT_SET -> {
                    prim.variantSets().computeIfAbsent(variantSet(element), s -> new LinkedHashMap<>());
                    variantOrders.put(variantSet(element), names(fields(child), "variantChildren"));
                }
                case SpecTypes.VARIANT -> variant(child, element, prim, depth);
                default -> {
                    // Targets and connections have specs of their own, which say nothing that their owner does not.
                }
            }
        }
        inOrder(names(fields, "properties"), properties).forEach(prim::put);
        inOrder(names(fields, "primChildren"), children).forEach(prim::add);
        putInOrder(prim.variantSets(), names(fields, "variantSetChildren"));
        variantOrders.forEach((set, order) ->
                putInOrder(Objects.requireNonNull(prim.variantSets().get(set)), order));
    }

    private static <T> List<T> inOrder(List<String> names, Map<String, T> byName) {
        List<T> items = new ArrayList<>(byName.size());
        for (String name : names) {
            T item = byName.remove(name);
            if (item != null) {
                items.add(item);
            }
        }
        items.addAll(byName.values());
        return items;
    }

    /** Puts the named entries of a map behind each other, at the end. */
    private static <T> void putInOrder(Map<String, T> map, List<String> names) {
        for (String name : names) {
            T item = map.remove(name);
            if (item != null) {
                map.put(name, item);
            }
        }
    }

    private String variantSet(String element) {
        int equals = element.indexOf('=');
        if (!element.startsWith("{") || !element.endsWith("}") || equals < 2) {
            throw tables.problem("\"" + element + "\" does not name a variant");
        }
        return element.substring(1, equals);
    }

    private void variant(int path, String element, PrimSpec owner, int depth) {
        String set = variantSet(element);
        String name = element.substring(set.length() + 2, element.length() - 1);
        PrimSpec contents = owner.variant(set, name).contents();
        Map<String, ValueRep> fields = fields(path);
        metadata(fields, contents);
        contents(path, contents, fields, depth + 1);
    }

    private PrimSpec prim(int path, String name, int depth) {
        Map<String, ValueRep> fields = fields(path);
        Specifier specifier = Specifier.OVER;
        if (fields.containsKey("specifier")) {
            int number = values.read(fields.get("specifier")) instanceof Value.Int(long n) ? (int) n : -1;
            if (number < 0 || number >= Specifier.values().length) {
                throw tables.problem("there is no specifier " + number);
            }
            specifier = Specifier.values()[number];
        }
        PrimSpec prim = new PrimSpec(specifier, text(fields, "typeName"), name);
        metadata(fields, prim);
        contents(path, prim, fields, depth + 1);
        return prim;
    }

    private AttributeSpec attribute(String name, Map<String, ValueRep> fields) {
        AttributeSpec attribute = new AttributeSpec(name, text(fields, "typeName"));
        attribute.setCustom(flag(fields, "custom"));
        attribute.setUniform(flag(fields, "variability"));
        if (fields.containsKey("default")) {
            attribute.setLazyValue(values.lazy(fields.get("default")));
        }
        if (fields.containsKey("timeSamples")) {
            values.timeSamples(fields.get("timeSamples"), attribute.timeSamples());
        }
        attribute.setConnections(paths(fields, "connectionPaths"));
        metadata(fields, attribute);
        return attribute;
    }

    private RelationshipSpec relationship(String name, Map<String, ValueRep> fields) {
        RelationshipSpec relationship = new RelationshipSpec(name);
        relationship.setCustom(flag(fields, "custom"));
        relationship.setTargets(paths(fields, "targetPaths"));
        metadata(fields, relationship);
        return relationship;
    }

    private void metadata(Map<String, ValueRep> fields, Spec spec) {
        fields.forEach((field, rep) -> {
            if (!STRUCTURE.contains(field)) {
                spec.metadata().put(FieldNames.text(field), values.read(rep));
            }
        });
    }

    private ListEdit<SdfPath> paths(Map<String, ValueRep> fields, String field) {
        return value(fields, field) instanceof Value.PathEdit(ListEdit<SdfPath> edit) ? edit : ListEdit.none();
    }

    private List<String> names(Map<String, ValueRep> fields, String field) {
        return value(fields, field) instanceof Value.Strings(List<String> names) ? names : List.of();
    }

    private String text(Map<String, ValueRep> fields, String field) {
        return switch (value(fields, field)) {
            case Value.Token(String text) -> text;
            case Value.Text(String text) -> text;
            case null, default -> "";
        };
    }

    private boolean flag(Map<String, ValueRep> fields, String field) {
        return switch (value(fields, field)) {
            case Value.Bool(boolean flag) -> flag;
            case Value.Int(long number) -> number != 0;
            case null, default -> false;
        };
    }

    private @Nullable Value value(Map<String, ValueRep> fields, String field) {
        ValueRep rep = fields.get(field);
        return rep == null ? null : values.read(rep);
    }
}
