package pantry.render;

import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.Model;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;

/** Finds where a line of sight meets a model. */
public final class Picking {
    private Picking() {}

    /**
     * The nearest point of a model's surfaces in a direction (T. Möller, B. Trumbore, Fast, minimum storage ray-triangle
     * intersection, Journal of Graphics Tools 2, 1997). Every triangle is asked: some ten million a second.
     *
     * @param direction need not have length one
     */
    public static Optional<Vec3> hit(Model model, Vec3 eye, Vec3 direction) {
        double[] nearest = {Double.POSITIVE_INFINITY};
        model.visit((owner, part, world) -> nearest[0] = Math.min(nearest[0], hit(part.mesh(), world, eye, direction)));
        return Double.isInfinite(nearest[0]) ? Optional.empty() : Optional.of(eye.plus(direction.times(nearest[0])));
    }

    private static double hit(Mesh mesh, Matrix4 world, Vec3 eye, Vec3 direction) {
        // The line is brought into the mesh's space; how far along it something is, stays the same.
        Matrix4 back = world.inverse();
        Vec3 o = back.point(eye);
        Vec3 d = back.direction(direction);
        float[] points = mesh.points();
        int[] corners = mesh.corners();
        int[] triangles = Triangulation.corners(mesh);
        double nearest = Double.POSITIVE_INFINITY;
        for (int t = 0; t < triangles.length; t += 3) {
            int a = 3 * corners[triangles[t]];
            int b = 3 * corners[triangles[t + 1]];
            int c = 3 * corners[triangles[t + 2]];
            double e1x = points[b] - points[a];
            double e1y = points[b + 1] - points[a + 1];
            double e1z = points[b + 2] - points[a + 2];
            double e2x = points[c] - points[a];
            double e2y = points[c + 1] - points[a + 1];
            double e2z = points[c + 2] - points[a + 2];
            double px = d.y() * e2z - d.z() * e2y;
            double py = d.z() * e2x - d.x() * e2z;
            double pz = d.x() * e2y - d.y() * e2x;
            double determinant = e1x * px + e1y * py + e1z * pz;
            if (determinant == 0) {
                continue;
            }
            double sx = o.x() - points[a];
            double sy = o.y() - points[a + 1];
            double sz = o.z() - points[a + 2];
            double u = (sx * px + sy * py + sz * pz) / determinant;
            if (u < 0 || u > 1) {
                continue;
            }
            double qx = sy * e1z - sz * e1y;
            double qy = sz * e1x - sx * e1z;
            double qz = sx * e1y - sy * e1x;
            double v = (d.x() * qx + d.y() * qy + d.z() * qz) / determinant;
            double along = (e2x * qx + e2y * qy + e2z * qz) / determinant;
            if (v >= 0 && u + v <= 1 && along > 0) {
                nearest = Math.min(nearest, along);
            }
        }
        return nearest;
    }
}
