package pantry.mesh;

import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * A polygon mesh. Immutable: arrays are shared, not copied, and must not be changed.
 *
 * <p>A <em>corner</em> is a face's use of a point; corners are numbered in the order of {@link #corners()}.
 */
public final class Mesh {
    private final float[] points;
    private final int[] faceSizes;
    private final int[] corners;
    private final @Nullable Channel normals;
    private final @Nullable Channel uvs;
    private final boolean leftHanded;
    private @Nullable Box3 bounds;

    /**
     * @param points x, y, z of each point, metres
     * @param faceSizes the number of corners of each face, at least 3
     * @param corners for each face in turn, the points at its corners, counter-clockwise seen from outside
     * @param normals unit vectors (width 3), or null
     * @param uvs texture coordinates (width 2), v upwards, or null
     * @throws IllegalArgumentException where the arrays do not agree
     */
    public Mesh(float[] points, int[] faceSizes, int[] corners, @Nullable Channel normals, @Nullable Channel uvs) {
        this(points, faceSizes, corners, normals, uvs, false);
    }

    /** @param leftHanded whether faces are clockwise seen from outside */
    public Mesh(
            float[] points,
            int[] faceSizes,
            int[] corners,
            @Nullable Channel normals,
            @Nullable Channel uvs,
            boolean leftHanded) {
        this.points = points;
        this.faceSizes = faceSizes;
        this.corners = corners;
        this.normals = normals;
        this.uvs = uvs;
        this.leftHanded = leftHanded;
        check();
    }

    private void check() {
        if (points.length % 3 != 0) {
            throw new IllegalArgumentException(points.length + " numbers are no points of three");
        }
        long total = 0;
        for (int size : faceSizes) {
            if (size < 3) {
                throw new IllegalArgumentException("a face has " + size + " corners; at least 3 are needed");
            }
            total += size;
        }
        if (total != corners.length) {
            throw new IllegalArgumentException(
                    "the faces have " + total + " corners together, but " + corners.length + " are given");
        }
        int count = pointCount();
        for (int point : corners) {
            if (point < 0 || point >= count) {
                throw new IllegalArgumentException("a face uses point " + point + " of " + count);
            }
        }
        checkChannel(normals, 3, "normals");
        checkChannel(uvs, 2, "texture coordinates");
    }

    private void checkChannel(@Nullable Channel channel, int width, String name) {
        if (channel == null) {
            return;
        }
        int needed =
                switch (channel.per()) {
                    case MESH -> 1;
                    case FACE -> faceSizes.length;
                    case POINT -> pointCount();
                    case CORNER -> corners.length;
                };
        if (channel.width() != width || channel.size() != needed) {
            throw new IllegalArgumentException(
                    "there are " + channel.size() + " " + name + "; " + needed + " are needed");
        }
    }

    /** x, y, z of each point; shared. */
    public float[] points() {
        return points;
    }

    /** Corners per face; shared. */
    public int[] faceSizes() {
        return faceSizes;
    }

    /** The point at each corner; shared. */
    public int[] corners() {
        return corners;
    }

    public Optional<Channel> normals() {
        return Optional.ofNullable(normals);
    }

    public Optional<Channel> uvs() {
        return Optional.ofNullable(uvs);
    }

    public boolean leftHanded() {
        return leftHanded;
    }

    public int pointCount() {
        return points.length / 3;
    }

    public int faceCount() {
        return faceSizes.length;
    }

    /** The number of triangles that the faces come to: corners less two, per face. */
    public int triangleCount() {
        return corners.length - 2 * faceSizes.length;
    }

    public Vec3 point(int i) {
        return new Vec3(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    }

    /** The box around all points, those that no face uses included. */
    public Box3 bounds() {
        Box3 box = bounds;
        if (box == null) {
            box = boundsIn(Matrix4.IDENTITY);
            bounds = box;
        }
        return box;
    }

    /** The box around the transformed points, exactly. */
    public Box3 boundsIn(Matrix4 world) {
        if (points.length == 0) {
            return Box3.EMPTY;
        }
        double[] m = world.rows();
        double[] low = {Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY, Double.POSITIVE_INFINITY};
        double[] high = {Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY, Double.NEGATIVE_INFINITY};
        for (int i = 0; i < points.length; i += 3) {
            for (int axis = 0; axis < 3; axis++) {
                double value =
                        points[i] * m[axis] + points[i + 1] * m[4 + axis] + points[i + 2] * m[8 + axis] + m[12 + axis];
                low[axis] = Math.min(low[axis], value);
                high[axis] = Math.max(high[axis], value);
            }
        }
        return new Box3(new Vec3(low[0], low[1], low[2]), new Vec3(high[0], high[1], high[2]));
    }

    /** This mesh with every point and normal transformed; a mirroring transform turns the faces' order round. */
    public Mesh transformed(Matrix4 m) {
        if (m.equals(Matrix4.IDENTITY)) {
            return this;
        }
        float[] moved = mapped(points, m::point);
        Channel turned = normals;
        if (normals != null) {
            double[] inverse = m.inverse().rows();
            // Normals go by the transpose of the inverse.
            Matrix4 transposed = Matrix4.ofRows(
                    inverse[0],
                    inverse[4],
                    inverse[8],
                    0,
                    inverse[1],
                    inverse[5],
                    inverse[9],
                    0,
                    inverse[2],
                    inverse[6],
                    inverse[10],
                    0,
                    0,
                    0,
                    0,
                    1);
            turned = new Channel(
                    mapped(normals.data(), n -> transposed.direction(n).unit()), 3, normals.per());
        }
        boolean mirrored = m.determinant3() < 0;
        return new Mesh(moved, faceSizes, corners, turned, uvs, leftHanded != mirrored);
    }

    private static float[] mapped(float[] triples, Function<Vec3, Vec3> change) {
        float[] result = new float[triples.length];
        for (int i = 0; i < triples.length; i += 3) {
            Vec3 changed = change.apply(new Vec3(triples[i], triples[i + 1], triples[i + 2]));
            result[i] = (float) changed.x();
            result[i + 1] = (float) changed.y();
            result[i + 2] = (float) changed.z();
        }
        return result;
    }

    /** Only the given faces, with the points that they use. */
    public Mesh faces(int[] faces) {
        int[] starts = new int[faceSizes.length];
        for (int f = 1; f < starts.length; f++) {
            starts[f] = starts[f - 1] + faceSizes[f - 1];
        }
        int total = 0;
        for (int face : faces) {
            total += faceSizes[face];
        }
        int[] sizes = new int[faces.length];
        int[] newCorners = new int[total];
        int[] oldCorner = new int[total];
        int[] newPoint = new int[pointCount()];
        java.util.Arrays.fill(newPoint, -1);
        int[] oldPoint = new int[Math.min(total, pointCount())];
        int used = 0;
        int at = 0;
        for (int i = 0; i < faces.length; i++) {
            sizes[i] = faceSizes[faces[i]];
            for (int c = 0; c < sizes[i]; c++) {
                int point = corners[starts[faces[i]] + c];
                if (newPoint[point] < 0) {
                    oldPoint[used] = point;
                    newPoint[point] = used++;
                }
                oldCorner[at] = starts[faces[i]] + c;
                newCorners[at++] = newPoint[point];
            }
        }
        int[] kept = java.util.Arrays.copyOf(oldPoint, used);
        return new Mesh(
                gather(points, 3, kept),
                sizes,
                newCorners,
                picked(normals, faces, kept, oldCorner),
                picked(uvs, faces, kept, oldCorner),
                leftHanded);
    }

    private static @Nullable Channel picked(@Nullable Channel channel, int[] faces, int[] points, int[] corners) {
        if (channel == null) {
            return null;
        }
        float[] data =
                switch (channel.per()) {
                    case MESH -> channel.data();
                    case FACE -> gather(channel.data(), channel.width(), faces);
                    case POINT -> gather(channel.data(), channel.width(), points);
                    case CORNER -> gather(channel.data(), channel.width(), corners);
                };
        return new Channel(data, channel.width(), channel.per());
    }

    private static float[] gather(float[] data, int width, int[] elements) {
        float[] result = new float[elements.length * width];
        for (int i = 0; i < elements.length; i++) {
            System.arraycopy(data, elements[i] * width, result, i * width, width);
        }
        return result;
    }
}
