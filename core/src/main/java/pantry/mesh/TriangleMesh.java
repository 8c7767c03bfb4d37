package pantry.mesh;

import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A mesh as graphics programs want it: triangles over vertices, each with one position, normal and texture coordinate.
 *
 * @param positions x, y, z per vertex
 * @param normals unit vectors, per vertex
 * @param uvs u, v per vertex, v upwards; null where the mesh has none
 * @param colours red, green, blue per vertex, linear; null where the surface has no colours of its own
 * @param more what else the mesh says per vertex, by its names; see {@link Mesh#primvars()}
 * @param indices three vertices per triangle, counter-clockwise seen from outside
 */
public record TriangleMesh(
        float[] positions,
        float[] normals,
        float @Nullable [] uvs,
        float @Nullable [] colours,
        Map<String, Channel> more,
        int[] indices) {
    public int vertexCount() {
        return positions.length / 3;
    }

    public int triangleCount() {
        return indices.length / 3;
    }

    /** A set of texture coordinates, 0 the first; null where the mesh does not have it. */
    public float @Nullable [] uvs(int set) {
        if (set == 0) {
            return uvs;
        }
        Channel channel = more.get(Mesh.uvSet(set));
        return channel == null || channel.width() != 2 ? null : channel.data();
    }

    /** Triangulates a mesh and splits its points where what it says of them differs between faces. */
    public static TriangleMesh of(Mesh mesh) {
        int[] triangleCorners = Triangulation.corners(mesh);
        List<Channel> channels = new ArrayList<>();
        channels.add(mesh.normals().orElseGet(() -> SmoothNormals.of(mesh, CornerData.cornerFaces(mesh))));
        mesh.uvs().ifPresent(channels::add);
        channels.addAll(mesh.primvars().values());
        VertexSplit split = VertexSplit.of(mesh, channels);
        return assembled(mesh, split.positions(), split.channels(), indices(mesh, triangleCorners, split.corners()));
    }

    /** @param channels the normals, the texture coordinates where there are some, and the others in their order */
    private static TriangleMesh assembled(Mesh mesh, float[] positions, List<Channel> channels, int[] indices) {
        int at = 1;
        float[] uvs = mesh.uvs().isPresent() ? channels.get(at++).data() : null;
        Map<String, Channel> more =
                LinkedHashMap.newLinkedHashMap(mesh.primvars().size());
        for (String name : mesh.primvars().keySet()) {
            more.put(name, channels.get(at++));
        }
        Channel colours = more.remove(Mesh.COLOUR);
        return new TriangleMesh(
                positions,
                channels.getFirst().data(),
                uvs,
                colours == null ? null : colours.data(),
                Collections.unmodifiableMap(more),
                indices);
    }

    /** One normal for each corner: the mesh's own, or what a rounded surface would have. */
    static float[] cornerNormals(Mesh mesh) {
        int[] cornerFace = CornerData.cornerFaces(mesh);
        return CornerData.perCorner(
                mesh.normals().orElseGet(() -> SmoothNormals.of(mesh, cornerFace)), mesh.corners(), cornerFace);
    }

    private static int[] indices(Mesh mesh, int[] triangleCorners, int[] vertexOfCorner) {
        int[] indices = new int[triangleCorners.length];
        for (int t = 0; t < indices.length; t += 3) {
            indices[t] = vertexOfCorner[triangleCorners[t]];
            indices[t + 1] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 2 : 1)]];
            indices[t + 2] = vertexOfCorner[triangleCorners[t + (mesh.leftHanded() ? 1 : 2)]];
        }
        return indices;
    }
}
