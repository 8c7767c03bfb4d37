package pantry.usd.text;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import pantry.base.IoProblems;
import pantry.usd.AssetLocation;
import pantry.usd.AttributeSpec;
import pantry.usd.FieldTypes;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.VariantSpec;

/**
 * Reads layers in the text format.
 *
 * <p>Source: AOUSD Core Specification 1.0, text file format. Errors name file, line, column and what was expected.
 * Metadata and types that are not known are kept as they are written.
 */
public final class UsdaReader {
    /** Deeper nesting of prims than any honest file has; guards the call stack. */
    private static final int DEEPEST = 512;

    private static final Set<String> LIST_WORDS = Set.of("add", "prepend", "append", "delete", "reorder");

    private final CharacterSource source;
    private final ValueReader values;
    private final Layer layer;
    private int depth;

    /** Whether it is told where asset paths stand, which needs to be known then. */
    private boolean tellsPlaces;

    /** The prim that is being read, with the variants in which it stands. */
    private SdfPath within = SdfPath.ROOT;

    /** The property of it that is being read; empty where none is. */
    private String property = "";

    private UsdaReader(byte[] bytes, Layer layer) {
        this.layer = layer;
        this.source = new CharacterSource(bytes, layer.name());
        this.values = new ValueReader(source);
    }

    /**
     * Reads a layer from its file.
     *
     * @throws UsdException where the file cannot be read or is not a text layer
     */
    public static Layer read(Path file) {
        try {
            return read(Files.readAllBytes(file), AssetLocation.of(file));
        } catch (IOException e) {
            throw new UsdException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /**
     * Reads a layer that is at hand.
     *
     * @param location where the bytes are from
     * @throws UsdException where they are not a text layer
     */
    public static Layer read(byte[] bytes, AssetLocation location) {
        return new UsdaReader(bytes, new Layer(location)).layer();
    }

    /**
     * The asset paths that a layer is written with, in their order. Those in values that are not understood are among them.
     *
     * @throws UsdException where the bytes are not a text layer
     */
    public static List<WrittenAsset> assets(byte[] bytes, AssetLocation location) {
        List<WrittenAsset> found = new ArrayList<>();
        UsdaReader reader = new UsdaReader(bytes, new Layer(location));
        reader.tellsPlaces = true;
        reader.source.setOnAsset((path, from, to) -> found.add(new WrittenAsset(reader.place(), path, from, to)));
        reader.layer();
        return found;
    }

    /** Reads a layer from text; it lives nowhere. */
    public static Layer parse(String text) {
        return new UsdaReader(text.getBytes(StandardCharsets.UTF_8), Layer.anonymous()).layer();
    }

    private Layer layer() {
        String header = source.headerLine();
        if (!header.startsWith("#usda ")) {
            source.back(0);
            throw source.problem(
                    header.isEmpty() ? "the layer is empty; expected \"#usda 1.0\"" : "expected \"#usda 1.0\"");
        }
        if (source.take('(')) {
            metadata(layer, SdfPath.ROOT);
        }
        while (!source.atEnd()) {
            item(layer.root(), SdfPath.ROOT, true);
        }
        return layer;
    }

    /** One thing in a prim's or the layer's body. */
    private void item(PrimSpec owner, SdfPath path, boolean layerLevel) {
        int start = source.position();
        String word = source.word();
        switch (word) {
            case "def" -> prim(owner, path, Specifier.DEF);
            case "over" -> prim(owner, path, Specifier.OVER);
            case "class" -> prim(owner, path, Specifier.CLASS);
            case "reorder" -> {
                if (!reorder(owner, layerLevel)) {
                    source.back(start);
                    property(owner, path);
                }
            }
            case "variantSet" -> variantSet(owner, path);
            case "" -> throw source.expected(layerLevel ? "def, over or class" : "a prim or a property");
            default -> {
                if (layerLevel) {
                    source.back(start);
                    throw source.expected("def, over or class");
                }
                source.back(start);
                property(owner, path);
            }
        }
    }

    private void enter(SdfPath prim) {
        within = prim;
        property = "";
    }

    private SdfPath place() {
        return property.isEmpty() ? within : within.property(property);
    }

    private void deeper() {
        if (++depth > DEEPEST) {
            throw source.problem("prims and variants are nested more than " + DEEPEST + " deep");
        }
    }

    private void prim(PrimSpec owner, SdfPath parent, Specifier specifier) {
        deeper();
        String type = source.peek() == '"' || source.peek() == '\'' ? "" : source.word();
        int at = source.position();
        String name = source.quoted();
        if (name.isEmpty() || name.chars().anyMatch(c -> c == '/' || c == '.' || c == '{' || c == '}' || c == ' ')) {
            source.back(at);
            throw source.expected("a prim's name");
        }
        if (owner.child(name).isPresent()) {
            source.back(at);
            throw source.problem("there are two prims " + parent.child(name));
        }
        PrimSpec prim = owner.add(new PrimSpec(specifier, type, name));
        SdfPath path = parent.child(name);
        SdfPath above = within;
        enter(tellsPlaces ? above.child(name) : above);
        if (source.take('(')) {
            metadata(prim, path);
        }
        body(prim, path, "of prim " + path);
        enter(above);
        depth--;
    }

    private void body(PrimSpec prim, SdfPath path, String of) {
        source.expect('{', "before the contents " + of);
        while (!source.take('}')) {
            if (source.atEnd()) {
                throw source.expected("'}' after the contents " + of);
            }
            item(prim, path, false);
        }
    }

    /** The order of children or properties; false where "reorder" begins the list edit of a property. */
    private boolean reorder(PrimSpec owner, boolean layerLevel) {
        String what = source.word();
        if (!what.equals("nameChildren") && !what.equals("properties") && !(layerLevel && what.equals("rootPrims"))) {
            if (layerLevel) {
                throw source.problem("expected rootPrims after reorder, found " + what);
            }
            return false;
        }
        source.expect('=', "after reorder " + what);
        owner.metadata()
                .put(
                        what.equals("properties") ? "propertyOrder" : "primOrder",
                        new Value.Strings(list(source::quoted)));
        return true;
    }

    private void variantSet(PrimSpec owner, SdfPath path) {
        deeper();
        String set = source.quoted();
        source.expect('=', "after the name of a variant set");
        source.expect('{', "before the variants of " + set);
        owner.variantSets().computeIfAbsent(set, s -> new LinkedHashMap<>());
        while (!source.take('}')) {
            VariantSpec variant = owner.variant(set, source.quoted());
            SdfPath inside = path.variant(set, variant.name());
            SdfPath above = within;
            enter(tellsPlaces ? above.variant(set, variant.name()) : above);
            if (source.take('(')) {
                metadata(variant.contents(), path);
            }
            body(variant.contents(), path, "of variant " + inside);
            enter(above);
        }
        depth--;
    }

    private void property(PrimSpec owner, SdfPath path) {
        boolean custom = false;
        boolean uniform = false;
        ListEdit.Operation operation = ListEdit.Operation.EXPLICIT;
        String word = source.word();
        while (true) {
            if (word.equals("custom")) {
                custom = true;
            } else if (word.equals("uniform")) {
                uniform = true;
            } else if (LIST_WORDS.contains(word)) {
                operation = operation(word);
            } else if (!word.equals("varying") && !word.equals("config")) {
                break;
            }
            word = source.word();
        }
        if (word.equals("rel")) {
            relationship(owner, path, custom, operation);
        } else {
            attribute(owner, path, new Declared(word, custom, uniform, operation));
        }
    }

    /** What stands before an attribute's name. */
    private record Declared(String type, boolean custom, boolean uniform, ListEdit.Operation operation) {}

    private void attribute(PrimSpec owner, SdfPath path, Declared declared) {
        String typeName = declared.type();
        if (source.here() == '[') {
            source.expect('[', "after the type");
            source.expect(']', "after [");
            typeName += "[]";
        }
        String written = source.word();
        if (written.isEmpty()) {
            throw source.expected("the name of a " + typeName + " attribute");
        }
        boolean samples = written.endsWith(".timeSamples");
        boolean connect = written.endsWith(".connect");
        boolean spline = written.endsWith(".spline");
        String name = samples || connect || spline ? written.substring(0, written.lastIndexOf('.')) : written;
        String effectiveType = typeName;
        AttributeSpec attribute = owner.attribute(name).orElseGet(() -> new AttributeSpec(name, effectiveType));
        attribute.setCustom(declared.custom() || attribute.custom());
        attribute.setUniform(declared.uniform() || attribute.uniform());
        owner.put(attribute);
        property = name;
        if (source.take('=')) {
            if (samples) {
                timeSamples(attribute, typeName);
            } else if (spline) {
                attribute.metadata().put("spline", new Value.Unread(source.raw()));
            } else if (connect) {
                attribute.setConnections(attribute.connections().with(declared.operation(), paths(path)));
            } else {
                attribute.setValue(values.typed(typeName));
            }
        }
        if (source.take('(')) {
            metadata(attribute, path);
        }
    }

    private void timeSamples(AttributeSpec attribute, String typeName) {
        source.expect('{', "before the time samples of " + attribute.name());
        while (!source.take('}')) {
            double time = source.number();
            source.expect(':', "after a time");
            attribute.timeSamples().put(time, values.typed(typeName));
            if (!source.take(',') && source.peek() != '}') {
                throw source.expected("',' or '}' after a time sample");
            }
        }
    }

    private void relationship(PrimSpec owner, SdfPath path, boolean custom, ListEdit.Operation operation) {
        String name = source.word();
        if (name.isEmpty()) {
            throw source.expected("the name of a relationship");
        }
        RelationshipSpec relationship = owner.property(name).orElse(null) instanceof RelationshipSpec existing
                ? existing
                : new RelationshipSpec(name);
        relationship.setCustom(custom || relationship.custom());
        owner.put(relationship);
        if (source.take('=')) {
            relationship.setTargets(relationship.targets().with(operation, paths(path)));
        }
        if (source.take('(')) {
            metadata(relationship, path);
        }
    }

    private List<SdfPath> paths(SdfPath anchor) {
        return list(() -> path(anchor));
    }

    private SdfPath path(SdfPath anchor) {
        return values.path(anchor);
    }

    /** One item, or several in square brackets, or {@code None}. */
    private <T> List<T> list(Supplier<T> item) {
        List<T> items = new ArrayList<>();
        if (source.take('[')) {
            while (source.peek() != ']') {
                items.add(item.get());
                if (!source.take(',')) {
                    break;
                }
            }
            source.expect(']', "after a list");
        } else if (source.peek() == 'N') {
            if (!source.word().equals("None")) {
                throw source.expected("None");
            }
        } else {
            items.add(item.get());
        }
        return items;
    }

    private static ListEdit.Operation operation(String word) {
        return ListEdit.Operation.valueOf(word.toUpperCase(java.util.Locale.ROOT));
    }

    private void metadata(Spec spec, SdfPath path) {
        while (!source.take(')')) {
            char c = source.peek();
            if (c == '"' || c == '\'') {
                spec.metadata().put("comment", new Value.Text(source.quoted()));
                continue;
            }
            String key = source.word();
            ListEdit.Operation operation = ListEdit.Operation.EXPLICIT;
            if (LIST_WORDS.contains(key)) {
                operation = operation(key);
                key = source.word();
            }
            if (key.isEmpty()) {
                throw source.expected("a metadata field or ')'");
            }
            source.expect('=', "after the metadata field " + key);
            field(spec, path, key, operation);
            source.take(',');
        }
    }

    private void field(Spec spec, SdfPath path, String key, ListEdit.Operation operation) {
        Map<String, Value> metadata = spec.metadata();
        switch (key) {
            case "references", "payload" -> {
                List<Reference> items = list(() -> reference(path));
                ListEdit<Reference> edit =
                        metadata.get(key) instanceof Value.ReferenceEdit old ? old.edit() : ListEdit.none();
                metadata.put(key, new Value.ReferenceEdit(edit.with(operation, items)));
            }
            case "inherits", "specializes" -> {
                List<SdfPath> items = paths(path);
                ListEdit<SdfPath> edit = metadata.get(key) instanceof Value.PathEdit old ? old.edit() : ListEdit.none();
                metadata.put(key, new Value.PathEdit(edit.with(operation, items)));
            }
            case "apiSchemas", "variantSets" -> {
                List<String> items = list(source::quoted);
                ListEdit<String> edit = metadata.get(key) instanceof Value.TokenEdit old ? old.edit() : ListEdit.none();
                metadata.put(key, new Value.TokenEdit(edit.with(operation, items)));
            }
            case "inactiveIds" -> {
                List<Long> items = list(() -> source.integer(Long.MIN_VALUE, Long.MAX_VALUE));
                ListEdit<Long> edit = metadata.get(key) instanceof Value.NumberEdit old ? old.edit() : ListEdit.none();
                metadata.put(key, new Value.NumberEdit(edit.with(operation, items)));
            }
            case "variants" -> {
                Map<String, String> selections = new LinkedHashMap<>();
                values.dictionary().entries().forEach((set, entry) -> {
                    if (entry.value() instanceof Value.Text(String selection)) {
                        selections.put(set, selection);
                    }
                });
                metadata.put(key, new Value.Selections(selections));
            }
            case "subLayers" -> {
                if (spec == layer) {
                    layer.subLayers().addAll(list(this::subLayer));
                } else {
                    throw source.problem("only the layer itself has subLayers");
                }
            }
            case "relocates" -> metadata.put(key, new Value.Relocates(relocates(path)));
            default -> {
                if (operation == ListEdit.Operation.EXPLICIT) {
                    Optional<String> type = FieldTypes.of(key);
                    metadata.put(key, type.isPresent() ? values.typed(type.get()) : values.untyped(path));
                } else {
                    ListEdit<String> edit =
                            metadata.get(key) instanceof Value.UnreadEdit old ? old.edit() : ListEdit.none();
                    metadata.put(key, new Value.UnreadEdit(edit.with(operation, List.of(source.raw()))));
                }
            }
        }
    }

    /** {@code { <from>: <to>, … }}. */
    private Map<SdfPath, SdfPath> relocates(SdfPath anchor) {
        Map<SdfPath, SdfPath> moves = new LinkedHashMap<>();
        source.expect('{', "before the relocates");
        while (!source.take('}')) {
            SdfPath from = path(anchor);
            source.expect(':', "between the two paths of a relocate");
            moves.put(from, path(anchor));
            if (!source.take(',') && source.peek() != '}') {
                throw source.expected("',' or '}' after a relocate");
            }
        }
        return moves;
    }

    private Layer.SubLayer subLayer() {
        if (source.peek() != '@') {
            throw source.expected("a sublayer's asset path");
        }
        return new Layer.SubLayer(source.asset(), offset());
    }

    private Reference reference(SdfPath anchor) {
        String asset = source.peek() == '@' ? source.asset() : "";
        Optional<SdfPath> prim = Optional.empty();
        if (source.peek() == '<') {
            if (!source.takeEmptyBrackets()) {
                prim = Optional.of(path(anchor));
            }
        } else if (asset.isEmpty()) {
            throw source.expected("an asset path between @ signs or a prim path between < and >");
        }
        int start = source.position();
        LayerOffset offset = offset();
        source.back(start);
        return new Reference(asset, prim, offset, customData());
    }

    /** The custom data among a reference's settings, which are read a second time for it. */
    private Value.Dictionary customData() {
        Value.Dictionary found = Value.Dictionary.EMPTY;
        if (source.take('(')) {
            while (!source.take(')')) {
                String key = source.word();
                source.expect('=', "after " + key);
                if (key.equals("customData")) {
                    found = values.dictionary();
                } else {
                    source.raw();
                }
                source.take(',');
            }
        }
        return found;
    }

    private LayerOffset offset() {
        double offset = 0;
        double scale = 1;
        if (source.take('(')) {
            while (!source.take(')')) {
                String key = source.word();
                source.expect('=', "after " + key);
                switch (key) {
                    case "offset" -> offset = source.number();
                    case "scale" -> scale = source.number();
                    default -> source.raw();
                }
                source.take(',');
            }
        }
        return new LayerOffset(offset, scale);
    }
}
