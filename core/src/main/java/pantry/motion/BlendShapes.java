package pantry.motion;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;

/**
 * Shapes that a mesh can be moved towards, each by a weight: {@code UsdSkelBlendShape}, the morph targets of glTF. They are kept
 * as channels of the mesh with an offset for each point, so that they go with the points whatever is done to them.
 */
public final class BlendShapes {
    /** Numbers of all shapes of a mesh or file together: each has one for each coordinate of each point. */
    public static final long MOST_NUMBERS = 60_000_000;

    /** Before the name of a shape: offsets of points. */
    private static final String FULL = Mesh.OFFSETS + ":";

    /** Before the name of a shape: offsets of normals. */
    private static final String NORMALS = Mesh.OFFSETS + "Normals:";

    /** Before a weight other than 1, a colon and the name of a shape: offsets of points at that weight. */
    private static final String BETWEEN = Mesh.OFFSETS + "At:";

    private BlendShapes() {}

    /**
     * One shape.
     *
     * @param offsets of points at weight 1, x, y, z for each point of the mesh; shared
     * @param normals offsets of normals at weight 1, or nothing where they are not told; shared
     * @param between offsets of points at other weights; {@code inbetweens} in OpenUSD
     */
    public record Shape(float[] offsets, float @Nullable [] normals, Map<Float, float[]> between) {
        /** The same with other arrays in the place of all of its own. */
        public Shape mapped(UnaryOperator<float[]> change) {
            Map<Float, float[]> changed = new LinkedHashMap<>(between);
            changed.replaceAll((weight, some) -> change.apply(some));
            return new Shape(change.apply(offsets), normals == null ? null : change.apply(normals), changed);
        }
    }

    /** Whether a channel of a mesh is one of those that make its shapes. */
    public static boolean isChannel(String name) {
        return name.startsWith(Mesh.OFFSETS);
    }

    /** The shapes of a mesh by name, in their order; those that are not told by point are left out. */
    public static Map<String, Shape> of(Mesh mesh) {
        return of(mesh.primvars());
    }

    /** The shapes among the channels of a mesh. */
    public static Map<String, Shape> of(Map<String, Channel> channels) {
        Map<String, Shape> shapes = new LinkedHashMap<>();
        channels.forEach((channel, offsets) -> {
            if (channel.startsWith(FULL) && isByPoint(offsets)) {
                String name = channel.substring(FULL.length());
                Channel normals = channels.get(NORMALS + name);
                shapes.put(
                        name,
                        new Shape(
                                offsets.data(),
                                normals != null && isByPoint(normals) ? normals.data() : null,
                                between(channels, name)));
            }
        });
        return shapes;
    }

    private static boolean isByPoint(Channel channel) {
        return channel.per() == Channel.Per.POINT && channel.width() == 3;
    }

    private static Map<Float, float[]> between(Map<String, Channel> channels, String name) {
        Map<Float, float[]> between = new LinkedHashMap<>();
        channels.forEach((channel, offsets) -> {
            int colon = channel.indexOf(':', BETWEEN.length());
            if (channel.startsWith(BETWEEN)
                    && colon > 0
                    && channel.substring(colon + 1).equals(name)) {
                between.put(Float.parseFloat(channel.substring(BETWEEN.length(), colon)), offsets.data());
            }
        });
        return between;
    }

    /** A mesh that has these shapes beside those that it has. */
    public static Mesh on(Mesh mesh, Map<String, Shape> shapes) {
        if (shapes.isEmpty()) {
            return mesh;
        }
        Map<String, Channel> channels = new LinkedHashMap<>(mesh.primvars());
        shapes.forEach((name, shape) -> {
            channels.put(FULL + name, new Channel(shape.offsets(), 3, Channel.Per.POINT));
            if (shape.normals() != null) {
                channels.put(NORMALS + name, new Channel(shape.normals(), 3, Channel.Per.POINT));
            }
            shape.between()
                    .forEach((weight, offsets) ->
                            channels.put(BETWEEN + weight + ":" + name, new Channel(offsets, 3, Channel.Per.POINT)));
        });
        return mesh.withPrimvars(channels);
    }

    /** A mesh without its shapes. */
    public static Mesh without(Mesh mesh) {
        Map<String, Channel> channels = new LinkedHashMap<>(mesh.primvars());
        channels.keySet().removeIf(BlendShapes::isChannel);
        return channels.size() == mesh.primvars().size() ? mesh : mesh.withPrimvars(channels);
    }

    /**
     * A mesh as it is moved towards its shapes: each point by the sum of its offsets, by their weights (glTF 2.0, 3.7.2.2;
     * OpenUSD, Blend Shapes). Between the weights at which offsets are told they go straight on, and beyond them as well.
     *
     * @param weights of shapes, by name
     */
    public static Mesh applied(Mesh mesh, ToDoubleFunction<String> weights) {
        float[] points = null;
        float[] normals = null;
        boolean byPoint = mesh.normals()
                .filter(channel -> channel.per() == Channel.Per.POINT)
                .isPresent();
        for (Map.Entry<String, Shape> each : of(mesh).entrySet()) {
            double weight = weights.applyAsDouble(each.getKey());
            if (weight == 0 || !Double.isFinite(weight)) {
                continue;
            }
            Shape shape = each.getValue();
            points = points == null ? mesh.points().clone() : points;
            addOffsets(points, shape, weight);
            if (shape.normals() != null && mesh.normals().isPresent()) {
                normals = normals == null ? mesh.normals().get().data().clone() : normals;
                addNormals(normals, shape.normals(), weight, byPoint ? null : owners(mesh));
            }
        }
        if (points == null) {
            return mesh;
        }
        Channel given = mesh.normals().orElse(null);
        Mesh moved = mesh.withPoints(points, given == null || normals == null ? given : given.with(normals));
        return normals == null ? moved : moved.withUnitNormals();
    }

    /** For each normal, the point whose offset it takes; -1 where it belongs to none. */
    private static int[] owners(Mesh mesh) {
        Channel normals = mesh.normals().orElseThrow();
        if (normals.per() == Channel.Per.CORNER) {
            return mesh.corners();
        }
        int[] none = new int[normals.size()];
        Arrays.fill(none, -1);
        return none;
    }

    private static void addNormals(float[] normals, float[] offsets, double weight, int @Nullable [] owners) {
        for (int i = 0; i < normals.length / 3; i++) {
            int point = owners == null ? i : owners[i];
            for (int axis = 0; axis < 3 && point >= 0; axis++) {
                normals[3 * i + axis] += (float) (weight * offsets[3 * point + axis]);
            }
        }
    }

    private static void addOffsets(float[] points, Shape shape, double weight) {
        if (shape.between().isEmpty()) {
            add(points, shape.offsets(), weight);
            return;
        }
        List<Float> known = new ArrayList<>(shape.between().keySet());
        known.add(0f);
        known.add(1f);
        known.sort(null);
        int after = 1;
        while (after < known.size() - 1 && known.get(after) < weight) {
            after++;
        }
        float from = known.get(after - 1);
        float to = known.get(after);
        double share = (weight - from) / (to - from);
        add(points, offsets(shape, from), 1 - share);
        add(points, offsets(shape, to), share);
    }

    private static float @Nullable [] offsets(Shape shape, float weight) {
        if (weight == 1) {
            return shape.offsets();
        }
        return weight == 0 ? null : shape.between().get(weight);
    }

    private static void add(float[] points, float @Nullable [] offsets, double weight) {
        for (int i = 0; offsets != null && i < points.length; i++) {
            points[i] += (float) (weight * offsets[i]);
        }
    }
}
