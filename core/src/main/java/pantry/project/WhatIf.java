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
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;

/**
 * What would become of each file that follows an asset, were another of its versions the ready one. Each is composed with
 * the change in memory; nothing is written.
 */
public final class WhatIf {
    private final Reach reach;
    private final Asset asset;
    private final String version;
    private final Map<Path, Long> placements = new LinkedHashMap<>();
    private final LayerCache layers;

    /** What says something about what would be gone. */
    public enum LostKind {
        /** A prim that is overridden, and would not be there. */
        OVERRIDE,
        /** A variant that is chosen, and would not be there. */
        CHOICE
    }

    /**
     * Something in a file that would lose what it is about.
     *
     * @param path the prim that would be gone, or of which a variant would be
     * @param detail the variant set and variant of a choice; empty otherwise
     * @param likely the prims that it may be about from then on: those of the same name in the same placement
     */
    public record Lost(LostKind kind, SdfPath path, String detail, List<SdfPath> likely) {
        public Lost {
            likely = List.copyOf(likely);
        }
    }

    /**
     * What would become of a file.
     *
     * @param placements how often it shows what would be another version
     * @param before what it weighs; nothing where it cannot be composed
     * @param boundsBefore in metres
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
            String problem) {
        public Effect {
            lost = List.copyOf(lost);
        }

        /** Whether it would look as it does. */
        public boolean changesNothing() {
            return placements == 0 && lost.isEmpty() && problem.isEmpty();
        }
    }

    /** @param effects those that lose most first */
    public record Ripple(Asset asset, String version, List<Effect> effects) {
        public Ripple {
            effects = List.copyOf(effects);
        }

        public long placements() {
            return effects.stream().mapToLong(Effect::placements).sum();
        }

        public int lost() {
            return effects.stream().mapToInt(effect -> effect.lost().size()).sum();
        }
    }

    private WhatIf(Reach reach, Asset asset, String version) {
        this.reach = reach;
        this.asset = asset;
        this.version = version;
        this.layers = new LayerCache(FileGate.to(reach.projectFolders()).orWhere(Library::isWithin));
    }

    /**
     * What would become of the files that follow an asset if one of its versions were made ready.
     *
     * @throws PantryException where it has no such version
     */
    public static Ripple ready(Reach reach, Asset asset, String version, Progress progress) {
        if (!asset.versions().contains(version)) {
            throw new PantryException(asset.folder(), "has no version " + version);
        }
        return new WhatIf(reach, asset, version).ripple(progress);
    }

    private Ripple ripple(Progress progress) {
        for (Reach.SceneUse use : reach.uses(asset, Optional.empty())) {
            if (use.following() && !use.version().equals(version)) {
                placements.merge(use.file(), use.placements(), Long::sum);
            }
        }
        List<Path> files = List.copyOf(placements.keySet());
        AtomicInteger done = new AtomicInteger();
        List<Effect> effects = new ArrayList<>(Parallel.map(files, file -> {
            progress.step("trying it in " + file, (double) done.getAndIncrement() / files.size());
            return effect(file);
        }));
        effects.sort(Comparator.comparingInt((Effect effect) -> -effect.lost().size())
                .thenComparingLong(effect -> -effect.placements())
                .thenComparing(Effect::file));
        return new Ripple(asset, version, effects);
    }

    private Effect effect(Path file) {
        long count = placements.getOrDefault(file, 0L);
        try {
            Layer root = layers.open(AssetLocation.of(file));
            Stage before = Stage.open(root, layers);
            Stage after = Stage.open(root, imagined());
            Model modelBefore = model(before);
            Model modelAfter = model(after);
            return new Effect(
                    file,
                    count,
                    lost(before, after),
                    Weight.of(modelBefore),
                    Weight.of(modelAfter),
                    modelBefore.bounds(),
                    modelAfter.bounds(),
                    "");
        } catch (UsdException e) {
            return new Effect(file, count, List.of(), Weight.NOTHING, Weight.NOTHING, Box3.EMPTY, Box3.EMPTY, e.line());
        }
    }

    private static Model model(Stage stage) {
        return UsdModelReader.read(stage, new MeshCache()).model().reframed(UsdModelReader.toMetres(stage.rootLayer()));
    }

    /** The layers as they are, but for the asset's ready layer, which leads to the version. */
    private Layers imagined() {
        AssetLocation place = AssetLocation.of(asset.readyLayer());
        Layer now = layers.open(place);
        Path entry = asset.entryLayer(version);
        Layer then = LayerAssets.renamed(now, place, written -> AssetPaths.relative(asset.folder(), entry));
        return new Layers() {
            @Override
            public Layer open(AssetLocation location) {
                return location.equals(place) ? then : layers.open(location);
            }

            @Override
            public AssetLocation resolve(Layer anchor, String written) {
                return layers.resolve(anchor, written);
            }

            @Override
            public FileGate gate() {
                return layers.gate();
            }
        };
    }

    /** What the file's own layers say of prims and variants that would be gone. */
    private static List<Lost> lost(Stage before, Stage after) {
        List<Lost> lost = new ArrayList<>();
        for (Layer layer : before.layerStack()) {
            layer.rootPrims().forEach(prim -> lost(prim, SdfPath.ROOT.child(prim.name()), before, after, lost));
        }
        return lost;
    }

    private static void lost(PrimSpec spec, SdfPath path, Stage before, Stage after, List<Lost> lost) {
        Optional<Prim> was = before.prim(path).filter(Prim::isDefined);
        Optional<Prim> is = after.prim(path).filter(Prim::isDefined);
        if (spec.specifier() == Specifier.OVER && was.isPresent() && is.isEmpty()) {
            // Of what is below, it is not said once more.
            lost.add(new Lost(LostKind.OVERRIDE, path, "", likely(path, after)));
            return;
        }
        if (spec.metadata().get("variants") instanceof Value.Selections chosen && was.isPresent() && is.isPresent()) {
            chosen.bySet().forEach((set, variant) -> {
                if (has(was.get(), set, variant) && !has(is.get(), set, variant)) {
                    lost.add(new Lost(LostKind.CHOICE, path, set + " = " + variant, List.of()));
                }
            });
        }
        spec.children().forEach(child -> lost(child, path.child(child.name()), before, after, lost));
    }

    private static boolean has(Prim prim, String set, String variant) {
        return prim.variantSets().getOrDefault(set, java.util.Set.of()).contains(variant);
    }

    /** Prims of the same name below the nearest prim above that is still there. */
    private static List<SdfPath> likely(SdfPath gone, Stage after) {
        SdfPath above = gone.parent();
        while (!above.equals(SdfPath.ROOT)
                && after.prim(above).filter(Prim::isDefined).isEmpty()) {
            above = above.parent();
        }
        List<SdfPath> found = new ArrayList<>();
        after.prim(above).ifPresent(prim -> named(prim, gone.name(), found));
        return found;
    }

    private static void named(Prim prim, String name, List<SdfPath> found) {
        for (Prim child : prim.children()) {
            if (child.name().equals(name)) {
                found.add(child.path());
            }
            if (!child.isInstance()) {
                named(child, name, found);
            }
        }
    }
}
