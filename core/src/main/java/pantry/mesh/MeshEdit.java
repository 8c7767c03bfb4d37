package pantry.mesh;

import java.util.Arrays;
import java.util.function.IntPredicate;

/**
 * A change of a mesh told as where each element of the new one comes from, so that whatever goes with points, faces or
 * corners can follow. Points stay where they are.
 *
 * @param points for each new point the old one
 * @param faces for each new face the old one
 * @param corners for each new corner the old one, face by face
 * @param cornerPoints for each new corner its new point
 */
public record MeshEdit(int[] points, int[] faces, int[] corners, int[] cornerPoints) {
    /** Only some faces, and no points that only others used; points that no face used stay where wanted. */
    public static MeshEdit keeping(Mesh mesh, IntPredicate face, boolean loosePoints) {
        int[] sizes = mesh.faceSizes();
        int[] faces = new int[sizes.length];
        int[] corners = new int[mesh.corners().length];
        boolean[] before = new boolean[mesh.pointCount()];
        boolean[] after = new boolean[mesh.pointCount()];
        int faceCount = 0;
        int cornerCount = 0;
        int start = 0;
        for (int f = 0; f < sizes.length; f++) {
            boolean kept = face.test(f);
            for (int c = start; c < start + sizes[f]; c++) {
                before[mesh.corners()[c]] = true;
                if (kept) {
                    after[mesh.corners()[c]] = true;
                    corners[cornerCount++] = c;
                }
            }
            if (kept) {
                faces[faceCount++] = f;
            }
            start += sizes[f];
        }
        int[] number = new int[after.length];
        int[] points = new int[after.length];
        int count = 0;
        for (int p = 0; p < after.length; p++) {
            if (after[p] || loosePoints && !before[p]) {
                number[p] = count;
                points[count++] = p;
            }
        }
        int[] kept = Arrays.copyOf(corners, cornerCount);
        return new MeshEdit(
                Arrays.copyOf(points, count), Arrays.copyOf(faces, faceCount), kept, numbered(mesh, kept, number));
    }

    private static int[] numbered(Mesh mesh, int[] corners, int[] number) {
        int[] points = new int[corners.length];
        for (int c = 0; c < points.length; c++) {
            points[c] = number[mesh.corners()[corners[c]]];
        }
        return points;
    }

    /** Some faces turned round; they begin at the corner where they began. */
    public static MeshEdit turning(Mesh mesh, boolean[] turned) {
        int[] sizes = mesh.faceSizes();
        int[] corners = range(mesh.corners().length);
        int start = 0;
        for (int f = 0; f < sizes.length; f++) {
            for (int i = 1; turned[f] && i < sizes[f]; i++) {
                corners[start + i] = start + sizes[f] - i;
            }
            start += sizes[f];
        }
        return new MeshEdit(
                range(mesh.pointCount()),
                range(sizes.length),
                corners,
                numbered(mesh, corners, range(mesh.pointCount())));
    }

    /** Each place once. */
    public static MeshEdit welding(Mesh mesh) {
        int[] first = Welding.firstAtPlace(mesh.points());
        int[] number = new int[first.length];
        int[] points = new int[first.length];
        int count = 0;
        for (int p = 0; p < first.length; p++) {
            if (first[p] == p) {
                points[count] = p;
                number[p] = count++;
            } else {
                number[p] = number[first[p]];
            }
        }
        int[] corners = range(mesh.corners().length);
        return new MeshEdit(
                Arrays.copyOf(points, count), range(mesh.faceCount()), corners, numbered(mesh, corners, number));
    }

    private static int[] range(int count) {
        int[] range = new int[count];
        Arrays.setAll(range, i -> i);
        return range;
    }

    /** The changed mesh. */
    public Mesh apply(Mesh mesh) {
        int[] sizes = new int[faces.length];
        for (int f = 0; f < sizes.length; f++) {
            sizes[f] = mesh.faceSizes()[faces[f]];
        }
        float[] places = CornerData.picked(mesh.points(), 3, points);
        return mesh.withChannels(places, sizes, cornerPoints, channel -> channel(channel, mesh.corners()));
    }

    /** What goes with the mesh, after the change. */
    private Channel channel(Channel channel, int[] oldCorners) {
        float[] data = channel.data();
        int width = channel.width();
        Followed followed = follow(
                channel.per(),
                oldCorners,
                (one, other) -> Arrays.equals(
                        data, width * one, width * one + width, data, width * other, width * other + width));
        return new Channel(CornerData.picked(data, width, followed.elements()), width, followed.per());
    }

    /**
     * Where each element of something that goes with the mesh comes from.
     *
     * @param elements for each new element the old one
     */
    public record Followed(Channel.Per per, int[] elements) {}

    /** Tells elements that cannot be told apart. */
    @FunctionalInterface
    public interface Equality {
        boolean same(int one, int other);
    }

    /**
     * How something that goes with the mesh follows. What was told per point is told per corner where points that have
     * become one do not agree.
     *
     * @param oldCorners the old mesh's points by corner
     */
    public Followed follow(Channel.Per per, int[] oldCorners, Equality equality) {
        return switch (per) {
            case MESH -> new Followed(per, new int[] {0});
            case FACE -> new Followed(per, faces);
            case CORNER -> new Followed(per, corners);
            case POINT -> {
                int[] pointOfCorner = new int[corners.length];
                boolean agree = true;
                for (int c = 0; c < corners.length; c++) {
                    pointOfCorner[c] = oldCorners[corners[c]];
                    int kept = points[cornerPoints[c]];
                    agree &= kept == pointOfCorner[c] || equality.same(kept, pointOfCorner[c]);
                }
                yield agree ? new Followed(per, points) : new Followed(Channel.Per.CORNER, pointOfCorner);
            }
        };
    }
}
