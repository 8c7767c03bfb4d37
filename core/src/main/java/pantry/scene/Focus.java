package pantry.scene;

import java.util.Optional;
import java.util.Set;

/**
 * A kept way to look at a scene.
 *
 * @param detail whether placements are shown by their proxies
 * @param hidden drawers that are not shown
 * @param unloaded drawers of which nothing is read
 * @param from where it is looked from; empty to leave that
 */
public record Focus(String name, Detail detail, Set<String> hidden, Set<String> unloaded, Optional<Eye> from) {
    /** How finely things are shown. */
    public enum Detail {
        /** Proxies where there are some, and no textures. */
        LIGHT,
        /** All as it is rendered. */
        FULL
    }

    /**
     * Where it is looked from.
     *
     * @param target looked at, metres: x, y, z
     * @param yaw degrees about the vertical; 0 looks along -z
     * @param pitch degrees downwards
     * @param distance metres
     * @param parallel whether lines of sight are
     */
    public record Eye(double[] target, double yaw, double pitch, double distance, boolean parallel) {}

    public Focus {
        hidden = Set.copyOf(hidden);
        unloaded = Set.copyOf(unloaded);
    }
}
