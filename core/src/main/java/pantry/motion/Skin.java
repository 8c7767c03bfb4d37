package pantry.motion;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;

/**
 * Which joints move the points of a mesh, how much, and how they are blended. It is kept as channels of the mesh, by OpenUSD's
 * names, so that it goes with the points whatever is done to them.
 *
 * @param width influences per point
 * @param joints for each point the numbers of its joints; shared
 * @param weights for each point how much each of them counts; shared
 * @param dual whether joints are blended as dual quaternions rather than linearly
 */
public record Skin(int width, float[] joints, float[] weights, boolean dual) {
    /** The primvar with the numbers of joints. */
    public static final String JOINTS = "skel:jointIndices";

    /** The primvar with the weights. */
    public static final String WEIGHTS = "skel:jointWeights";

    /** The primvar that says how joints are blended. */
    public static final String METHOD = "skel:skinningMethod";

    /** What it says where they are blended as dual quaternions, by OpenUSD's word. */
    public static final String DUAL = "dualQuaternion";

    private static final Channel BLENDED_DUAL = new Channel(new float[] {1}, 1, Channel.Per.MESH);

    /** As above, blended linearly. */
    public Skin(int width, float[] joints, float[] weights) {
        this(width, joints, weights, false);
    }

    /** Whether a channel of a mesh is one of those that make its skin. */
    public static boolean isChannel(String name) {
        return name.equals(JOINTS) || name.equals(WEIGHTS) || name.equals(METHOD);
    }

    /** The same way of blending with other influences. */
    public Skin with(int otherWidth, float[] otherJoints, float[] otherWeights) {
        return new Skin(otherWidth, otherJoints, otherWeights, dual);
    }

    /** The skin of a mesh; empty where it has none, or one that is not told by point. */
    public static Optional<Skin> of(Mesh mesh) {
        Channel joints = mesh.primvars().get(JOINTS);
        Channel weights = mesh.primvars().get(WEIGHTS);
        if (joints == null
                || weights == null
                || joints.width() != weights.width()
                || joints.per() != Channel.Per.POINT
                || weights.per() != Channel.Per.POINT) {
            return Optional.empty();
        }
        return Optional.of(new Skin(joints.width(), joints.data(), weights.data(), isDual(mesh.primvars())));
    }

    /** Whether a mesh's channels say that its joints are blended as dual quaternions. */
    public static boolean isDual(Map<String, Channel> channels) {
        Channel method = channels.get(METHOD);
        return method != null && method.data().length > 0 && method.data()[0] == 1;
    }

    /** The channels of a mesh that hangs on this skin, by their names. */
    public Map<String, Channel> channels() {
        Map<String, Channel> channels = new LinkedHashMap<>();
        channels.put(JOINTS, new Channel(joints, width, Channel.Per.POINT));
        channels.put(WEIGHTS, new Channel(weights, width, Channel.Per.POINT));
        if (dual) {
            channels.put(METHOD, BLENDED_DUAL);
        }
        return channels;
    }

    /** A mesh that hangs on this skin instead of its own. */
    public Mesh on(Mesh mesh) {
        Map<String, Channel> all = new LinkedHashMap<>(mesh.primvars());
        all.keySet().removeIf(Skin::isChannel);
        all.putAll(channels());
        return mesh.withPrimvars(all);
    }

    /** A mesh all of whose points go with one joint. */
    public static Mesh rigid(Mesh mesh, int joint) {
        float[] joints = new float[mesh.pointCount()];
        float[] weights = new float[mesh.pointCount()];
        Arrays.fill(joints, joint);
        Arrays.fill(weights, 1);
        return new Skin(1, joints, weights).on(mesh);
    }

    /**
     * Skinning, by dual quaternions ({@link DualQuaternions}) where the skin says so, and linearly otherwise: each point goes where its joints take it, by their weights (N. Magnenat-Thalmann et al.,
     * Joint-dependent local deformations, 1988; glTF 2.0, 3.7.3.3). Weights are taken by their sum; a point without any stays.
     *
     * @param points x, y, z of each, where they were bound, in the model
     * @param changes by joint, see {@link Skeleton#skinning}
     * @return x, y, z of each, in the model
     */
    public float[] deformed(float[] points, Matrix4[] changes) {
        return deformed(points, new float[0], changes).points();
    }

    /** Points with their normals; none where there were none. */
    public record Deformed(float[] points, float[] normals) {}

    /**
     * As above, with a normal for each point, which turns with the surface; unit vectors.
     *
     * @param normals x, y, z of each, or nothing
     */
    public Deformed deformed(float[] points, float[] normals, Matrix4[] changes) {
        float[] moved = points.clone();
        float[] turned = normals.clone();
        Blend blend = blend(changes);
        double[] m = new double[12];
        for (int at = 0; at < points.length; at += 3) {
            if (!blend.of(at / 3, m)) {
                continue;
            }
            double x = points[at];
            double y = points[at + 1];
            double z = points[at + 2];
            moved[at] = (float) (x * m[0] + y * m[3] + z * m[6] + m[9]);
            moved[at + 1] = (float) (x * m[1] + y * m[4] + z * m[7] + m[10]);
            moved[at + 2] = (float) (x * m[2] + y * m[5] + z * m[8] + m[11]);
            if (turned.length > at) {
                turn(turned, at, m);
            }
        }
        return new Deformed(moved, turned);
    }

    /**
     * Normals that belong to corners, as their points are turned; unit vectors.
     *
     * @param normals x, y, z of each, where they were bound, in the model
     * @param points which point each of them belongs to
     */
    public float[] turned(float[] normals, int[] points, Matrix4[] changes) {
        float[] turned = normals.clone();
        Blend blend = blend(changes);
        double[] m = new double[12];
        for (int i = 0; i < points.length; i++) {
            if (blend.of(points[i], m)) {
                turn(turned, 3 * i, m);
            }
        }
        return turned;
    }

    /** By the transpose of the inverse, but for its size: its rows are the cross products of the map's. */
    private static void turn(float[] normals, int at, double[] m) {
        double x = normals[at];
        double y = normals[at + 1];
        double z = normals[at + 2];
        double nx = x * (m[4] * m[8] - m[5] * m[7]) + y * (m[7] * m[2] - m[8] * m[1]) + z * (m[1] * m[5] - m[2] * m[4]);
        double ny = x * (m[5] * m[6] - m[3] * m[8]) + y * (m[8] * m[0] - m[6] * m[2]) + z * (m[2] * m[3] - m[0] * m[5]);
        double nz = x * (m[3] * m[7] - m[4] * m[6]) + y * (m[6] * m[1] - m[7] * m[0]) + z * (m[0] * m[4] - m[1] * m[3]);
        double length = Math.sqrt(nx * nx + ny * ny + nz * nz);
        if (length > 0) {
            normals[at] = (float) (nx / length);
            normals[at + 1] = (float) (ny / length);
            normals[at + 2] = (float) (nz / length);
        }
    }

    private static double[][] rows(Matrix4[] changes) {
        double[][] rows = new double[changes.length][];
        for (int i = 0; i < rows.length; i++) {
            double[] m = changes[i].rows();
            rows[i] = new double[] {m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10], m[12], m[13], m[14]};
        }
        return rows;
    }

    /** What takes a point somewhere. */
    private interface Blend {
        /** @return false where nothing does; {@code map} is undefined then */
        boolean of(int point, double[] map);
    }

    private Blend blend(Matrix4[] changes) {
        double[][] rows = rows(changes);
        if (!dual) {
            return (point, map) -> linear(point, rows, map);
        }
        DualQuaternions turns = new DualQuaternions(rows);
        return (point, map) -> dual(point, rows.length, turns, map);
    }

    private boolean dual(int point, int count, DualQuaternions turns, double[] map) {
        double all = 0;
        turns.clear();
        for (int i = 0; i < width; i++) {
            double weight = weights[point * width + i];
            int joint = (int) joints[point * width + i];
            if (weight > 0 && joint >= 0 && joint < count) {
                all += weight;
                turns.add(joint, weight);
            }
        }
        if (all > 0) {
            turns.mean(all, map);
        }
        return all > 0;
    }

    /** The mean of what takes a point somewhere; false where nothing does. */
    private boolean linear(int point, double[][] rows, double[] sum) {
        Arrays.fill(sum, 0);
        double all = 0;
        for (int i = 0; i < width; i++) {
            double weight = weights[point * width + i];
            int joint = (int) joints[point * width + i];
            if (weight > 0 && joint >= 0 && joint < rows.length) {
                all += weight;
                double[] m = rows[joint];
                for (int k = 0; k < 12; k++) {
                    sum[k] += weight * m[k];
                }
            }
        }
        if (all <= 0) {
            return false;
        }
        if (all != 1) {
            for (int k = 0; k < 12; k++) {
                sum[k] /= all;
            }
        }
        return true;
    }
}
