package pantry.usd.text;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.DoubleFunction;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.usd.AttributeSpec;
import pantry.usd.FieldTypes;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.PropertySpec;
import pantry.usd.Reference;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Spec;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.ValueType;
import pantry.usd.VariantSpec;

/** Writes layers in the text format: deterministic, readable, every number the shortest that reads back the same. */
public final class UsdaWriter {
    private static final String INDENT = "    ";

    private final StringBuilder out = new StringBuilder();

    private UsdaWriter() {}

    /** The layer as text. */
    public static String write(Layer layer) {
        UsdaWriter writer = new UsdaWriter();
        writer.layer(layer);
        return writer.out.toString();
    }

    /**
     * Writes the layer to a file, which is the old one or the new one at every moment.
     *
     * @throws UsdException where the file cannot be written; the old one is then untouched
     */
    public static void write(Layer layer, Path file) {
        try {
            AtomicFiles.write(file, write(layer).getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new UsdException(file, "cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /** One value as the text format has it. */
    public static String write(String typeName, Value value) {
        return new UsdaWriter().typed(typeName, value, 0);
    }

    /** A metadata field's value as the text format has it, on one line where that can be. */
    public static String writeField(String field, Value value) {
        UsdaWriter writer = new UsdaWriter();
        PrimSpec holder = new PrimSpec(pantry.usd.Specifier.OVER, "", "holder");
        holder.metadata().put(field, value);
        writer.fields(holder, 0);
        return writer.out.toString().strip();
    }

    private void layer(Layer layer) {
        out.append("#usda 1.0\n");
        if (!layer.metadata().isEmpty() || !layer.subLayers().isEmpty()) {
            out.append("(\n");
            fields(layer, 1);
            if (!layer.subLayers().isEmpty()) {
                out.append(INDENT).append("subLayers = [\n");
                out.append(layer.subLayers().stream()
                        .map(sub -> INDENT + INDENT + asset(sub.asset()) + offset(sub.offset()))
                        .collect(Collectors.joining(",\n")));
                out.append("\n").append(INDENT).append("]\n");
            }
            out.append(")\n");
        }
        order(layer.root(), "rootPrims", 0);
        for (PrimSpec prim : layer.rootPrims()) {
            out.append('\n');
            prim(prim, 0);
        }
    }

    private void order(PrimSpec prim, String what, int level) {
        if (prim.metadata().get("primOrder") instanceof Value.Strings names) {
            indent(level)
                    .append("reorder ")
                    .append(what)
                    .append(" = ")
                    .append(quotedList(names.items()))
                    .append('\n');
        }
        if (prim.metadata().get("propertyOrder") instanceof Value.Strings names) {
            indent(level)
                    .append("reorder properties = ")
                    .append(quotedList(names.items()))
                    .append('\n');
        }
    }

    private StringBuilder indent(int level) {
        return out.append(INDENT.repeat(level));
    }

    private void prim(PrimSpec prim, int level) {
        indent(level).append(prim.specifier().word()).append(' ');
        if (!prim.typeName().isEmpty()) {
            out.append(prim.typeName()).append(' ');
        }
        out.append(quoted(prim.name()));
        metadata(prim, level);
        out.append('\n');
        body(prim, level);
    }

    private void metadata(Spec spec, int level) {
        if (spec.metadata().keySet().stream().allMatch(UsdaWriter::hasOwnGrammar)) {
            return;
        }
        out.append(" (\n");
        fields(spec, level + 1);
        indent(level).append(')');
    }

    private static boolean hasOwnGrammar(String key) {
        return key.equals("primOrder") || key.equals("propertyOrder") || key.equals("spline");
    }

    private void body(PrimSpec prim, int level) {
        indent(level).append("{\n");
        order(prim, "nameChildren", level + 1);
        for (PropertySpec property : prim.properties()) {
            switch (property) {
                case AttributeSpec attribute -> attribute(attribute, level + 1);
                case RelationshipSpec relationship -> relationship(relationship, level + 1);
            }
        }
        boolean first = prim.properties().isEmpty();
        for (PrimSpec child : prim.children()) {
            if (!first) {
                out.append('\n');
            }
            first = false;
            prim(child, level + 1);
        }
        for (Map.Entry<String, Map<String, VariantSpec>> set :
                prim.variantSets().entrySet()) {
            indent(level + 1).append("variantSet ").append(quoted(set.getKey())).append(" = {\n");
            for (VariantSpec variant : set.getValue().values()) {
                indent(level + 2).append(quoted(variant.name()));
                metadata(variant.contents(), level + 2);
                out.append(' ');
                int from = out.length();
                body(variant.contents(), level + 2);
                out.delete(from, from + INDENT.length() * (level + 2));
            }
            indent(level + 1).append("}\n");
        }
        indent(level).append("}\n");
    }

    private void attribute(AttributeSpec attribute, int level) {
        boolean written = false;
        if (attribute.hasValue()
                || attribute.timeSamples().isEmpty() && attribute.connections().isEmpty()) {
            declaration(attribute, level);
            attribute.value().ifPresent(value -> out.append(" = ").append(typed(attribute.typeName(), value, level)));
            metadata(attribute, level);
            out.append('\n');
            written = true;
        }
        if (!attribute.timeSamples().isEmpty()) {
            declaration(attribute, level);
            out.append(".timeSamples = {\n");
            attribute.timeSamples().forEach((time, value) -> indent(level + 1)
                    .append(Numbers.of(time, false))
                    .append(": ")
                    .append(typed(attribute.typeName(), value, level + 1))
                    .append(",\n"));
            indent(level).append('}');
            if (!written) {
                metadata(attribute, level);
                written = true;
            }
            out.append('\n');
        }
        if (!attribute.isBare() && attribute.metadata().get("spline") instanceof Value.Unread(String spline)) {
            declaration(attribute, level);
            out.append(".spline = ").append(spline).append('\n');
        }
        if (!attribute.connections().isEmpty()) {
            boolean first = !written;
            Assigned connect = new Assigned("", operation -> {
                prefix(attribute, operation);
                out.append(attribute.typeName())
                        .append(' ')
                        .append(attribute.name())
                        .append(".connect");
            });
            edits(attribute.connections(), connect, level, false, this::path);
            if (first && !attribute.isBare()) {
                out.setLength(out.length() - 1);
                metadata(attribute, level);
                out.append('\n');
            }
        }
    }

    private void declaration(AttributeSpec attribute, int level) {
        indent(level);
        prefix(attribute, "");
        out.append(attribute.typeName()).append(' ').append(attribute.name());
    }

    private void prefix(AttributeSpec attribute, String operation) {
        out.append(operation);
        if (attribute.custom()) {
            out.append("custom ");
        }
        if (attribute.uniform()) {
            out.append("uniform ");
        }
    }

    private void relationship(RelationshipSpec relationship, int level) {
        String custom = relationship.custom() ? "custom " : "";
        if (relationship.targets().isEmpty()) {
            indent(level).append(custom).append("rel ").append(relationship.name());
        } else {
            Assigned targets = new Assigned(
                    "",
                    operation ->
                            out.append(operation).append(custom).append("rel ").append(relationship.name()));
            edits(relationship.targets(), targets, level, false, this::path);
            out.setLength(out.length() - 1);
        }
        metadata(relationship, level);
        out.append('\n');
    }

    private String path(SdfPath path) {
        return "<" + path + ">";
    }

    /**
     * What a list edit is written to.
     *
     * @param start writes what stands before the key, given the word of the operation
     */
    private record Assigned(String key, Consumer<String> start) {}

    /** A line for each operation of a list edit that has items; a single one without brackets unless told so. */
    private <T> void edits(ListEdit<T> edit, Assigned to, int level, boolean alwaysList, Function<T, String> item) {
        for (ListEdit.Operation operation : ListEdit.Operation.values()) {
            List<T> items = edit.items(operation);
            if (items.isEmpty()
                    && !(operation == ListEdit.Operation.EXPLICIT
                            && edit.explicit().isPresent())) {
                continue;
            }
            indent(level);
            to.start()
                    .accept(
                            operation == ListEdit.Operation.EXPLICIT
                                    ? ""
                                    : operation.name().toLowerCase(java.util.Locale.ROOT) + " ");
            out.append(to.key()).append(" = ");
            if (items.isEmpty()) {
                out.append(alwaysList ? "[]" : "None");
            } else if (items.size() == 1 && !alwaysList) {
                out.append(item.apply(items.getFirst()));
            } else {
                out.append(items.stream().map(item).collect(Collectors.joining(", ", "[", "]")));
            }
            out.append('\n');
        }
    }

    private void fields(Spec spec, int level) {
        spec.metadata().forEach((key, value) -> {
            if (hasOwnGrammar(key)) {
                return;
            }
            switch (value) {
                case Value.ReferenceEdit(ListEdit<Reference> edit) ->
                    edits(edit, new Assigned(key, out::append), level, false, this::reference);
                case Value.PathEdit(ListEdit<SdfPath> edit) ->
                    edits(edit, new Assigned(key, out::append), level, false, this::path);
                case Value.TokenEdit(ListEdit<String> edit) ->
                    edits(edit, new Assigned(key, out::append), level, true, UsdaWriter::quoted);
                case Value.UnreadEdit(ListEdit<String> edit) ->
                    edits(edit, new Assigned(key, out::append), level, false, UnaryOperator.identity());
                case Value.NumberEdit(ListEdit<Long> edit) ->
                    edits(edit, new Assigned(key, out::append), level, true, number -> Long.toString(number));
                case Value.Relocates(Map<SdfPath, SdfPath> moves) -> {
                    indent(level).append(key).append(" = {\n");
                    moves.forEach((from, to) -> indent(level + 1)
                            .append(path(from))
                            .append(": ")
                            .append(path(to))
                            .append(",\n"));
                    indent(level).append("}\n");
                }
                case Value.Selections(Map<String, String> bySet) -> {
                    indent(level).append(key).append(" = {\n");
                    bySet.forEach((set, selection) -> indent(level + 1)
                            .append("string ")
                            .append(name(set))
                            .append(" = ")
                            .append(quoted(selection))
                            .append('\n'));
                    indent(level).append("}\n");
                }
                default -> {
                    indent(level);
                    if (key.equals("comment") && value instanceof Value.Text) {
                        out.append(untyped(value, level)).append('\n');
                    } else {
                        out.append(key)
                                .append(" = ")
                                .append(typed(FieldTypes.of(key).orElse(""), value, level))
                                .append('\n');
                    }
                }
            }
        });
    }

    private String reference(Reference reference) {
        String asset = reference.isInternal() ? "" : asset(reference.asset());
        String start = asset + reference.prim().map(this::path).orElse(reference.isInternal() ? "<>" : "");
        if (reference.customData().entries().isEmpty()) {
            return start + offset(reference.offset());
        }
        return start + " (" + settings(reference.offset()) + "; customData = " + dictionary(reference.customData(), 2)
                + ")";
    }

    private static String offset(LayerOffset offset) {
        return offset.equals(LayerOffset.NONE) ? "" : " (" + settings(offset) + ")";
    }

    private static String settings(LayerOffset offset) {
        return "offset = " + Numbers.of(offset.offset(), false) + "; scale = " + Numbers.of(offset.scale(), false);
    }

    private String untyped(Value value, int level) {
        return switch (value) {
            case Value.Bool(boolean flag) -> Boolean.toString(flag);
            case Value.Int(long number) -> Long.toString(number);
            case Value.Real(double number) -> Numbers.of(number, false);
            case Value.Text(String text) -> quoted(text);
            case Value.Token(String text) -> quoted(text);
            case Value.Asset(String path) -> asset(path);
            case Value.PathValue(SdfPath path) -> path(path);
            case Value.Dictionary dictionary -> dictionary(dictionary, level);
            case Value.Strings(List<String> items) -> quotedList(items);
            case Value.Unread(String raw) -> raw;
            case Value.Block ignored -> "None";
            default -> throw new UsdException("metadata cannot hold " + value);
        };
    }

    private String typed(String typeName, Value value, int level) {
        ValueType type = ValueType.of(typeName).orElse(null);
        boolean single = type != null && type.isSingle();
        boolean half = type != null && type.scalar() == ValueType.Scalar.HALF;
        boolean asset = type != null && type.scalar() == ValueType.Scalar.ASSET;
        int rows = type == null ? 0 : type.rows();
        return switch (value) {
            case Value.Int(long number) ->
                type != null && type.scalar() == ValueType.Scalar.UINT64
                        ? Long.toUnsignedString(number)
                        : Long.toString(number);
            case Value.Real(double number) -> half ? Numbers.half((float) number) : Numbers.of(number, single);
            case Value.Tuple(double[] numbers) ->
                tuple(numbers, rows, half ? n -> Numbers.half((float) n) : n -> Numbers.of(n, single));
            case Value.Floats(float[] data, int width) ->
                array(
                        data.length,
                        width,
                        0,
                        half
                                ? (text, i) -> text.append(Numbers.half(data[i]))
                                : (text, i) -> Numbers.append(text, data[i]));
            case Value.Doubles(double[] data, int width) ->
                array(data.length, width, rows, (text, i) -> text.append(Numbers.of(data[i], false)));
            case Value.Ints(int[] data, int width) -> array(data.length, width, 0, (text, i) -> text.append(data[i]));
            case Value.Longs(long[] data) ->
                array(
                        data.length,
                        1,
                        0,
                        type != null && type.scalar() == ValueType.Scalar.UINT64
                                ? (text, i) -> text.append(Long.toUnsignedString(data[i]))
                                : (text, i) -> text.append(data[i]));
            case Value.Bools(boolean[] data) -> array(data.length, 1, 0, (text, i) -> text.append(data[i]));
            case Value.Strings(List<String> items) ->
                array(items.size(), 1, 0, (text, i) -> text.append(asset ? asset(items.get(i)) : quoted(items.get(i))));
            case Value.Dictionary dictionary -> dictionary(dictionary, level);
            default -> untyped(value, level);
        };
    }

    /** Appends one number or text of an array. */
    private interface Element {
        void append(StringBuilder text, int index);
    }

    /** @param rows rows of each element, where the elements are matrices; else 0 */
    private static String array(int count, int width, int rows, Element element) {
        StringBuilder text = new StringBuilder(count * 8 + 2).append('[');
        for (int i = 0; i < count; i += width) {
            if (i > 0) {
                text.append(", ");
            }
            tuple(text, i, width, rows, element);
        }
        return text.append(']').toString();
    }

    private static String tuple(double[] numbers, int rows, DoubleFunction<String> decimal) {
        StringBuilder text = new StringBuilder();
        tuple(text, 0, numbers.length, rows, (out, i) -> out.append(decimal.apply(numbers[i])));
        return text.toString();
    }

    private static void tuple(StringBuilder text, int from, int width, int rows, Element element) {
        if (width == 1) {
            element.append(text, from);
            return;
        }
        text.append(rows > 0 ? "( (" : "(");
        for (int i = 0; i < width; i++) {
            if (i > 0) {
                text.append(rows > 0 && i % rows == 0 ? "), (" : ", ");
            }
            element.append(text, from + i);
        }
        text.append(rows > 0 ? ") )" : ")");
    }

    private String dictionary(Value.Dictionary dictionary, int level) {
        StringBuilder text = new StringBuilder("{\n");
        dictionary.entries().forEach((name, entry) -> text.append(INDENT.repeat(level + 1))
                .append(entry.type())
                .append(' ')
                .append(name(name))
                .append(" = ")
                .append(typed(entry.type(), entry.value(), level + 1))
                .append('\n'));
        return text.append(INDENT.repeat(level)).append('}').toString();
    }

    private static String name(String name) {
        return name.matches("[A-Za-z_][A-Za-z0-9_:]*") ? name : quoted(name);
    }

    private static String quotedList(List<String> items) {
        return items.stream().map(UsdaWriter::quoted).collect(Collectors.joining(", ", "[", "]"));
    }

    /** An asset path between at-signs, as many as it needs. */
    public static String asset(String path) {
        return path.indexOf('@') < 0 ? "@" + path + "@" : "@@@" + path.replace("@@@", "\\@@@") + "@@@";
    }

    private static String quoted(String text) {
        StringBuilder quoted = new StringBuilder("\"");
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"' -> quoted.append("\\\"");
                case '\\' -> quoted.append("\\\\");
                case '\n' -> quoted.append("\\n");
                case '\r' -> quoted.append("\\r");
                case '\t' -> quoted.append("\\t");
                default -> quoted.append(c);
            }
        }
        return quoted.append('"').toString();
    }
}
