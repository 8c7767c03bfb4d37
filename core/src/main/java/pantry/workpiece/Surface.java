package pantry.workpiece;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdMeshReader;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.MeshEdit;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/**
 * The surface of a prim, read leniently: what cannot be a face is left out and told.
 *
 * @param faults in words
 * @param kept for each face of the mesh, which of the prim's it is; empty where all are
 * @param edges faces of two corners: line work
 */
public record Surface(Optional<Mesh> mesh, List<String> faults, int[] kept, int edges) {
    static final Surface NONE = new Surface(Optional.empty(), List.of(), new int[0], 0);

    public static Surface of(Prim prim, MeshCache meshes) {
        List<String> problems = new ArrayList<>();
        Optional<Mesh> whole = new UsdMeshReader(meshes, problems).read(prim);
        if (whole.isPresent() || !prim.typeName().equals("Mesh")) {
            return new Surface(whole, List.of(), new int[0], 0);
        }
        float[] points = Values.floats(prim, "points", 3);
        int[] sizes = Values.ints(prim, "faceVertexCounts");
        int[] corners = Values.ints(prim, "faceVertexIndices");
        if (points == null || sizes == null || corners == null || sizes.length == 0) {
            return new Surface(Optional.empty(), List.of("has no faces"), new int[0], 0);
        }
        return lenient(points, sizes, corners, problems);
    }

    private static Surface lenient(float[] points, int[] sizes, int[] corners, List<String> problems) {
        long total = 0;
        for (int size : sizes) {
            total += Math.max(0, size);
        }
        if (total != corners.length) {
            return new Surface(
                    Optional.empty(),
                    List.of("its faces have " + total + " corners, but " + corners.length + " are given"),
                    new int[0],
                    0);
        }
        int[] kept = new int[sizes.length];
        int count = 0;
        int edges = 0;
        int stray = 0;
        int astray = 0;
        int notNumbers = 0;
        int[] keptCorners = new int[corners.length];
        int at = 0;
        int start = 0;
        for (int face = 0; face < sizes.length; face++) {
            int size = Math.max(0, sizes[face]);
            int fault = fault(points, corners, start, size);
            edges += size == 2 ? 1 : 0;
            stray += size < 3 ? 1 : 0;
            astray += fault == 1 ? 1 : 0;
            notNumbers += fault == 2 ? 1 : 0;
            if (size >= 3 && fault == 0) {
                kept[count++] = face;
                System.arraycopy(corners, start, keptCorners, at, size);
                at += size;
            }
            start += size;
        }
        List<String> faults = new ArrayList<>();
        told(faults, stray, "of fewer than three corners");
        told(faults, astray, "with points that are not there");
        told(faults, notNumbers, "with points that are no numbers");
        if (faults.isEmpty()) {
            faults.addAll(problems);
        }
        int[] keptFaces = Arrays.copyOf(kept, count);
        int[] keptSizes = new int[count];
        for (int i = 0; i < count; i++) {
            keptSizes[i] = sizes[keptFaces[i]];
        }
        float[] finite = points.clone();
        for (int i = 0; i < finite.length; i++) {
            finite[i] = Float.isFinite(finite[i]) ? finite[i] : 0;
        }
        Optional<Mesh> mesh = count == 0
                ? Optional.empty()
                : Optional.of(new Mesh(finite, keptSizes, Arrays.copyOf(keptCorners, at), null, (Channel) null));
        return new Surface(mesh, faults, keptFaces, edges);
    }

    /** How faces of two corners are told where they are all that is wrong. */
    public static String fewCorners(int edges) {
        return DisplayText.count(edges, "face") + " of fewer than three corners";
    }

    /** The change of the prim's mesh that leaves what is a face, and the points that these use. */
    public MeshEdit repair(Prim prim) {
        int[] sizes = Objects.requireNonNull(Values.ints(prim, "faceVertexCounts"));
        int[] corners = Objects.requireNonNull(Values.ints(prim, "faceVertexIndices"));
        int points = Objects.requireNonNull(Values.floats(prim, "points", 3)).length / 3;
        int[] starts = new int[sizes.length];
        for (int face = 1; face < sizes.length; face++) {
            starts[face] = starts[face - 1] + Math.max(0, sizes[face - 1]);
        }
        int[] keptCorners = new int[corners.length];
        boolean[] used = new boolean[points];
        int count = 0;
        for (int face : kept) {
            for (int c = starts[face]; c < starts[face] + sizes[face]; c++) {
                keptCorners[count++] = c;
                used[corners[c]] = true;
            }
        }
        int[] number = new int[points];
        int[] keptPoints = new int[points];
        int pointCount = 0;
        for (int p = 0; p < points; p++) {
            if (used[p]) {
                number[p] = pointCount;
                keptPoints[pointCount++] = p;
            }
        }
        int[] oldCorners = Arrays.copyOf(keptCorners, count);
        int[] cornerPoints =
                Arrays.stream(oldCorners).map(c -> number[corners[c]]).toArray();
        return new MeshEdit(Arrays.copyOf(keptPoints, pointCount), kept, oldCorners, cornerPoints);
    }

    private static void told(List<String> faults, int count, String what) {
        if (count > 0) {
            faults.add(DisplayText.count(count, "face") + " " + what);
        }
    }

    /** 0 where a face can be one, 1 where a point is not there, 2 where one is no number. */
    private static int fault(float[] points, int[] corners, int start, int size) {
        for (int c = start; c < start + size; c++) {
            int p = corners[c];
            if (p < 0 || 3 * p + 2 >= points.length) {
                return 1;
            }
            if (!Float.isFinite(points[3 * p])
                    || !Float.isFinite(points[3 * p + 1])
                    || !Float.isFinite(points[3 * p + 2])) {
                return 2;
            }
        }
        return 0;
    }
}
