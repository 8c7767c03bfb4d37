package pantry.exchange.gltf;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.exchange.format.Companions;
import pantry.exchange.format.ExchangeException;
import tools.jackson.databind.JsonNode;

/**
 * A glTF 2.0 file: its JSON, and the bytes of its buffers (Khronos glTF 2.0 Specification, sections 3.6 and 4.4).
 * Nothing is trusted: every place is checked before it is read.
 */
final class GltfDocument {
    private static final int MAGIC = 0x46546C67;
    private static final int JSON_CHUNK = 0x4E4F534A;
    private static final int BINARY_CHUNK = 0x004E4942;
    private static final long MOST_BYTES = Integer.MAX_VALUE - 16L;
    static final String COMPRESSION = "EXT_meshopt_compression";

    private final Path file;
    private final FileGate gate;
    private final JsonNode root;
    private final @Nullable ByteBuffer binary;
    private final Map<Integer, ByteBuffer> buffers = new HashMap<>();
    private final Map<Integer, ByteBuffer> unpackedViews = new HashMap<>();
    private final List<Path> companions = new ArrayList<>();

    private GltfDocument(Path file, FileGate gate, JsonNode root, @Nullable ByteBuffer binary) {
        this.file = file;
        this.gate = gate;
        this.root = root;
        this.binary = binary;
    }

    /**
     * @return empty where it is a container of version 1
     * @throws ExchangeException where the file is no glTF, or damaged
     */
    static Optional<GltfDocument> open(Path file, FileGate gate) {
        ByteBuffer all = read(file);
        boolean old = all.remaining() >= 8 && all.getInt(0) == MAGIC && all.getInt(4) == 1;
        return old ? Optional.empty() : Optional.of(open(file, gate, all));
    }

    private static GltfDocument open(Path file, FileGate gate, ByteBuffer all) {
        if (all.remaining() < 4 || all.getInt(0) != MAGIC) {
            return new GltfDocument(file, gate, json(file, all), null);
        }
        if (all.remaining() < 20) {
            throw new ExchangeException(file, "is cut off: a GLB header has 20 bytes, the file " + all.remaining());
        }
        long length = Integer.toUnsignedLong(all.getInt(8));
        if (length > all.remaining()) {
            throw new ExchangeException(
                    file, "is cut off: its header says " + length + " bytes, the file has " + all.remaining());
        }
        ByteBuffer text = null;
        ByteBuffer binary = null;
        int at = 12;
        while (at + 8 <= length) {
            long size = Integer.toUnsignedLong(all.getInt(at));
            int type = all.getInt(at + 4);
            if (at + 8 + size > length) {
                throw new ExchangeException(file, "byte " + at, "a chunk of " + size + " bytes leads beyond the end");
            }
            ByteBuffer chunk = all.slice(at + 8, (int) size).order(ByteOrder.LITTLE_ENDIAN);
            if (type == JSON_CHUNK && text == null) {
                text = chunk;
            } else if (type == BINARY_CHUNK && binary == null) {
                binary = chunk;
            }
            at += 8 + (int) size;
        }
        if (text == null) {
            throw new ExchangeException(file, "is damaged: it has no JSON chunk");
        }
        return new GltfDocument(file, gate, json(file, text), binary);
    }

    private static ByteBuffer read(Path file) {
        try {
            if (Files.size(file) > MOST_BYTES) {
                throw new ExchangeException(file, "is larger than the 2 GiB that can be read of one buffer");
            }
            return ByteBuffer.wrap(Files.readAllBytes(file)).order(ByteOrder.LITTLE_ENDIAN);
        } catch (IOException e) {
            throw new ExchangeException(file, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    private static JsonNode json(Path file, ByteBuffer bytes) {
        String text = StandardCharsets.UTF_8.decode(bytes.duplicate()).toString();
        JsonNode root =
                Json.read(text.startsWith("\uFEFF") ? text.substring(1) : text, file.toString(), JsonNode.class);
        if (!root.isObject() || !root.has("asset")) {
            throw new ExchangeException(file, "is not glTF: its JSON has no \"asset\"");
        }
        return root;
    }

    Path file() {
        return file;
    }

    /** What other files this one may name. */
    FileGate gate() {
        return gate;
    }

    private String missing(String uri) {
        return gate.refusals().stream()
                .filter(refusal -> refusal.written().equals(uri))
                .map(FileGate.Refusal::line)
                .findFirst()
                .orElse("the file \"" + uri + "\" is not found");
    }

    /** The version that the file says it has. */
    String version() {
        return root.path("asset").path("version").asString("");
    }

    JsonNode root() {
        return root;
    }

    /** The other files that buffers were read from. */
    List<Path> companions() {
        return List.copyOf(companions);
    }

    /** An element of one of the root's arrays. */
    JsonNode element(String array, int index) {
        JsonNode element = root.path(array).path(index);
        if (index < 0 || !element.isObject()) {
            throw wrong(array + "[" + index + "]", "there is no such element");
        }
        return element;
    }

    ExchangeException wrong(String place, String message) {
        return new ExchangeException(file, place, message);
    }

    /** The bytes of a buffer view, unpacked. */
    ByteBuffer view(int index) {
        JsonNode view = element("bufferViews", index);
        JsonNode packed = view.path("extensions").path(COMPRESSION);
        if (packed.isObject()) {
            return unpackedViews.computeIfAbsent(index, i -> unpacked(packed, i));
        }
        return range(view, "bufferViews[" + index + "]");
    }

    private ByteBuffer range(JsonNode view, String place) {
        ByteBuffer buffer = buffer(view.path("buffer").asInt(-1));
        long offset = view.path("byteOffset").asLong(0);
        long length = view.path("byteLength").asLong(-1);
        if (offset < 0 || length < 0 || offset + length > buffer.capacity()) {
            throw wrong(
                    place,
                    "bytes " + offset + " to " + (offset + length) + " lie outside a buffer of " + buffer.capacity());
        }
        return buffer.slice((int) offset, (int) length).order(ByteOrder.LITTLE_ENDIAN);
    }

    private ByteBuffer unpacked(JsonNode packed, int index) {
        String place = "bufferViews[" + index + "]";
        try {
            return MeshoptDecoder.decode(
                    range(packed, place),
                    packed.path("count").asInt(-1),
                    packed.path("byteStride").asInt(-1),
                    packed.path("mode").asString(""),
                    packed.path("filter").asString("NONE"));
        } catch (IllegalArgumentException e) {
            throw wrong(place, "cannot be unpacked: " + e.getMessage());
        }
    }

    private ByteBuffer buffer(int index) {
        ByteBuffer known = buffers.get(index);
        if (known != null) {
            return known;
        }
        JsonNode buffer = element("buffers", index);
        String place = "buffers[" + index + "]";
        String uri = buffer.path("uri").asString("");
        ByteBuffer bytes;
        if (uri.isEmpty()) {
            if (binary == null || index != 0) {
                throw wrong(place, "has neither a URI nor a binary chunk");
            }
            bytes = binary;
        } else {
            bytes = resource(uri, place);
        }
        long length = buffer.path("byteLength").asLong(0);
        if (length > bytes.capacity()) {
            throw wrong(place, "is said to have " + length + " bytes, but only " + bytes.capacity() + " are there");
        }
        buffers.put(index, bytes);
        return bytes;
    }

    private ByteBuffer resource(String uri, String place) {
        Optional<byte[]> embedded = embedded(uri, place);
        if (embedded.isPresent()) {
            return ByteBuffer.wrap(embedded.get()).order(ByteOrder.LITTLE_ENDIAN);
        }
        Path found = Companions.find(file, uri, gate).orElseThrow(() -> wrong(place, missing(uri)));
        companions.add(found);
        return read(found);
    }

    /** The bytes of a {@code data:} URI; empty for others. */
    Optional<byte[]> embedded(String uri, String place) {
        if (!uri.startsWith("data:")) {
            return Optional.empty();
        }
        int comma = uri.indexOf(',');
        if (comma < 0 || !uri.substring(0, comma).endsWith(";base64")) {
            throw wrong(place, "its data URI is not base64");
        }
        try {
            return Optional.of(Base64.getMimeDecoder().decode(uri.substring(comma + 1)));
        } catch (IllegalArgumentException e) {
            throw wrong(place, "its data URI is damaged: " + e.getMessage());
        }
    }
}
