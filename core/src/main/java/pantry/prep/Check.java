package pantry.prep;

import java.util.Arrays;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.mesh.PointGrid;
import pantry.mesh.SurfaceDistance;
import pantry.mesh.Triangulation;
import pantry.model.Model;

/**
 * Compares what is drawn before and after a fix, so that what a fix says it keeps is known and not assumed.
 *
 * @param grain lengths that cannot be told apart, metres
 */
record Check(Model before, double[] undrawn, double grain) {
    /** As a workpiece is now. */
    static Check of(Subject subject) {
        return new Check(subject.model(), undrawn(subject), subject.grain());
    }

    /** The world's vertices of meshes that are not drawn for what is wrong with them; a repair may let them be seen. */
    private static double[] undrawn(Subject subject) {
        Points points = new Points();
        subject.surfaces()
                .filter(item -> item.isDrawn() && !item.surface().faults().isEmpty())
                .forEach(item -> {
                    float[] own = item.mesh().orElseThrow().points();
                    for (int p = 0; p < own.length; p += 3) {
                        points.add(own, p, item.world().rows());
                    }
                });
        return points.all();
    }

    /** What is not as it should be; empty where all is. */
    Optional<String> fault(Fix.Keeps keeps, double within, Model after) {
        double allowed = Math.max(grain, within);
        return switch (keeps) {
            case NOTHING -> finite(after);
            case EVERY_VERTEX -> {
                double[] one = vertices(before);
                double[] other = vertices(after);
                yield astray(other, one, allowed).or(() -> astray(one, other, allowed));
            }
            case THE_REST -> {
                double[] drawn = vertices(before);
                double[] all = Arrays.copyOf(drawn, drawn.length + undrawn.length);
                System.arraycopy(undrawn, 0, all, drawn.length, undrawn.length);
                yield astray(vertices(after), all, allowed);
            }
            case THE_SURFACE -> surface(after, allowed);
        };
    }

    private static Optional<String> finite(Model after) {
        for (double number : vertices(after)) {
            if (!Double.isFinite(number)) {
                return Optional.of("a vertex would no longer be anywhere");
            }
        }
        return Optional.empty();
    }

    private Optional<String> surface(Model after, double allowed) {
        SurfaceDistance.Result result = SurfaceDistance.between(triangles(before), triangles(after));
        return result.greatest() <= allowed
                ? Optional.empty()
                : Optional.of("the surface would move by " + Words.length(result.greatest()) + ", "
                        + Words.length(allowed) + " are allowed");
    }

    /** Whether each vertex is where one of the others is. */
    private static Optional<String> astray(double[] vertices, double[] others, double allowed) {
        if (vertices.length == others.length && near(vertices, others, allowed)) {
            return Optional.empty();
        }
        double greatest = 0;
        for (double number : others) {
            greatest = Math.max(greatest, Math.abs(number));
        }
        PointGrid grid = new PointGrid(others, Math.max(greatest, allowed));
        int lost = 0;
        for (int i = 0; i < vertices.length; i += 3) {
            if (grid.nearest(vertices[i], vertices[i + 1], vertices[i + 2], allowed) < 0) {
                lost++;
            }
        }
        return lost == 0
                ? Optional.empty()
                : Optional.of(Words.count(lost, "vertex").replace("vertexes", "vertices") + " would move by more than "
                        + Words.length(allowed));
    }

    private static boolean near(double[] some, double[] others, double allowed) {
        for (int i = 0; i < some.length; i += 3) {
            double x = some[i] - others[i];
            double y = some[i + 1] - others[i + 1];
            double z = some[i + 2] - others[i + 2];
            if (!(x * x + y * y + z * z <= allowed * allowed)) {
                return false;
            }
        }
        return true;
    }

    /** The world's x, y and z of each vertex that a face uses, mesh by mesh. */
    static double[] vertices(Model model) {
        Points points = new Points();
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            boolean[] used = new boolean[mesh.pointCount()];
            for (int corner : mesh.corners()) {
                used[corner] = true;
            }
            for (int p = 0; p < used.length; p++) {
                if (used[p]) {
                    points.add(mesh.points(), 3 * p, world.rows());
                }
            }
        });
        return points.all();
    }

    /** Nine numbers for each triangle that is drawn. */
    static double[] triangles(Model model) {
        Points points = new Points();
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            double[] m = world.rows();
            for (int corner : Triangulation.corners(mesh)) {
                points.add(mesh.points(), 3 * mesh.corners()[corner], m);
            }
        });
        return points.all();
    }

    /** Nine numbers for each triangle of a mesh in its own space. */
    static double[] triangles(Mesh mesh) {
        Points points = new Points();
        for (int corner : Triangulation.corners(mesh)) {
            points.add(mesh.points(), 3 * mesh.corners()[corner], Matrix4.IDENTITY.rows());
        }
        return points.all();
    }

    private static final class Points {
        private double[] numbers = new double[1 << 12];
        private int count;

        void add(float[] from, int at, double[] m) {
            if (count + 3 > numbers.length) {
                numbers = Arrays.copyOf(numbers, 2 * numbers.length);
            }
            double x = from[at];
            double y = from[at + 1];
            double z = from[at + 2];
            numbers[count++] = x * m[0] + y * m[4] + z * m[8] + m[12];
            numbers[count++] = x * m[1] + y * m[5] + z * m[9] + m[13];
            numbers[count++] = x * m[2] + y * m[6] + z * m[10] + m[14];
        }

        double[] all() {
            return Arrays.copyOf(numbers, count);
        }
    }
}
