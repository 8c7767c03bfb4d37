package pantry.workpiece;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import pantry.base.PantryException;
import pantry.base.math.Vec3;
import pantry.intake.Neighbours;
import pantry.intake.ScaleCandidate;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.mesh.Measures;
import pantry.model.Facts;
import pantry.model.Model;

/** The library that something is inspected in: what stands on its shelves. Read once, for many inspections. */
public final class Surroundings {
    /** Measures that differ by a smaller part are the same. */
    private static final double SAME = 1e-4;

    private final Library library;
    private final List<Known> known = new ArrayList<>();
    private final Map<String, Neighbours> neighbours = new ConcurrentHashMap<>();

    private record Known(String id, String address, Likeness likeness) {}

    private Surroundings(Library library) {
        this.library = library;
    }

    /** Reads the facts of all assets. Those that have none are left out, and so are materials, which all look alike. */
    public static Surroundings of(Library library) {
        Surroundings surroundings = new Surroundings(library);
        for (Asset asset : library.assets()) {
            try {
                if (asset.card().kind() != AssetKind.MATERIAL) {
                    asset.shown().map(asset::facts).ifPresent(facts -> surroundings.add(asset, facts));
                }
            } catch (PantryException e) {
                // A version without facts is told by the library's own check.
                continue;
            }
        }
        return surroundings;
    }

    private void add(Asset asset, Facts facts) {
        known.add(new Known(asset.card().id(), asset.address(), Likeness.of(facts)));
    }

    Neighbours neighbours(String shelf) {
        return neighbours.computeIfAbsent(shelf, path -> Neighbours.on(library, path));
    }

    /** What two things have in common that are the same. */
    public record Likeness(long triangles, double volume, double area, Vec3 size) {
        public static Likeness of(Model model) {
            Measures measures = model.measures();
            return new Likeness(
                    measures.triangles(),
                    measures.volume(),
                    measures.area(),
                    model.bounds().isEmpty() ? Vec3.ZERO : model.bounds().size());
        }

        public static Likeness of(Facts facts) {
            return new Likeness(
                    facts.triangles(),
                    facts.volume(),
                    facts.area(),
                    facts.bounds().size());
        }

        boolean isNear(Likeness other) {
            return triangles > 0
                    && triangles == other.triangles
                    && near(volume, other.volume)
                    && near(area, other.area)
                    && near(size.x(), other.size.x())
                    && near(size.y(), other.size.y())
                    && near(size.z(), other.size.z());
        }
    }

    /**
     * The addresses of assets with the same measures.
     *
     * @param own the id of the asset that it is; empty where it is none
     */
    public List<String> like(Likeness likeness, String own) {
        boolean isKnown =
                own.isEmpty() || known.stream().anyMatch(other -> other.id().equals(own));
        return known.stream()
                .filter(other ->
                        isKnown && !other.id().equals(own) && other.likeness().isNear(likeness))
                .map(Known::address)
                .toList();
    }

    /** What is said of a size that is hard to believe on a shelf; empty where it is not. */
    public Optional<String> oddSize(Vec3 size, String shelf) {
        Neighbours others = neighbours(shelf).without(size.y());
        return ScaleCandidate.of(size, Optional.of(1.0), others).stream()
                .filter(candidate -> Math.abs(candidate.factor() - 1) < 1e-9 && candidate.unusual(others))
                .findFirst()
                .map(candidate -> "it is " + DisplayText.length(size.y()) + " tall; "
                        + (others.tell() ? others.words() : "few things are"));
    }

    private static boolean near(double one, double other) {
        return Math.abs(one - other) <= SAME * Math.max(Math.abs(one), Math.abs(other));
    }
}
