package pantry.mesh;

import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Puts meshes together into one. What only some of them have is filled in for the others: normals with those of a
 * rounded surface, texture coordinates with zero, colours with white.
 */
public final class Merging {
    private final List<Mesh> meshes;
    private final int points;
    private final int faces;
    private final int corners;

    private Merging(List<Mesh> meshes) {
        this.meshes = meshes;
        this.points =
                Math.toIntExact(meshes.stream().mapToLong(Mesh::pointCount).sum());
        this.faces = Math.toIntExact(meshes.stream().mapToLong(Mesh::faceCount).sum());
        this.corners = Math.toIntExact(
                meshes.stream().mapToLong(mesh -> mesh.corners().length).sum());
    }

    /**
     * One mesh of all faces, in order; counter-clockwise seen from outside.
     *
     * @param meshes at least one
     * @throws ArithmeticException where there are more corners than an array can hold
     */
    public static Mesh of(List<Mesh> meshes) {
        return meshes.size() == 1 ? meshes.getFirst() : new Merging(meshes).merged();
    }

    private Mesh merged() {
        float[] allPoints = new float[3 * points];
        int[] sizes = new int[faces];
        int[] allCorners = new int[corners];
        int point = 0;
        int face = 0;
        int corner = 0;
        for (Mesh mesh : meshes) {
            System.arraycopy(mesh.points(), 0, allPoints, 3 * point, mesh.points().length);
            System.arraycopy(mesh.faceSizes(), 0, sizes, face, mesh.faceCount());
            int[] order = order(mesh);
            for (int c = 0; c < order.length; c++) {
                allCorners[corner + c] = point + mesh.corners()[order[c]];
            }
            point += mesh.pointCount();
            face += mesh.faceCount();
            corner += order.length;
        }
        Channel normals = meshes.stream().anyMatch(mesh -> mesh.normals().isPresent())
                ? channel(mesh -> mesh.normals().orElse(null), 3, 0, true)
                : null;
        Channel uvs = meshes.stream().anyMatch(mesh -> mesh.uvs().isPresent())
                ? channel(mesh -> mesh.uvs().orElse(null), 2, 0, false)
                : null;
        return new Mesh(allPoints, sizes, allCorners, normals, uvs)
                .withPrimvars(primvars())
                .withDoubleSided(meshes.stream().anyMatch(Mesh::doubleSided));
    }

    private Map<String, Channel> primvars() {
        Map<String, Integer> widths = new LinkedHashMap<>();
        for (Mesh mesh : meshes) {
            mesh.primvars().forEach((name, channel) -> widths.putIfAbsent(name, channel.width()));
        }
        Map<String, Channel> primvars = new LinkedHashMap<>();
        widths.forEach((name, width) -> primvars.put(
                name,
                channel(
                        mesh -> Optional.ofNullable(mesh.primvars().get(name))
                                .filter(channel -> channel.width() == width)
                                .orElse(null),
                        width,
                        name.startsWith("display") ? 1 : 0,
                        false)));
        return primvars;
    }

    private interface Of {
        @Nullable
        Channel channel(Mesh mesh);
    }

    /** A channel of the whole: per point where all say so, else per corner. */
    private Channel channel(Of of, int width, float filling, boolean normals) {
        // A mesh that says nothing is filled; normals are computed for it, which are told by corner.
        boolean perPoint = meshes.stream().allMatch(mesh -> {
            Channel channel = of.channel(mesh);
            return channel == null ? !normals : channel.per() == Channel.Per.POINT;
        });
        float[] data = new float[(perPoint ? points : corners) * width];
        int at = 0;
        for (Mesh mesh : meshes) {
            Channel channel = of.channel(mesh);
            if (perPoint) {
                float[] own = channel != null ? channel.data() : filled(mesh.pointCount() * width, filling);
                System.arraycopy(own, 0, data, at, own.length);
                at += own.length;
                continue;
            }
            int[] order = order(mesh);
            float[] own = channel != null
                    ? CornerData.perCorner(channel, mesh.corners(), CornerData.cornerFaces(mesh))
                    : normals ? TriangleMesh.cornerNormals(mesh) : filled(order.length * width, filling);
            for (int corner : order) {
                System.arraycopy(own, corner * width, data, at, width);
                at += width;
            }
        }
        return new Channel(data, width, perPoint ? Channel.Per.POINT : Channel.Per.CORNER);
    }

    private static float[] filled(int length, float value) {
        float[] data = new float[length];
        Arrays.fill(data, value);
        return data;
    }

    /** The corners in the order in which the whole has them: faces of a left-handed mesh are turned round. */
    private static int[] order(Mesh mesh) {
        int[] order = new int[mesh.corners().length];
        int start = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 0; i < size; i++) {
                order[start + i] = start + (mesh.leftHanded() ? size - 1 - i : i);
            }
            start += size;
        }
        return order;
    }
}
