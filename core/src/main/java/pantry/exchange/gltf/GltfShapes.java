package pantry.exchange.gltf;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.mesh.Mesh;
import pantry.motion.BlendShapes;
import tools.jackson.databind.JsonNode;

/**
 * Reads the morph targets of a glTF file: glTF 2.0, 3.7.2.2. Shapes that are to have weights of their own have names of their
 * own, so a mesh that several nodes show has others for each of them.
 */
final class GltfShapes {
    private static final int MOST = 1000;

    private final GltfDocument document;
    private final GltfAccessors accessors;

    /** Of each mesh, its shapes' names. */
    private final Map<Integer, List<String>> byMesh = new HashMap<>();

    /** Of each node that shows a mesh with shapes, their names there. */
    private final Map<Integer, List<String>> byNode = new HashMap<>();

    private long numbers;

    GltfShapes(GltfDocument document, GltfAccessors accessors) {
        this.document = document;
        this.accessors = accessors;
        Set<String> taken = new HashSet<>();
        Set<Integer> shown = new HashSet<>();
        JsonNode nodes = document.root().path("nodes");
        for (int node = 0; node < nodes.size(); node++) {
            int mesh = nodes.path(node).path("mesh").asInt(-1);
            int count = count(mesh);
            if (count == 0) {
                continue;
            }
            boolean first = shown.add(mesh);
            List<String> names = new ArrayList<>();
            JsonNode json = document.root().path("meshes").path(mesh);
            for (int i = 0; i < count; i++) {
                String told = json.path("extras").path("targetNames").path(i).asString("");
                String plain = told.isBlank() ? "Shape " + (i + 1) : told;
                String name = Names.free(plain, taken::contains);
                taken.add(name);
                names.add(name);
            }
            byNode.put(node, names);
            if (first) {
                byMesh.put(mesh, names);
            }
        }
    }

    private int count(int mesh) {
        JsonNode primitives = document.root().path("meshes").path(mesh).path("primitives");
        int count = primitives.path(0).path("targets").size();
        if (count > MOST) {
            throw document.wrong("meshes[" + mesh + "]", "has more than " + MOST + " morph targets");
        }
        for (int i = 1; i < primitives.size(); i++) {
            int other = primitives.path(i).path("targets").size();
            if (other != count) {
                throw document.wrong(
                        "meshes[" + mesh + "].primitives[" + i + "]",
                        "has " + other + " morph targets, and the first one " + count);
            }
        }
        return count;
    }

    /** The names of the shapes that a node shows; none where its mesh has none. */
    List<String> names(int node) {
        return byNode.getOrDefault(node, List.of());
    }

    /** What the weights of a node's shapes are where nothing changes them; all 0 where that is not told. */
    float[] usual(int node) {
        JsonNode json = document.root().path("nodes").path(node);
        JsonNode told = json.has("weights")
                ? json.path("weights")
                : document.root()
                        .path("meshes")
                        .path(json.path("mesh").asInt(-1))
                        .path("weights");
        float[] usual = new float[names(node).size()];
        for (int i = 0; i < usual.length; i++) {
            usual[i] = (float) told.path(i).asDouble(0);
            if (!Float.isFinite(usual[i])) {
                throw document.wrong("nodes[" + node + "]", "weight " + i + " is not a number or infinite");
            }
        }
        return usual;
    }

    /** The surface of a primitive with its shapes. */
    Mesh on(Mesh mesh, JsonNode primitive, int index, String place) {
        List<String> names = byMesh.getOrDefault(index, List.of());
        Map<String, BlendShapes.Shape> shapes = new LinkedHashMap<>();
        for (int i = 0; i < names.size(); i++) {
            JsonNode target = primitive.path("targets").path(i);
            String at = place + ".targets[" + i + "]";
            numbers += mesh.points().length;
            if (numbers > BlendShapes.MOST_NUMBERS) {
                throw document.wrong(
                        at, "the morph targets have more than " + BlendShapes.MOST_NUMBERS + " numbers together");
            }
            float[] offsets = offsets(target, "POSITION", mesh, at);
            float[] normals = offsets(target, "NORMAL", mesh, at);
            shapes.put(
                    names.get(i),
                    new BlendShapes.Shape(
                            offsets == null ? new float[mesh.points().length] : offsets,
                            mesh.normals().isPresent() ? normals : null,
                            Map.of()));
        }
        return BlendShapes.on(mesh, shapes);
    }

    private float @Nullable [] offsets(JsonNode target, String name, Mesh mesh, String place) {
        if (!target.has(name)) {
            return null;
        }
        float[] offsets = accessors.floats(target.path(name).asInt(-1), 3);
        if (offsets.length != mesh.points().length) {
            throw document.wrong(place, "has " + offsets.length / 3 + " offsets for " + mesh.pointCount() + " points");
        }
        for (int i = 0; i < offsets.length; i++) {
            if (!Float.isFinite(offsets[i])) {
                throw document.wrong(place, "offset " + i / 3 + " is not a number or infinite");
            }
        }
        return offsets;
    }

    /** The surface of a mesh as a node shows it: at its usual weights, from which its shapes' weights count. */
    Mesh shown(Mesh mesh, int index, int node) {
        List<String> plain = byMesh.getOrDefault(index, List.of());
        List<String> names = names(node);
        float[] usual = usual(node);
        Map<String, BlendShapes.Shape> shapes = BlendShapes.of(mesh);
        Map<String, BlendShapes.Shape> named = new LinkedHashMap<>();
        for (int i = 0; i < plain.size(); i++) {
            BlendShapes.Shape shape = shapes.get(plain.get(i));
            if (shape != null) {
                named.put(names.get(i), shape);
            }
        }
        Mesh still = BlendShapes.applied(mesh, name -> usual[plain.indexOf(name)]);
        return names.equals(plain) ? still : BlendShapes.on(BlendShapes.without(still), named);
    }
}
