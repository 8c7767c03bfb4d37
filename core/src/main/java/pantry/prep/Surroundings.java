package pantry.prep;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.exchange.Facts;
import pantry.intake.Neighbours;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.mesh.Measures;

/** The library that something is inspected in: what stands on its shelves. Read once, for many inspections. */
public final class Surroundings {
    /** Measures that differ by a smaller part are the same. */
    private static final double SAME = 1e-4;

    private final Library library;
    private final List<Known> known = new ArrayList<>();
    private final Map<String, Neighbours> neighbours = new ConcurrentHashMap<>();

    private record Known(String id, String address, long triangles, double volume, double area, Vec3 size) {}

    private Surroundings(Library library) {
        this.library = library;
    }

    /** Reads the facts of all assets. Those that have none are left out. */
    public static Surroundings of(Library library) {
        Surroundings surroundings = new Surroundings(library);
        for (Asset asset : library.assets()) {
            try {
                asset.shown().map(asset::facts).ifPresent(facts -> surroundings.add(asset, facts));
            } catch (PantryException e) {
                // A version without facts is told by the library's own check.
                continue;
            }
        }
        return surroundings;
    }

    private void add(Asset asset, Facts facts) {
        known.add(new Known(
                asset.card().id(),
                asset.address(),
                facts.triangles(),
                facts.volume(),
                facts.area(),
                facts.bounds().size()));
    }

    Neighbours neighbours(String shelf) {
        return neighbours.computeIfAbsent(shelf, path -> Neighbours.on(library, path));
    }

    /** The addresses of assets with the same measures. */
    List<String> like(Subject subject) {
        Optional<String> own =
                subject.workpiece().shelved().map(place -> place.asset().card().id());
        Measures measures = subject.model().measures();
        if (measures.triangles() == 0) {
            return List.of();
        }
        Vec3 size = subject.model().bounds().size();
        return known.stream()
                .filter(other -> own.filter(other.id()::equals).isEmpty()
                        && other.triangles() == measures.triangles()
                        && near(other.volume(), measures.volume())
                        && near(other.area(), measures.area())
                        && near(other.size().x(), size.x())
                        && near(other.size().y(), size.y())
                        && near(other.size().z(), size.z()))
                .map(Known::address)
                .toList();
    }

    private static boolean near(double one, double other) {
        return Math.abs(one - other) <= SAME * Math.max(Math.abs(one), Math.abs(other));
    }
}
