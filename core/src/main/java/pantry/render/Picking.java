package pantry.render;

import java.util.Optional;
import java.util.Set;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Finds where a line of sight meets what is drawn. */
public final class Picking {
    private Picking() {}

    /**
     * Where a line first meets a surface.
     *
     * @param point in the world, metres
     * @param normal of the triangle there, a unit vector to the side that the line comes from
     */
    public record Hit(Vec3 point, Vec3 normal) {}

    /** What is met first in a direction. */
    public static Optional<Hit> hit(RenderScene scene, Vec3 eye, Vec3 direction) {
        return hit(scene, eye, direction, Set.of());
    }

    /**
     * What is met first in a direction. Balls around the uses and their clusters are asked before the triangles in them (T.
     * Möller, B. Trumbore, Fast, minimum storage ray-triangle intersection, Journal of Graphics Tools 2, 1997).
     *
     * @param direction need not have length one
     * @param without paths of objects that are seen through, with all below them
     */
    public static Optional<Hit> hit(RenderScene scene, Vec3 eye, Vec3 direction, Set<String> without) {
        boolean[] through = scene.ownersBelow(without);
        Line line = new Line(eye, direction);
        for (DrawInstance use : scene.instances) {
            if (!through[use.owner()] && line.meets(use.sphere())) {
                line.ask(use);
            }
        }
        return line.nearest();
    }

    /** A line, and the nearest that it has met. */
    private static final class Line {
        private final Vec3 eye;
        private final Vec3 direction;
        private final double square;
        private double nearest = Double.POSITIVE_INFINITY;
        private Vec3 across = Vec3.UP;

        Line(Vec3 eye, Vec3 direction) {
            this.eye = eye;
            this.direction = direction;
            this.square = direction.dot(direction);
        }

        boolean meets(BoundingSphere sphere) {
            return meets(eye, direction, square, sphere.x(), sphere.y(), sphere.z(), sphere.radius());
        }

        /** Whether a line comes into a ball before the nearest that is known. */
        private boolean meets(Vec3 from, Vec3 by, double length2, double x, double y, double z, double radius) {
            double cx = x - from.x();
            double cy = y - from.y();
            double cz = z - from.z();
            double along = (cx * by.x() + cy * by.y() + cz * by.z()) / length2;
            double away = cx * cx + cy * cy + cz * cz - along * along * length2;
            double reach = radius / Math.sqrt(length2);
            return away <= radius * radius * (1 + 1e-6) + 1e-12 && along + reach > 0 && along - reach < nearest;
        }

        void ask(DrawInstance use) {
            // The line is brought into the mesh's space; how far along it something is, stays the same.
            Matrix4 back = use.world().inverse();
            Vec3 o = back.point(eye);
            Vec3 d = back.direction(direction);
            double length2 = d.dot(d);
            RenderMesh mesh = use.mesh();
            RenderMesh.Level finest = mesh.levels[0];
            for (int c = finest.firstCluster(); c < finest.firstCluster() + finest.clusterCount(); c++) {
                RenderMesh.Cluster cluster = mesh.clusters[c];
                if (meets(o, d, length2, cluster.x(), cluster.y(), cluster.z(), cluster.radius())) {
                    for (int t = 0; t < cluster.local().length / 3; t++) {
                        triangle(use, cluster.firstTriangle() + t, o, d);
                    }
                }
            }
        }

        private void triangle(DrawInstance use, int number, Vec3 o, Vec3 d) {
            float[] points = use.mesh().positions;
            int[] corners = use.mesh().indices;
            int a = 3 * corners[3 * number];
            int b = 3 * corners[3 * number + 1];
            int c = 3 * corners[3 * number + 2];
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
                return;
            }
            double sx = o.x() - points[a];
            double sy = o.y() - points[a + 1];
            double sz = o.z() - points[a + 2];
            double u = (sx * px + sy * py + sz * pz) / determinant;
            if (u < 0 || u > 1) {
                return;
            }
            double qx = sy * e1z - sz * e1y;
            double qy = sz * e1x - sx * e1z;
            double qz = sx * e1y - sy * e1x;
            double v = (d.x() * qx + d.y() * qy + d.z() * qz) / determinant;
            double along = (e2x * qx + e2y * qy + e2z * qz) / determinant;
            if (v >= 0 && u + v <= 1 && along > 0 && along < nearest) {
                nearest = along;
                across = use.world()
                        .direction(new Vec3(e1x, e1y, e1z))
                        .cross(use.world().direction(new Vec3(e2x, e2y, e2z)));
            }
        }

        Optional<Hit> nearest() {
            if (Double.isInfinite(nearest)) {
                return Optional.empty();
            }
            Vec3 normal = across.unit();
            return Optional.of(
                    new Hit(eye.plus(direction.times(nearest)), normal.dot(direction) > 0 ? normal.times(-1) : normal));
        }
    }
}
