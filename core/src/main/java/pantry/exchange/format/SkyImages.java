package pantry.exchange.format;

import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import pantry.base.ImageDecoder;
import pantry.base.Names;

/**
 * Tells pictures of all that is around, which light a scene, from other images: they are twice as wide as high, and hold light
 * without a limit above, or say by their names what they are. The words are common practice.
 */
public final class SkyImages {
    private static final Set<String> WORDS =
            Set.of("sky", "skydome", "hdri", "panorama", "pano", "environment", "env", "equirectangular", "latlong");

    private SkyImages() {}

    /** Whether an image is the picture of a sky; only its header is read, and only where its name may be one's. */
    public static boolean isSky(Path file) {
        String name = file.getFileName().toString();
        boolean named = Arrays.stream(Names.stem(name)
                        .replaceAll("(?<=[a-z])(?=[A-Z])", "_")
                        .toLowerCase(Locale.ROOT)
                        .split("[_\\-.\\s]+"))
                .anyMatch(WORDS::contains);
        if (!named && !ImageDecoder.isOfLight(file) || TextureSet.hasRole(file)) {
            return false;
        }
        Optional<int[]> size = ImageDecoder.size(file);
        return size.isPresent() && size.get()[0] == 2 * size.get()[1];
    }
}
