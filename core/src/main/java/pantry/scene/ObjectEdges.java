package pantry.scene;

import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import pantry.base.math.Vec3;
import pantry.mesh.FeatureEdges;
import pantry.model.Model;

/** The edges of objects, to lay things out along. */
public final class ObjectEdges {
    private ObjectEdges() {}

    /**
     * The line of edges that runs nearest to a point, in the world, metres.
     *
     * @param of tells by its path whether an object's edges count
     * @return its points, the first once more at the end where it is closed; empty where no such object has an edge
     */
    public static Optional<List<Vec3>> near(Model model, Predicate<String> of, Vec3 point) {
        FeatureEdges.Line[] best = new FeatureEdges.Line[1];
        model.visit((owner, part, world) -> {
            if (of.test(owner.path())) {
                new FeatureEdges(part.mesh().transformed(world))
                        .nearest(point)
                        .filter(line -> best[0] == null || line.distance() < best[0].distance())
                        .ifPresent(line -> best[0] = line);
            }
        });
        return Optional.ofNullable(best[0]).map(FeatureEdges.Line::points);
    }
}
