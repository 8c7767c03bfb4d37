package pantry.render;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Mesh;
import pantry.mesh.TriangleMesh;

/** A mesh made ready for drawing: vertices, and clusters of neighbouring triangles that are passed over together. */
final class RenderMesh {
    /** Triangles per cluster: few enough to reject finely, many enough to share their vertices. */
    static final int CLUSTER = 512;

    final float[] positions;
    final float[] normals;
    final float @Nullable [] uvs;
    final float @Nullable [] colours;
    final int[] indices;
    final Cluster[] clusters;

    /**
     * Some triangles in a row.
     *
     * @param vertices the vertices that they use
     * @param local per corner, which of those
     * @param x centre of the ball around them, with y and z
     */
    record Cluster(int firstTriangle, int[] vertices, short[] local, float x, float y, float z, float radius) {}

    private RenderMesh(TriangleMesh mesh) {
        this.positions = mesh.positions();
        this.normals = mesh.normals();
        this.uvs = mesh.uvs();
        this.colours = mesh.colours();
        this.indices = mesh.indices();
        this.clusters = cut();
    }

    static RenderMesh of(Mesh mesh) {
        return new RenderMesh(TriangleMesh.of(mesh));
    }

    int triangleCount() {
        return indices.length / 3;
    }

    private Cluster[] cut() {
        int triangles = triangleCount();
        Cluster[] made = new Cluster[(triangles + CLUSTER - 1) / CLUSTER];
        int[] slot = new int[positions.length / 3];
        Arrays.fill(slot, -1);
        int[] used = new int[3 * CLUSTER];
        for (int c = 0; c < made.length; c++) {
            int first = c * CLUSTER;
            int count = Math.min(CLUSTER, triangles - first);
            short[] local = new short[3 * count];
            int vertices = 0;
            for (int i = 0; i < local.length; i++) {
                int vertex = indices[3 * first + i];
                if (slot[vertex] < 0) {
                    slot[vertex] = vertices;
                    used[vertices++] = vertex;
                }
                local[i] = (short) slot[vertex];
            }
            int[] list = Arrays.copyOf(used, vertices);
            for (int vertex : list) {
                slot[vertex] = -1;
            }
            made[c] = around(first, list, local);
        }
        return made;
    }

    private Cluster around(int first, int[] vertices, short[] local) {
        float[] low = {Float.MAX_VALUE, Float.MAX_VALUE, Float.MAX_VALUE};
        float[] high = {-Float.MAX_VALUE, -Float.MAX_VALUE, -Float.MAX_VALUE};
        for (int vertex : vertices) {
            for (int axis = 0; axis < 3; axis++) {
                low[axis] = Math.min(low[axis], positions[3 * vertex + axis]);
                high[axis] = Math.max(high[axis], positions[3 * vertex + axis]);
            }
        }
        float dx = (high[0] - low[0]) / 2;
        float dy = (high[1] - low[1]) / 2;
        float dz = (high[2] - low[2]) / 2;
        return new Cluster(first, vertices, local, low[0] + dx, low[1] + dy, low[2] + dz, (float)
                Math.sqrt((double) dx * dx + (double) dy * dy + (double) dz * dz));
    }
}
