package pantry.usd;

import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A value of an attribute or of metadata. Which USD type it has is told by the attribute or dictionary entry that
 * holds it ({@link ValueType}).
 *
 * <p>Arrays are primitive, element by element, {@code width} numbers each; they are shared, not copied, and must not
 * be changed once given to a value.
 */
public sealed interface Value {
    /** The number of elements of an array; 1 for all else. */
    default int elements() {
        return switch (this) {
            case Floats(float[] data, int width) -> data.length / width;
            case Doubles(double[] data, int width) -> data.length / width;
            case Ints(int[] data, int width) -> data.length / width;
            case Longs(long[] data) -> data.length;
            case Bools(boolean[] data) -> data.length;
            case Strings(List<String> items) -> items.size();
            default -> 1;
        };
    }

    record Bool(boolean value) implements Value {}

    /** Any integer type. */
    record Int(long value) implements Value {}

    /** Half, float, double and timecode. */
    record Real(double value) implements Value {}

    record Text(String value) implements Value {}

    record Token(String value) implements Value {}

    /** An asset path as written. */
    record Asset(String path) implements Value {}

    /** A path, as metadata holds it. */
    record PathValue(SdfPath path) implements Value {}

    /** A vector, quaternion (w, x, y, z) or matrix (row by row). */
    record Tuple(double... components) implements Value {
        @Override
        public boolean equals(Object o) {
            return o instanceof Tuple t && Arrays.equals(components, t.components);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(components);
        }

        @Override
        public String toString() {
            return Arrays.toString(components);
        }
    }

    /** Arrays of half and float numbers and vectors of them. */
    record Floats(float[] data, int width) implements Value {
        public Floats {
            checkWidth(data.length, width);
        }

        @Override
        public boolean equals(Object o) {
            return o instanceof Floats f && width == f.width && Arrays.equals(data, f.data);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(data);
        }

        @Override
        public String toString() {
            return "Floats[" + data.length / width + "×" + width + "]";
        }
    }

    /** Arrays of double numbers and vectors or matrices of them. */
    record Doubles(double[] data, int width) implements Value {
        public Doubles {
            checkWidth(data.length, width);
        }

        @Override
        public boolean equals(Object o) {
            return o instanceof Doubles d && width == d.width && Arrays.equals(data, d.data);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(data);
        }

        @Override
        public String toString() {
            return "Doubles[" + data.length / width + "×" + width + "]";
        }
    }

    /** Arrays of int and uchar numbers and vectors of them. */
    record Ints(int[] data, int width) implements Value {
        public Ints {
            checkWidth(data.length, width);
        }

        @Override
        public boolean equals(Object o) {
            return o instanceof Ints i && width == i.width && Arrays.equals(data, i.data);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(data);
        }

        @Override
        public String toString() {
            return "Ints[" + data.length / width + "×" + width + "]";
        }
    }

    /** Arrays of uint, int64 and uint64. */
    record Longs(long[] data) implements Value {
        @Override
        public boolean equals(Object o) {
            return o instanceof Longs l && Arrays.equals(data, l.data);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(data);
        }
    }

    record Bools(boolean[] data) implements Value {
        @Override
        public boolean equals(Object o) {
            return o instanceof Bools b && Arrays.equals(data, b.data);
        }

        @Override
        public int hashCode() {
            return Arrays.hashCode(data);
        }
    }

    /** Arrays of strings, tokens and asset paths. */
    record Strings(List<String> items) implements Value {
        public Strings {
            items = List.copyOf(items);
        }
    }

    /** Named, typed entries, in the order in which they were written. */
    record Dictionary(Map<String, Entry> entries) implements Value {
        public Dictionary {
            entries = Collections.unmodifiableMap(new LinkedHashMap<>(entries));
        }

        public static final Dictionary EMPTY = new Dictionary(Map.of());

        /** One entry: the USD type's name and the value. */
        public record Entry(String type, Value value) {}
    }

    /** A list edit of tokens or strings, such as {@code apiSchemas}. */
    record TokenEdit(ListEdit<String> edit) implements Value {}

    /** A list edit of paths, such as {@code inherits}. */
    record PathEdit(ListEdit<SdfPath> edit) implements Value {}

    /** A list edit of references or payloads. */
    record ReferenceEdit(ListEdit<Reference> edit) implements Value {}

    /** A list edit of whole numbers. */
    record NumberEdit(ListEdit<Long> edit) implements Value {}

    /** A list edit of a field that is not known here, each operation's items kept as they were written. */
    record UnreadEdit(ListEdit<String> edit) implements Value {}

    /** Prims that the layer moves in namespace: from where, to where. */
    record Relocates(Map<SdfPath, SdfPath> moves) implements Value {
        public Relocates {
            moves = Collections.unmodifiableMap(new LinkedHashMap<>(moves));
        }
    }

    /** Variant selections by variant set. */
    record Selections(Map<String, String> bySet) implements Value {
        public Selections {
            bySet = Collections.unmodifiableMap(new LinkedHashMap<>(bySet));
        }
    }

    /** {@code None}: the weaker opinions do not count. */
    record Block() implements Value {}

    /** Something of a type that is not known here, kept as it was written. */
    record Unread(String source) implements Value {}

    private static void checkWidth(int length, int width) {
        if (width <= 0 || length % width != 0) {
            throw new IllegalArgumentException(length + " numbers cannot be elements of " + width + " each");
        }
    }
}
