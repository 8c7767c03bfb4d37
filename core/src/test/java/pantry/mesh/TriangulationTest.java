package pantry.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LinearRing;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.triangulate.polygon.PolygonTriangulator;
import pantry.base.math.Matrix4;

/** The triangles of a face cover it: their areas are the area of its outline, by the shoelace formula. */
class TriangulationTest {
    private static Mesh face(double[][] outline) {
        float[] points = new float[3 * outline.length];
        for (int i = 0; i < outline.length; i++) {
            points[3 * i] = (float) outline[i][0];
            points[3 * i + 1] = (float) outline[i][1];
        }
        int[] corners = new int[outline.length];
        Arrays.setAll(corners, i -> i);
        return new Mesh(points, new int[] {outline.length}, corners, null, null);
    }

    private static double shoelace(double[][] outline) {
        double sum = 0;
        for (int i = 0; i < outline.length; i++) {
            double[] p = outline[i];
            double[] q = outline[(i + 1) % outline.length];
            sum += (float) p[0] * (double) (float) q[1] - (float) q[0] * (double) (float) p[1];
        }
        return Math.abs(sum / 2);
    }

    private static double area(double[][] outline) {
        Mesh mesh = face(outline);
        int[] triangles = Triangulation.corners(mesh);
        assertThat(triangles).hasSize(3 * (outline.length - 2));
        assertThat(Arrays.stream(triangles)).allMatch(corner -> corner >= 0 && corner < outline.length);
        return Measures.of(mesh, Matrix4.IDENTITY).area();
    }

    private static double[][] rotated(double[][] outline, int by) {
        List<double[]> corners = new ArrayList<>(Arrays.asList(outline));
        Collections.rotate(corners, by);
        return corners.toArray(double[][]::new);
    }

    /** A plate of 10 by 10 with a hole of 3 by 3, as one outline with a bridge to the hole. */
    private static final double[][] PLATE = {
        {0, 0}, {10, 0}, {10, 10}, {0, 10}, {0, 0}, {4, 4}, {4, 7}, {7, 7}, {7, 4}, {4, 4}
    };

    /** Checked beside JTS 1.20, whose triangulation of the same polygon, with the hole told as a hole, has 91. */
    @Test
    void aFaceWithAHoleIsAsLargeWhereverItsOutlineBegins() {
        GeometryFactory factory = new GeometryFactory();
        Polygon polygon = factory.createPolygon(
                factory.createLinearRing(new Coordinate[] {
                    new Coordinate(0, 0),
                    new Coordinate(10, 0),
                    new Coordinate(10, 10),
                    new Coordinate(0, 10),
                    new Coordinate(0, 0)
                }),
                new LinearRing[] {
                    factory.createLinearRing(new Coordinate[] {
                        new Coordinate(4, 4),
                        new Coordinate(4, 7),
                        new Coordinate(7, 7),
                        new Coordinate(7, 4),
                        new Coordinate(4, 4)
                    })
                });
        double outside = PolygonTriangulator.triangulate(polygon).getArea();
        assertThat(outside).isEqualTo(91);
        for (int by = 0; by < PLATE.length; by++) {
            assertThat(area(rotated(PLATE, by)))
                    .as("beginning with corner " + by)
                    .isCloseTo(outside, within(1e-9));
            List<double[]> backwards = new ArrayList<>(Arrays.asList(rotated(PLATE, by)));
            Collections.reverse(backwards);
            assertThat(area(backwards.toArray(double[][]::new))).isCloseTo(outside, within(1e-9));
        }
    }

    @Property(tries = 300)
    void concaveOutlines(@ForAll @IntRange(min = 5, max = 60) int size, @ForAll long seed) {
        double[][] star = star(size, seed, 5, 10, 0, 0);
        assertThat(area(star)).isCloseTo(shoelace(star), within(1e-4));
    }

    @Property(tries = 300)
    void outlinesWithHolesAndCornersInLine(@ForAll @IntRange(min = 3, max = 12) int hole, @ForAll long seed) {
        Random random = new Random(seed);
        List<double[]> outline = new ArrayList<>();
        double[][] around = {{-20, -20}, {0, -20}, {20, -20}, {20, 20}, {-20, 20}};
        outline.addAll(Arrays.asList(around));
        outline.add(around[0]);
        List<double[]> inner = new ArrayList<>(Arrays.asList(star(hole, seed, 3, 8, 0, 0)));
        Collections.reverse(inner);
        // The bridge goes to the corner that is nearest, so that it crosses nothing.
        inner.sort((a, b) -> 0);
        int nearest = 0;
        for (int i = 1; i < inner.size(); i++) {
            if (Math.hypot(inner.get(i)[0] + 20, inner.get(i)[1] + 20)
                    < Math.hypot(inner.get(nearest)[0] + 20, inner.get(nearest)[1] + 20)) {
                nearest = i;
            }
        }
        Collections.rotate(inner, -nearest);
        outline.addAll(inner);
        outline.add(inner.getFirst());
        double[][] all = rotated(outline.toArray(double[][]::new), random.nextInt(outline.size()));
        assertThat(area(all)).isCloseTo(shoelace(all), within(1e-3));
    }

    @Property(tries = 200)
    void nearlyStraightAndDegenerateOutlines(@ForAll @IntRange(min = 4, max = 40) int size, @ForAll long seed) {
        Random random = new Random(seed);
        double[][] comb = new double[2 * size][];
        for (int i = 0; i < size; i++) {
            comb[i] = new double[] {i, i % 2 == 0 ? 0 : 1e-3 * random.nextDouble()};
            comb[2 * size - 1 - i] = new double[] {i, 1 + (i % 3 == 0 ? 1e-3 : 0)};
        }
        assertThat(area(comb)).isCloseTo(shoelace(comb), within(1e-5));
        double[][] line = new double[size][];
        Arrays.setAll(line, i -> new double[] {random.nextInt(5), 0});
        assertThat(area(line)).isCloseTo(0, within(1e-9));
        double[][] place = new double[size][];
        Arrays.setAll(place, i -> new double[] {1, 1});
        assertThat(area(place)).isZero();
    }

    @Test
    void aFaceOfManyCornersIsCutSoon() {
        double[][] star = star(20_000, 7, 5, 10, 0, 0);
        assertThat(area(star)).isCloseTo(shoelace(star), within(1e-2));
    }

    /** Corners around a middle, so that the outline never crosses itself. */
    private static double[][] star(int size, long seed, double least, double most, double x, double y) {
        Random random = new Random(seed);
        double[][] star = new double[size][];
        for (int i = 0; i < size; i++) {
            double angle = 2 * Math.PI * i / size;
            double radius = least + (most - least) * random.nextDouble();
            star[i] = new double[] {x + radius * Math.cos(angle), y + radius * Math.sin(angle)};
        }
        return star;
    }

    /** Dart-shaped and other faces of four corners, seen from all six sides: the area is the outline's. */
    @Test
    void fourCornersAreCutByTheDiagonalThatStaysInside() {
        double[][] dart = {{0, 0}, {4, 1}, {0, 4}, {1, 1}};
        double[][] kite = {{0, 0}, {3, 0}, {4, 5}, {-1, 2}};
        for (double[][] outline : List.of(dart, kite)) {
            double expected = shoelace(outline);
            for (int by = 0; by < 4; by++) {
                double[][] turned = rotated(outline, by);
                assertThat(area(turned)).as("from corner %d", by).isCloseTo(expected, within(1e-9));
                for (int axis = 0; axis < 3; axis++) {
                    for (boolean reversed : new boolean[] {false, true}) {
                        assertThat(Measures.of(lying(turned, axis, reversed), Matrix4.IDENTITY)
                                        .area())
                                .as("from corner %d, across axis %d", by, axis)
                                .isCloseTo(expected, within(1e-9));
                    }
                }
            }
        }
    }

    /** A face at right angles to an axis. */
    private static Mesh lying(double[][] outline, int axis, boolean reversed) {
        float[] points = new float[3 * outline.length];
        for (int i = 0; i < outline.length; i++) {
            double[] at = outline[reversed ? outline.length - 1 - i : i];
            points[3 * i + axis] = 7;
            points[3 * i + (axis + 1) % 3] = (float) at[0];
            points[3 * i + (axis + 2) % 3] = (float) at[1];
        }
        return new Mesh(points, new int[] {outline.length}, new int[] {0, 1, 2, 3}, null, null);
    }
}
