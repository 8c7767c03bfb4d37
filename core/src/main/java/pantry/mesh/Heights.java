package pantry.mesh;

import java.util.Arrays;
import java.util.List;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * The surfaces right below and right above points, found in one pass over any number of triangles: the points lie in a grid
 * of cells, and a triangle looks only at those in the cells under it. Y up; any unit.
 */
public final class Heights {
    /** So many points share a cell, if they are spread evenly. */
    private static final int EACH = 2;

    private final double[] x;
    private final double[] level;
    private final double[] z;
    private final double[] below;
    private final double[] above;
    private final boolean[] ceiling;

    /** The points, cell by cell; {@code first[c]} to {@code first[c + 1]} are those of cell c. */
    private final int[] inCells;

    private final int[] first;
    private final double minX;
    private final double minZ;
    private final double width;
    private final double depth;
    private final int columns;
    private final int rows;

    /** @param points at whose x and z surfaces are looked for; a surface at a point's y or lower is below it */
    public Heights(List<Vec3> points) {
        int n = points.size();
        x = new double[n];
        level = new double[n];
        z = new double[n];
        Box3 box = Box3.EMPTY;
        for (int i = 0; i < n; i++) {
            Vec3 point = points.get(i);
            x[i] = point.x();
            level[i] = point.y();
            z[i] = point.z();
            box = box.including(point);
        }
        below = filled(n, Double.NEGATIVE_INFINITY);
        above = filled(n, Double.POSITIVE_INFINITY);
        ceiling = new boolean[n];
        minX = n == 0 ? 0 : box.min().x();
        minZ = n == 0 ? 0 : box.min().z();
        double alongX = n == 0 ? 0 : box.max().x() - minX;
        double alongZ = n == 0 ? 0 : box.max().z() - minZ;
        int side = (int) Math.max(1, Math.sqrt((double) n / EACH));
        columns = alongX > 0 ? side : 1;
        rows = alongZ > 0 ? side : 1;
        width = alongX > 0 ? alongX / columns : 1;
        depth = alongZ > 0 ? alongZ / rows : 1;
        first = new int[columns * rows + 1];
        for (int i = 0; i < n; i++) {
            first[cell(i) + 1]++;
        }
        for (int c = 1; c < first.length; c++) {
            first[c] += first[c - 1];
        }
        int[] next = first.clone();
        inCells = new int[n];
        for (int i = 0; i < n; i++) {
            inCells[next[cell(i)]++] = i;
        }
    }

    private static double[] filled(int n, double value) {
        double[] all = new double[n];
        Arrays.fill(all, value);
        return all;
    }

    private int cell(int point) {
        return row(z[point]) * columns + column(x[point]);
    }

    private int column(double at) {
        return (int) Math.clamp(Math.floor((at - minX) / width), 0, columns - 1);
    }

    private int row(double at) {
        return (int) Math.clamp(Math.floor((at - minZ) / depth), 0, rows - 1);
    }

    /** Looks at a mesh's triangles, seen from both sides. */
    public void add(Mesh mesh, Matrix4 world) {
        if (!covers(mesh.bounds().transformed(world))) {
            return;
        }
        boolean turnedOver = mesh.leftHanded() != world.determinant3() < 0;
        int[] corners = Triangulation.corners(mesh);
        for (int t = 0; t < corners.length; t += 3) {
            add(
                    world.point(mesh.point(mesh.corners()[corners[t]])),
                    world.point(mesh.point(mesh.corners()[corners[t + 1]])),
                    world.point(mesh.point(mesh.corners()[corners[t + 2]])),
                    turnedOver);
        }
    }

    /** Whether a point may be over or under what is in a box. */
    private boolean covers(Box3 box) {
        if (box.isEmpty() || x.length == 0) {
            return false;
        }
        int toRow = row(box.max().z());
        int toColumn = column(box.max().x());
        for (int r = row(box.min().z()); r <= toRow; r++) {
            for (int c = column(box.min().x()); c <= toColumn; c++) {
                for (int k = first[r * columns + c]; k < first[r * columns + c + 1]; k++) {
                    int i = inCells[k];
                    if (box.min().x() <= x[i]
                            && x[i] <= box.max().x()
                            && box.min().z() <= z[i]
                            && z[i] <= box.max().z()) {
                        return true;
                    }
                }
            }
        }
        return false;
    }

    private void add(Vec3 a, Vec3 b, Vec3 c, boolean turnedOver) {
        double d = (b.z() - c.z()) * (a.x() - c.x()) + (c.x() - b.x()) * (a.z() - c.z());
        if (d == 0) {
            return;
        }
        int toRow = row(Math.max(a.z(), Math.max(b.z(), c.z())));
        int toColumn = column(Math.max(a.x(), Math.max(b.x(), c.x())));
        int fromColumn = column(Math.min(a.x(), Math.min(b.x(), c.x())));
        for (int r = row(Math.min(a.z(), Math.min(b.z(), c.z()))); r <= toRow; r++) {
            for (int k = first[r * columns + fromColumn]; k < first[r * columns + toColumn + 1]; k++) {
                int i = inCells[k];
                double u = ((b.z() - c.z()) * (x[i] - c.x()) + (c.x() - b.x()) * (z[i] - c.z())) / d;
                double v = ((c.z() - a.z()) * (x[i] - c.x()) + (a.x() - c.x()) * (z[i] - c.z())) / d;
                double w = 1 - u - v;
                if (u >= 0 && v >= 0 && w >= 0) {
                    // Seen from above, the corners of what faces down go round with the clock, as x and z do.
                    meet(i, u * a.y() + v * b.y() + w * c.y(), d > 0 != turnedOver);
                }
            }
        }
    }

    private void meet(int point, double height, boolean facesDown) {
        if (height <= level[point]) {
            below[point] = Math.max(below[point], height);
        } else if (height < above[point]) {
            above[point] = height;
            ceiling[point] = facesDown;
        }
    }

    /** The highest surface that is not above a point; negative infinity where there is none. */
    public double below(int point) {
        return below[point];
    }

    /** The lowest surface above a point, where it faces down: infinity where there is none, or the point is inside of something. */
    public double ceiling(int point) {
        return ceiling[point] ? above[point] : Double.POSITIVE_INFINITY;
    }
}
