package pantry.usd.binary;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.UsdException;
import pantry.usd.Value;

/**
 * Writes layers in the binary format, version 0.8, or the first that knows what is in the layer. The same layer makes
 * the same bytes.
 */
public final class UsdcWriter {
    private static final int HEADER = 88;
    private static final int TOC_AT = 16;

    private final Sink sink;
    private final SymbolTables names = new SymbolTables();
    private final ValueWriter values;
    private final Map<Field, Integer> fields = new LinkedHashMap<>();
    private final Map<List<Integer>, Integer> fieldSets = new HashMap<>();
    private final List<Integer> fieldSetItems = new ArrayList<>();
    private final List<SpecRow> specs = new ArrayList<>();

    private record Field(int name, ValueRep value) {}

    private record SpecRow(int path, int fieldSet, int type) {}

    private record Section(String name, long start, long size) {}

    private UsdcWriter(FileChannel channel) {
        sink = new Sink(channel);
        values = new ValueWriter(sink, names);
    }

    /**
     * Writes the layer to a file, which is the old one or the new one at every moment.
     *
     * @throws UsdException where the file cannot be written, or the layer holds what the format has no type for; the
     *     old file is then untouched
     */
    public static void write(Layer layer, Path file) {
        try {
            AtomicFiles.write(file, channel -> new UsdcWriter(channel).layer(layer));
        } catch (IOException e) {
            throw new UsdException(file, "cannot be written: " + IoProblems.describe(e), e);
        }
    }

    private void layer(Layer layer) throws IOException {
        sink.bytes(new byte[HEADER]);
        Map<String, ValueRep> root = metadata(layer);
        if (!layer.subLayers().isEmpty()) {
            root.put(
                    "subLayers",
                    values.strings(layer.subLayers().stream()
                            .map(Layer.SubLayer::asset)
                            .toList()));
            root.put(
                    "subLayerOffsets",
                    values.offsets(layer.subLayers().stream()
                            .map(Layer.SubLayer::offset)
                            .toList()));
        }
        root.putAll(metadata(layer.root()));
        contents(layer.root(), SdfPath.ROOT, root, SpecTypes.ROOT);
        List<Section> sections = tables();
        long toc = sink.position();
        sink.whole(sections.size());
        for (Section section : sections) {
            sink.bytes(Arrays.copyOf(section.name.getBytes(StandardCharsets.ISO_8859_1), 16));
            sink.whole(section.start);
            sink.whole(section.size);
        }
        sink.patch(0, magic());
        sink.patch(8, (long) values.minorVersion() << 8);
        sink.patch(TOC_AT, toc);
    }

    private static long magic() {
        long magic = 0;
        byte[] text = "PXR-USDC".getBytes(StandardCharsets.ISO_8859_1);
        for (int i = 0; i < 8; i++) {
            magic |= (text[i] & 0xffL) << 8 * i;
        }
        return magic;
    }

    /** Adds a prim's or variant's spec and all below it. */
    private void contents(PrimSpec prim, SdfPath path, Map<String, ValueRep> own, int type) throws IOException {
        if (!prim.children().isEmpty()) {
            own.put("primChildren", values.tokens(List.copyOf(prim.childNames())));
        }
        if (!prim.properties().isEmpty()) {
            own.put(
                    "properties",
                    values.tokens(
                            prim.properties().stream().map(PropertySpec::name).toList()));
        }
        if (!prim.variantSets().isEmpty()) {
            own.put(
                    "variantSetChildren",
                    values.tokens(List.copyOf(prim.variantSets().keySet())));
        }
        spec(path, own, type);
        for (PropertySpec property : prim.properties()) {
            property(property, path.property(property.name()));
        }
        for (var set : prim.variantSets().entrySet()) {
            Map<String, ValueRep> setFields = new LinkedHashMap<>();
            setFields.put(
                    "variantChildren", values.tokens(List.copyOf(set.getValue().keySet())));
            spec(path.variant(set.getKey(), ""), setFields, SpecTypes.VARIANT_SET);
            for (var variant : set.getValue().values()) {
                contents(
                        variant.contents(),
                        path.variant(set.getKey(), variant.name()),
                        metadata(variant.contents()),
                        SpecTypes.VARIANT);
            }
        }
        for (PrimSpec child : prim.children()) {
            Map<String, ValueRep> childFields = new LinkedHashMap<>();
            childFields.put("specifier", values.specifier(child.specifier().ordinal()));
            if (!child.typeName().isEmpty()) {
                childFields.put("typeName", values.token(child.typeName()));
            }
            childFields.putAll(metadata(child));
            contents(child, path.child(child.name()), childFields, SpecTypes.PRIM);
        }
    }

    private void property(PropertySpec property, SdfPath path) throws IOException {
        Map<String, ValueRep> own = new LinkedHashMap<>();
        switch (property) {
            case AttributeSpec attribute -> {
                own.put("typeName", values.token(attribute.typeName()));
                own.put("custom", values.field("", new Value.Bool(attribute.custom())));
                own.put("variability", values.variability(attribute.uniform()));
                if (attribute.hasValue()) {
                    own.put(
                            "default",
                            values.typed(attribute.typeName(), attribute.value().orElseThrow()));
                }
                if (!attribute.timeSamples().isEmpty()) {
                    own.put("timeSamples", timeSamples(attribute));
                }
                if (!attribute.connections().isEmpty()) {
                    own.put("connectionPaths", paths(attribute.connections()));
                }
                own.putAll(metadata(attribute));
                spec(path, own, SpecTypes.ATTRIBUTE);
            }
            case RelationshipSpec relationship -> {
                own.put("custom", values.field("", new Value.Bool(relationship.custom())));
                own.put("variability", values.variability(true));
                if (!relationship.targets().isEmpty()) {
                    own.put("targetPaths", paths(relationship.targets()));
                }
                own.putAll(metadata(relationship));
                spec(path, own, SpecTypes.RELATIONSHIP);
            }
        }
    }

    private ValueRep paths(ListEdit<SdfPath> edit) throws IOException {
        return values.field("", new Value.PathEdit(edit));
    }

    private ValueRep timeSamples(AttributeSpec attribute) throws IOException {
        double[] times = attribute.timeSamples().times().stream()
                .mapToDouble(Double::doubleValue)
                .toArray();
        List<ValueRep> samples = new ArrayList<>(times.length);
        for (double time : times) {
            samples.add(values.typed(
                    attribute.typeName(), attribute.timeSamples().at(time).orElseThrow()));
        }
        return values.timeSamples(times, samples);
    }

    private Map<String, ValueRep> metadata(Spec spec) throws IOException {
        Map<String, ValueRep> own = new LinkedHashMap<>();
        for (var entry : spec.metadata().entrySet()) {
            String name = spec instanceof Layer && entry.getKey().equals("relocates")
                    ? "layerRelocates"
                    : FieldNames.binary(entry.getKey());
            own.put(name, values.field(entry.getKey(), entry.getValue()));
        }
        return own;
    }

    private void spec(SdfPath path, Map<String, ValueRep> own, int type) {
        List<Integer> set = new ArrayList<>(own.size());
        own.forEach((name, value) ->
                set.add(fields.computeIfAbsent(new Field(names.token(name), value), f -> fields.size())));
        Integer start = fieldSets.get(set);
        if (start == null) {
            start = fieldSetItems.size();
            fieldSets.put(set, start);
            fieldSetItems.addAll(set);
            fieldSetItems.add(-1);
        }
        specs.add(new SpecRow(names.path(path), start, type));
    }

    private interface Content {
        void write() throws IOException;
    }

    private List<Section> tables() throws IOException {
        List<Section> sections = new ArrayList<>();
        section(sections, "TOKENS", () -> {
            byte[] text = names.tokenText();
            sink.whole(names.tokenCount());
            sink.whole(text.length);
            packed(Packing.pack(text, text.length));
        });
        section(sections, "STRINGS", () -> {
            sink.whole(names.stringTokens().size());
            for (int token : names.stringTokens()) {
                sink.integer(token);
            }
        });
        section(sections, "FIELDS", () -> {
            sink.whole(fields.size());
            packed(Packing.packed(fields.keySet().stream().mapToInt(Field::name).toArray()));
            ByteBuffer reps = ByteBuffer.allocate(fields.size() * 8).order(ByteOrder.LITTLE_ENDIAN);
            fields.keySet().forEach(field -> reps.putLong(field.value.bits()));
            packed(Packing.pack(reps.array(), reps.position()));
        });
        section(sections, "FIELDSETS", () -> {
            sink.whole(fieldSetItems.size());
            packed(Packing.packed(
                    fieldSetItems.stream().mapToInt(Integer::intValue).toArray()));
        });
        section(sections, "PATHS", () -> {
            SymbolTables.Coded coded = names.codedPaths();
            sink.whole(names.pathCount());
            sink.whole(coded.numbers().length);
            packed(Packing.packed(coded.numbers()));
            packed(Packing.packed(coded.elements()));
            packed(Packing.packed(coded.jumps()));
        });
        section(sections, "SPECS", () -> {
            sink.whole(specs.size());
            packed(Packing.packed(specs.stream().mapToInt(SpecRow::path).toArray()));
            packed(Packing.packed(specs.stream().mapToInt(SpecRow::fieldSet).toArray()));
            packed(Packing.packed(specs.stream().mapToInt(SpecRow::type).toArray()));
        });
        return sections;
    }

    private void section(List<Section> sections, String name, Content content) throws IOException {
        long start = sink.position();
        content.write();
        sections.add(new Section(name, start, sink.position() - start));
    }

    private void packed(byte[] bytes) throws IOException {
        sink.whole(bytes.length);
        sink.bytes(bytes);
    }
}
