package pantry.mesh;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * Points, or lines from point to point, which have no surface.
 *
 * @param points x y z of each
 * @param counts the number of points of each line; empty for loose points
 * @param colours red, green and blue of each point, linear; empty where none are told
 * @param widths of each point; empty where none are told
 */
public record Strands(float[] points, int[] counts, float[] colours, float[] widths) {
    private static final float[] NONE = {};

    /** Lines of no width are drawn as wide as this part of their size. */
    private static final double THIN = 1 / 400.0;

    private static final double LEAST = 1 / 1000.0;
    private static final double MOST = 1 / 100.0;

    /** Of more points or pieces than this, only some are drawn, evenly over all. */
    private static final int MOST_DRAWN = 100_000;

    /** From this many pieces on, tubes have three sides rather than six. */
    private static final int MANY_PIECES = 30_000;

    /** @throws IllegalArgumentException where the arrays do not agree, or a point is not a number */
    public Strands {
        int count = points.length / 3;
        long told = 0;
        for (int each : counts) {
            if (each < 0) {
                throw new IllegalArgumentException("a line has " + each + " points");
            }
            told += each;
        }
        if (points.length % 3 != 0 || counts.length > 0 && told != count) {
            throw new IllegalArgumentException("lines of " + told + " points altogether have " + count);
        }
        if (colours.length > 0 && colours.length != points.length || widths.length > 0 && widths.length != count) {
            throw new IllegalArgumentException("there are not as many colours or widths as points");
        }
        for (float number : points) {
            if (!Float.isFinite(number)) {
                throw new IllegalArgumentException("a point is not a number or infinite");
            }
        }
    }

    /** Loose points. @param colours empty where none are told */
    public static Strands loose(float[] points, float[] colours) {
        return new Strands(points, new int[0], colours, NONE);
    }

    /**
     * Lines through numbered points.
     *
     * @param colours of all points; empty where none are told
     * @param numbers of the points, line after line
     * @param counts the number of points of each line
     */
    public static Strands lines(float[] points, float[] colours, int[] numbers, int[] counts) {
        return new Strands(gathered(points, numbers), counts, gathered(colours, numbers), NONE);
    }

    /** Loose points, of those that are numbered. @param colours of all points; empty where none are told */
    public static Strands loose(float[] points, float[] colours, int[] numbers) {
        return loose(gathered(points, numbers), gathered(colours, numbers));
    }

    private static float[] gathered(float[] all, int[] numbers) {
        if (all.length == 0) {
            return NONE;
        }
        float[] some = new float[3 * numbers.length];
        for (int i = 0; i < numbers.length; i++) {
            System.arraycopy(all, 3 * numbers[i], some, 3 * i, 3);
        }
        return some;
    }

    /** The same in another frame. @param change a rotation and uniform scale */
    public Strands transformed(Matrix4 change) {
        float[] moved = new float[points.length];
        for (int i = 0; i < pointCount(); i++) {
            Vec3 place = change.point(point(i));
            moved[3 * i] = (float) place.x();
            moved[3 * i + 1] = (float) place.y();
            moved[3 * i + 2] = (float) place.z();
        }
        float grown = (float) Math.cbrt(Math.abs(change.determinant3()));
        float[] wide = widths.clone();
        for (int i = 0; i < wide.length; i++) {
            wide[i] *= grown;
        }
        return new Strands(moved, counts, colours, wide);
    }

    public boolean areLoose() {
        return counts.length == 0;
    }

    public Box3 bounds() {
        int[] none = {};
        return new Mesh(points, none, none, null, null).bounds();
    }

    public int pointCount() {
        return points.length / 3;
    }

    /** What they are for a person: {@code 3 lines}, {@code 2000 loose points}. */
    public String words() {
        if (areLoose()) {
            return pointCount() == 1 ? "1 loose point" : pointCount() + " loose points";
        }
        return counts.length == 1 ? "1 line" : counts.length + " lines";
    }

    /** A surface that shows them: octahedra around points, tubes along lines. */
    public Mesh drawn() {
        double usual = THIN
                * new Mesh(points, new int[0], new int[0], null, null)
                        .bounds()
                        .size()
                        .length();
        Mesh mesh;
        int[] sources;
        if (areLoose()) {
            int step = (pointCount() - 1) / MOST_DRAWN + 1;
            int[] shown = new int[(pointCount() + step - 1) / step];
            Arrays.setAll(shown, i -> i * step);
            mesh = octahedra(shown, usual);
            sources = new int[6 * shown.length];
            Arrays.setAll(sources, i -> shown[i / 6]);
        } else {
            int step = pointCount() / MOST_DRAWN + 1;
            Tubes tubes = new Tubes(pointCount() / step > MANY_PIECES ? 3 : 6);
            int first = 0;
            for (int line = 0; line < counts.length; line++) {
                if (line % step == 0) {
                    tube(tubes, first, counts[line], usual);
                }
                first += counts[line];
            }
            mesh = tubes.mesh();
            sources = tubes.sources();
        }
        Mesh seen = mesh.withDoubleSided(true);
        return colours.length == 0
                ? seen
                : seen.withPrimvars(Map.of(Mesh.COLOUR, new Channel(gathered(colours, sources), 3, Channel.Per.POINT)));
    }

    /** Of points, less the more there are, as if they lay on a surface. */
    private double usualWidth() {
        double share = areLoose() ? Math.clamp(0.3 / Math.sqrt(Math.max(1, pointCount())), LEAST, MOST) : THIN;
        return share * bounds().size().length();
    }

    private Mesh octahedra(int[] shown, double usual) {
        List<Vec3> centres = new ArrayList<>(shown.length);
        double[] radii = new double[shown.length];
        for (int i = 0; i < shown.length; i++) {
            centres.add(point(shown[i]));
            radii[i] = radius(shown[i], usual);
        }
        return Tubes.octahedra(centres, radii);
    }

    private void tube(Tubes tubes, int first, int count, double usual) {
        List<Vec3> line = new ArrayList<>(count);
        double[] radii = new double[count];
        for (int i = 0; i < count; i++) {
            line.add(point(first + i));
            radii[i] = radius(first + i, usual);
        }
        boolean closed = count > 3 && line.getFirst().equals(line.getLast());
        tubes.add(line, radii, closed, first);
    }

    private double radius(int point, double usual) {
        double width = widths.length > 0 ? widths[point] : usual;
        return Math.max(0, Double.isFinite(width) ? width : usual) / 2;
    }

    private Vec3 point(int i) {
        return new Vec3(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    }
}
