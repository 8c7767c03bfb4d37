package pantry.compare;

import java.util.List;
import pantry.model.Facts;

/**
 * What became of a model between two states.
 *
 * @param objects those that are not as they were
 * @param materials those that are not as they were
 * @param textures those that are not as they were
 * @param variants sets and variants that are not as they were
 * @param motions bones, blend shapes and motions that are not as they were
 * @param triangles before and after
 * @param bounds before and after, metres
 * @param pivotMoved how far the pivot is from where it was within the model, metres
 * @param distance the greatest distance between the surfaces, metres; infinite where one of the states has none
 * @param distanceStep what the true distance may be greater, at most, metres
 */
public record Comparison(
        List<ObjectChange> objects,
        List<Named> materials,
        List<Named> textures,
        List<Named> variants,
        List<Named> motions,
        Pair<Long> triangles,
        Pair<Facts.Bounds> bounds,
        double pivotMoved,
        double distance,
        double distanceStep) {
    /** What happened to something. */
    public enum ChangeKind {
        ADDED,
        REMOVED,
        MOVED,
        RENAMED,
        RESHAPED,
        REMADE,
        REANIMATED;

        /** The word for a person. */
        public String word() {
            return switch (this) {
                case ADDED -> "added";
                case REMOVED -> "removed";
                case MOVED -> "moved";
                case RENAMED -> "renamed";
                case RESHAPED -> "another shape";
                case REMADE -> "another material";
                case REANIMATED -> "moves otherwise";
            };
        }
    }

    /** A figure before and after. */
    public record Pair<T>(T before, T after) {}

    /**
     * An object that is not as it was.
     *
     * @param before its path without the topmost name; empty where it is new
     * @param after its path now; empty where it is gone
     * @param detail how far it was moved, how many triangles it has now, and the like
     */
    public record ObjectChange(List<ChangeKind> what, String before, String after, String detail) {
        public ObjectChange {
            what = List.copyOf(what);
        }

        /** The path by which it is known best. */
        public String path() {
            return after.isEmpty() ? before : after;
        }
    }

    /** Something with a name that was added, removed or changed. */
    public record Named(ChangeKind what, String name, String detail) {}

    public Comparison {
        objects = List.copyOf(objects);
        materials = List.copyOf(materials);
        textures = List.copyOf(textures);
        variants = List.copyOf(variants);
        motions = List.copyOf(motions);
    }

    /** Whether nothing that can be seen or chosen differs. */
    public boolean same() {
        return objects.isEmpty()
                && materials.isEmpty()
                && textures.isEmpty()
                && variants.isEmpty()
                && motions.isEmpty()
                && distance == 0;
    }
}
