package pantry.render;

import org.jspecify.annotations.Nullable;

/** A place of a surface as it is lit: what its material and its images say there. One thread's at a time. */
final class SurfacePoint {
    /** Linear light. */
    final float[] base = new float[3];

    final float[] emissive = new float[3];
    float metallic;
    float roughness;

    /** How much of the light from all around comes there, 0 to 1. */
    float occlusion;

    float clearcoat;
    float clearcoatRoughness;

    /** How much of the light that falls straight on it, what is no metal mirrors, as a share of what usual surfaces do. */
    float reflectance;

    /** Along the surface's own axes: to the right of its image, upwards in it, and off the surface. */
    final float[] bent = {0, 0, 1};

    private final float[] looked = new float[4];
    private float u;
    private float v;

    /** What the material says everywhere. */
    void set(RenderMaterial surface) {
        base[0] = surface.r();
        base[1] = surface.g();
        base[2] = surface.b();
        emissive[0] = surface.emissiveR();
        emissive[1] = surface.emissiveG();
        emissive[2] = surface.emissiveB();
        metallic = surface.metallic();
        roughness = surface.roughness();
        clearcoat = surface.clearcoat();
        clearcoatRoughness = surface.clearcoatRoughness();
        reflectance = surface.reflectance();
        occlusion = 1;
        bent[0] = 0;
        bent[1] = 0;
        bent[2] = 1;
    }

    /**
     * What the images say there, where the mesh has coordinates for them.
     *
     * @param ia with {@code ib} and {@code ic} the corners of the triangle
     * @param alpha with {@code beta} and {@code gamma} their weights
     * @param uvPerPixel how far the coordinates change from one pixel to the next
     */
    void look(
            SurfaceMaps maps,
            RenderMesh mesh,
            int ia,
            int ib,
            int ic,
            double alpha,
            double beta,
            double gamma,
            double uvPerPixel) {
        if (find(maps.roughness(), mesh, ia, ib, ic, alpha, beta, gamma)) {
            roughness *= maps.roughness().number(u, v, uvPerPixel, looked);
            metallic *= maps.packed() ? maps.metallic().numberOf(looked) : 1;
        }
        if (!maps.packed() && find(maps.metallic(), mesh, ia, ib, ic, alpha, beta, gamma)) {
            metallic *= maps.metallic().number(u, v, uvPerPixel, looked);
        }
        if (find(maps.occlusion(), mesh, ia, ib, ic, alpha, beta, gamma)) {
            float open = maps.occlusion().number(u, v, uvPerPixel, looked);
            occlusion = 1 + maps.occlusion().strength() * (open - 1);
        }
        if (find(maps.emissive(), mesh, ia, ib, ic, alpha, beta, gamma)) {
            maps.emissive().sample(u, v, uvPerPixel, looked);
            for (int i = 0; i < 3; i++) {
                emissive[i] *= looked[i];
            }
        }
        if (find(maps.normal(), mesh, ia, ib, ic, alpha, beta, gamma)) {
            maps.normal().sample(u, v, uvPerPixel, looked);
            bent[0] = (2 * looked[0] - 1) * maps.normal().strength();
            bent[1] = (2 * looked[1] - 1) * maps.normal().strength();
            bent[2] = 2 * looked[2] - 1;
        }
    }

    /** Finds the coordinates of an image at a place; whether there are any. */
    private boolean find(
            @Nullable SurfaceMap map,
            RenderMesh mesh,
            int ia,
            int ib,
            int ic,
            double alpha,
            double beta,
            double gamma) {
        float[] uvs = map == null ? null : mesh.uvs(map.uvSet());
        if (uvs == null) {
            return false;
        }
        u = (float) (uvs[2 * ia] * alpha + uvs[2 * ib] * beta + uvs[2 * ic] * gamma);
        v = (float) (uvs[2 * ia + 1] * alpha + uvs[2 * ib + 1] * beta + uvs[2 * ic + 1] * gamma);
        return true;
    }
}
