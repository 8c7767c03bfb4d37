package pantry.exchange.gltf;

import de.javagl.jgltf.impl.v2.Mesh;
import de.javagl.jgltf.impl.v2.MeshPrimitive;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.exchange.format.ExportNotes;
import pantry.mesh.TriangleMesh;
import pantry.model.Model;
import pantry.motion.BlendShapes;
import pantry.motion.Motion;

/** Writes shapes as glTF has them: morph targets of primitives, and animations of their weights. */
final class GltfShapeWriter {
    private final GltfBuffer buffer;
    private final ExportNotes notes;

    /** Of each node that shows a mesh with shapes, their names in its order. */
    private final Map<Integer, List<String>> shown = new LinkedHashMap<>();

    GltfShapeWriter(GltfBuffer buffer, ExportNotes notes) {
        this.buffer = buffer;
        this.notes = notes;
    }

    /** The shapes of what makes one mesh: each of its primitives has all of them. */
    static List<String> names(List<Model.Part> parts) {
        return parts.stream()
                .flatMap(part -> BlendShapes.of(part.mesh()).keySet().stream())
                .distinct()
                .toList();
    }

    /** Adds the shapes to a primitive; those that it does not have move nothing of it. */
    void addTo(MeshPrimitive primitive, TriangleMesh flat, List<String> names) {
        Map<String, BlendShapes.Shape> shapes = BlendShapes.of(flat.more());
        boolean normals = shapes.values().stream().anyMatch(shape -> shape.normals() != null);
        for (String name : names) {
            BlendShapes.Shape shape = shapes.get(name);
            float[] none = new float[flat.positions().length];
            Map<String, Integer> target = new LinkedHashMap<>();
            target.put("POSITION", buffer.floats(shape == null ? none : shape.offsets(), 3, true));
            if (normals) {
                float[] turned = shape == null ? null : shape.normals();
                target.put("NORMAL", buffer.floats(turned == null ? none : turned, 3, false));
            }
            primitive.addTargets(target);
            if (shape != null && !shape.between().isEmpty()) {
                notes.left("shape " + name + ": its offsets at other weights than 1 have no place in glTF");
            }
        }
    }

    /** Tells the names of a mesh's shapes, as programs look for them, and that none of them is reached. */
    void addTo(Mesh mesh, List<String> names) {
        mesh.setExtras(Map.of("targetNames", names));
        mesh.setWeights(Collections.nCopies(names.size(), 0f));
    }

    /** Takes a node that shows a mesh with shapes. */
    void shown(int node, List<String> names) {
        if (!names.isEmpty()) {
            shown.put(node, names);
        }
    }

    /**
     * Adds what a motion does with shapes.
     *
     * @param input the accessor of its times
     */
    void animate(GltfChannels into, Motion motion, int input) {
        shown.forEach((node, names) -> {
            if (!Collections.disjoint(names, motion.shapes())) {
                into.add(node, "weights", input, buffer.data(weights(motion, names), 1, false));
            }
        });
    }

    private static float[] weights(Motion motion, List<String> names) {
        int keys = motion.times().length;
        float[] weights = new float[keys * names.size()];
        for (int key = 0; key < keys; key++) {
            float[] all = motion.weights(key);
            for (int i = 0; i < names.size(); i++) {
                int at = motion.shapes().indexOf(names.get(i));
                weights[key * names.size() + i] = at < 0 ? 0 : all[at];
            }
        }
        return weights;
    }
}
