package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import pantry.base.FileGate;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.compare.Comparer;
import pantry.compare.Comparison;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/**
 * What would become of each file that uses an asset, were something about it changed. Each is composed with the change in
 * memory; nothing is written.
 */
public final class WhatIf {
    private final Reach reach;
    private final Imagined change;
    private final Map<Path, Long> placements = new LinkedHashMap<>();
    private final LayerCache layers;

    /**
     * What would become of a file.
     *
     * @param placements how often it shows what would be something else
     * @param before what it weighs; nothing where it cannot be composed
     * @param boundsBefore in metres
     * @param overlaps what would newly stand in something else, the deepest first
     * @param problem why nothing can be said; empty where it can
     */
    public record Effect(
            Path file,
            long placements,
            List<Lost> lost,
            Weight before,
            Weight after,
            Box3 boundsBefore,
            Box3 boundsAfter,
            List<Overlap> overlaps,
            String problem) {
        public Effect {
            lost = List.copyOf(lost);
            overlaps = List.copyOf(overlaps);
        }

        /** Whether it would look as it does. */
        public boolean changesNothing() {
            return placements == 0 && lost.isEmpty() && problem.isEmpty();
        }

        /** By how much it would be larger along the axis along which it grows most; metres. */
        public double growth() {
            if (boundsBefore.isEmpty() || boundsAfter.isEmpty()) {
                return 0;
            }
            double most = 0;
            for (int axis = 0; axis < 3; axis++) {
                most = Math.max(
                        most, boundsAfter.size().get(axis) - boundsBefore.size().get(axis));
            }
            return most;
        }
    }

    /**
     * What a change would do.
     *
     * @param effects those that lose most first
     * @param comparison of what the asset is and what would stand in its place; empty where that cannot be compared
     */
    public record Ripple(Imagined change, List<Effect> effects, Optional<Comparison> comparison) {
        public Ripple {
            effects = List.copyOf(effects);
        }

        public Asset asset() {
            return change.asset();
        }

        public String version() {
            return change.version();
        }

        public long placements() {
            return effects.stream().mapToLong(Effect::placements).sum();
        }

        public int lost() {
            return effects.stream().mapToInt(effect -> effect.lost().size()).sum();
        }

        public int overlaps() {
            return effects.stream().mapToInt(effect -> effect.overlaps().size()).sum();
        }
    }

    private WhatIf(Reach reach, Imagined change) {
        this.reach = reach;
        this.change = change;
        this.layers = layers(reach);
    }

    /** The layers of the projects and of libraries. */
    static LayerCache layers(Reach reach) {
        return new LayerCache(FileGate.to(reach.projectFolders()).orWhere(Library::isWithin));
    }

    /**
     * What would become of the files that follow an asset if one of its versions were made ready.
     *
     * @throws pantry.base.PantryException where it has no such version
     */
    public static Ripple ready(Reach reach, Asset asset, String version, Progress progress) {
        return of(reach, Imagined.ready(asset, version), progress);
    }

    /** What would become of the files that a change reaches. */
    public static Ripple of(Reach reach, Imagined change, Progress progress) {
        return new WhatIf(reach, change).ripple(progress);
    }

    private Ripple ripple(Progress progress) {
        for (Reach.SceneUse use : reach.uses(change.asset(), Optional.empty())) {
            if (change.touches(use)) {
                placements.merge(use.file(), use.placements(), Long::sum);
            }
        }
        progress.step("comparing versions", 0);
        Optional<Comparison> comparison = placements.isEmpty() ? Optional.empty() : comparison(progress.part(0, 0.1));
        List<Path> files = List.copyOf(placements.keySet());
        AtomicInteger done = new AtomicInteger();
        Progress rest = progress.part(0.1, 1);
        List<Effect> effects = new ArrayList<>(Parallel.map(files, file -> {
            rest.step("trying it in " + file, (double) done.getAndIncrement() / files.size());
            return effect(file, comparison, rest);
        }));
        effects.sort(Comparator.comparingInt((Effect effect) -> -effect.lost().size())
                .thenComparingLong(effect -> -effect.placements())
                .thenComparing(Effect::file));
        return new Ripple(change, effects, comparison);
    }

    /** Of what is ready now, and what would be. */
    private Optional<Comparison> comparison(Progress progress) {
        Asset asset = change.asset();
        Asset then = change.other().orElse(asset);
        Optional<String> before = asset.ready();
        Optional<String> after = change.readyThen();
        if (before.isEmpty() || after.isEmpty()) {
            return Optional.empty();
        }
        try {
            return Optional.of(Comparer.compare(state(asset, before.get()), state(then, after.get()), progress));
        } catch (UsdException e) {
            return Optional.empty();
        }
    }

    private Comparer.State state(Asset asset, String version) {
        Layer entry = layers.open(AssetLocation.of(asset.entryLayer(version)));
        return new Comparer.State(
                model(Stage.open(entry, layers)), asset.facts(version).variants());
    }

    private Effect effect(Path file, Optional<Comparison> comparison, Progress progress) {
        long count = placements.getOrDefault(file, 0L);
        try {
            Layer root = layers.open(AssetLocation.of(file));
            Layers imagined = change.in(layers);
            Stage before = Stage.open(root, layers);
            Stage after = Stage.open(root, imagined);
            // Meshes that do not change are the same in both.
            MeshCache meshes = new MeshCache();
            Model modelBefore = model(before, meshes);
            Model modelAfter = model(after, meshes);
            return new Effect(
                    file,
                    count,
                    LostTargets.of(before, after, comparison),
                    Weight.of(modelBefore),
                    Weight.of(modelAfter),
                    modelBefore.bounds(),
                    modelAfter.bounds(),
                    Overlaps.of(before, modelBefore, after, modelAfter, progress),
                    "");
        } catch (UsdException e) {
            return new Effect(
                    file,
                    count,
                    List.of(),
                    Weight.NOTHING,
                    Weight.NOTHING,
                    Box3.EMPTY,
                    Box3.EMPTY,
                    List.of(),
                    e.line());
        }
    }

    /** What a stage shows, in metres with Y up. */
    static Model model(Stage stage) {
        return model(stage, new MeshCache());
    }

    private static Model model(Stage stage, MeshCache meshes) {
        return UsdModelReader.read(stage, meshes).model().reframed(UsdModelReader.toMetres(stage.rootLayer()));
    }
}
