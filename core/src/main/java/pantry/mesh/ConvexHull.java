package pantry.mesh;

import com.github.quickhull3d.QuickHull3D;
import java.util.Arrays;
import java.util.Optional;

/**
 * The convex hull of points (C. B. Barber, D. P. Dobkin, H. Huhdanpaa, The Quickhull Algorithm for Convex Hulls, ACM
 * Transactions on Mathematical Software 22, 1996).
 */
public final class ConvexHull {
    private ConvexHull() {}

    /**
     * The hull as a closed mesh of polygons.
     *
     * @param points x, y, z of each; as many as wanted
     * @return empty where the points lie in one plane, on one line or in one place
     */
    public static Optional<Mesh> of(double[] points) {
        if (points.length < 12) {
            return Optional.empty();
        }
        QuickHull3D hull = new QuickHull3D();
        try {
            hull.build(points);
        } catch (IllegalArgumentException flat) {
            return Optional.empty();
        }
        double[] vertices = new double[3 * hull.getNumVertices()];
        hull.getVertices(vertices);
        float[] kept = new float[vertices.length];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = (float) vertices[i];
        }
        int[][] faces = hull.getFaces();
        int[] sizes = Arrays.stream(faces).mapToInt(face -> face.length).toArray();
        int[] corners = Arrays.stream(faces).flatMapToInt(Arrays::stream).toArray();
        return Optional.of(new Mesh(kept, sizes, corners, null, null));
    }
}
