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

    /** How its heights rise along the surface's own coordinates, metres for each unit of them. */
    final float[] rise = new float[2];

    private final float[] looked = new float[4];
    private @Nullable RenderMesh mesh;
    private int a;
    private int b;
    private int c;
    private double wa;
    private double wb;
    private double wc;
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
        rise[0] = 0;
        rise[1] = 0;
    }

    /**
     * Says where on a mesh it is.
     *
     * @param a with {@code b} and {@code c} the corners of the triangle
     * @param wa with {@code wb} and {@code wc} their weights
     */
    void place(RenderMesh mesh, int a, int b, int c, double wa, double wb, double wc) {
        this.mesh = mesh;
        this.a = a;
        this.b = b;
        this.c = c;
        this.wa = wa;
        this.wb = wb;
        this.wc = wc;
    }

    /**
     * What the images say there, where the mesh has coordinates for them.
     *
     * @param uvPerPixel how far the coordinates change from one pixel to the next
     */
    void look(SurfaceMaps maps, double uvPerPixel) {
        SurfaceMap map = maps.roughness();
        if (map != null && find(map)) {
            roughness *= map.number(u, v, uvPerPixel, looked);
            metallic *= maps.packed() ? maps.metallic().numberOf(looked) : 1;
        }
        map = maps.metallic();
        if (map != null && !maps.packed() && find(map)) {
            metallic *= map.number(u, v, uvPerPixel, looked);
        }
        map = maps.occlusion();
        if (map != null && find(map)) {
            occlusion = 1 + map.strength() * (map.number(u, v, uvPerPixel, looked) - 1);
        }
        map = maps.emissive();
        if (map != null && find(map)) {
            map.sample(u, v, uvPerPixel, looked);
            for (int i = 0; i < 3; i++) {
                emissive[i] *= looked[i];
            }
        }
        map = maps.normal();
        if (map != null && find(map)) {
            map.sample(u, v, uvPerPixel, looked);
            bent[0] = (2 * looked[0] - 1) * map.strength();
            bent[1] = (2 * looked[1] - 1) * map.strength();
            bent[2] = 2 * looked[2] - 1;
        }
        map = maps.height();
        if (map != null && find(map)) {
            map.rise(u, v, uvPerPixel, looked, rise);
        }
    }

    /** Finds the coordinates of an image there; whether there are any. */
    private boolean find(SurfaceMap map) {
        float[] uvs = mesh == null ? null : mesh.uvs(map.uvSet());
        if (uvs == null) {
            return false;
        }
        u = (float) (uvs[2 * a] * wa + uvs[2 * b] * wb + uvs[2 * c] * wc);
        v = (float) (uvs[2 * a + 1] * wa + uvs[2 * b + 1] * wb + uvs[2 * c + 1] * wc);
        return true;
    }
}
