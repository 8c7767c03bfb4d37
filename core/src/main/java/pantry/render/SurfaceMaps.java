package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.model.Material;

/**
 * The images of a surface beside that of its colour; null each where it has none.
 *
 * @param packed whether roughness and metal are of one image, and one look at it tells both
 */
record SurfaceMaps(
        @Nullable SurfaceMap normal,
        @Nullable SurfaceMap roughness,
        @Nullable SurfaceMap metallic,
        @Nullable SurfaceMap occlusion,
        @Nullable SurfaceMap emissive,
        @Nullable SurfaceMap opacity,
        boolean packed) {
    /** Those of a material; null where it has none. */
    static @Nullable SurfaceMaps of(Material material, RenderCache cache) {
        SurfaceMap rough = SurfaceMap.of(material, Material.Slot.ROUGHNESS, cache);
        SurfaceMap metal = SurfaceMap.of(material, Material.Slot.METALLIC, cache);
        SurfaceMaps maps = new SurfaceMaps(
                SurfaceMap.of(material, Material.Slot.NORMAL, cache),
                rough,
                metal,
                SurfaceMap.of(material, Material.Slot.OCCLUSION, cache),
                SurfaceMap.of(material, Material.Slot.EMISSIVE, cache),
                SurfaceMap.of(material, Material.Slot.OPACITY, cache),
                rough != null && rough.liesAs(metal));
        return maps.normal == null
                        && maps.roughness == null
                        && maps.metallic == null
                        && maps.occlusion == null
                        && maps.emissive == null
                        && maps.opacity == null
                ? null
                : maps;
    }

    /** Only what of it is there at all, which is seen also of what is not worked on; null where all of it is. */
    @Nullable
    SurfaceMaps cutOnly() {
        return opacity == null ? null : new SurfaceMaps(null, null, null, null, null, opacity, false);
    }
}
