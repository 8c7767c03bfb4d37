package pantry.render;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.mesh.FeatureEdges;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.mesh.Simplification;
import pantry.mesh.TriangleMesh;

/** A mesh made ready for drawing: vertices, and clusters of neighbouring triangles that are passed over together. */
final class RenderMesh {
    /** Triangles per cluster: few enough to reject finely, many enough to share their vertices. */
    static final int CLUSTER = 512;

    private static final int COARSEST = 12;

    /** The edges of meshes with more triangles are not looked for; those of their box stand for them. */
    private static final int MOST_FOR_EDGES = 20_000;

    private static final int MORE_UV_SETS = 3;

    final float[] positions;
    final float[] normals;
    final float @Nullable [] uvs;

    /** Further sets of texture coordinates, the second set first; null where the mesh does not have one. */
    private final float @Nullable [][] moreUvs;

    final float @Nullable [] colours;
    final int[] indices;
    final Cluster[] clusters;

    /** From the finest to the coarsest; one behind the other in {@link #indices} and {@link #clusters}. */
    final Level[] levels;

    /** The ball around all: its centre and radius. */
    final float x;

    final float y;
    final float z;
    final float radius;

    private final Box3 box;

    /** The corner that stands for all of it where it is seen as a dot: of the triangle that faces most upwards. */
    final int typical;

    private final int triangles;
    private final boolean levelled;
    private @Nullable FeatureEdges edges;

    /**
     * Some triangles in a row.
     *
     * @param vertices the vertices that they use
     * @param local per corner, which of those
     * @param x centre of the ball around them, with y and z
     */
    record Cluster(int firstTriangle, int[] vertices, short[] local, float x, float y, float z, float radius) {}

    /**
     * A fineness to be drawn with.
     *
     * @param error how far its surface is from the mesh's own, in the mesh's unit
     */
    record Level(int firstCluster, int clusterCount, float error) {}

    private RenderMesh(TriangleMesh mesh, boolean levelled) {
        this.positions = mesh.positions();
        this.normals = mesh.normals();
        this.uvs = mesh.uvs();
        this.moreUvs = new float[MORE_UV_SETS][];
        for (int set = 0; set < MORE_UV_SETS; set++) {
            moreUvs[set] = mesh.uvs(set + 1);
        }
        this.colours = mesh.colours();
        this.box = Box3.around(positions.length, i -> positions[i]);
        this.triangles = mesh.indices().length / 3;
        this.levelled = levelled;
        List<Simplification.Reduced> coarser = levelled ? coarser(mesh) : List.of();
        int[] all = mesh.indices();
        List<Cluster> cut = new ArrayList<>(cut(all, 0));
        Level[] made = new Level[1 + coarser.size()];
        made[0] = new Level(0, cut.size(), 0);
        for (int i = 1; i < made.length; i++) {
            Simplification.Reduced reduced = coarser.get(i - 1);
            int before = cut.size();
            cut.addAll(cut(reduced.indices(), all.length / 3));
            made[i] = new Level(before, cut.size() - before, (float) reduced.error());
            int end = all.length;
            all = Arrays.copyOf(all, end + reduced.indices().length);
            System.arraycopy(reduced.indices(), 0, all, end, reduced.indices().length);
        }
        this.indices = all;
        this.clusters = cut.toArray(Cluster[]::new);
        this.levels = made;
        boolean empty = box.isEmpty();
        this.x = empty ? 0 : (float) box.centre().x();
        this.y = empty ? 0 : (float) box.centre().y();
        this.z = empty ? 0 : (float) box.centre().z();
        this.radius = empty ? 0 : (float) box.radius();
        this.typical = typical();
    }

    /** A set of texture coordinates, 0 the first; null where the mesh does not have it. */
    float @Nullable [] uvs(int set) {
        return set == 0 ? uvs : set <= MORE_UV_SETS ? moreUvs[set - 1] : null;
    }

    /** Ever coarser, a quarter of the triangles each, down to what is about a box. */
    private static List<Simplification.Reduced> coarser(TriangleMesh mesh) {
        List<Simplification.Reduced> levels = new ArrayList<>();
        int before = mesh.triangleCount();
        while (before > 2 * COARSEST) {
            Simplification.Reduced reduced = Simplification.coarse(mesh, Math.max(COARSEST, before / 4));
            int left = reduced.indices().length / 3;
            if (left == 0 || left > 0.7 * before) {
                break;
            }
            levels.add(reduced);
            before = left;
        }
        return levels;
    }

    /** The box around all, in the mesh's space. */
    Box3 box() {
        return box;
    }

    /** The edges at which its surface ends or bends, found when they are first asked for. */
    synchronized FeatureEdges edges() {
        FeatureEdges known = edges;
        if (known == null) {
            known = new FeatureEdges(triangles > MOST_FOR_EDGES ? Shapes.box(box.min(), box.max()) : finest());
            edges = known;
        }
        return known;
    }

    private Mesh finest() {
        int[] sizes = new int[triangles];
        Arrays.fill(sizes, 3);
        return new Mesh(positions, sizes, Arrays.copyOf(indices, 3 * triangles), null, null);
    }

    private int typical() {
        int best = 0;
        double most = Double.NEGATIVE_INFINITY;
        for (int corner = 0; corner < 3 * triangles; corner += 3) {
            double up = normals[3 * indices[corner] + 1];
            if (up > most) {
                most = up;
                best = indices[corner];
            }
        }
        return best;
    }

    static RenderMesh of(Mesh mesh, boolean levelled) {
        return new RenderMesh(TriangleMesh.of(mesh), levelled);
    }

    /**
     * The coarsest level that is good enough.
     *
     * @param scale by which its error is lengthened
     * @param within how far off it may be then
     */
    Level coarsest(double scale, double within) {
        int level = levels.length - 1;
        while (level > 0 && levels[level].error() * scale > within) {
            level--;
        }
        return levels[level];
    }

    boolean levelled() {
        return levelled;
    }

    int triangleCount() {
        return triangles;
    }

    /** @param before the number of triangles in front of these */
    private List<Cluster> cut(int[] corners, int before) {
        int count = corners.length / 3;
        List<Cluster> made = new ArrayList<>();
        int[] slot = new int[positions.length / 3];
        Arrays.fill(slot, -1);
        int[] used = new int[3 * CLUSTER];
        for (int first = 0; first < count; first += CLUSTER) {
            made.add(cut(corners, first, before, slot, used));
        }
        return made;
    }

    private Cluster cut(int[] corners, int first, int before, int[] slot, int[] used) {
        short[] local = new short[3 * Math.min(CLUSTER, corners.length / 3 - first)];
        int vertices = 0;
        for (int i = 0; i < local.length; i++) {
            int vertex = corners[3 * first + i];
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
        return around(before + first, list, local);
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
