package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * One mesh where it stands.
 *
 * @param nx with ny and nz the unit normal that stands for all of it where it is seen as a dot
 */
record DrawInstance(
        RenderMesh mesh,
        RenderMaterial surface,
        float @Nullable [] uvs,
        Matrix4 world,
        float[] normalMatrix,
        BoundingSphere sphere,
        int owner,
        float nx,
        float ny,
        float nz) {
    /** Stands for the cluster, and at a pixel for the triangle, of what is drawn as a dot. */
    static final int DOT = -1;

    static DrawInstance of(RenderMesh mesh, RenderMaterial surface, float @Nullable [] uvs, Matrix4 world, int owner) {
        float[] m = normalMatrix(world);
        boolean none = mesh.triangleCount() == 0;
        int at = 3 * mesh.typical;
        float lx = none ? 0 : mesh.normals[at];
        float ly = none ? 1 : mesh.normals[at + 1];
        float lz = none ? 0 : mesh.normals[at + 2];
        Vec3 normal = new Vec3(
                        lx * m[0] + ly * m[3] + lz * m[6],
                        lx * m[1] + ly * m[4] + lz * m[7],
                        lx * m[2] + ly * m[5] + lz * m[8])
                .unit();
        return new DrawInstance(
                mesh,
                surface,
                uvs,
                world,
                m,
                BoundingSphere.around(mesh, world),
                owner,
                (float) normal.x(),
                (float) normal.y(),
                (float) normal.z());
    }

    /** The same mesh in the same place, made of something else. */
    DrawInstance of(RenderMaterial other) {
        return new DrawInstance(mesh, other, uvs, world, normalMatrix, sphere, owner, nx, ny, nz);
    }

    DrawInstance at(Matrix4 place) {
        return of(mesh, surface, uvs, place, owner);
    }

    /** The cofactors of the linear part: turns normals also where the scale is uneven, mirrored or flat. */
    private static float[] normalMatrix(Matrix4 m) {
        float[] n = new float[9];
        for (int i = 0; i < 3; i++) {
            for (int j = 0; j < 3; j++) {
                int a = (i + 1) % 3;
                int b = (i + 2) % 3;
                int c = (j + 1) % 3;
                int d = (j + 2) % 3;
                n[3 * i + j] = (float) (m.get(a, c) * m.get(b, d) - m.get(a, d) * m.get(b, c));
            }
        }
        if (m.determinant3() < 0) {
            for (int i = 0; i < 9; i++) {
                n[i] = -n[i];
            }
        }
        return n;
    }
}
