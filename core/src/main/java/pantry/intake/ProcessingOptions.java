package pantry.intake;

import java.util.EnumSet;
import java.util.Set;

/**
 * What is made of an arrival besides the asset itself.
 *
 * @param kept what it carries that is wanted; lights and the like are left out otherwise
 * @param collision the simple shape by which it touches others
 * @param share of its triangles that are kept, above 0 up to 1
 * @param levels whether it also gets coarser levels of detail, as the variant set {@code detail}
 */
public record ProcessingOptions(Set<Carried.Kind> kept, CollisionShape collision, double share, boolean levels) {
    public static final ProcessingOptions USUAL = new ProcessingOptions(Set.of(), CollisionShape.NONE, 1, false);

    public ProcessingOptions {
        kept = kept.isEmpty() ? Set.of() : Set.copyOf(kept);
        if (!(share > 0) || share > 1) {
            throw new IllegalArgumentException("the share of triangles is above 0 and at most 1, not " + share);
        }
    }

    public ProcessingOptions keeping(Carried.Kind kind, boolean wanted) {
        Set<Carried.Kind> changed = EnumSet.noneOf(Carried.Kind.class);
        changed.addAll(kept);
        if (wanted) {
            changed.add(kind);
        } else {
            changed.remove(kind);
        }
        return new ProcessingOptions(changed, collision, share, levels);
    }

    public ProcessingOptions withCollision(CollisionShape shape) {
        return new ProcessingOptions(kept, shape, share, levels);
    }

    public ProcessingOptions withShare(double newShare) {
        return new ProcessingOptions(kept, collision, newShare, levels);
    }

    public ProcessingOptions withLevels(boolean wanted) {
        return new ProcessingOptions(kept, collision, share, wanted);
    }
}
