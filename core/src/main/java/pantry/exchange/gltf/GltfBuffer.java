package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Accessor;
import de.javagl.jgltf.impl.v2.BufferView;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.ArrayList;
import java.util.List;

/** The binary part of a glTF file, with the views and accessors that lead into it. */
final class GltfBuffer {
    private static final int UNSIGNED_SHORT = 5123;
    private static final int UNSIGNED_INT = 5125;
    private static final int FLOAT = 5126;
    private static final int VERTICES = 34962;
    private static final int INDICES = 34963;
    private static final int MOST = Integer.MAX_VALUE - 64;
    private static final List<String> TYPES = List.of("SCALAR", "VEC2", "VEC3", "VEC4");
    private static final int MATRIX = 16;

    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final List<BufferView> views = new ArrayList<>();
    private final List<Accessor> accessors = new ArrayList<>();

    List<BufferView> views() {
        return views;
    }

    List<Accessor> accessors() {
        return accessors;
    }

    byte[] bytes() {
        return bytes.toByteArray();
    }

    /** Adds bytes, such as an image's; the number of their view. */
    int view(byte[] content) {
        return view(content, 0);
    }

    private int view(byte[] content, int target) {
        if ((long) bytes.size() + content.length > MOST) {
            throw new UncheckedIOException(
                    new IOException("has more than 2 GB of numbers and images, which is not written"));
        }
        while (bytes.size() % 4 != 0) {
            bytes.write(0);
        }
        BufferView view = new BufferView();
        view.setBuffer(0);
        view.setByteOffset(bytes.size());
        view.setByteLength(content.length);
        if (target != 0) {
            view.setTarget(target);
        }
        bytes.writeBytes(content);
        views.add(view);
        return views.size() - 1;
    }

    /**
     * Adds numbers for each vertex.
     *
     * @param width of an element
     * @param bounded whether the least and greatest are told, which positions need
     * @return the accessor's number
     */
    int floats(float[] numbers, int width, boolean bounded) {
        return floats(numbers, width, bounded, VERTICES);
    }

    /**
     * Adds numbers that belong to no vertex: times, values over time, matrices of 16.
     *
     * @param bounded whether the least and greatest are told, which times need
     */
    int data(float[] numbers, int width, boolean bounded) {
        return floats(numbers, width, bounded, 0);
    }

    /** Adds whole numbers for each vertex, from 0 to 65535; the accessor's number. */
    int shorts(short[] numbers, int width) {
        ByteBuffer content = ByteBuffer.allocate(2 * numbers.length).order(ByteOrder.LITTLE_ENDIAN);
        content.asShortBuffer().put(numbers);
        accessor(view(content.array(), VERTICES), UNSIGNED_SHORT, numbers.length / width, width);
        return accessors.size() - 1;
    }

    private int floats(float[] numbers, int width, boolean bounded, int target) {
        ByteBuffer content = ByteBuffer.allocate(4 * numbers.length).order(ByteOrder.LITTLE_ENDIAN);
        content.asFloatBuffer().put(numbers);
        Accessor accessor = accessor(view(content.array(), target), FLOAT, numbers.length / width, width);
        if (bounded) {
            Number[] low = new Number[width];
            Number[] high = new Number[width];
            for (int c = 0; c < width; c++) {
                float least = Float.POSITIVE_INFINITY;
                float most = Float.NEGATIVE_INFINITY;
                for (int i = c; i < numbers.length; i += width) {
                    least = Math.min(least, numbers[i]);
                    most = Math.max(most, numbers[i]);
                }
                low[c] = least;
                high[c] = most;
            }
            accessor.setMin(low);
            accessor.setMax(high);
        }
        return accessors.size() - 1;
    }

    /** Adds the vertices of triangles; the accessor's number. */
    int indices(int[] indices, int vertices) {
        // The greatest number is kept free: it begins a new strip in some modes.
        boolean small = vertices < 0xffff;
        ByteBuffer content =
                ByteBuffer.allocate(indices.length * (small ? 2 : 4)).order(ByteOrder.LITTLE_ENDIAN);
        for (int index : indices) {
            if (small) {
                content.putShort((short) index);
            } else {
                content.putInt(index);
            }
        }
        accessor(view(content.array(), INDICES), small ? UNSIGNED_SHORT : UNSIGNED_INT, indices.length, 1);
        return accessors.size() - 1;
    }

    private Accessor accessor(int view, int type, int count, int width) {
        Accessor accessor = new Accessor();
        accessor.setBufferView(view);
        accessor.setByteOffset(0);
        accessor.setComponentType(type);
        accessor.setCount(count);
        accessor.setType(width == MATRIX ? "MAT4" : TYPES.get(width - 1));
        accessors.add(accessor);
        return accessor;
    }
}
