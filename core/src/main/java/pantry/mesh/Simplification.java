package pantry.mesh;

import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.meshoptimizer.MeshOptimizer;

/**
 * Makes meshes of fewer triangles that look alike, by meshoptimizer: edges are collapsed in the order of the quadric
 * error that each costs (M. Garland, P. Heckbert, Surface Simplification Using Quadric Error Metrics, SIGGRAPH 1997).
 * Points stay where they were; some are no longer used.
 */
public final class Simplification {
    private static final float NO_LIMIT = 1;

    private Simplification() {}

    /**
     * A mesh of triangles that looks like another.
     *
     * @param error how far the surface has moved, at most, as meshoptimizer estimates it; in the mesh's unit
     */
    public record Result(Mesh mesh, double error) {}

    /**
     * @param share of the triangles to be kept, above 0 up to 1; more are kept where the shape would be lost
     */
    public static Result of(Mesh mesh, double share) {
        return within(mesh, share, Double.POSITIVE_INFINITY);
    }

    /**
     * @param share of the triangles to be kept at least, above 0 up to 1
     * @param distance how far the surface may move, in the mesh's unit; more triangles are kept for its sake
     * @throws IllegalArgumentException where the share is not above 0 and at most 1
     */
    public static Result within(Mesh mesh, double share, double distance) {
        if (!(share > 0) || share > 1) {
            throw new IllegalArgumentException("a share of triangles is above 0 and at most 1, not " + share);
        }
        TriangleMesh flat = TriangleMesh.of(mesh);
        int[] indices = flat.indices();
        int target = (int) Math.ceil(indices.length / 3 * share) * 3;
        if (share == 1 || indices.length < 3) {
            return new Result(mesh, 0);
        }
        IntBuffer in = MemoryUtil.memAllocInt(indices.length);
        IntBuffer out = MemoryUtil.memAllocInt(indices.length);
        FloatBuffer positions = MemoryUtil.memAllocFloat(flat.positions().length);
        FloatBuffer error = MemoryUtil.memAllocFloat(1);
        try {
            in.put(indices).flip();
            positions.put(flat.positions()).flip();
            double scale = MeshOptimizer.meshopt_simplifyScale(positions, flat.vertexCount(), 12);
            float limit = (float) Math.min(NO_LIMIT, distance / scale);
            long kept =
                    MeshOptimizer.meshopt_simplify(out, in, positions, flat.vertexCount(), 12, target, limit, 0, error);
            if (kept == 0) {
                return new Result(mesh, 0);
            }
            int[] reduced = new int[(int) kept];
            out.get(0, reduced);
            return new Result(compact(flat, reduced).withDoubleSided(mesh.doubleSided()), error.get(0) * scale);
        } finally {
            MemoryUtil.memFree(in);
            MemoryUtil.memFree(out);
            MemoryUtil.memFree(positions);
            MemoryUtil.memFree(error);
        }
    }

    /**
     * Fewer triangles over the same vertices, for drawing from afar.
     *
     * @param indices of the triangles, into the vertices
     * @param error how far the surface has moved, at most, as meshoptimizer estimates it; in the mesh's unit
     */
    public record Reduced(int[] indices, double error) {}

    /**
     * Leaves few triangles of a mesh, also where its shape is lost by that.
     *
     * @param triangles about how many; where the topology does not allow so few, it is given up
     */
    public static Reduced coarse(TriangleMesh mesh, int triangles) {
        int[] all = mesh.indices();
        IntBuffer in = MemoryUtil.memAllocInt(all.length);
        IntBuffer out = MemoryUtil.memAllocInt(all.length);
        FloatBuffer positions = MemoryUtil.memAllocFloat(mesh.positions().length);
        FloatBuffer error = MemoryUtil.memAllocFloat(1);
        try {
            in.put(all).flip();
            positions.put(mesh.positions()).flip();
            int vertices = mesh.vertexCount();
            long kept = MeshOptimizer.meshopt_simplify(
                    out, in, positions, vertices, 12, 3L * triangles, NO_LIMIT, 0, error);
            if (kept == 0 || kept > 4.5 * triangles) {
                kept = MeshOptimizer.meshopt_simplifySloppy(
                        out, in, positions, vertices, 12, null, 3L * triangles, NO_LIMIT, error);
            }
            int[] reduced = new int[(int) kept];
            out.get(0, reduced);
            return new Reduced(reduced, error.get(0) * MeshOptimizer.meshopt_simplifyScale(positions, vertices, 12));
        } finally {
            MemoryUtil.memFree(in);
            MemoryUtil.memFree(out);
            MemoryUtil.memFree(positions);
            MemoryUtil.memFree(error);
        }
    }

    /**
     * A mesh of at most so many triangles, also where the shape is lost by that: what the topology would keep is joined
     * in a grid of cells.
     *
     * @param triangles at least 4
     * @return empty where nothing is left with so few
     */
    public static Optional<Mesh> atMost(Mesh mesh, int triangles) {
        TriangleMesh flat = TriangleMesh.of(mesh);
        if (flat.triangleCount() <= triangles) {
            return Optional.of(mesh);
        }
        for (int target = triangles; target >= 4; target -= Math.max(1, target / 8)) {
            int[] reduced = coarse(flat, target).indices();
            if (reduced.length > 0 && reduced.length / 3 <= triangles) {
                return Optional.of(compact(flat, reduced).withDoubleSided(mesh.doubleSided()));
            }
        }
        return Optional.empty();
    }

    private static Mesh compact(TriangleMesh flat, int[] indices) {
        int[] number = new int[flat.vertexCount()];
        Arrays.fill(number, -1);
        int[] original = new int[Math.min(number.length, indices.length)];
        int used = 0;
        int[] corners = new int[indices.length];
        for (int i = 0; i < indices.length; i++) {
            if (number[indices[i]] < 0) {
                number[indices[i]] = used;
                original[used++] = indices[i];
            }
            corners[i] = number[indices[i]];
        }
        int[] vertices = Arrays.copyOf(original, used);
        int[] sizes = new int[corners.length / 3];
        Arrays.fill(sizes, 3);
        float[] uvs = flat.uvs();
        float[] colours = flat.colours();
        Map<String, Channel> more = new LinkedHashMap<>();
        flat.more()
                .forEach((name, channel) -> more.put(
                        name,
                        new Channel(
                                CornerData.picked(channel.data(), channel.width(), vertices),
                                channel.width(),
                                Channel.Per.POINT)));
        if (colours != null) {
            more.put(Mesh.COLOUR, new Channel(CornerData.picked(colours, 3, vertices), 3, Channel.Per.POINT));
        }
        return new Mesh(
                        CornerData.picked(flat.positions(), 3, vertices),
                        sizes,
                        corners,
                        new Channel(CornerData.picked(flat.normals(), 3, vertices), 3, Channel.Per.POINT),
                        uvs == null ? null : new Channel(CornerData.picked(uvs, 2, vertices), 2, Channel.Per.POINT))
                .withPrimvars(more);
    }
}
