package pantry.exchange.gltf;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;
import tools.jackson.databind.JsonNode;

/** The numbers that a glTF file's accessors find in its buffers (Khronos glTF 2.0 Specification, section 3.6.2). */
final class GltfAccessors {
    private static final int BYTE = 5120;
    private static final int UNSIGNED_BYTE = 5121;
    private static final int SHORT = 5122;
    private static final int UNSIGNED_SHORT = 5123;
    private static final int UNSIGNED_INT = 5125;
    private static final int FLOAT = 5126;

    private final GltfDocument document;

    GltfAccessors(GltfDocument document) {
        this.document = document;
    }

    /** Where an accessor's numbers stand. */
    private record Layout(String place, int count, int components, int type, boolean normalized) {
        int size() {
            return switch (type) {
                case BYTE, UNSIGNED_BYTE -> 1;
                case SHORT, UNSIGNED_SHORT -> 2;
                default -> 4;
            };
        }
    }

    private Layout layout(int index) {
        JsonNode accessor = document.element("accessors", index);
        String place = "accessors[" + index + "]";
        int count = accessor.path("count").asInt(-1);
        int components =
                switch (accessor.path("type").asString("")) {
                    case "SCALAR" -> 1;
                    case "VEC2" -> 2;
                    case "VEC3" -> 3;
                    case "VEC4" -> 4;
                    case "MAT4" -> 16;
                    default -> throw document.wrong(place, "has a type that is no scalar, vector or 4 × 4 matrix");
                };
        int type = accessor.path("componentType").asInt(0);
        if (type < BYTE || type > FLOAT || type == 5124) {
            throw document.wrong(place, "has component type " + type + ", which the standard does not know");
        }
        if (count < 0 || (long) count * components > Integer.MAX_VALUE / 4) {
            throw document.wrong(place, "has " + count + " elements");
        }
        return new Layout(
                place, count, components, type, accessor.path("normalized").asBoolean(false));
    }

    /** How many components an accessor's elements have. */
    int width(int index) {
        return layout(index).components();
    }

    /**
     * An accessor's numbers, element by element; normalised integers as 0 to 1 or -1 to 1.
     *
     * @param width components that are needed; further ones are left out
     */
    float[] floats(int index, int width) {
        Layout layout = layout(index);
        if (layout.components() < width) {
            throw document.wrong(
                    layout.place(), "has " + layout.components() + " components; " + width + " are needed");
        }
        JsonNode accessor = document.element("accessors", index);
        boolean stored = accessor.has("bufferView");
        JsonNode sparse = accessor.path("sparse");
        if (!stored && !sparse.isObject()) {
            return new float[checkedZeros(layout, width)];
        }
        float[] numbers = stored
                ? floats(document.view(accessor.path("bufferView").asInt(-1)), accessor, layout, width)
                : new float[checkedZeros(layout, width)];
        if (sparse.isObject()) {
            int[] places = sparseIndices(sparse, layout);
            JsonNode values = sparse.path("values");
            Layout part = new Layout(
                    layout.place() + ".sparse.values",
                    places.length,
                    layout.components(),
                    layout.type(),
                    layout.normalized());
            float[] replaced = floats(document.view(values.path("bufferView").asInt(-1)), values, part, width);
            for (int i = 0; i < places.length; i++) {
                System.arraycopy(replaced, i * width, numbers, places[i] * width, width);
            }
        }
        return numbers;
    }

    /** Zeros stand nowhere in the file, so nothing but the file's size bounds them. */
    private int checkedZeros(Layout layout, int width) {
        long most = 16L * 1024 * 1024;
        if ((long) layout.count() * width > most) {
            throw document.wrong(layout.place(), "has " + layout.count() + " elements, but no data");
        }
        return layout.count() * width;
    }

    private int[] sparseIndices(JsonNode sparse, Layout layout) {
        JsonNode indices = sparse.path("indices");
        int count = sparse.path("count").asInt(-1);
        if (count < 0 || count > layout.count()) {
            throw document.wrong(
                    layout.place() + ".sparse", "replaces " + count + " of " + layout.count() + " elements");
        }
        Layout part = new Layout(
                layout.place() + ".sparse.indices",
                count,
                1,
                indices.path("componentType").asInt(0),
                false);
        int[] places = ints(document.view(indices.path("bufferView").asInt(-1)), indices, part);
        for (int place : places) {
            if (place < 0 || place >= layout.count()) {
                throw document.wrong(part.place(), "names element " + place + " of " + layout.count());
            }
        }
        return places;
    }

    private int stride(ByteBuffer view, JsonNode at, Layout layout) {
        int packed = layout.size() * layout.components();
        int view0 = at.path("bufferView").asInt(-1);
        JsonNode described = document.element("bufferViews", view0);
        int stride = described.path("extensions").path(GltfDocument.COMPRESSION).isObject()
                ? described
                        .path("extensions")
                        .path(GltfDocument.COMPRESSION)
                        .path("byteStride")
                        .asInt(packed)
                : described.path("byteStride").asInt(packed);
        long offset = at.path("byteOffset").asLong(0);
        long end = layout.count() == 0 ? offset : offset + (long) stride * (layout.count() - 1) + packed;
        if (stride < packed || offset < 0 || end > view.capacity()) {
            throw document.wrong(
                    layout.place(),
                    "needs " + end + " bytes of bufferViews[" + view0 + "], which has " + view.capacity());
        }
        return stride;
    }

    private float[] floats(ByteBuffer view, JsonNode at, Layout layout, int width) {
        int stride = stride(view, at, layout);
        int offset = at.path("byteOffset").asInt(0);
        float[] numbers = new float[layout.count() * width];
        if (layout.type() == FLOAT && layout.components() == width && stride == 4 * width) {
            view.slice(offset, 4 * numbers.length)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .asFloatBuffer()
                    .get(numbers);
            return numbers;
        }
        int size = layout.size();
        int out = 0;
        for (int i = 0; i < layout.count(); i++) {
            int from = offset + i * stride;
            for (int c = 0; c < width; c++) {
                numbers[out++] = number(view, from + c * size, layout);
            }
        }
        return numbers;
    }

    private static float number(ByteBuffer view, int at, Layout layout) {
        return switch (layout.type()) {
            case BYTE -> layout.normalized() ? Math.max(view.get(at) / 127f, -1) : view.get(at);
            case UNSIGNED_BYTE -> layout.normalized() ? (view.get(at) & 0xff) / 255f : view.get(at) & 0xff;
            case SHORT -> layout.normalized() ? Math.max(view.getShort(at) / 32_767f, -1) : view.getShort(at);
            case UNSIGNED_SHORT ->
                layout.normalized() ? (view.getShort(at) & 0xffff) / 65_535f : view.getShort(at) & 0xffff;
            case UNSIGNED_INT -> Integer.toUnsignedLong(view.getInt(at));
            default -> view.getFloat(at);
        };
    }

    /** An accessor's whole numbers. */
    int[] ints(int index) {
        Layout layout = layout(index);
        JsonNode accessor = document.element("accessors", index);
        if (layout.components() != 1 || !accessor.has("bufferView")) {
            throw document.wrong(layout.place(), "is no list of indices");
        }
        return ints(document.view(accessor.path("bufferView").asInt(-1)), accessor, layout);
    }

    private int[] ints(ByteBuffer view, JsonNode at, Layout layout) {
        int stride = stride(view, at, layout);
        int offset = at.path("byteOffset").asInt(0);
        int[] numbers = new int[layout.count()];
        switch (layout.type()) {
            case UNSIGNED_INT -> {
                if (stride == 4) {
                    view.slice(offset, 4 * numbers.length)
                            .order(ByteOrder.LITTLE_ENDIAN)
                            .asIntBuffer()
                            .get(numbers);
                } else {
                    Arrays.setAll(numbers, i -> view.getInt(offset + i * stride));
                }
            }
            case UNSIGNED_SHORT -> Arrays.setAll(numbers, i -> view.getShort(offset + i * stride) & 0xffff);
            case UNSIGNED_BYTE -> Arrays.setAll(numbers, i -> view.get(offset + i * stride) & 0xff);
            default -> throw document.wrong(layout.place(), "indices are of component type " + layout.type());
        }
        return numbers;
    }
}
