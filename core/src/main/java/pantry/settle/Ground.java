package pantry.settle;

import java.util.List;
import pantry.mesh.Mesh;

/**
 * What bodies fall on, and what does not move.
 *
 * @param surfaces any meshes; metres, in the world, Y up
 * @param floor whether there is an endless floor at height 0 too
 * @param friction Coulomb's coefficient
 */
public record Ground(List<Mesh> surfaces, boolean floor, double friction) {
    public Ground {
        surfaces = List.copyOf(surfaces);
    }
}
