package pantry.usd.binary;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import pantry.usd.FieldTypes;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.ValueType;

/** Writes values and says where they are; equal ones of moderate size are written once. */
final class ValueWriter {
    /** Larger arrays are not kept for comparison. */
    private static final int LARGEST_SHARED = 4096;

    private final Sink sink;
    private final SymbolTables names;
    private final Map<Key, ValueRep> written = new HashMap<>();
    private int minorVersion = 8;

    private record Key(UsdcType type, boolean array, Object value) {}

    ValueWriter(Sink sink, SymbolTables names) {
        this.sink = sink;
        this.names = names;
    }

    /** The oldest version that knows all that was written, 8 at least. */
    int minorVersion() {
        return minorVersion;
    }

    /** A metadata field's value, by its name in the text format. */
    ValueRep field(String name, Value value) throws IOException {
        Optional<String> standard = FieldTypes.of(name);
        if (standard.isPresent() && fits(standard.get(), value)) {
            return typed(standard.get(), value);
        }
        return switch (value) {
            case Value.TokenEdit(ListEdit<String> edit) ->
                name.equals("variantSets")
                        ? edit(UsdcType.STRING_EDIT, edit, (block, item) -> block.integer(names.string(item)))
                        : edit(UsdcType.TOKEN_EDIT, edit, (block, item) -> block.integer(names.token(item)));
            case Value.PathEdit(ListEdit<SdfPath> edit) ->
                edit(UsdcType.PATH_EDIT, edit, (block, item) -> block.integer(names.path(item)));
            case Value.NumberEdit(ListEdit<Long> edit) -> edit(UsdcType.INT64_EDIT, edit, Block::whole);
            case Value.ReferenceEdit(ListEdit<Reference> edit) -> references(name.equals("payload"), edit);
            case Value.UnreadEdit(ListEdit<String> edit) ->
                edit(UsdcType.UNREAD_EDIT, edit, (block, item) -> block.nested(string(item)));
            case Value.Selections(Map<String, String> bySet) -> {
                Block block = new Block().whole(bySet.size());
                bySet.forEach(
                        (set, selection) -> block.integer(names.string(set)).integer(names.string(selection)));
                yield put(UsdcType.SELECTIONS, block);
            }
            case Value.Relocates(Map<SdfPath, SdfPath> moves) -> {
                minorVersion = 11;
                Block block = new Block().whole(moves.size());
                moves.forEach((from, to) -> block.integer(names.path(from)).integer(names.path(to)));
                yield put(UsdcType.RELOCATES, block);
            }
            case Value.Strings(List<String> items) ->
                name.equals("primOrder") || name.equals("propertyOrder") ? tokens(items) : typed("string[]", value);
            case Value.Bool ignored -> typed("bool", value);
            case Value.Int(long number) -> typed(number == (int) number ? "int" : "int64", value);
            case Value.Real ignored -> typed("double", value);
            case Value.Text ignored -> typed("string", value);
            case Value.Token ignored -> typed("token", value);
            case Value.Asset ignored -> typed("asset", value);
            case Value.Dictionary ignored -> typed("dictionary", value);
            case Value.PathValue(SdfPath path) -> unread("<" + path + ">");
            case Value.Unread(String source) -> unread(source);
            case Value.Block ignored -> typed("", value);
            case Value.Tuple(double[] components) -> typed("double" + components.length, value);
            case Value.Floats(float[] data, int width) -> typed(shape("float", width), value);
            case Value.Doubles(double[] data, int width) -> typed(shape("double", width), value);
            case Value.Ints(int[] data, int width) -> typed(shape("int", width), value);
            case Value.Longs ignored -> typed("int64[]", value);
            case Value.Bools ignored -> typed("bool[]", value);
        };
    }

    private static String shape(String scalar, int width) {
        return (width == 1 ? scalar : scalar + width) + "[]";
    }

    /** Whether a field holds what the standard says, so that it can be written as that. */
    private static boolean fits(String type, Value value) {
        return switch (type) {
            case "token", "string" -> value instanceof Value.Text || value instanceof Value.Token;
            case "bool" -> value instanceof Value.Bool;
            case "int", "int64" -> value instanceof Value.Int;
            case "double" -> value instanceof Value.Real || value instanceof Value.Int;
            case "dictionary" -> value instanceof Value.Dictionary;
            case "asset" -> value instanceof Value.Asset;
            default -> value instanceof Value.Strings && type.endsWith("[]");
        };
    }

    ValueRep specifier(int number) {
        return ValueRep.inlined(UsdcType.SPECIFIER, number);
    }

    ValueRep variability(boolean uniform) {
        return ValueRep.inlined(UsdcType.VARIABILITY, uniform ? 1 : 0);
    }

    ValueRep token(String text) {
        return ValueRep.inlined(UsdcType.TOKEN, names.token(text));
    }

    private ValueRep string(String text) {
        return ValueRep.inlined(UsdcType.STRING, names.string(text));
    }

    private ValueRep unread(String source) throws IOException {
        return put(UsdcType.UNREAD, new Block().nested(string(source)));
    }

    ValueRep tokens(List<String> items) throws IOException {
        Block block = new Block().whole(items.size());
        items.forEach(item -> block.integer(names.token(item)));
        return put(UsdcType.TOKENS, block);
    }

    ValueRep strings(List<String> items) throws IOException {
        Block block = new Block().whole(items.size());
        items.forEach(item -> block.integer(names.string(item)));
        return put(UsdcType.STRINGS, block);
    }

    ValueRep offsets(List<LayerOffset> offsets) throws IOException {
        Block block = new Block().whole(offsets.size());
        offsets.forEach(offset -> block.real(offset.offset()).real(offset.scale()));
        return put(UsdcType.OFFSETS, block);
    }

    /** @param values for each time in turn */
    ValueRep timeSamples(double[] times, List<ValueRep> values) throws IOException {
        Block stored = new Block().whole(times.length);
        for (double time : times) {
            stored.real(time);
        }
        ValueRep timesAt = put(UsdcType.DOUBLES, stored);
        // The values, too, follow directly behind the distance to them.
        Block block = new Block().nested(timesAt).whole(8).whole(values.size());
        values.forEach(value -> block.whole(value.bits()));
        return put(UsdcType.TIME_SAMPLES, block);
    }

    <T> ValueRep edit(UsdcType type, ListEdit<T> edit, BiConsumer<Block, T> item) throws IOException {
        List<ListEdit.Operation> order = FieldReader.EDIT_ORDER;
        int bits = edit.explicit().isPresent() ? 1 : 0;
        for (int i = 0; i < order.size(); i++) {
            bits |= edit.items(order.get(i)).isEmpty() ? 0 : FieldReader.EDIT_BITS[i];
        }
        Block block = new Block().oneByte(bits);
        for (ListEdit.Operation operation : order) {
            List<T> items = edit.items(operation);
            if (!items.isEmpty()) {
                block.whole(items.size());
                items.forEach(each -> item.accept(block, each));
            }
        }
        return put(type, block);
    }

    private ValueRep references(boolean payloads, ListEdit<Reference> edit) throws IOException {
        Map<Reference, Map<String, ValueRep>> customData = new HashMap<>();
        for (ListEdit.Operation operation : ListEdit.Operation.values()) {
            for (Reference reference : edit.items(operation)) {
                customData.put(reference, entries(reference.customData()));
            }
        }
        return edit(payloads ? UsdcType.PAYLOAD_EDIT : UsdcType.REFERENCE_EDIT, edit, (block, reference) -> {
            block.integer(names.string(reference.asset())).integer(names.path(reference.prim()));
            block.real(reference.offset().offset()).real(reference.offset().scale());
            if (!payloads) {
                dictionary(block, customData.get(reference));
            }
        });
    }

    private Map<String, ValueRep> entries(Value.Dictionary dictionary) throws IOException {
        Map<String, ValueRep> entries = new LinkedHashMap<>();
        for (var entry : dictionary.entries().entrySet()) {
            entries.put(
                    entry.getKey(),
                    typed(entry.getValue().type(), entry.getValue().value()));
        }
        return entries;
    }

    private void dictionary(Block block, Map<String, ValueRep> entries) {
        block.whole(entries.size());
        entries.forEach((key, rep) -> block.integer(names.string(key)).nested(rep));
    }

    /** A value of a USD type. */
    ValueRep typed(String typeName, Value value) throws IOException {
        if (value instanceof Value.Block) {
            return ValueRep.inlined(UsdcType.BLOCK, 0);
        }
        if (value instanceof Value.Unread(String source)) {
            return unread(source);
        }
        if (value instanceof Value.Dictionary dictionary) {
            if (dictionary.entries().isEmpty()) {
                return ValueRep.inlined(UsdcType.DICTIONARY, 0);
            }
            Block block = new Block();
            dictionary(block, entries(dictionary));
            return put(UsdcType.DICTIONARY, block);
        }
        UsdcType type = UsdcType.holding(typeName)
                .orElseThrow(() -> new UsdException("values of type " + typeName + " cannot be written: " + value));
        return switch (value) {
            case Value.Bool(boolean flag) -> ValueRep.inlined(type, flag ? 1 : 0);
            case Value.Int(long number) -> whole(type, number);
            case Value.Real(double number) -> real(type, number);
            case Value.Text(String text) -> text(type, text);
            case Value.Token(String text) -> text(type, text);
            case Value.Asset(String path) -> text(type, path);
            case Value.Tuple(double[] components) -> tuple(type, components);
            default -> array(type, value);
        };
    }

    private ValueRep text(UsdcType type, String text) throws IOException {
        return switch (type) {
            case STRING -> string(text);
            case PATH_EXPRESSION -> {
                minorVersion = Math.max(minorVersion, 10);
                yield put(type, new Block().integer(names.string(text)));
            }
            default -> ValueRep.inlined(type, names.token(text));
        };
    }

    private ValueRep whole(UsdcType type, long number) throws IOException {
        boolean fits = type == UsdcType.UINT64 ? number >>> 32 == 0 : number == (int) number;
        return switch (type) {
            case INT64, UINT64 -> fits ? ValueRep.inlined(type, (int) number) : put(type, new Block().whole(number));
            case DOUBLE -> real(type, number);
            default -> ValueRep.inlined(type, (int) number);
        };
    }

    private ValueRep real(UsdcType type, double number) throws IOException {
        return switch (type) {
            case HALF -> ValueRep.inlined(type, Float.floatToFloat16((float) number) & 0xffff);
            case FLOAT -> ValueRep.inlined(type, Float.floatToRawIntBits((float) number));
            case DOUBLE ->
                Double.compare((float) number, number) == 0
                        ? ValueRep.inlined(type, Float.floatToRawIntBits((float) number))
                        : put(type, new Block().real(number));
            default -> put(type, new Block().real(number));
        };
    }

    private ValueRep tuple(UsdcType type, double[] components) throws IOException {
        ValueType shape = ValueType.of(type.usdName).orElseThrow();
        if (type == UsdcType.HALF2) {
            int low = Float.floatToFloat16((float) components[0]) & 0xffff;
            return ValueRep.inlined(type, low | Float.floatToFloat16((float) components[1]) << 16);
        }
        // Vectors of doubles and halves could be told in the same way, but widespread readers do not expect it.
        boolean usual =
                shape.rows() > 0 || shape.scalar() == ValueType.Scalar.FLOAT || shape.scalar() == ValueType.Scalar.INT;
        if (usual && !type.isQuaternion() && isSmall(components, shape.rows())) {
            int bits = 0;
            int count = shape.rows() > 0 ? shape.rows() : components.length;
            for (int i = 0; i < count; i++) {
                int component = (int) components[shape.rows() > 0 ? i * (shape.rows() + 1) : i];
                bits |= (component & 0xff) << 8 * i;
            }
            return ValueRep.inlined(type, bits);
        }
        Block block = new Block();
        for (int i = 0; i < components.length; i++) {
            // Quaternions are stored x, y, z, w.
            double component = components[type.isQuaternion() ? (i + 1) % 4 : i];
            switch (shape.scalar()) {
                case HALF -> block.half(component);
                case FLOAT -> block.single(component);
                case INT -> block.integer((int) component);
                default -> block.real(component);
            }
        }
        return put(type, block);
    }

    /** Whether all components, or those of the diagonal where the rest is 0, are whole numbers of one byte. */
    private static boolean isSmall(double[] components, int rows) {
        for (int i = 0; i < components.length; i++) {
            double component = components[i];
            boolean mayDiffer = rows == 0 || i % (rows + 1) == 0;
            if (component != (byte) component || component == 0 && 1 / component < 0 || !mayDiffer && component != 0) {
                return false;
            }
        }
        return true;
    }

    private ValueRep array(UsdcType type, Value value) throws IOException {
        int length =
                switch (value) {
                    case Value.Floats(float[] data, int width) -> data.length;
                    case Value.Doubles(double[] data, int width) -> data.length;
                    case Value.Ints(int[] data, int width) -> data.length;
                    case Value.Longs(long[] data) -> data.length;
                    case Value.Bools(boolean[] data) -> data.length;
                    case Value.Strings(List<String> items) -> items.size();
                    default ->
                        throw new UsdException("values of type " + type.usdName + " cannot be written: " + value);
                };
        if (length == 0) {
            return ValueRep.arrayAt(type, 0, false);
        }
        Key key = length <= LARGEST_SHARED ? new Key(type, true, value) : null;
        ValueRep known = key == null ? null : written.get(key);
        if (known != null) {
            return known;
        }
        sink.align();
        long at = sink.position();
        boolean packed = elements(type, value);
        ValueRep rep = ValueRep.arrayAt(type, at, packed);
        if (key != null) {
            written.put(key, rep);
        }
        return rep;
    }

    /** Writes an array's count and elements; returns whether they are packed. */
    private boolean elements(UsdcType type, Value value) throws IOException {
        switch (value) {
            case Value.Floats(float[] data, int width) -> {
                sink.whole(data.length / width);
                boolean half = ValueType.of(type.usdName).orElseThrow().scalar() == ValueType.Scalar.HALF;
                for (int i = 0; i < data.length; i++) {
                    float number = data[type.isQuaternion() ? stored(i) : i];
                    if (half) {
                        sink.half(number);
                    } else {
                        sink.single(number);
                    }
                }
            }
            case Value.Doubles(double[] data, int width) -> {
                sink.whole(data.length / width);
                for (int i = 0; i < data.length; i++) {
                    sink.real(data[type.isQuaternion() ? stored(i) : i]);
                }
            }
            case Value.Ints(int[] data, int width) -> {
                sink.whole(data.length / width);
                if (type == UsdcType.UCHAR) {
                    for (int number : data) {
                        sink.bytes(new byte[] {(byte) number});
                    }
                } else if (type == UsdcType.INT && data.length >= FieldReader.SHORTEST_PACKED) {
                    return packed(Packing.packed(data));
                } else {
                    for (int number : data) {
                        sink.integer(number);
                    }
                }
            }
            case Value.Longs(long[] data) -> {
                sink.whole(data.length);
                if (type == UsdcType.UINT) {
                    int[] numbers = new int[data.length];
                    for (int i = 0; i < data.length; i++) {
                        numbers[i] = (int) data[i];
                    }
                    if (data.length >= FieldReader.SHORTEST_PACKED) {
                        return packed(Packing.packed(numbers));
                    }
                    for (int number : numbers) {
                        sink.integer(number);
                    }
                } else if (data.length >= FieldReader.SHORTEST_PACKED) {
                    return packed(Packing.packed(data));
                } else {
                    for (long number : data) {
                        sink.whole(number);
                    }
                }
            }
            case Value.Bools(boolean[] data) -> {
                sink.whole(data.length);
                for (boolean flag : data) {
                    sink.bytes(new byte[] {(byte) (flag ? 1 : 0)});
                }
            }
            case Value.Strings(List<String> items) -> {
                sink.whole(items.size());
                boolean strings = type == UsdcType.STRING || type == UsdcType.PATH_EXPRESSION;
                for (String item : items) {
                    sink.integer(strings ? names.string(item) : names.token(item));
                }
            }
            default -> throw new IllegalArgumentException("not an array: " + value);
        }
        return false;
    }

    private boolean packed(byte[] bytes) throws IOException {
        sink.whole(bytes.length);
        sink.bytes(bytes);
        return true;
    }

    /** Which number of a quaternion array (w, x, y, z) is stored at a position (x, y, z, w). */
    private static int stored(int position) {
        return position / 4 * 4 + (position + 1) % 4;
    }

    private ValueRep put(UsdcType type, Block block) throws IOException {
        byte[] bytes = block.finish();
        Key key = new Key(type, false, ByteBuffer.wrap(bytes));
        ValueRep known = written.get(key);
        if (known != null) {
            return known;
        }
        sink.align();
        ValueRep rep = ValueRep.at(type, sink.position());
        sink.bytes(bytes);
        written.put(key, rep);
        return rep;
    }
}
