package pantry.usd.text;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.ValueType;

/** Reads values: typed ones by their type, metadata by what they look like. */
final class ValueReader {
    /** Deeper nesting of dictionaries than any honest file has. */
    private static final int DEEPEST = 128;

    private final CharacterSource source;
    private int depth;

    ValueReader(CharacterSource source) {
        this.source = source;
    }

    /** A value of the named type; {@code None} is a block; a type that is not known is kept as written. */
    Value typed(String typeName) {
        if (source.peek() == 'N') {
            int start = source.position();
            if (source.word().equals("None")) {
                return new Value.Block();
            }
            source.back(start);
        }
        if (typeName.equals("dictionary")) {
            return dictionary();
        }
        Optional<ValueType> type = ValueType.of(typeName);
        if (type.isEmpty()) {
            return new Value.Unread(source.raw());
        }
        return type.get().array() ? array(type.get()) : scalar(type.get());
    }

    private Value scalar(ValueType type) {
        if (type.width() > 1) {
            double[] components = new double[type.width()];
            int rows = Math.max(1, type.rows());
            if (type.rows() > 0) {
                source.expect('(', "before a matrix");
            }
            int perRow = type.width() / rows;
            for (int row = 0; row < rows; row++) {
                if (row > 0) {
                    source.expect(',', "between the rows of a matrix");
                }
                source.expect('(', "before the " + perRow + " numbers of a " + type.name());
                for (int i = 0; i < perRow; i++) {
                    if (i > 0) {
                        source.expect(',', "between the numbers of a " + type.name());
                    }
                    components[row * perRow + i] = type.isSingle() ? single(type) : source.number();
                }
                source.take(',');
                source.expect(')', "after the " + perRow + " numbers of a " + type.name());
            }
            if (type.rows() > 0) {
                source.take(',');
                source.expect(')', "after a matrix");
            }
            return new Value.Tuple(components);
        }
        return switch (type.scalar()) {
            case BOOL -> new Value.Bool(bool());
            case UCHAR, INT, UINT, INT64, UINT64 -> new Value.Int(integer(type));
            case HALF, FLOAT -> new Value.Real(single(type));
            case DOUBLE, TIMECODE -> new Value.Real(source.number());
            case STRING -> new Value.Text(source.quoted());
            case TOKEN -> new Value.Token(source.quoted());
            case ASSET -> new Value.Asset(assetPath());
        };
    }

    private long integer(ValueType type) {
        return switch (type.scalar()) {
            case UCHAR -> source.integer(0, 255);
            case INT -> source.integer(Integer.MIN_VALUE, Integer.MAX_VALUE);
            case UINT -> source.integer(0, 0xffff_ffffL);
            case UINT64 -> source.integer(0, -1);
            default -> source.integer(Long.MIN_VALUE, Long.MAX_VALUE);
        };
    }

    private float single(ValueType type) {
        float number = source.single();
        return type.scalar() == ValueType.Scalar.HALF ? Float.float16ToFloat(Float.floatToFloat16(number)) : number;
    }

    private String assetPath() {
        if (source.peek() != '@') {
            throw source.expected("an asset path between @ signs");
        }
        return source.asset();
    }

    boolean bool() {
        int start = source.position();
        String word = source.word();
        switch (word) {
            case "true", "1" -> {
                return true;
            }
            case "false", "0" -> {
                return false;
            }
            default -> {
                source.back(start);
                throw source.expected("true or false");
            }
        }
    }

    private Value array(ValueType type) {
        source.expect('[', "before the elements of a " + type.name());
        if (type.isText()) {
            List<String> items = new ArrayList<>();
            while (source.peek() != ']') {
                items.add(type.scalar() == ValueType.Scalar.ASSET ? assetPath() : source.quoted());
                if (!source.take(',')) {
                    break;
                }
            }
            closeArray(type);
            return new Value.Strings(items);
        }
        return switch (type.scalar()) {
            case BOOL -> bools(type);
            case UCHAR, INT -> ints(type);
            case UINT, INT64, UINT64 -> longs(type);
            case HALF, FLOAT -> floats(type);
            case DOUBLE, TIMECODE -> doubles(type);
            case STRING, TOKEN, ASSET -> throw new AssertionError("read above");
        };
    }

    private void closeArray(ValueType type) {
        source.expect(']', "after the elements of a " + type.name());
    }

    private Value floats(ValueType type) {
        int width = type.width();
        float[] data = new float[16 * width];
        int count = 0;
        while (source.peek() != ']') {
            if (count + width > data.length) {
                data = Arrays.copyOf(data, data.length * 2);
            }
            if (width == 1) {
                data[count++] = single(type);
            } else {
                source.expect('(', "before an element of a " + type.name());
                for (int i = 0; i < width; i++) {
                    if (i > 0) {
                        source.expect(',', "between the " + width + " numbers of an element");
                    }
                    data[count++] = single(type);
                }
                source.expect(')', "after the " + width + " numbers of an element");
            }
            if (!source.take(',')) {
                break;
            }
        }
        closeArray(type);
        return new Value.Floats(Arrays.copyOf(data, count), width);
    }

    private Value doubles(ValueType type) {
        int width = type.width();
        double[] data = new double[16 * width];
        int count = 0;
        while (source.peek() != ']') {
            if (count + width > data.length) {
                data = Arrays.copyOf(data, data.length * 2);
            }
            Value element = scalar(new ValueType(type.name(), type.scalar(), width, type.rows(), false));
            if (element instanceof Value.Tuple tuple) {
                System.arraycopy(tuple.components(), 0, data, count, width);
            } else if (element instanceof Value.Real real) {
                data[count] = real.value();
            }
            count += width;
            if (!source.take(',')) {
                break;
            }
        }
        closeArray(type);
        return new Value.Doubles(Arrays.copyOf(data, count), width);
    }

    private Value ints(ValueType type) {
        int width = type.width();
        int[] data = new int[16 * width];
        int count = 0;
        while (source.peek() != ']') {
            if (count + width > data.length) {
                data = Arrays.copyOf(data, data.length * 2);
            }
            if (width > 1) {
                source.expect('(', "before an element of a " + type.name());
            }
            for (int i = 0; i < width; i++) {
                if (i > 0) {
                    source.expect(',', "between the " + width + " numbers of an element");
                }
                data[count++] = (int) integer(type);
            }
            if (width > 1) {
                source.expect(')', "after the " + width + " numbers of an element");
            }
            if (!source.take(',')) {
                break;
            }
        }
        closeArray(type);
        return new Value.Ints(Arrays.copyOf(data, count), width);
    }

    private Value longs(ValueType type) {
        long[] data = new long[16];
        int count = 0;
        while (source.peek() != ']') {
            if (count == data.length) {
                data = Arrays.copyOf(data, count * 2);
            }
            data[count++] = integer(type);
            if (!source.take(',')) {
                break;
            }
        }
        closeArray(type);
        return new Value.Longs(Arrays.copyOf(data, count));
    }

    private Value bools(ValueType type) {
        boolean[] data = new boolean[16];
        int count = 0;
        while (source.peek() != ']') {
            if (count == data.length) {
                data = Arrays.copyOf(data, count * 2);
            }
            data[count++] = bool();
            if (!source.take(',')) {
                break;
            }
        }
        closeArray(type);
        return new Value.Bools(Arrays.copyOf(data, count));
    }

    /** {@code { type name = value … }}. */
    Value.Dictionary dictionary() {
        if (++depth > DEEPEST) {
            throw source.problem("dictionaries are nested more than " + DEEPEST + " deep");
        }
        source.expect('{', "before the entries of a dictionary");
        Map<String, Value.Dictionary.Entry> entries = new LinkedHashMap<>();
        while (source.peek() != '}') {
            String type = source.word();
            if (type.isEmpty()) {
                throw source.expected("the type of a dictionary entry");
            }
            if (source.here() == '[') {
                source.expect('[', "after the type");
                source.expect(']', "after [");
                type += "[]";
            }
            String name = source.peek() == '"' || source.peek() == '\'' ? source.quoted() : source.word();
            source.expect('=', "after the name of a dictionary entry");
            entries.put(name, new Value.Dictionary.Entry(type, typed(type)));
            source.take(',');
        }
        source.expect('}', "after the entries of a dictionary");
        depth--;
        return new Value.Dictionary(entries);
    }

    /** A path between angle brackets. */
    SdfPath path(SdfPath anchor) {
        int start = source.position();
        String text = source.bracketed();
        try {
            return SdfPath.resolve(text, anchor);
        } catch (UsdException e) {
            source.back(start);
            throw source.problem(String.valueOf(e.getMessage()));
        }
    }

    /** A metadata value whose type is told by its look. */
    Value untyped(SdfPath anchor) {
        char c = source.peek();
        if (c == '"' || c == '\'') {
            return new Value.Text(source.quoted());
        }
        if (c == '{') {
            int start = source.position();
            try {
                return dictionary();
            } catch (UsdException e) {
                source.back(start);
                depth = 0;
                return new Value.Unread(source.raw());
            }
        }
        if (c == '@') {
            int start = source.position();
            String asset = source.asset();
            if (source.peek() != '<') {
                return new Value.Asset(asset);
            }
            source.back(start);
            return new Value.Unread(source.raw());
        }
        if (c == '<') {
            return new Value.PathValue(path(anchor));
        }
        int start = source.position();
        switch (source.word()) {
            case "true" -> {
                return new Value.Bool(true);
            }
            case "false" -> {
                return new Value.Bool(false);
            }
            case "None" -> {
                return new Value.Block();
            }
            default -> source.back(start);
        }
        if (c == '-' || c == '+' || c == '.' || c >= '0' && c <= '9') {
            String raw = source.raw();
            int end = source.position();
            if (raw.matches("[-+]?\\d+")) {
                BigInteger whole = new BigInteger(raw);
                if (whole.bitLength() < Long.SIZE) {
                    return new Value.Int(whole.longValue());
                }
            }
            source.back(start);
            double number = source.number();
            source.back(end);
            return new Value.Real(number);
        }
        return new Value.Unread(source.raw());
    }
}
