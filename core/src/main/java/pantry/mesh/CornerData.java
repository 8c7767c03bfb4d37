package pantry.mesh;

import java.util.Arrays;

/** What meshes say of points, faces and corners, told for each corner. */
final class CornerData {
    private CornerData() {}

    static float[] picked(float[] data, int width, int[] elements) {
        float[] picked = new float[elements.length * width];
        for (int i = 0; i < elements.length; i++) {
            System.arraycopy(data, width * elements[i], picked, width * i, width);
        }
        return picked;
    }

    static int[] cornerFaces(Mesh mesh) {
        int[] faces = new int[mesh.corners().length];
        int at = 0;
        int[] sizes = mesh.faceSizes();
        for (int face = 0; face < sizes.length; face++) {
            Arrays.fill(faces, at, at + sizes[face], face);
            at += sizes[face];
        }
        return faces;
    }

    static float[] perCorner(Channel channel, int[] corners, int[] cornerFace) {
        int width = channel.width();
        float[] data = new float[corners.length * width];
        for (int c = 0; c < corners.length; c++) {
            System.arraycopy(
                    channel.data(), width * channel.element(cornerFace[c], c, corners[c]), data, width * c, width);
        }
        return data;
    }
}
