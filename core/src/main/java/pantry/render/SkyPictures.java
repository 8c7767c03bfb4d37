package pantry.render;

import java.io.IOException;
import java.lang.ref.SoftReference;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.FileStamp;
import pantry.base.ImageDecoder;

/** The light of pictures of skies, kept as long as there is memory for it and the files are as they were. */
final class SkyPictures {
    private static final Logger LOG = LoggerFactory.getLogger(SkyPictures.class);
    private static final Map<Path, SoftReference<Kept>> KEPT = new ConcurrentHashMap<>();

    private SkyPictures() {}

    /** @param light empty where the picture cannot be read */
    private record Kept(FileStamp stamp, Optional<SkyLight> light) {}

    /** The light of a picture; empty where it cannot be read, which is logged. */
    static Optional<SkyLight> of(Path file) {
        FileStamp stamp;
        try {
            stamp = FileStamp.of(file);
        } catch (IOException e) {
            LOG.warn("the picture of a sky cannot be read: {}: {}", file, e.getMessage());
            return Optional.empty();
        }
        SoftReference<Kept> known = KEPT.get(file);
        Kept kept = known == null ? null : known.get();
        if (kept == null || !kept.stamp().equals(stamp)) {
            kept = new Kept(stamp, read(file));
            KEPT.put(file, new SoftReference<>(kept));
        }
        return kept.light();
    }

    private static Optional<SkyLight> read(Path file) {
        try {
            return Optional.of(SkyLight.of(ImageDecoder.readLinear(file, SkyLight.WIDTH)));
        } catch (IOException e) {
            LOG.warn("the picture of a sky cannot be read: {}: {}", file, e.getMessage());
            return Optional.empty();
        }
    }
}
