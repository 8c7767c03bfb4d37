package pantry.mesh;

import pantry.base.math.Box3;
import pantry.base.math.Matrix4;

/**
 * What can be counted and measured of a mesh.
 *
 * <p>Area is the sum over triangles; volume is by the divergence theorem, a sixth of the sum of the triangles' triple
 * products, and means something only where the mesh is closed.
 *
 * @param points points that faces use, and loose ones
 * @param area square metres
 * @param volume cubic metres, negative where the faces look inwards
 * @param parts connected parts; points in exactly one place count as one
 * @param boundaryEdges edges of one face only
 * @param tangledEdges edges of more than two faces, or passed twice in one direction
 * @param degenerateTriangles triangles without area
 * @param loosePoints points that no face uses
 */
public record Measures(
        long triangles,
        long polygons,
        long points,
        Box3 bounds,
        double area,
        double volume,
        int parts,
        long boundaryEdges,
        long tangledEdges,
        long degenerateTriangles,
        long loosePoints) {
    public static final Measures NOTHING = new Measures(0, 0, 0, Box3.EMPTY, 0, 0, 0, 0, 0, 0, 0);

    /** Whether the surface encloses a volume: no boundary, no tangled edges. */
    public boolean closed() {
        return triangles > 0 && boundaryEdges == 0 && tangledEdges == 0;
    }

    /** The measures of two meshes taken together. */
    public Measures plus(Measures o) {
        return new Measures(
                triangles + o.triangles,
                polygons + o.polygons,
                points + o.points,
                bounds.union(o.bounds),
                area + o.area,
                volume + o.volume,
                parts + o.parts,
                boundaryEdges + o.boundaryEdges,
                tangledEdges + o.tangledEdges,
                degenerateTriangles + o.degenerateTriangles,
                loosePoints + o.loosePoints);
    }

    /** The measures of a mesh as it stands in the world. */
    public static Measures of(Mesh mesh, Matrix4 world) {
        float[] points = mesh.points();
        int[] corners = mesh.corners();
        int[] triangles = Triangulation.corners(mesh);
        double[] placed = placed(points, world);
        double area = 0;
        double volume = 0;
        long degenerate = 0;
        for (int t = 0; t < triangles.length; t += 3) {
            int a = 3 * corners[triangles[t]];
            int b = 3 * corners[triangles[t + 1]];
            int c = 3 * corners[triangles[t + 2]];
            double ux = placed[b] - placed[a];
            double uy = placed[b + 1] - placed[a + 1];
            double uz = placed[b + 2] - placed[a + 2];
            double vx = placed[c] - placed[a];
            double vy = placed[c + 1] - placed[a + 1];
            double vz = placed[c + 2] - placed[a + 2];
            double nx = uy * vz - uz * vy;
            double ny = uz * vx - ux * vz;
            double nz = ux * vy - uy * vx;
            double doubled = Math.sqrt(nx * nx + ny * ny + nz * nz);
            area += doubled / 2;
            // Taken from the first point, so that far-off meshes keep their digits.
            volume +=
                    ((placed[a] - placed[0]) * nx + (placed[a + 1] - placed[1]) * ny + (placed[a + 2] - placed[2]) * nz)
                            / 6;
            if (doubled == 0) {
                degenerate++;
            }
        }
        boolean inwards = mesh.leftHanded() != world.determinant3() < 0;
        int[] places = Welding.firstAtPlace(points);
        long[] edges = edgeFaults(mesh, places);
        int[] parts = partsAndLoose(mesh, places);
        return new Measures(
                mesh.triangleCount(),
                mesh.faceCount(),
                mesh.pointCount(),
                mesh.boundsIn(world),
                area,
                inwards ? -volume : volume,
                parts[0],
                edges[0],
                edges[1],
                degenerate,
                parts[1]);
    }

    private static double[] placed(float[] points, Matrix4 world) {
        double[] m = world.rows();
        double[] placed = new double[Math.max(3, points.length)];
        for (int i = 0; i < points.length; i += 3) {
            for (int axis = 0; axis < 3; axis++) {
                placed[i + axis] =
                        points[i] * m[axis] + points[i + 1] * m[4 + axis] + points[i + 2] * m[8 + axis] + m[12 + axis];
            }
        }
        return placed;
    }

    /** The numbers of boundary and of tangled edges. */
    private static long[] edgeFaults(Mesh mesh, int[] places) {
        EdgeTable edges = new EdgeTable(mesh, places);
        long[] faults = new long[2];
        edges.forEach((low, high, from, to) -> {
            if (to - from == 1) {
                faults[0]++;
            } else if (to - from != 2 || edges.isBackwards(from) == edges.isBackwards(from + 1)) {
                faults[1]++;
            }
        });
        return faults;
    }

    private static int[] partsAndLoose(Mesh mesh, int[] places) {
        boolean[] used = new boolean[places.length];
        int[] root = places.clone();
        int[] corners = mesh.corners();
        int start = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 0; i < size; i++) {
                used[corners[start + i]] = true;
                ConnectedParts.join(root, corners[start], corners[start + i]);
            }
            start += size;
        }
        boolean[] counted = new boolean[root.length];
        int parts = 0;
        int loose = 0;
        for (int i = 0; i < root.length; i++) {
            if (!used[i]) {
                loose++;
            } else {
                int top = ConnectedParts.find(root, i);
                parts += counted[top] ? 0 : 1;
                counted[top] = true;
            }
        }
        return new int[] {parts, loose};
    }
}
