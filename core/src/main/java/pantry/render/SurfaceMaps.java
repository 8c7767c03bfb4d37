package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.model.Material;

/**
 * The images of a surface beside that of its colour; null each where it has none.
 *
 * @param height null too where an image of normals says what follows from heights
 * @param packed whether roughness and metal are of one image, and one look at it tells both
 */
record SurfaceMaps(
        @Nullable SurfaceMap normal,
        @Nullable SurfaceMap roughness,
        @Nullable SurfaceMap metallic,
        @Nullable SurfaceMap occlusion,
        @Nullable SurfaceMap emissive,
        @Nullable SurfaceMap opacity,
        @Nullable SurfaceMap height,
        boolean packed) {
    /** Those of a material; null where it has none. */
    static @Nullable SurfaceMaps of(Material material, RenderCache cache) {
        SurfaceMap rough = SurfaceMap.of(material, Material.Slot.ROUGHNESS, cache);
        SurfaceMap metal = SurfaceMap.of(material, Material.Slot.METALLIC, cache);
        SurfaceMap normal = SurfaceMap.of(material, Material.Slot.NORMAL, cache);
        SurfaceMaps maps = new SurfaceMaps(
                normal,
                rough,
                metal,
                SurfaceMap.of(material, Material.Slot.OCCLUSION, cache),
                SurfaceMap.of(material, Material.Slot.EMISSIVE, cache),
                SurfaceMap.of(material, Material.Slot.OPACITY, cache),
                normal == null ? SurfaceMap.of(material, Material.Slot.DISPLACEMENT, cache) : null,
                rough != null && rough.liesAs(metal));
        return maps.normal == null
                        && maps.roughness == null
                        && maps.metallic == null
                        && maps.occlusion == null
                        && maps.emissive == null
                        && maps.opacity == null
                        && maps.height == null
                ? null
                : maps;
    }

    /** What bends its normals; null where nothing does. */
    @Nullable
    SurfaceMap relief() {
        return normal == null ? height : normal;
    }

    /** Only what of it is there at all, which is seen also of what is not worked on; null where all of it is. */
    @Nullable
    SurfaceMaps cutOnly() {
        return opacity == null ? null : new SurfaceMaps(null, null, null, null, null, opacity, null, false);
    }
}
