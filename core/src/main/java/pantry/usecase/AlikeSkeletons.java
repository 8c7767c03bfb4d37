package pantry.usecase;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.IndexedAsset;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Model;
import pantry.motion.Motion;
import pantry.motion.MotionFit;
import pantry.motion.Skeleton;

/** Assets whose skeletons have the same joints: figures that are a series, and motions that they can do. */
public final class AlikeSkeletons {
    /** The least share of the joints of the smaller skeleton that both have. */
    private static final double LEAST = 0.5;

    private AlikeSkeletons() {}

    /**
     * An asset with such a skeleton.
     *
     * @param common joints that both have
     * @param joints of the asset itself
     */
    public record Alike(IndexedAsset item, int common, int joints) {
        public boolean isMotion() {
            return item.kind().equals(AssetKind.MOTION.word());
        }
    }

    /**
     * Those with such joints; those with the most of them first, then by their names.
     *
     * @param joints each with those above it
     * @param others as the index knows them
     * @param opened an asset of them
     */
    public static List<Alike> of(
            Collection<String> joints,
            List<IndexedAsset> others,
            Function<IndexedAsset, Asset> opened,
            Progress progress) {
        Set<String> own = new HashSet<>(joints);
        List<Alike> alike = new ArrayList<>();
        for (IndexedAsset other : own.isEmpty() ? List.<IndexedAsset>of() : others) {
            if (other.moving().bones() == 0) {
                continue;
            }
            progress.check();
            joints(other, opened).ifPresent(its -> {
                int common = (int) its.stream().filter(own::contains).count();
                int smaller = Math.min(own.size(), its.size());
                if (common > 0 && common >= LEAST * smaller) {
                    alike.add(new Alike(other, common, its.size()));
                }
            });
        }
        alike.sort(Comparator.comparingInt(Alike::common).reversed().thenComparing(each -> each.item()
                .name()));
        return alike;
    }

    /** What is gone or cannot be read is like nothing. */
    private static Optional<List<String>> joints(IndexedAsset item, Function<IndexedAsset, Asset> opened) {
        try {
            return Optional.of(opened.apply(item).facts(item.version()).joints());
        } catch (PantryException e) {
            return Optional.empty();
        }
    }

    /**
     * A figure that does what another thing does.
     *
     * @param model the figure, whose motions are those of the other, followed by its own
     * @param misfits what does not fit, for a person
     */
    public record Tried(Model model, List<String> misfits) {}

    /** @return empty where one of them has no skeleton, or no motion fits */
    public static Optional<Tried> tried(Model figure, Model mover) {
        Optional<Skeleton> onto = figure.extras().skeleton();
        Optional<Skeleton> own = mover.extras().skeleton();
        if (onto.isEmpty() || own.isEmpty()) {
            return Optional.empty();
        }
        List<Motion> motions = new ArrayList<>();
        List<String> misfits = new ArrayList<>();
        for (Motion motion : own.get().motions()) {
            MotionFit fit = MotionFit.of(own.get(), motion, onto.get());
            if (fit.fits()) {
                motions.add(fit.motion());
                fit.misfit().ifPresent(misfits::add);
            }
        }
        if (motions.isEmpty()) {
            return Optional.empty();
        }
        motions.addAll(onto.get().motions());
        Skeleton both = new Skeleton(onto.get().joints(), motions);
        return Optional.of(new Tried(
                figure.with(figure.extras().with(Optional.of(both))),
                misfits.stream().distinct().toList()));
    }
}
