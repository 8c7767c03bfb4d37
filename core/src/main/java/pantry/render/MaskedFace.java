package pantry.render;

import org.jspecify.annotations.Nullable;

/** A triangle of which an image says where it is there at all; one thread's at a time. */
final class MaskedFace {
    private final @Nullable SurfaceMap map;
    private final RenderMaterial surface;
    private final float[] corners;
    private final double uvPerPixel;
    private final float[] looked = new float[4];

    private MaskedFace(@Nullable SurfaceMap map, RenderMaterial surface, float[] corners, double uvPerPixel) {
        this.map = map;
        this.surface = surface;
        this.corners = corners;
        this.uvPerPixel = uvPerPixel;
    }

    /** @param area of the triangle in the picture, twice, in square pixels */
    static MaskedFace of(DrawInstance used, int triangle, double area) {
        SurfaceMap map = used.surface().opacityMap();
        RenderMesh mesh = used.mesh();
        float[] uvs = map == null ? null : mesh.uvs(map.uvSet());
        if (uvs == null) {
            return new MaskedFace(null, used.surface(), new float[0], 0);
        }
        float[] corners = new float[6];
        for (int i = 0; i < 3; i++) {
            int corner = mesh.indices[3 * triangle + i];
            corners[2 * i] = uvs[2 * corner];
            corners[2 * i + 1] = uvs[2 * corner + 1];
        }
        double turned = (double) (corners[2] - corners[0]) * (corners[5] - corners[1])
                - (double) (corners[3] - corners[1]) * (corners[4] - corners[0]);
        return new MaskedFace(
                map, used.surface(), corners, Math.sqrt(Math.abs(turned) / Math.max(1e-30, Math.abs(area))));
    }

    /**
     * How much of it is there, in sixteenths.
     *
     * @param beta with {@code gamma} the weights of the second and third corner
     */
    int opacity(float beta, float gamma) {
        float whole = surface.opacity();
        if (map != null) {
            float alpha = 1 - beta - gamma;
            float u = corners[0] * alpha + corners[2] * beta + corners[4] * gamma;
            float v = corners[1] * alpha + corners[3] * beta + corners[5] * gamma;
            whole *= map.number(u, v, uvPerPixel, looked);
        }
        return surface.cutoff() > 0
                ? whole >= surface.cutoff() ? TriangleBatch.SOLID : 0
                : TriangleBatch.sixteenths(whole);
    }
}
