package pantry.exchange.gltf;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.exchange.format.Imported;

/** Puts small glTF files together, whose numbers stand in one buffer. */
final class TinyGltf {
    static final int FLOAT = 5126;
    static final int UNSIGNED_SHORT = 5123;
    static final int UNSIGNED_BYTE = 5121;
    static final int BYTE = 5120;

    private final ByteBuffer buffer = ByteBuffer.allocate(8192).order(ByteOrder.LITTLE_ENDIAN);
    private final List<String> views = new ArrayList<>();
    private final List<String> accessors = new ArrayList<>();
    private String more = "";
    private String nodes = "{\"mesh\": 0}";
    private String primitive = "";

    /** A square in the plane z = 0 from (0, 0) to (1, 1), of two triangles, without anything else. */
    static TinyGltf square() {
        TinyGltf gltf = new TinyGltf();
        gltf.accessor("VEC3", FLOAT, 4, false, 0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0);
        gltf.accessor("SCALAR", UNSIGNED_SHORT, 6, false, 0, 1, 2, 0, 2, 3);
        return gltf.primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": 1");
    }

    /** Adds an accessor with a view of its own; tells its number. */
    int accessor(String type, int component, int count, boolean normalised, double... numbers) {
        int view = view(component, numbers);
        return raw(("{\"bufferView\": %d, \"componentType\": %d, \"count\": %d, \"type\": \"%s\", \"normalized\": %s}")
                .formatted(view, component, count, type, normalised));
    }

    int raw(String accessor) {
        accessors.add(accessor);
        return accessors.size() - 1;
    }

    int view(int component, double... numbers) {
        while (buffer.position() % 4 != 0) {
            buffer.put((byte) 0);
        }
        int start = buffer.position();
        for (double number : numbers) {
            switch (component) {
                case FLOAT -> buffer.putFloat((float) number);
                case UNSIGNED_SHORT -> buffer.putShort((short) number);
                default -> buffer.put((byte) number);
            }
        }
        return view(start, buffer.position() - start, "");
    }

    int view(byte[] bytes, String extra) {
        while (buffer.position() % 4 != 0) {
            buffer.put((byte) 0);
        }
        int start = buffer.position();
        buffer.put(bytes);
        return view(start, bytes.length, extra);
    }

    int view(int start, int length, String extra) {
        views.add("{\"buffer\": 0, \"byteOffset\": %d, \"byteLength\": %d%s}"
                .formatted(start, length, extra.isEmpty() ? "" : ", " + extra));
        return views.size() - 1;
    }

    TinyGltf primitive(String json) {
        primitive = json;
        return this;
    }

    TinyGltf nodes(String json) {
        nodes = json;
        return this;
    }

    /** Further members of the root. */
    TinyGltf with(String json) {
        more += ", " + json;
        return this;
    }

    String json() {
        byte[] used = new byte[buffer.position()];
        buffer.get(0, used);
        String data = Base64.getEncoder().encodeToString(used);
        return ("{\"asset\": {\"version\": \"2.0\"}, \"scene\": 0, \"scenes\": [{\"nodes\": [0]}], \"nodes\": [%s],"
                        + " \"meshes\": [{\"primitives\": [{%s}]}], \"accessors\": [%s], \"bufferViews\": [%s],"
                        + " \"buffers\": [{\"byteLength\": %d, \"uri\": \"data:application/octet-stream;base64,%s\"}]%s}")
                .formatted(
                        nodes,
                        primitive,
                        String.join(", ", accessors),
                        String.join(", ", views),
                        used.length,
                        data,
                        more);
    }

    Imported read(Path folder) throws IOException {
        Path file = Files.writeString(folder.resolve("tiny.gltf"), json());
        Path images = Files.createDirectories(folder.resolve("images"));
        Optional<Imported> read = GltfReader.read(file, FileGate.OPEN, images, Progress.NONE);
        return read.orElseThrow();
    }
}
