package pantry.mesh;

import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Collects points and faces into a mesh. Normals and texture coordinates, where given, are told per corner. */
public final class MeshBuilder {
    private float[] points = new float[96];
    private int pointNumbers;
    private int[] sizes = new int[32];
    private int faces;
    private int[] corners = new int[128];
    private int cornerCount;
    private float[] normals = new float[0];
    private float[] uvs = new float[0];

    /** Adds a point and tells its number. */
    public int point(Vec3 p) {
        points = room(points, pointNumbers + 3);
        points[pointNumbers++] = (float) p.x();
        points[pointNumbers++] = (float) p.y();
        points[pointNumbers++] = (float) p.z();
        return pointNumbers / 3 - 1;
    }

    /** Adds a face of the numbered points, counter-clockwise seen from outside. */
    public MeshBuilder face(int... points) {
        sizes = faces == sizes.length ? Arrays.copyOf(sizes, faces * 2) : sizes;
        sizes[faces++] = points.length;
        while (cornerCount + points.length > corners.length) {
            corners = Arrays.copyOf(corners, corners.length * 2);
        }
        for (int point : points) {
            corners[cornerCount++] = point;
        }
        return this;
    }

    /** Gives the last face's corners normals, in their order. */
    public MeshBuilder normals(Vec3... perCorner) {
        normals = room(normals, cornerCount * 3);
        int at = (cornerCount - perCorner.length) * 3;
        for (Vec3 n : perCorner) {
            normals[at++] = (float) n.x();
            normals[at++] = (float) n.y();
            normals[at++] = (float) n.z();
        }
        return this;
    }

    /** Gives the last face's corners texture coordinates: u, v of each in their order. */
    public MeshBuilder uvs(double... perCorner) {
        uvs = room(uvs, cornerCount * 2);
        int at = cornerCount * 2 - perCorner.length;
        for (double number : perCorner) {
            uvs[at++] = (float) number;
        }
        return this;
    }

    /** Adds another mesh, placed. */
    public MeshBuilder add(Mesh mesh, Matrix4 place) {
        Mesh placed = mesh.transformed(place);
        int base = pointNumbers / 3;
        for (int i = 0; i < placed.pointCount(); i++) {
            point(placed.point(i));
        }
        int corner = 0;
        int[] faceSizes = placed.faceSizes();
        for (int face = 0; face < faceSizes.length; face++) {
            int size = faceSizes[face];
            int[] ring = new int[size];
            Vec3[] ringNormals = new Vec3[size];
            double[] ringUvs = new double[2 * size];
            for (int i = 0; i < size; i++) {
                // A mirrored mesh's faces are turned round.
                int from = corner + (placed.leftHanded() ? size - 1 - i : i);
                int point = placed.corners()[from];
                ring[i] = base + point;
                Channel n = placed.normals().orElse(null);
                if (n != null) {
                    int e = 3 * n.element(face, from, point);
                    ringNormals[i] = new Vec3(n.data()[e], n.data()[e + 1], n.data()[e + 2]);
                }
                Channel uv = placed.uvs().orElse(null);
                if (uv != null) {
                    int e = 2 * uv.element(face, from, point);
                    ringUvs[2 * i] = uv.data()[e];
                    ringUvs[2 * i + 1] = uv.data()[e + 1];
                }
            }
            face(ring);
            if (placed.normals().isPresent()) {
                normals(ringNormals);
            }
            if (placed.uvs().isPresent()) {
                uvs(ringUvs);
            }
            corner += size;
        }
        return this;
    }

    /** The mesh; normals and texture coordinates only where some face was given them. */
    public Mesh build() {
        return new Mesh(
                Arrays.copyOf(points, pointNumbers),
                Arrays.copyOf(sizes, faces),
                Arrays.copyOf(corners, cornerCount),
                channel(normals, 3),
                channel(uvs, 2));
    }

    private @Nullable Channel channel(float[] data, int width) {
        return data.length == 0
                ? null
                : new Channel(Arrays.copyOf(data, cornerCount * width), width, Channel.Per.CORNER);
    }

    private static float[] room(float[] data, int needed) {
        return needed <= data.length ? data : Arrays.copyOf(data, Math.max(needed, data.length * 2));
    }
}
