package pantry.render;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * The ball around a mesh where it stands.
 *
 * @param stretch an upper bound of how much its transform lengthens anything
 */
record BoundingSphere(float x, float y, float z, float radius, float stretch) {
    static BoundingSphere around(RenderMesh mesh, Matrix4 world) {
        double sum = 0;
        double longest = 0;
        for (int row = 0; row < 3; row++) {
            double length = 0;
            for (int column = 0; column < 3; column++) {
                length += world.get(row, column) * world.get(row, column);
            }
            sum += length;
            longest = Math.max(longest, length);
        }
        // Axes that stay square to each other stretch by their longest; sheared ones by no more than all together.
        boolean square = sum <= 3 * longest * (1 + 1e-9) && isSquare(world);
        float stretch = (float) Math.sqrt(square ? longest : sum);
        Vec3 centre = world.point(mesh.x, mesh.y, mesh.z);
        return new BoundingSphere(
                (float) centre.x(), (float) centre.y(), (float) centre.z(), mesh.radius * stretch, stretch);
    }

    private static boolean isSquare(Matrix4 m) {
        for (int i = 0; i < 3; i++) {
            int j = (i + 1) % 3;
            double dot = m.get(i, 0) * m.get(j, 0) + m.get(i, 1) * m.get(j, 1) + m.get(i, 2) * m.get(j, 2);
            if (Math.abs(dot) > 1e-9) {
                return false;
            }
        }
        return true;
    }
}
