package pantry.exchange.worker;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What the worker hands over: this record as JSON, and behind it in the same file the arrays, native byte order, at
 * the places that it names.
 *
 * @param values what the file says beyond its format of the whole
 * @param unit metres per unit, where the file says so
 * @param up 1 for Y, 2 for Z, where the file says so
 */
record Wire(
        List<WireMesh> meshes,
        List<WireMaterial> materials,
        List<WireTexture> embedded,
        WireNode root,
        Map<String, Object> values,
        List<WireFixture> fixtures,
        List<String> foreign,
        List<WireMotion> motions,
        @Nullable Double unit,
        @Nullable Integer up) {
    /** Places are bytes from the start of the arrays; -1 where there is no such array. */
    record WireMesh(
            String name,
            int material,
            long points,
            int pointCount,
            long normals,
            List<Long> uvs,
            long colours,
            long faceSizes,
            int faceCount,
            long corners,
            int cornerCount,
            List<WireBone> bones,
            List<WireShape> shapes) {}

    /**
     * What of a mesh hangs on an object.
     *
     * @param unbind from the mesh's space to the object's when it was bound: 16 numbers, row by row, for row vectors
     * @param points the place of their numbers
     * @param weights the place of how much each of them hangs on it
     */
    record WireBone(String node, double[] unbind, long points, long weights, int count) {}

    /**
     * What the points of a mesh can be moved towards.
     *
     * @param points the place of where they come to, as many as the mesh has
     * @param normals the place of what the normals become; -1 where that is not told
     */
    record WireShape(String name, long points, long normals) {}

    /**
     * What moves objects and shapes.
     *
     * @param shapes what changes the shapes of meshes
     */
    record WireMotion(String name, List<WireTrack> tracks, List<WireWeights> shapes) {}

    /**
     * The weights of a mesh's shapes over time.
     *
     * @param target the name of the mesh, or of an object that shows it
     * @param times the place of the keys' times, seconds
     * @param values the place of the keys' values, a weight for each shape
     * @param width the number of shapes
     */
    record WireWeights(String target, long times, long values, int count, int width) {}

    /**
     * A component of an object's place over time.
     *
     * @param part as {@link pantry.exchange.format.MotionTrack.Part} names it
     * @param times the place of the keys' times, seconds
     * @param values the place of the keys' values; turns as x, y, z, w
     */
    record WireTrack(String node, String part, long times, long values, int count) {}

    /**
     * A light or camera; its place is that of the object of its name.
     *
     * @param kind distant, point, spot, area, or camera
     * @param angle half of a spot's opening, or a camera's horizontal field of view; radians
     */
    record WireFixture(
            String kind,
            String name,
            float[] position,
            float[] direction,
            float[] up,
            float[] colour,
            float angle,
            float aspect) {}

    /**
     * An object.
     *
     * @param transform 16 numbers, row by row, for row vectors
     * @param values what the file says of it beyond its format: texts, numbers and truths by name
     */
    record WireNode(
            String name, double[] transform, int[] meshes, List<WireNode> children, Map<String, Object> values) {}

    record WireMaterial(
            String name,
            float[] base,
            float opacity,
            float metallic,
            float roughness,
            float[] emissive,
            boolean doubleSided,
            Map<String, WireUse> textures) {
        WireMaterial named(String other) {
            return new WireMaterial(other, base, opacity, metallic, roughness, emissive, doubleSided, textures);
        }
    }

    /**
     * How a material uses an image.
     *
     * @param wrapS what lies beyond its edges, by UsdUVTexture's words
     * @param placement how its coordinates are moved, scaled and turned: move u, v; scale u, v; turn, radians, about the
     *     middle of the image
     */
    record WireUse(String image, int uvSet, String wrapS, String wrapT, float[] placement) {}

    /** An image within the file; {@code height} 0 where it is encoded, else raw BGRA. */
    record WireTexture(String name, String format, long place, int length, int width, int height) {}
}
