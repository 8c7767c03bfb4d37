package pantry.twins;

import java.util.Arrays;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.PointGrid;
import pantry.twins.TwinGroup.Member;

/**
 * Whether another shape is a twin of one, and how it stands.
 *
 * <p>Sorted distances from the middle tell most others apart. Then the points are taken in their order, as copies have
 * them. Else two anchors and the middle make a frame; each pair of points of the other that may be those anchors gives
 * a way to stand. So symmetric shapes, whose principal axes tell nothing, need no care of their own. A way is accepted
 * where each point has its like within the tolerance, no two the same one, each face has its like, turned the same way
 * round, and what varies over the surface agrees.
 */
final class Matcher {
    /** Pairs of anchors looked at before giving up: some tenths of a second. */
    private static final long MOST_PAIRS = 200_000_000;

    private final Shape one;
    private final ReferencePoints anchors;
    private final TwinOptions options;
    private final boolean textured;

    Matcher(Shape one, TwinOptions options, boolean textured) {
        this.one = one;
        this.anchors = ReferencePoints.of(one);
        this.options = options;
        this.textured = textured;
    }

    /** How another shape stands; empty where it is no twin. */
    Optional<Member> match(Shape other, int index) {
        double scale = other.size / one.size;
        double tolerance = Math.max(other.tolerance, scale * one.digits);
        boolean rigid = Math.abs(scale - 1) * one.greatest <= 2 * tolerance;
        if (rigid) {
            scale = 1;
        } else if (!options.scaled()) {
            return Optional.empty();
        }
        if (!one.counts.equals(other.counts) || !sameRadii(other, scale, tolerance)) {
            return Optional.empty();
        }
        Attempt attempt = new Attempt(other, scale, rigid, tolerance);
        // What is its own mirror image is not said to be mirrored.
        Optional<Found> way = attempt.inOrder(false).or(() -> attempt.byAnchors(false));
        if (options.mirrored()) {
            way = way.or(() -> attempt.inOrder(true)).or(() -> attempt.byAnchors(true));
        }
        return way.map(found -> new Member(
                index,
                found.place,
                found.deviation,
                found.place.determinant3() < 0,
                rigid ? 1 : Math.cbrt(Math.abs(found.place.determinant3()))));
    }

    private boolean sameRadii(Shape other, double scale, double tolerance) {
        for (int i = 0; i < one.order.length; i++) {
            int p = one.order[i];
            int q = other.order[i];
            if (one.degrees[p] != other.degrees[q] || Math.abs(one.radii[p] * scale - other.radii[q]) > 2 * tolerance) {
                return false;
            }
        }
        return true;
    }

    private record Found(Matrix4 place, double deviation) {}

    /** One shape beside another. */
    private final class Attempt {
        private final Shape other;
        private final double scale;
        private final Similarity.Freedom freedom;
        private final double tolerance;
        private final int[] like;
        private final boolean[] taken;
        private final double[] targets;

        Attempt(Shape other, double scale, boolean rigid, double tolerance) {
            this.other = other;
            this.scale = scale;
            this.freedom = rigid ? Similarity.Freedom.RIGID : Similarity.Freedom.SCALED;
            this.tolerance = tolerance;
            this.like = new int[one.radii.length];
            this.taken = new boolean[like.length];
            this.targets = new double[3 * like.length];
        }

        /** As copies stand: each point is like the one of its number. */
        Optional<Found> inOrder(boolean mirrored) {
            if (!Arrays.equals(one.degrees, other.degrees)) {
                return Optional.empty();
            }
            for (int p = 0; p < like.length; p++) {
                if (Math.abs(one.radii[p] * scale - other.radii[p]) > 2 * tolerance) {
                    return Optional.empty();
                }
                like[p] = p;
            }
            return accepted(mirrored);
        }

        Optional<Found> byAnchors(boolean mirrored) {
            int a = anchors.first();
            int b = anchors.second();
            if (b < 0) {
                return Optional.empty();
            }
            int[] firsts = ReferencePoints.candidates(other, one.degrees[a], one.radii[a] * scale, 2 * tolerance);
            int[] seconds = ReferencePoints.candidates(other, one.degrees[b], one.radii[b] * scale, 2 * tolerance);
            double apart = distance(one.points, a, one.points, b) * scale;
            Matrix4 from = frame(one.points, a, b, false).inverse();
            // An error of the anchors grows with the distance from them.
            double loose = tolerance * (2 + 4 * one.greatest / Math.min(one.radii[a], aside(a, b)));
            long pairs = 0;
            for (int first : firsts) {
                pairs += seconds.length;
                if (pairs > MOST_PAIRS) {
                    return Optional.empty();
                }
                for (int second : seconds) {
                    if (first != second
                            && Math.abs(distance(other.points, first, other.points, second) - apart) <= 4 * tolerance) {
                        Matrix4 place = from.times(Matrix4.scale(new Vec3(scale, scale, scale)))
                                .times(frame(other.points, first, second, mirrored));
                        if (paired(place, loose)) {
                            Optional<Found> found = accepted(mirrored);
                            if (found.isPresent()) {
                                return found;
                            }
                        }
                    }
                }
            }
            return Optional.empty();
        }

        private double aside(int axis, int p) {
            Vec3 along = vec(one.points, axis).unit();
            return along.cross(vec(one.points, p)).length();
        }

        /** Finds each point's like where it would come to; false where one has none, or two have the same. */
        private boolean paired(Matrix4 place, double within) {
            double[] m = place.rows();
            Arrays.fill(taken, false);
            PointGrid grid = other.grid();
            double[] p = one.points;
            for (int i = 0; i < like.length; i++) {
                double x = p[3 * i] * m[0] + p[3 * i + 1] * m[4] + p[3 * i + 2] * m[8] + m[12];
                double y = p[3 * i] * m[1] + p[3 * i + 1] * m[5] + p[3 * i + 2] * m[9] + m[13];
                double z = p[3 * i] * m[2] + p[3 * i + 1] * m[6] + p[3 * i + 2] * m[10] + m[14];
                int near = grid.nearest(x, y, z, within);
                if (near < 0 || taken[near] || one.degrees[i] != other.degrees[near]) {
                    return false;
                }
                taken[near] = true;
                like[i] = near;
            }
            return true;
        }

        /** The best way to stand for the pairs as they are, and for those that it brings about, where it holds. */
        private Optional<Found> accepted(boolean mirrored) {
            Matrix4 place = best(mirrored);
            double deviation = deviation(place);
            if (deviation > tolerance) {
                if (deviation > 20 * tolerance || !paired(place, 2 * tolerance)) {
                    return Optional.empty();
                }
                place = best(mirrored);
                deviation = deviation(place);
            }
            if (deviation > tolerance || !new SurfaceMatch(one, other, like, place, textured).holds()) {
                return Optional.empty();
            }
            Matrix4 whole = Matrix4.translation(new Vec3(-one.middle[0], -one.middle[1], -one.middle[2]))
                    .times(place)
                    .times(Matrix4.translation(new Vec3(other.middle[0], other.middle[1], other.middle[2])));
            return Optional.of(new Found(whole, deviation));
        }

        private Matrix4 best(boolean mirrored) {
            for (int i = 0; i < like.length; i++) {
                System.arraycopy(other.points, 3 * like[i], targets, 3 * i, 3);
            }
            return Similarity.of(one.points, targets, freedom, mirrored);
        }

        private double deviation(Matrix4 place) {
            double[] m = place.rows();
            double[] p = one.points;
            double worst = 0;
            for (int i = 0; i < p.length; i += 3) {
                double x = p[i] * m[0] + p[i + 1] * m[4] + p[i + 2] * m[8] + m[12] - targets[i];
                double y = p[i] * m[1] + p[i + 1] * m[5] + p[i + 2] * m[9] + m[13] - targets[i + 1];
                double z = p[i] * m[2] + p[i + 1] * m[6] + p[i + 2] * m[10] + m[14] - targets[i + 2];
                worst = Math.max(worst, x * x + y * y + z * z);
            }
            return Math.sqrt(worst);
        }
    }

    /** Axes by two points and the origin: along the first, and towards the second. */
    private static Matrix4 frame(double[] points, int a, int b, boolean mirrored) {
        Vec3 x = vec(points, a).unit();
        Vec3 toB = vec(points, b);
        Vec3 y = toB.minus(x.times(x.dot(toB))).unit();
        Vec3 z = x.cross(y).times(mirrored ? -1 : 1);
        return Matrix4.ofRows(x.x(), x.y(), x.z(), 0, y.x(), y.y(), y.z(), 0, z.x(), z.y(), z.z(), 0, 0, 0, 0, 1);
    }

    private static Vec3 vec(double[] points, int p) {
        return new Vec3(points[3 * p], points[3 * p + 1], points[3 * p + 2]);
    }

    private static double distance(double[] one, int a, double[] other, int b) {
        double x = one[3 * a] - other[3 * b];
        double y = one[3 * a + 1] - other[3 * b + 1];
        double z = one[3 * a + 2] - other[3 * b + 2];
        return Math.sqrt(x * x + y * y + z * z);
    }
}
