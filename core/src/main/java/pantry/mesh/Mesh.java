package pantry.mesh;

import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
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
    /** The name of the channel that holds the surface's own colours: red, green, blue, linear. */
    public static final String COLOUR = "displayColor";

    /** The name of the channel that says how opaque the surface is beside {@link #COLOUR}: 1 is solid. */
    public static final String OPACITY = "displayOpacity";

    /**
     * What the names of channels begin with that are offsets of points, or of normals where {@code Normals} follows: they turn
     * and grow with the mesh.
     */
    public static final String OFFSETS = "blendShape";

    /** The name of the channel with a further set of texture coordinates: {@code st1} is the second set. */
    public static String uvSet(int set) {
        return "st" + set;
    }

    private final float[] points;
    private final int[] faceSizes;
    private final int[] corners;
    private final @Nullable Channel normals;
    private final @Nullable Channel uvs;
    private final boolean leftHanded;
    private final boolean doubleSided;
    private final Map<String, Channel> primvars;
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
        this.points = points;
        this.faceSizes = faceSizes;
        this.corners = corners;
        this.normals = normals;
        this.uvs = uvs;
        this.leftHanded = false;
        this.doubleSided = false;
        this.primvars = Map.of();
        check();
    }

    /** The points, faces, normals and texture coordinates of another. */
    private Mesh(Mesh other, boolean leftHanded, boolean doubleSided, Map<String, Channel> primvars) {
        this.points = other.points;
        this.faceSizes = other.faceSizes;
        this.corners = other.corners;
        this.normals = other.normals;
        this.uvs = other.uvs;
        this.leftHanded = leftHanded;
        this.doubleSided = doubleSided;
        this.primvars = Collections.unmodifiableMap(new LinkedHashMap<>(primvars));
        this.primvars.forEach((name, channel) -> checkChannel(channel, channel.width(), name));
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

    /** What else varies over the surface, by name, in the order given. */
    public Map<String, Channel> primvars() {
        return primvars;
    }

    public boolean leftHanded() {
        return leftHanded;
    }

    /** The same, with faces that are clockwise seen from outside, or not. */
    public Mesh withLeftHanded(boolean clockwise) {
        return clockwise == leftHanded ? this : new Mesh(this, clockwise, doubleSided, primvars);
    }

    /**
     * The same, with these primvars in the place of those that it has.
     *
     * @param others what else varies over the surface, by OpenUSD's names, such as {@link #COLOUR}, or {@code st1} for a
     *     second set of texture coordinates
     * @throws IllegalArgumentException where they do not agree with the faces
     */
    public Mesh withPrimvars(Map<String, Channel> others) {
        return new Mesh(this, leftHanded, doubleSided, others);
    }

    /** Whether it is meant to be seen from both sides. */
    public boolean doubleSided() {
        return doubleSided;
    }

    /** This mesh, meant to be seen from both sides or from one. */
    public Mesh withDoubleSided(boolean both) {
        return both == doubleSided
                ? this
                : new Mesh(new Mesh(points, faceSizes, corners, normals, uvs), leftHanded, both, primvars);
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
        if (bounds != null && world.equals(Matrix4.IDENTITY)) {
            return bounds;
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
        Channel turned = normals;
        double[] linear = null;
        if (m.determinant3() == 0) {
            // What is flattened has no sides any more.
            turned = null;
        } else {
            // Normals go by the transpose of the inverse.
            double[] i = m.inverse().rows();
            linear = new double[] {i[0], i[4], i[8], i[1], i[5], i[9], i[2], i[6], i[10], 0, 0, 0};
            turned = normals == null ? null : normals.with(unit(mapped(normals.data(), linear)));
        }
        double[] r = m.rows();
        double[] affine = {r[0], r[1], r[2], r[4], r[5], r[6], r[8], r[9], r[10], r[12], r[13], r[14]};
        boolean mirrored = m.determinant3() < 0;
        return new Mesh(
                new Mesh(mapped(points, affine), faceSizes, corners, turned, uvs),
                leftHanded != mirrored,
                doubleSided,
                offsetsMapped(affine, linear, m));
    }

    /**
     * The channels, with offsets turned and grown.
     *
     * @param affine what points go by
     * @param normal what normals go by before they are made as long as one; null where there are none any more
     */
    private Map<String, Channel> offsetsMapped(double[] affine, double @Nullable [] normal, Matrix4 m) {
        if (primvars.keySet().stream().noneMatch(name -> name.startsWith(OFFSETS))) {
            return primvars;
        }
        double[] offset = affine.clone();
        Arrays.fill(offset, 9, 12, 0);
        double[] turn = normal == null ? new double[12] : normal.clone();
        double size = Math.cbrt(Math.abs(m.determinant3()));
        for (int i = 0; i < 9; i++) {
            turn[i] *= size;
        }
        Map<String, Channel> mapped = new LinkedHashMap<>(primvars);
        mapped.replaceAll((name, channel) -> {
            if (!name.startsWith(OFFSETS) || channel.width() != 3) {
                return channel;
            }
            return channel.with(mapped(channel.data(), name.startsWith(OFFSETS + "Normals") ? turn : offset));
        });
        return mapped;
    }

    /** Vectors of unit length, in place; those of no length stay as they are. */
    private static float[] unit(float[] vectors) {
        for (int n = 0; n < vectors.length; n += 3) {
            double length = Math.sqrt((double) vectors[n] * vectors[n]
                    + (double) vectors[n + 1] * vectors[n + 1]
                    + (double) vectors[n + 2] * vectors[n + 2]);
            if (length > 0) {
                vectors[n] = (float) (vectors[n] / length);
                vectors[n + 1] = (float) (vectors[n + 1] / length);
                vectors[n + 2] = (float) (vectors[n + 2] / length);
            }
        }
        return vectors;
    }

    /** This mesh with its normals made as long as one. */
    public Mesh withUnitNormals() {
        if (normals == null) {
            return this;
        }
        Channel unit = new Channel(unit(normals.data().clone()), 3, normals.per());
        return new Mesh(new Mesh(points, faceSizes, corners, unit, uvs), leftHanded, doubleSided, primvars);
    }

    /** @param a three rows of a linear map for row vectors, then a translation */
    private static float[] mapped(float[] triples, double[] a) {
        float[] result = new float[triples.length];
        for (int i = 0; i < triples.length; i += 3) {
            double x = triples[i];
            double y = triples[i + 1];
            double z = triples[i + 2];
            result[i] = (float) (x * a[0] + y * a[3] + z * a[6] + a[9]);
            result[i + 1] = (float) (x * a[1] + y * a[4] + z * a[7] + a[10]);
            result[i + 2] = (float) (x * a[2] + y * a[5] + z * a[8] + a[11]);
        }
        return result;
    }

    /** This mesh with each of its channels changed: normals, texture coordinates and the others. */
    Mesh withChannels(float[] newPoints, int[] newSizes, int[] newCorners, UnaryOperator<Channel> change) {
        Map<String, Channel> changed = new LinkedHashMap<>();
        primvars.forEach((name, channel) -> changed.put(name, change.apply(channel)));
        return new Mesh(
                new Mesh(
                        newPoints,
                        newSizes,
                        newCorners,
                        normals == null ? null : change.apply(normals),
                        uvs == null ? null : change.apply(uvs)),
                leftHanded,
                doubleSided,
                changed);
    }

    /** This mesh with a channel in the place of the one of that name, or beside those that it has. */
    public Mesh withPrimvar(String name, Channel channel) {
        Map<String, Channel> more = new LinkedHashMap<>(primvars);
        more.put(name, channel);
        return new Mesh(new Mesh(points, faceSizes, corners, normals, uvs), leftHanded, doubleSided, more);
    }

    /**
     * This mesh with its points elsewhere; shared, not copied.
     *
     * @param newPoints as many as it has
     * @param newNormals unit vectors, or null
     */
    public Mesh withPoints(float[] newPoints, @Nullable Channel newNormals) {
        return new Mesh(new Mesh(newPoints, faceSizes, corners, newNormals, uvs), leftHanded, doubleSided, primvars);
    }

    /** This mesh with other texture coordinates. */
    public Mesh withUvs(Channel others) {
        return new Mesh(new Mesh(points, faceSizes, corners, normals, others), leftHanded, doubleSided, primvars);
    }

    /** This mesh without normals of its own. */
    public Mesh withoutNormals() {
        return normals == null
                ? this
                : new Mesh(new Mesh(points, faceSizes, corners, null, uvs), leftHanded, doubleSided, primvars);
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
        Arrays.fill(newPoint, -1);
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
        int[] kept = Arrays.copyOf(oldPoint, used);
        return withChannels(
                gather(points, 3, kept), sizes, newCorners, channel -> picked(channel, faces, kept, oldCorner));
    }

    private static Channel picked(Channel channel, int[] faces, int[] points, int[] corners) {
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
