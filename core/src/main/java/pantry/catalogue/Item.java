package pantry.catalogue;

import java.util.List;

/**
 * An asset as the index knows it.
 *
 * @param library the library's folder
 * @param folder the asset's folder
 * @param version the version shown: the ready one, or else the newest
 * @param size width, height and depth, metres
 */
public record Item(
        String id,
        String name,
        String kind,
        String shelf,
        String version,
        String status,
        long triangles,
        List<String> tags,
        String licence,
        double[] size,
        String library,
        String folder) {}
