package pantry.settle;

import java.util.List;
import pantry.base.math.Box3;
import pantry.mesh.Mesh;

/**
 * Something rigid, as it stands at the beginning.
 *
 * @param name for messages
 * @param solids the convex closed pieces that it is made of; metres, in the world, Y up
 * @param kilograms all of it; where not positive, {@link #USUAL_DENSITY} tells it from its volume
 * @param friction Coulomb's coefficient; of two that touch, the geometric mean counts
 * @param bounce the part of the speed that is kept when it hits something, 0 to 1
 */
public record Body(String name, List<Mesh> solids, double kilograms, double friction, double bounce) {
    /** Kilograms per cubic metre where nothing is said: about that of dry wood; an assumption. */
    public static final double USUAL_DENSITY = 600;

    /** Where nothing is said: about that of wood on wood; an assumption. */
    public static final double USUAL_FRICTION = 0.5;

    public Body {
        solids = List.copyOf(solids);
        if (solids.isEmpty()) {
            throw new IllegalArgumentException(name + " has no solids");
        }
        if (!(friction >= 0) || !(bounce >= 0 && bounce <= 1)) {
            throw new IllegalArgumentException(name + ": friction is not negative, and bounce is 0 to 1");
        }
    }

    /** The diagonal of the box around all of it, metres. */
    double size() {
        Box3 box = Box3.EMPTY;
        for (Mesh solid : solids) {
            box = box.union(solid.bounds());
        }
        return 2 * box.radius();
    }

    /** The volume of closed meshes, cubic metres; what overlaps counts twice. */
    public static double volume(List<Mesh> solids) {
        return MassProperties.of(solids).volume();
    }
}
