package pantry.mesh;

import java.util.List;
import pantry.base.math.Vec3;

/** Meshes around lines and points, so that these can be drawn, picked and exported as surfaces are. */
public final class Tubes {
    private final int sides;
    private final MeshBuilder builder = new MeshBuilder();
    private int[] sources = new int[64];
    private int count;

    /** @param sides of each tube, at least 3 */
    public Tubes(int sides) {
        this.sides = sides;
    }

    /**
     * Adds a tube along a line, open at its ends. Its cross-section does not turn about the line more than the line
     * bends (parallel transport). Points in one place count once; a line of fewer than two is left out.
     *
     * @param radii at each point
     * @param closed whether the last point leads to the first
     */
    public void add(List<Vec3> line, double[] radii, boolean closed) {
        add(line, radii, closed, 0);
    }

    /** As above. @param first the number of the line's first point among all */
    void add(List<Vec3> line, double[] radii, boolean closed, int first) {
        int[] kept = distinct(line, closed);
        int length = kept.length;
        if (length < 2) {
            return;
        }
        int[][] rings = new int[length][sides];
        Vec3 across = null;
        for (int i = 0; i < length; i++) {
            Vec3 before = line.get(kept[i > 0 ? i - 1 : closed ? length - 1 : 0]);
            Vec3 after = line.get(kept[i + 1 < length ? i + 1 : closed ? 0 : length - 1]);
            Vec3 along = after.minus(before);
            // A line that turns back on itself has no direction there.
            along = along.length() > 0
                    ? along.unit()
                    : line.get(kept[i]).minus(before).unit();
            across = across == null ? anyAcross(along) : across.minus(along.times(across.dot(along)));
            across = across.length() > 1e-9 ? across.unit() : anyAcross(along);
            Vec3 up = along.cross(across);
            for (int s = 0; s < sides; s++) {
                double angle = 2 * Math.PI * s / sides;
                Vec3 out = across.times(Math.cos(angle)).plus(up.times(Math.sin(angle)));
                source(first + kept[i]);
                rings[i][s] = builder.point(line.get(kept[i]).plus(out.times(radii[kept[i]])));
            }
        }
        for (int i = 0; i + 1 < length + (closed ? 1 : 0); i++) {
            for (int s = 0; s < sides; s++) {
                int next = (s + 1) % sides;
                int[] on = rings[(i + 1) % length];
                builder.face(rings[i][s], rings[i][next], on[next], on[s]);
            }
        }
    }

    private static int[] distinct(List<Vec3> line, boolean closed) {
        int[] kept = new int[line.size()];
        int count = 0;
        for (int i = 0; i < kept.length; i++) {
            if (count == 0 || !line.get(i).equals(line.get(kept[count - 1]))) {
                kept[count++] = i;
            }
        }
        if (closed && count > 1 && line.get(kept[0]).equals(line.get(kept[count - 1]))) {
            count--;
        }
        return java.util.Arrays.copyOf(kept, count);
    }

    private static Vec3 anyAcross(Vec3 along) {
        Vec3 other = Math.abs(along.y()) < 0.9 ? Vec3.UP : new Vec3(1, 0, 0);
        return other.cross(along).unit();
    }

    private void source(int point) {
        if (count == sources.length) {
            sources = java.util.Arrays.copyOf(sources, 2 * count);
        }
        sources[count++] = point;
    }

    /** The number of the line's point that each point of the mesh stands around. */
    int[] sources() {
        return java.util.Arrays.copyOf(sources, count);
    }

    /** All tubes as one mesh. */
    public Mesh mesh() {
        return builder.build();
    }

    /** An octahedron around each point. */
    public static Mesh octahedra(List<Vec3> centres, double[] radii) {
        int count = centres.size();
        float[] points = new float[18 * count];
        int[] corners = new int[24 * count];
        for (int i = 0; i < count; i++) {
            for (int tip = 0; tip < 6; tip++) {
                double reach = tip % 2 == 0 ? radii[i] : -radii[i];
                for (int axis = 0; axis < 3; axis++) {
                    points[18 * i + 3 * tip + axis] =
                            (float) (centres.get(i).get(axis) + (tip / 2 == axis ? reach : 0));
                }
            }
            for (int face = 0; face < 8; face++) {
                int x = face & 1;
                int y = 2 + (face >> 1 & 1);
                int z = 4 + (face >> 2 & 1);
                boolean turned = (x + y + z) % 2 != 0;
                int at = 24 * i + 3 * face;
                corners[at] = 6 * i + x;
                corners[at + 1] = 6 * i + (turned ? z : y);
                corners[at + 2] = 6 * i + (turned ? y : z);
            }
        }
        int[] sizes = new int[8 * count];
        java.util.Arrays.fill(sizes, 3);
        return new Mesh(points, sizes, corners, null, null);
    }
}
