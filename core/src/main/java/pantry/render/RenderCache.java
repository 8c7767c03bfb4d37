package pantry.render;

import java.lang.ref.SoftReference;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.WeakHashMap;
import org.jspecify.annotations.Nullable;
import pantry.mesh.Mesh;

/**
 * Keeps meshes and images ready for drawing, so that a changed scene prepares only what is new. Meshes go when nobody
 * else uses them, images when there is no room. Safe for use by several threads.
 */
public final class RenderCache {
    private final Map<Mesh, RenderMesh> meshes = new WeakHashMap<>();

    /** As long as there is room: a view may go through the images of a whole library. */
    private final Map<Path, SoftReference<Optional<Image>>> images = new HashMap<>();

    /** @param levelled whether coarser levels are wanted, for drawing from afar */
    RenderMesh mesh(Mesh mesh, boolean levelled) {
        synchronized (meshes) {
            RenderMesh known = meshes.get(mesh);
            if (known != null && (!levelled || known.levelled())) {
                return known;
            }
        }
        RenderMesh made = RenderMesh.of(mesh, levelled);
        synchronized (meshes) {
            meshes.put(mesh, made);
        }
        return made;
    }

    /**
     * An image, read where it is not there. Nobody waits for another's reading: one who did while working for the common pool
     * could be waited for by that other. Two may read the same image at once, and one of them is kept.
     */
    Optional<Image> image(Path file) {
        Optional<Image> image = known(file);
        if (image == null) {
            image = Image.load(file);
            synchronized (images) {
                images.put(file, new SoftReference<>(image));
            }
        }
        return image;
    }

    private @Nullable Optional<Image> known(Path file) {
        synchronized (images) {
            SoftReference<Optional<Image>> known = images.get(file);
            return known == null ? null : known.get();
        }
    }
}
