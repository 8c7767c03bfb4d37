package pantry.model;

import java.util.Arrays;
import pantry.base.math.Matrix4;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;

/** Gathers points in the space of the world: x, y and z of each, one after the other. */
public final class WorldPoints {
    private double[] numbers = new double[1 << 12];
    private int count;

    /** The world's x, y and z of each vertex that a face uses, mesh by mesh. */
    public static double[] vertices(Model model) {
        WorldPoints points = new WorldPoints();
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            double[] m = world.rows();
            boolean[] used = new boolean[mesh.pointCount()];
            for (int corner : mesh.corners()) {
                used[corner] = true;
            }
            for (int p = 0; p < used.length; p++) {
                if (used[p]) {
                    points.add(mesh.points(), 3 * p, m);
                }
            }
        });
        return points.toArray();
    }

    /** Nine numbers for each triangle that is drawn. */
    public static double[] triangles(Model model) {
        WorldPoints points = new WorldPoints();
        model.visit((owner, part, world) -> points.addTriangles(part.mesh(), world));
        return points.toArray();
    }

    /** Nine numbers for each triangle of a mesh in its own space. */
    public static double[] triangles(Mesh mesh) {
        WorldPoints points = new WorldPoints();
        points.addTriangles(mesh, Matrix4.IDENTITY);
        return points.toArray();
    }

    private void addTriangles(Mesh mesh, Matrix4 world) {
        double[] m = world.rows();
        for (int corner : Triangulation.corners(mesh)) {
            add(mesh.points(), 3 * mesh.corners()[corner], m);
        }
    }

    /** Takes all points of a mesh, whether a face uses them or not. */
    public void addAll(Mesh mesh, Matrix4 world) {
        float[] own = mesh.points();
        double[] m = world.rows();
        for (int p = 0; p < own.length; p += 3) {
            add(own, p, m);
        }
    }

    private void add(float[] from, int at, double[] m) {
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

    /** What was gathered, three numbers for each point. */
    public double[] toArray() {
        return Arrays.copyOf(numbers, count);
    }
}
