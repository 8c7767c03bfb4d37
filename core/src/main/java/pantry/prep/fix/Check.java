package pantry.prep.fix;

import java.util.Arrays;
import java.util.Optional;
import pantry.mesh.PointGrid;
import pantry.mesh.SurfaceDistance;
import pantry.model.Model;
import pantry.model.WorldPoints;
import pantry.prep.inspect.Fix;
import pantry.workpiece.DisplayText;
import pantry.workpiece.Subject;

/**
 * Compares what is drawn before and after a fix, so that what a fix says it keeps is known and not assumed.
 *
 * @param grain lengths that cannot be told apart, metres
 */
public record Check(Model before, double[] undrawn, double grain) {
    /** As a workpiece is now. */
    public static Check of(Subject subject) {
        return new Check(subject.model(), undrawn(subject), subject.grain());
    }

    /** The world's vertices of meshes that are not drawn for what is wrong with them; a repair may let them be seen. */
    private static double[] undrawn(Subject subject) {
        WorldPoints points = new WorldPoints();
        subject.surfaces()
                .filter(item -> item.isDrawn() && !item.surface().faults().isEmpty())
                .forEach(item -> points.addAll(item.mesh().orElseThrow(), item.world()));
        return points.toArray();
    }

    /** What is not as it should be; empty where all is. */
    public Optional<String> fault(Fix.Keeps keeps, double within, Model after) {
        double allowed = Math.max(grain, within);
        return switch (keeps) {
            case NOTHING -> finite(after);
            case EVERY_VERTEX -> {
                double[] one = WorldPoints.vertices(before);
                double[] other = WorldPoints.vertices(after);
                yield astray(other, one, allowed).or(() -> astray(one, other, allowed));
            }
            case THE_REST -> {
                double[] drawn = WorldPoints.vertices(before);
                double[] all = Arrays.copyOf(drawn, drawn.length + undrawn.length);
                System.arraycopy(undrawn, 0, all, drawn.length, undrawn.length);
                yield astray(WorldPoints.vertices(after), all, allowed);
            }
            case THE_SURFACE -> surface(after, allowed);
        };
    }

    private static Optional<String> finite(Model after) {
        for (double number : WorldPoints.vertices(after)) {
            if (!Double.isFinite(number)) {
                return Optional.of("a vertex would no longer be anywhere");
            }
        }
        return Optional.empty();
    }

    private Optional<String> surface(Model after, double allowed) {
        SurfaceDistance.Result result =
                SurfaceDistance.between(WorldPoints.triangles(before), WorldPoints.triangles(after));
        return result.greatest() <= allowed
                ? Optional.empty()
                : Optional.of("the surface would move by " + DisplayText.length(result.greatest()) + ", "
                        + DisplayText.length(allowed) + " are allowed");
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
                : Optional.of(DisplayText.count(lost, "vertex").replace("vertexes", "vertices")
                        + " would move by more than " + DisplayText.length(allowed));
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
}
