package pantry.scene;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Places for many uses of one thing, told by a few figures that are kept, so that they can be changed afterwards. In the
 * space of what they hang on: metres, Y up.
 */
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "layout")
@JsonSubTypes({
    @JsonSubTypes.Type(value = Layout.Grid.class, name = "grid"),
    @JsonSubTypes.Type(value = Layout.Ring.class, name = "ring"),
    @JsonSubTypes.Type(value = Layout.Along.class, name = "along"),
    @JsonSubTypes.Type(value = Layout.Scatter.class, name = "scatter"),
    @JsonSubTypes.Type(value = Layout.OnSurface.class, name = "surface")
})
public sealed interface Layout {
    /** No layout has more places. */
    int MOST = 100_000;

    /** What some layouts lie on. */
    @FunctionalInterface
    interface Terrain {
        /** Nothing is known of any surface. */
        Terrain NONE = path -> new double[0];

        /**
         * The triangles of an object, nine coordinates each, in the space of what the layout's uses hang on.
         *
         * @param path of an object of the scene
         */
        double[] triangles(String path);
    }

    /** The places, the first of them that of the original. */
    List<Matrix4> places(Terrain terrain);

    /** How many places there are at most, so far as the figures tell. */
    int most();

    /** How many places are asked for, of which some may find no room; 0 where none can be missing. */
    default int asked() {
        return 0;
    }

    /** The places of a layout that lies on nothing. */
    default List<Matrix4> places() {
        return places(Terrain.NONE);
    }

    /**
     * Rows, columns and levels; step and repeat where there is only one of two of them.
     *
     * @param counts along x, y and z, at least 1 each
     * @param steps from one to the next
     */
    record Grid(int[] counts, Vec3 steps) implements Layout {
        public Grid {
            counts = counts.clone();
            long all = 1;
            for (int count : counts) {
                all *= Math.max(0, count);
            }
            check(counts.length == 3 && all >= 1 && all <= MOST, "a grid has 1 to " + MOST + " places");
            check(steps.isFinite(), "a grid's steps are lengths");
        }

        @Override
        public int most() {
            return counts[0] * counts[1] * counts[2];
        }

        @Override
        public List<Matrix4> places(Terrain terrain) {
            List<Matrix4> places = new ArrayList<>();
            for (int y = 0; y < counts[1]; y++) {
                for (int z = 0; z < counts[2]; z++) {
                    for (int x = 0; x < counts[0]; x++) {
                        places.add(Matrix4.translation(new Vec3(x * steps.x(), y * steps.y(), z * steps.z())));
                    }
                }
            }
            return places;
        }
    }

    /**
     * Around an upright axis.
     *
     * @param centre a point of the axis
     * @param angle degrees from one to the next
     * @param turned whether each looks to the axis as the first does
     */
    record Ring(int count, double angle, Vec3 centre, boolean turned) implements Layout {
        public Ring {
            check(count >= 1 && count <= MOST, "a ring has 1 to " + MOST + " places");
            check(Double.isFinite(angle) && centre.isFinite(), "a ring's angle and centre are numbers");
        }

        @Override
        public int most() {
            return count;
        }

        @Override
        public List<Matrix4> places(Terrain terrain) {
            List<Matrix4> places = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                Matrix4 turn = Matrix4.rotation(1, angle * i);
                Matrix4 round =
                        Matrix4.translation(centre.times(-1)).times(turn).times(Matrix4.translation(centre));
                places.add(turned ? round : Matrix4.translation(round.point(Vec3.ZERO)));
            }
            return places;
        }
    }

    /**
     * Along a line, at equal distances by its length. Where it ends at its first point, none stands there twice.
     *
     * @param points of the line, at least two
     * @param turned whether each looks along the line
     * @param smooth whether the line bends through its points rather than going straight from one to the next
     * @param from where the object stands that is laid out; the line's first point unless said
     */
    record Along(List<Vec3> points, int count, boolean turned, boolean smooth, Vec3 from) implements Layout {
        public Along {
            points = List.copyOf(points);
            check(points.stream().distinct().count() >= 2, "a path has at least two points, in different places");
            check(points.stream().allMatch(Vec3::isFinite), "a path's points are places");
            // Scenes of before do not say it.
            from = from == null ? points.getFirst() : from;
            check(from.isFinite(), "a path is told from a place");
            check(count >= 1 && count <= MOST, "a path has 1 to " + MOST + " places");
        }

        @Override
        public int most() {
            return count;
        }

        /** A line that begins where the object stands. */
        public Along(List<Vec3> points, int count, boolean turned, boolean smooth) {
            this(points, count, turned, smooth, points.isEmpty() ? Vec3.ZERO : points.getFirst());
        }

        @Override
        public List<Matrix4> places(Terrain terrain) {
            List<Vec3> line = smooth ? Curve.through(points) : points;
            double[] reached = new double[line.size()];
            for (int i = 1; i < reached.length; i++) {
                reached[i] = reached[i - 1] + line.get(i).minus(line.get(i - 1)).length();
            }
            double length = reached[reached.length - 1];
            boolean closed = points.size() > 2 && points.getFirst().equals(points.getLast());
            int gaps = closed ? count : Math.max(1, count - 1);
            List<Matrix4> places = new ArrayList<>();
            int piece = 1;
            for (int i = 0; i < count; i++) {
                double at = length * i / gaps;
                while (piece < reached.length - 1 && reached[piece] < at) {
                    piece++;
                }
                Vec3 corner = line.get(piece - 1);
                Vec3 along = line.get(piece).minus(corner);
                double part = along.length() == 0 ? 0 : (at - reached[piece - 1]) / along.length();
                Vec3 place = corner.plus(along.times(part)).minus(from);
                double heading = Math.toDegrees(Math.atan2(-along.z(), along.x()));
                Matrix4 turn = turned ? Matrix4.rotation(1, heading) : Matrix4.IDENTITY;
                places.add(turn.times(Matrix4.translation(place)));
            }
            return places;
        }
    }

    /**
     * At random over a rectangle on the ground, no two nearer than a distance: darts are thrown until enough stand, or no
     * more find room (R. L. Cook, Stochastic sampling in computer graphics, ACM TOG 5, 1986).
     *
     * @param width along x
     * @param depth along z; the rectangle lies around the first place
     */
    record Scatter(double width, double depth, int count, double apart, long seed) implements Layout {
        public Scatter {
            check(count >= 1 && count <= MOST, "there are 1 to " + MOST + " places");
            check(
                    width > 0 && depth > 0 && apart >= 0 && width + depth + apart < Double.POSITIVE_INFINITY,
                    "an area has a width and a depth, and distances are not negative");
        }

        @Override
        public int most() {
            return count;
        }

        @Override
        public int asked() {
            return count;
        }

        @Override
        public List<Matrix4> places(Terrain terrain) {
            SplittableRandom random = new SplittableRandom(seed);
            Spacing spacing = new Spacing(apart);
            List<Matrix4> places = new ArrayList<>();
            while (places.size() < count && spacing.hasHope()) {
                Vec3 at = new Vec3((random.nextDouble() - 0.5) * width, 0, (random.nextDouble() - 0.5) * depth);
                if (spacing.take(at)) {
                    places.add(Matrix4.translation(at));
                }
            }
            return places;
        }
    }

    /**
     * At random on the surface of an object, no two nearer than a distance; places are even over its area.
     *
     * @param surface the object's path
     * @param count how many; 0 to tell it by the density
     * @param density per square metre; counts where {@code count} is 0
     * @param apart metres, measured straight
     * @param steepest degrees from level; steeper places stay free
     * @param upright whether all stay upright, rather than square to the surface
     */
    record OnSurface(
            String surface, int count, double density, double apart, double steepest, boolean upright, long seed)
            implements Layout {
        public OnSurface {
            check(count >= 0 && count <= MOST, "there are 1 to " + MOST + " places");
            check(count > 0 || density > 0, "say how many, or how many for each square metre");
            check(apart >= 0 && Double.isFinite(apart), "distances are not negative");
            check(steepest > 0 && steepest <= 180, "the steepest slope is above 0 and up to 180°");
        }

        @Override
        public int most() {
            return count > 0 ? count : MOST;
        }

        @Override
        public int asked() {
            return count;
        }

        @Override
        public List<Matrix4> places(Terrain terrain) {
            double[] all = terrain.triangles(surface);
            double[] areas = new double[all.length / 9];
            double area = 0;
            for (int t = 0; t < areas.length; t++) {
                Vec3 cross = corner(all, t, 1)
                        .minus(corner(all, t, 0))
                        .cross(corner(all, t, 2).minus(corner(all, t, 0)));
                boolean level = cross.length() > 0
                        && Math.toDegrees(Math.acos(Math.clamp(cross.unit().y(), -1, 1))) <= steepest;
                area += level ? cross.length() / 2 : 0;
                areas[t] = area;
            }
            check(area > 0, "<" + surface + "> has no surface that is level enough");
            double wanted = count > 0 ? count : Math.max(1, Math.rint(density * area));
            check(wanted <= MOST, "that would be " + (long) wanted + " places; at most " + MOST + " can be laid out");
            SplittableRandom random = new SplittableRandom(seed);
            Spacing spacing = new Spacing(apart);
            List<Matrix4> places = new ArrayList<>();
            while (places.size() < wanted && spacing.hasHope()) {
                int t = Arrays.binarySearch(areas, random.nextDouble() * area);
                t = Math.min(t < 0 ? -t - 1 : t + 1, areas.length - 1);
                double root = Math.sqrt(random.nextDouble());
                double u = 1 - root;
                double v = random.nextDouble() * root;
                Vec3 a = corner(all, t, 0);
                Vec3 b = corner(all, t, 1);
                Vec3 c = corner(all, t, 2);
                Vec3 at = a.times(u).plus(b.times(v)).plus(c.times(1 - u - v));
                if (spacing.take(at)) {
                    Matrix4 turn = upright
                            ? Matrix4.IDENTITY
                            : upTo(b.minus(a).cross(c.minus(a)).unit());
                    places.add(turn.times(Matrix4.translation(at)));
                }
            }
            return places;
        }

        private static Vec3 corner(double[] all, int triangle, int corner) {
            int at = 9 * triangle + 3 * corner;
            return new Vec3(all[at], all[at + 1], all[at + 2]);
        }

        /** The shortest turn that leads the upright to a direction. */
        private static Matrix4 upTo(Vec3 normal) {
            Vec3 axis = Vec3.UP.cross(normal);
            double half = Math.acos(Math.clamp(normal.y(), -1, 1)) / 2;
            if (axis.length() < 1e-12) {
                return normal.y() > 0 ? Matrix4.IDENTITY : Matrix4.rotation(0, 180);
            }
            Vec3 part = axis.unit().times(Math.sin(half));
            return Matrix4.quaternion(Math.cos(half), part.x(), part.y(), part.z());
        }
    }

    /** Points of which no two are nearer than a distance, found by cells of a grid that have room for one each. */
    final class Spacing {
        /** So many in a row find no room, for each that stands, before none is thought to. */
        private static final int TRIES = 40;

        private static final int FEWEST_TRIES = 4000;

        private final double apart;
        private final double cell;
        private final Map<List<Long>, Vec3> taken = new HashMap<>();
        private long refused;

        Spacing(double apart) {
            this.apart = apart;
            this.cell = Math.max(apart / Math.sqrt(3), 1e-9);
        }

        /** Whether it is worth trying more points. */
        boolean hasHope() {
            return refused < Math.max(FEWEST_TRIES, (long) TRIES * taken.size());
        }

        /** Takes a point, unless it is too near to another. */
        boolean take(Vec3 at) {
            if (apart == 0) {
                return true;
            }
            long x = index(at.x());
            long y = index(at.y());
            long z = index(at.z());
            for (long i = x - 2; i <= x + 2; i++) {
                for (long j = y - 2; j <= y + 2; j++) {
                    for (long k = z - 2; k <= z + 2; k++) {
                        Vec3 other = taken.get(List.of(i, j, k));
                        if (other != null && other.minus(at).length() < apart) {
                            refused++;
                            return false;
                        }
                    }
                }
            }
            taken.put(List.of(x, y, z), at);
            refused = 0;
            return true;
        }

        private long index(double coordinate) {
            return (long) Math.floor(coordinate / cell);
        }
    }

    /**
     * How much uses may differ.
     *
     * @param turn degrees about the upright, to either side
     * @param size as a part of the size, up or down, below 1
     * @param variants of a variant set that are drawn from; none to leave it
     */
    record Variation(double turn, double size, String variantSet, List<String> variants, long seed) {
        public static final Variation NONE = new Variation(0, 0, "", List.of(), 1);

        public Variation {
            variants = List.copyOf(variants);
            check(
                    turn >= 0 && Double.isFinite(turn) && size >= 0 && size < 1,
                    "differences are not negative, and sizes differ by less than all");
        }

        /** What the use of a number is turned and sized by. */
        Matrix4 of(int number) {
            SplittableRandom random = random(number);
            double angle = (2 * random.nextDouble() - 1) * turn;
            double factor = 1 + (2 * random.nextDouble() - 1) * size;
            return Matrix4.scale(new Vec3(factor, factor, factor)).times(Matrix4.rotation(1, angle));
        }

        /** The variant of a number; empty where it is left. */
        java.util.Optional<String> variant(int number) {
            SplittableRandom random = random(number);
            random.nextDouble();
            random.nextDouble();
            return variants.isEmpty()
                    ? java.util.Optional.empty()
                    : java.util.Optional.of(variants.get(random.nextInt(variants.size())));
        }

        /** Each number has numbers of its own, so that more uses do not change those that there are. */
        private SplittableRandom random(int number) {
            return new SplittableRandom(seed * 0x9E3779B97F4A7C15L + number);
        }
    }

    private static void check(boolean condition, String message) {
        if (!condition) {
            throw new SceneException(message);
        }
    }
}
