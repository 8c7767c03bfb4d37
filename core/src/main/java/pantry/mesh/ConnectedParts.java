package pantry.mesh;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Which faces hang together. Points in exactly one place count as one, whether the mesh says so or not. */
public final class ConnectedParts {
    private ConnectedParts() {}

    /** The parts, each a mesh of its own, in the order of their first faces; the mesh itself where it is one. */
    public static List<Mesh> of(Mesh mesh) {
        int[] part = partOfFace(mesh);
        int count = Arrays.stream(part).max().orElse(-1) + 1;
        if (count <= 1) {
            return List.of(mesh);
        }
        int[] sizes = new int[count];
        for (int p : part) {
            sizes[p]++;
        }
        int[][] faces = new int[count][];
        for (int p = 0; p < count; p++) {
            faces[p] = new int[sizes[p]];
        }
        int[] filled = new int[count];
        for (int face = 0; face < part.length; face++) {
            faces[part[face]][filled[part[face]]++] = face;
        }
        List<Mesh> parts = new ArrayList<>(count);
        for (int[] each : faces) {
            parts.add(mesh.faces(each));
        }
        return parts;
    }

    /** For each face the number of its part, from 0 in the order of first faces. */
    public static int[] partOfFace(Mesh mesh) {
        int[] root = Welding.firstAtPlace(mesh.points());
        int[] corners = mesh.corners();
        int start = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 1; i < size; i++) {
                join(root, corners[start], corners[start + i]);
            }
            start += size;
        }
        int[] number = new int[root.length];
        Arrays.fill(number, -1);
        int[] part = new int[mesh.faceCount()];
        int parts = 0;
        start = 0;
        for (int face = 0; face < part.length; face++) {
            int top = find(root, corners[start]);
            if (number[top] < 0) {
                number[top] = parts++;
            }
            part[face] = number[top];
            start += mesh.faceSizes()[face];
        }
        return part;
    }

    /** Puts two sets together; the lower number stands for both. */
    static void join(int[] root, int a, int b) {
        int x = find(root, a);
        int y = find(root, b);
        root[Math.max(x, y)] = Math.min(x, y);
    }

    /** The number that stands for a set; the path to it is shortened by the way. */
    static int find(int[] root, int i) {
        int at = i;
        while (root[at] != at) {
            root[at] = root[root[at]];
            at = root[at];
        }
        return at;
    }
}
