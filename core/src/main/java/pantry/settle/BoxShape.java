package pantry.settle;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;

/**
 * A solid that is a box, however it is turned: boxes lie on each other more quietly than other solids.
 *
 * @param axes three unit vectors, right-handed
 * @param size along each
 */
record BoxShape(Vec3 centre, Vec3[] axes, Vec3 size) {
    private static final double TOLERANCE = 1e-4;

    /** A mesh as a box; empty where it is none. */
    static Optional<BoxShape> of(Mesh mesh) {
        List<Vec3> points = distinct(mesh);
        if (points.size() != 8) {
            return Optional.empty();
        }
        Vec3 first = points.getFirst();
        for (int i = 1; i < 6; i++) {
            for (int j = i + 1; j < 7; j++) {
                for (int k = j + 1; k < 8; k++) {
                    Vec3 a = points.get(i).minus(first);
                    Vec3 b = points.get(j).minus(first);
                    Vec3 c = points.get(k).minus(first);
                    if (square(a, b) && square(b, c) && square(a, c) && spans(points, first, a, b, c)) {
                        return Optional.of(box(first, a, b, c));
                    }
                }
            }
        }
        return Optional.empty();
    }

    private static BoxShape box(Vec3 first, Vec3 a, Vec3 b, Vec3 c) {
        Vec3 centre = first.plus(a.plus(b).plus(c).times(0.5));
        boolean right = a.cross(b).dot(c) > 0;
        Vec3 second = right ? b : c;
        Vec3 third = right ? c : b;
        return new BoxShape(
                centre,
                new Vec3[] {a.unit(), second.unit(), third.unit()},
                new Vec3(a.length(), second.length(), third.length()));
    }

    private static List<Vec3> distinct(Mesh mesh) {
        List<Vec3> points = new ArrayList<>();
        double near = TOLERANCE * mesh.bounds().radius();
        for (int p = 0; p < mesh.pointCount() && points.size() <= 8; p++) {
            Vec3 point = mesh.point(p);
            if (points.stream().noneMatch(other -> other.minus(point).length() < near)) {
                points.add(point);
            }
        }
        return points;
    }

    private static boolean square(Vec3 a, Vec3 b) {
        return Math.abs(a.dot(b)) < 10 * TOLERANCE * a.length() * b.length();
    }

    private static boolean spans(List<Vec3> points, Vec3 first, Vec3 a, Vec3 b, Vec3 c) {
        double near = 10 * TOLERANCE * a.plus(b).plus(c).length();
        for (int corner = 0; corner < 8; corner++) {
            Vec3 expected = first.plus(a.times(corner & 1))
                    .plus(b.times(corner >> 1 & 1))
                    .plus(c.times(corner >> 2 & 1));
            if (points.stream().noneMatch(point -> point.minus(expected).length() < near)) {
                return false;
            }
        }
        return true;
    }
}
