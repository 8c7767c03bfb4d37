package pantry.usd.binary;

import java.lang.foreign.MemorySegment;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import pantry.usd.LayerOffset;
import pantry.usd.LazyValue;
import pantry.usd.ListEdit;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.TimeSamples;
import pantry.usd.Value;
import pantry.usd.ValueType;

/** Reads values from where their fields say. */
final class FieldReader {
    /** Arrays shorter than this are never packed. */
    static final int SHORTEST_PACKED = 16;

    /** Deeper nesting of values than any honest file has. */
    private static final int DEEPEST = 64;

    static final List<ListEdit.Operation> EDIT_ORDER = List.of(
            ListEdit.Operation.EXPLICIT,
            ListEdit.Operation.ADD,
            ListEdit.Operation.PREPEND,
            ListEdit.Operation.APPEND,
            ListEdit.Operation.DELETE,
            ListEdit.Operation.REORDER);

    /** The bit of each operation of {@link #EDIT_ORDER} in a list edit's first byte. */
    static final int[] EDIT_BITS = {2, 4, 32, 64, 8, 16};

    private final Bytes file;
    private final Tables tables;

    FieldReader(Bytes file, Tables tables) {
        this.file = file;
        this.tables = tables;
    }

    /** The value, at once if it is small, when it is asked for if it is an array. */
    LazyValue lazy(ValueRep rep) {
        boolean large = rep.isArray() && rep.payload() != 0;
        return large ? LazyValue.from(() -> read(rep)) : LazyValue.of(read(rep));
    }

    Value read(ValueRep rep) {
        return read(rep, 0);
    }

    private Value read(ValueRep rep, int depth) {
        if (depth > DEEPEST) {
            throw file.problem("values are nested more than " + DEEPEST + " deep");
        }
        UsdcType type = type(rep);
        if (rep.isArray()) {
            return array(type, rep);
        }
        return rep.isInlined() ? inlined(type, rep) : scalar(type, file.at(rep.payload()), depth);
    }

    UsdcType type(ValueRep rep) {
        return UsdcType.of(rep.typeNumber())
                .orElseThrow(() -> file.problem("values of type " + rep.typeNumber() + " are not known"));
    }

    private Value inlined(UsdcType type, ValueRep rep) {
        int bits = rep.inlinedBits();
        return switch (type) {
            case BOOL -> new Value.Bool(bits != 0);
            case UCHAR -> new Value.Int(bits & 0xff);
            case INT, INT64 -> new Value.Int(bits);
            case UINT, UINT64 -> new Value.Int(bits & 0xffff_ffffL);
            case HALF -> new Value.Real(Float.float16ToFloat((short) bits));
            case FLOAT, DOUBLE, TIMECODE -> new Value.Real(Float.intBitsToFloat(bits));
            case STRING, PATH_EXPRESSION -> new Value.Text(tables.string(bits));
            case TOKEN -> new Value.Token(tables.token(bits));
            case ASSET -> new Value.Asset(tables.token(bits));
            case HALF2 ->
                new Value.Tuple(Float.float16ToFloat((short) bits), Float.float16ToFloat((short) (bits >> 16)));
            case FLOAT2, DOUBLE2, INT2 -> small(bits, 2);
            case HALF3, FLOAT3, DOUBLE3, INT3 -> small(bits, 3);
            case HALF4, FLOAT4, DOUBLE4, INT4 -> small(bits, 4);
            case MATRIX2D -> diagonal(bits, 2);
            case MATRIX3D -> diagonal(bits, 3);
            case MATRIX4D -> diagonal(bits, 4);
            case DICTIONARY -> Value.Dictionary.EMPTY;
            case SPECIFIER, VARIABILITY -> new Value.Int(bits);
            case PERMISSION -> new Value.Token(bits == 0 ? "public" : "private");
            case BLOCK -> new Value.Block();
            case TOKENS, STRINGS -> new Value.Strings(List.of());
            default -> throw file.problem("a value of type " + type + " cannot stand in its field");
        };
    }

    private static Value small(int bits, int width) {
        double[] components = new double[width];
        for (int i = 0; i < width; i++) {
            components[i] = (byte) (bits >> 8 * i);
        }
        return new Value.Tuple(components);
    }

    private static Value diagonal(int bits, int rows) {
        double[] components = new double[rows * rows];
        for (int i = 0; i < rows; i++) {
            components[i * rows + i] = (byte) (bits >> 8 * i);
        }
        return new Value.Tuple(components);
    }

    private Value scalar(UsdcType type, Bytes at, int depth) {
        return switch (type) {
            case BOOL -> new Value.Bool(at.unsignedByte() != 0);
            case UCHAR -> new Value.Int(at.unsignedByte());
            case INT -> new Value.Int(at.integer());
            case UINT -> new Value.Int(at.integer() & 0xffff_ffffL);
            case INT64, UINT64 -> new Value.Int(at.whole());
            case HALF, FLOAT, DOUBLE, TIMECODE -> new Value.Real(component(type, at));
            case STRING, PATH_EXPRESSION -> new Value.Text(tables.string(at.integer()));
            case TOKEN -> new Value.Token(tables.token(at.integer()));
            case ASSET -> new Value.Asset(tables.token(at.integer()));
            case DICTIONARY -> dictionary(at, depth);
            case TOKEN_EDIT -> new Value.TokenEdit(edit(at, 4, () -> tables.token(at.integer())));
            case STRING_EDIT -> new Value.TokenEdit(edit(at, 4, () -> tables.string(at.integer())));
            case PATH_EDIT -> new Value.PathEdit(edit(at, 4, () -> path(at)));
            case REFERENCE_EDIT -> new Value.ReferenceEdit(edit(at, 32, () -> reference(at, depth)));
            case PAYLOAD_EDIT -> new Value.ReferenceEdit(edit(at, 8, () -> payload(at)));
            case PAYLOAD -> new Value.ReferenceEdit(ListEdit.explicit(onePayload(at)));
            case INT_EDIT -> new Value.NumberEdit(edit(at, 4, () -> (long) at.integer()));
            case UINT_EDIT -> new Value.NumberEdit(edit(at, 4, () -> at.integer() & 0xffff_ffffL));
            case INT64_EDIT, UINT64_EDIT -> new Value.NumberEdit(edit(at, 8, at::whole));
            case TOKENS -> new Value.Strings(items(at, 4, () -> tables.token(at.integer())));
            case STRINGS -> new Value.Strings(items(at, 4, () -> tables.string(at.integer())));
            case PATHS -> new Value.PathEdit(ListEdit.explicit(items(at, 4, () -> path(at))));
            case DOUBLES -> {
                int count = at.count(8);
                yield new Value.Doubles(doubles(at, count), 1);
            }
            case SELECTIONS -> {
                Map<String, String> selections = new LinkedHashMap<>();
                int count = at.count(8);
                for (int i = 0; i < count; i++) {
                    selections.put(tables.string(at.integer()), tables.string(at.integer()));
                }
                yield new Value.Selections(selections);
            }
            case RELOCATES -> {
                Map<SdfPath, SdfPath> moves = new LinkedHashMap<>();
                int count = at.count(8);
                for (int i = 0; i < count; i++) {
                    moves.put(path(at), path(at));
                }
                yield new Value.Relocates(moves);
            }
            case VALUE -> nested(at, depth);
            case UNREAD -> unread(nested(at, depth));
            case UNREAD_EDIT -> new Value.UnreadEdit(edit(at, 8, () -> text(nested(at, depth))));
            case BLOCK -> new Value.Block();
            case SPECIFIER, VARIABILITY -> new Value.Int(at.integer());
            case PERMISSION -> new Value.Token(at.integer() == 0 ? "public" : "private");
            case TIME_SAMPLES, OFFSETS -> throw at.problem("a value of type " + type + " where none can be");
            default -> tuple(type, at);
        };
    }

    private Value tuple(UsdcType type, Bytes at) {
        ValueType shape = ValueType.of(type.usdName).orElseThrow();
        double[] components = new double[shape.width()];
        for (int i = 0; i < components.length; i++) {
            components[i] = shape.scalar() == ValueType.Scalar.INT ? at.integer() : component(type, at);
        }
        return new Value.Tuple(type.isQuaternion() ? realFirst(components) : components);
    }

    /** Quaternions are stored x, y, z, w. */
    private static double[] realFirst(double[] stored) {
        return new double[] {stored[3], stored[0], stored[1], stored[2]};
    }

    private static double component(UsdcType type, Bytes at) {
        return switch (scalar(type)) {
            case HALF -> Float.float16ToFloat(at.segment.get(Bytes.SHORT, at.take(2)));
            case FLOAT -> Float.intBitsToFloat(at.integer());
            default -> at.real();
        };
    }

    private static ValueType.Scalar scalar(UsdcType type) {
        return ValueType.of(type.usdName).orElseThrow().scalar();
    }

    private SdfPath path(Bytes at) {
        SdfPath path = tables.path(at.integer());
        if (path == null) {
            throw at.problem("a path is empty where one is needed");
        }
        return path;
    }

    private Reference reference(Bytes at, int depth) {
        String asset = tables.string(at.integer());
        Optional<SdfPath> prim = Optional.ofNullable(tables.path(at.integer()));
        LayerOffset offset = new LayerOffset(at.real(), at.real());
        return new Reference(asset, prim, offset, (Value.Dictionary) dictionary(at, depth));
    }

    private Reference payload(Bytes at) {
        String asset = tables.string(at.integer());
        Optional<SdfPath> prim = Optional.ofNullable(tables.path(at.integer()));
        LayerOffset offset = tables.minorVersion >= 8 ? new LayerOffset(at.real(), at.real()) : LayerOffset.NONE;
        return new Reference(asset, prim, offset);
    }

    /** A single payload, which says "none" with an empty asset and path. */
    private List<Reference> onePayload(Bytes at) {
        Reference payload = payload(at);
        return payload.isInternal() && payload.prim().isEmpty() ? List.of() : List.of(payload);
    }

    private <T> ListEdit<T> edit(Bytes at, long bytesEach, Supplier<T> item) {
        int bits = at.unsignedByte();
        ListEdit<T> edit = (bits & 1) != 0 ? ListEdit.explicit(List.of()) : ListEdit.none();
        for (int i = 0; i < EDIT_BITS.length; i++) {
            if ((bits & EDIT_BITS[i]) != 0) {
                edit = edit.with(EDIT_ORDER.get(i), items(at, bytesEach, item));
            }
        }
        return edit;
    }

    private static <T> List<T> items(Bytes at, long bytesEach, Supplier<T> item) {
        int count = at.count(bytesEach);
        List<T> items = new ArrayList<>(count);
        for (int i = 0; i < count; i++) {
            items.add(item.get());
        }
        return items;
    }

    private Value dictionary(Bytes at, int depth) {
        int count = at.count(12);
        Map<String, Value.Dictionary.Entry> entries = new LinkedHashMap<>();
        for (int i = 0; i < count; i++) {
            String key = tables.string(at.integer());
            ValueRep rep = nestedRep(at);
            String name = type(rep).usdName;
            String typeName = rep.isArray() && !name.endsWith("[]") ? name + "[]" : name;
            entries.put(key, new Value.Dictionary.Entry(typeName, read(rep, depth + 1)));
        }
        return new Value.Dictionary(entries);
    }

    /** A nested value: the distance to its field value, behind which reading goes on. */
    private static ValueRep nestedRep(Bytes at) {
        at.skipDistance();
        return new ValueRep(at.whole());
    }

    private Value nested(Bytes at, int depth) {
        return read(nestedRep(at), depth + 1);
    }

    private static Value unread(Value value) {
        return value instanceof Value.Text(String text) ? new Value.Unread(text) : value;
    }

    private static String text(Value value) {
        return value instanceof Value.Text(String text) ? text : value.toString();
    }

    private Value array(UsdcType type, ValueRep rep) {
        if (rep.payload() == 0) {
            return arrayOf(type, file.at(0), 0, false);
        }
        Bytes at = file.at(rep.payload());
        if (tables.minorVersion < 5) {
            at.take(4);
        }
        long start = at.position();
        long count = tables.minorVersion < 7 ? at.integer() & 0xffff_ffffL : at.whole();
        // Packed numbers take a quarter of a byte before LZ4, which unpacks 255 bytes from one at most.
        long most = (at.size() - at.position()) * (rep.isPacked() ? 1020 : 1);
        if (count < 0 || count > most || count > (Integer.MAX_VALUE - 8) / 16) {
            throw file.at(start).problem("an array of " + Long.toUnsignedString(count) + " elements does not fit");
        }
        return arrayOf(type, at, (int) count, rep.isPacked() && count >= SHORTEST_PACKED);
    }

    private Value arrayOf(UsdcType type, Bytes at, int count, boolean packed) {
        return switch (type) {
            case BOOL -> {
                byte[] stored = at.bytes(count);
                boolean[] flags = new boolean[count];
                for (int i = 0; i < count; i++) {
                    flags[i] = stored[i] != 0;
                }
                yield new Value.Bools(flags);
            }
            case UCHAR -> {
                byte[] stored = at.bytes(count);
                yield new Value.Ints(
                        IntStream.range(0, count).map(i -> stored[i] & 0xff).toArray(), 1);
            }
            case INT -> new Value.Ints(packed ? Packing.integers(at, count) : ints(at, count), 1);
            case UINT -> {
                int[] stored = packed ? Packing.integers(at, count) : ints(at, count);
                long[] numbers = new long[count];
                for (int i = 0; i < count; i++) {
                    numbers[i] = stored[i] & 0xffff_ffffL;
                }
                yield new Value.Longs(numbers);
            }
            case INT64, UINT64 -> new Value.Longs(packed ? Packing.longs(at, count) : longs(at, count));
            case STRING, PATH_EXPRESSION -> texts(at, count, tables::string);
            case TOKEN, ASSET -> texts(at, count, tables::token);
            case INT2, INT3, INT4 -> {
                int width = ValueType.of(type.usdName).orElseThrow().width();
                yield new Value.Ints(ints(at, count * width), width);
            }
            default -> {
                ValueType shape = ValueType.of(type.usdName)
                        .filter(t -> !type.usdName.endsWith("[]"))
                        .orElseThrow(() -> at.problem("there are no arrays of type " + type));
                yield reals(type, shape, at, count, packed);
            }
        };
    }

    private Value reals(UsdcType type, ValueType shape, Bytes at, int count, boolean packed) {
        int width = shape.width();
        if (packed && width == 1) {
            double[] numbers = packedReals(shape.scalar(), at, count);
            if (!shape.isSingle()) {
                return new Value.Doubles(numbers, 1);
            }
            float[] singles = new float[count];
            for (int i = 0; i < count; i++) {
                singles[i] = (float) numbers[i];
            }
            return new Value.Floats(singles, 1);
        }
        if (shape.scalar() == ValueType.Scalar.HALF) {
            float[] numbers = new float[count * width];
            long from = at.take(count * width * 2L);
            for (int i = 0; i < numbers.length; i++) {
                numbers[i] = Float.float16ToFloat(at.segment.get(Bytes.SHORT, from + i * 2L));
            }
            return new Value.Floats(type.isQuaternion() ? realFirst(numbers) : numbers, width);
        }
        if (shape.scalar() == ValueType.Scalar.FLOAT) {
            long from = at.take(count * width * 4L);
            float[] numbers = new float[count * width];
            MemorySegment.copy(at.segment, Bytes.FLOAT, from, numbers, 0, numbers.length);
            return new Value.Floats(type.isQuaternion() ? realFirst(numbers) : numbers, width);
        }
        double[] numbers = doubles(at, count * width);
        if (type.isQuaternion()) {
            for (int i = 0; i < numbers.length; i += 4) {
                double[] one = {numbers[i], numbers[i + 1], numbers[i + 2], numbers[i + 3]};
                System.arraycopy(realFirst(one), 0, numbers, i, 4);
            }
        }
        return new Value.Doubles(numbers, width);
    }

    private static float[] realFirst(float[] stored) {
        for (int i = 0; i < stored.length; i += 4) {
            float w = stored[i + 3];
            System.arraycopy(stored, i, stored, i + 1, 3);
            stored[i] = w;
        }
        return stored;
    }

    /** Packed as whole numbers ('i'), or as numbers of entries in a table of different ones ('t'). */
    private static double[] packedReals(ValueType.Scalar scalar, Bytes at, int count) {
        int code = at.unsignedByte();
        double[] numbers = new double[count];
        if (code == 'i') {
            int[] whole = Packing.integers(at, count);
            for (int i = 0; i < count; i++) {
                numbers[i] = whole[i];
            }
            return numbers;
        }
        if (code != 't') {
            throw at.problem("a packed array of numbers is neither of whole ones nor of a table");
        }
        int size = at.integer();
        int bytesEach = scalar == ValueType.Scalar.HALF ? 2 : scalar == ValueType.Scalar.FLOAT ? 4 : 8;
        if (size < 0 || (long) size * bytesEach > at.size() - at.position()) {
            throw at.problem("a table of " + Integer.toUnsignedString(size) + " numbers does not fit");
        }
        double[] table = new double[size];
        for (int i = 0; i < size; i++) {
            table[i] = switch (bytesEach) {
                case 2 -> Float.float16ToFloat(at.segment.get(Bytes.SHORT, at.take(2)));
                case 4 -> Float.intBitsToFloat(at.integer());
                default -> at.real();
            };
        }
        int[] entries = Packing.integers(at, count);
        for (int i = 0; i < count; i++) {
            if (entries[i] < 0 || entries[i] >= size) {
                throw at.problem("a packed array uses entry " + entries[i] + " of a table of " + size);
            }
            numbers[i] = table[entries[i]];
        }
        return numbers;
    }

    private interface Name {
        String of(int number);
    }

    private static Value texts(Bytes at, int count, Name name) {
        int[] numbers = ints(at, count);
        List<String> items = new ArrayList<>(count);
        for (int number : numbers) {
            items.add(name.of(number));
        }
        return new Value.Strings(items);
    }

    private static int[] ints(Bytes at, int count) {
        long from = at.take(count * 4L);
        int[] numbers = new int[count];
        MemorySegment.copy(at.segment, Bytes.INT, from, numbers, 0, count);
        return numbers;
    }

    private static long[] longs(Bytes at, int count) {
        long from = at.take(count * 8L);
        long[] numbers = new long[count];
        MemorySegment.copy(at.segment, Bytes.LONG, from, numbers, 0, count);
        return numbers;
    }

    private static double[] doubles(Bytes at, int count) {
        long from = at.take(count * 8L);
        double[] numbers = new double[count];
        MemorySegment.copy(at.segment, Bytes.DOUBLE, from, numbers, 0, count);
        return numbers;
    }

    /** Reads time samples: times that several attributes may share, then a field value for each. */
    void timeSamples(ValueRep rep, TimeSamples into) {
        if (type(rep) != UsdcType.TIME_SAMPLES || rep.isInlined() || rep.isArray()) {
            throw file.problem("time samples are of another type");
        }
        Bytes at = file.at(rep.payload());
        Value times = read(nestedRep(at), 1);
        at.skipDistance();
        int count = at.count(8);
        if (!(times instanceof Value.Doubles(double[] codes, int width)) || codes.length != count) {
            throw at.problem("time samples do not have as many times as values");
        }
        for (int i = 0; i < count; i++) {
            into.put(codes[i], lazy(new ValueRep(at.whole())));
        }
    }

    /** Layer offsets, one for each sublayer. */
    List<LayerOffset> offsets(ValueRep rep) {
        if (type(rep) != UsdcType.OFFSETS || rep.isInlined()) {
            throw file.problem("sublayer offsets are of another type");
        }
        Bytes at = file.at(rep.payload());
        return items(at, 16, () -> new LayerOffset(at.real(), at.real()));
    }
}
