package pantry.mesh;

import com.github.quickhull3d.InternalErrorException;
import com.github.quickhull3d.QuickHull3D;
import java.util.Arrays;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.math.Box3;

/**
 * The convex hull of points (C. B. Barber, D. P. Dobkin, H. Huhdanpaa, The Quickhull Algorithm for Convex Hulls, ACM
 * Transactions on Mathematical Software 22, 1996).
 */
public final class ConvexHull {
    private static final Logger LOG = LoggerFactory.getLogger(ConvexHull.class);

    /** In parts of the points' extent: beyond this, a hull would differ from the points in the eyes of a person. */
    private static final double COARSEST = 1e-4;

    private static final double FINEST = 1e-7;

    private ConvexHull() {}

    /**
     * The hull as a closed mesh of polygons.
     *
     * @param points x, y, z of each; as many as wanted
     * @return empty where the points lie in one plane, on one line or in one place, as nearly as rounding can tell
     */
    public static Optional<Mesh> of(double[] points) {
        if (points.length < 12) {
            return Optional.empty();
        }
        return built(points).map(ConvexHull::mesh);
    }

    /**
     * Many points that lie in one plane but for rounding, as where something was cut, can leave the hull inconsistent;
     * then those that are nearer to it count as on it.
     */
    private static Optional<QuickHull3D> built(double[] points) {
        double extent = Box3.around(points.length, i -> points[i]).radius();
        for (double tolerance = 0; tolerance <= COARSEST; tolerance = Math.max(FINEST, 10 * tolerance)) {
            QuickHull3D hull = new QuickHull3D();
            if (tolerance > 0) {
                hull.setExplicitDistanceTolerance(tolerance * extent);
            }
            try {
                hull.build(points);
                return Optional.of(hull);
            } catch (IllegalArgumentException flat) {
                return Optional.empty();
            } catch (InternalErrorException inconsistent) {
                LOG.debug("hull of {} points with a tolerance of {}", points.length / 3, tolerance, inconsistent);
            }
        }
        return Optional.empty();
    }

    private static Mesh mesh(QuickHull3D hull) {
        double[] vertices = new double[3 * hull.getNumVertices()];
        hull.getVertices(vertices);
        float[] kept = new float[vertices.length];
        for (int i = 0; i < kept.length; i++) {
            kept[i] = (float) vertices[i];
        }
        int[][] faces = hull.getFaces();
        int[] sizes = Arrays.stream(faces).mapToInt(face -> face.length).toArray();
        int[] corners = Arrays.stream(faces).flatMapToInt(Arrays::stream).toArray();
        return new Mesh(kept, sizes, corners, null, null);
    }
}
