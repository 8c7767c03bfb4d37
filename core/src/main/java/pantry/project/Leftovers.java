package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.SpecTargets;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/**
 * What files of projects hold though nothing needs it. Only files that no other file uses are looked at: what looks like a
 * leftover in another may be meant for those that use it.
 */
public final class Leftovers {
    private final Path file;
    private final Stage stage;
    private final List<Leftover> found = new ArrayList<>();
    private final Set<SdfPath> mentioned = new HashSet<>();
    private final Set<SdfPath> classes = new HashSet<>();

    /** Why something is not needed. */
    public enum Kind {
        /** An override of a prim that is not there. */
        OVERRIDE("overrides what is not there"),
        /** An override that says nothing. */
        EMPTY("an override that says nothing"),
        /** A material that no surface is bound to. */
        MATERIAL("a material that nothing shows"),
        /** A choice of a variant that is not there. */
        CHOICE("chooses a variant that is not there");

        private final String words;

        Kind(String words) {
            this.words = words;
        }

        /** For a person. */
        public String words() {
            return words;
        }
    }

    /**
     * Something that nothing needs.
     *
     * @param detail the variant set of a choice; empty otherwise
     */
    public record Leftover(Path file, SdfPath path, Kind kind, String detail) {
        /** As a line of a plan. */
        public Change change() {
            return new Change(file, path + (detail.isEmpty() ? "" : " " + detail), file, file, kind.words());
        }
    }

    private Leftovers(Path file, Stage stage) {
        this.file = file;
        this.stage = stage;
    }

    /**
     * Looks through files; those that cannot be composed are left out.
     *
     * @param files all of the projects where there are none
     * @throws PantryException where a file is none of the projects'
     */
    public static List<Leftover> find(Reach reach, Collection<Path> files, Progress progress) {
        Set<Path> asked = reach.filesOf(files);
        List<Path> looked = reach.unusedFiles().stream()
                .filter(file -> asked.isEmpty() || asked.contains(file))
                .filter(file -> !file.toString().endsWith(".usdz"))
                .toList();
        LayerCache layers = WhatIf.layers(reach);
        AtomicInteger done = new AtomicInteger();
        List<Leftover> all = new ArrayList<>();
        Parallel.map(looked, file -> {
                    progress.step("looking through " + file, (double) done.getAndIncrement() / looked.size());
                    try {
                        Layer layer = layers.open(AssetLocation.of(file));
                        return new Leftovers(file, Stage.open(layer, layers)).find(layer);
                    } catch (UsdException e) {
                        return List.<Leftover>of();
                    }
                })
                .forEach(all::addAll);
        return all;
    }

    private List<Leftover> find(Layer layer) {
        compose(stage.root(), new HashSet<>());
        // What is missing may be there again tomorrow: nothing that hangs on it is judged.
        if (!stage.problems().isEmpty()) {
            return List.of();
        }
        for (Layer own : stage.layerStack()) {
            own.rootPrims().forEach(prim -> mention(prim, SdfPath.ROOT.child(prim.name())));
        }
        for (Layer used : stage.usedLayers()) {
            used.rootPrims().forEach(this::inherit);
        }
        layer.rootPrims().forEach(prim -> look(prim, SdfPath.ROOT.child(prim.name())));
        return found;
    }

    /** Only what was composed tells of its layers and problems. */
    private static void compose(Prim prim, Set<SdfPath> shared) {
        Optional<Prim> prototype = prim.prototype();
        if (prototype.isPresent()) {
            if (shared.add(prototype.get().path())) {
                compose(prototype.get(), shared);
            }
            return;
        }
        prim.children().forEach(child -> compose(child, shared));
    }

    private void look(PrimSpec spec, SdfPath path) {
        Optional<Prim> composed = stage.prim(path).filter(Prim::isDefined);
        boolean over = spec.specifier() == Specifier.OVER;
        if (over && composed.isEmpty()) {
            // What is said of a class reaches all that inherit it, also in what is referenced.
            if (classes.stream().noneMatch(each -> each.startsWith(path) || path.startsWith(each))) {
                add(path, Kind.OVERRIDE);
            }
            return;
        }
        if (over && saysNothing(spec)) {
            add(path, Kind.EMPTY);
            return;
        }
        if (spec.specifier() == Specifier.DEF && spec.typeName().equals("Material") && !mentioned.contains(path)) {
            add(path, Kind.MATERIAL);
            return;
        }
        if (spec.metadata().get("variants") instanceof Value.Selections chosen && composed.isPresent()) {
            chosen.bySet().forEach((set, variant) -> {
                if (!composed.get().variantSets().getOrDefault(set, Set.of()).contains(variant)) {
                    found.add(new Leftover(file, path, Kind.CHOICE, set));
                }
            });
        }
        spec.children().forEach(child -> look(child, path.child(child.name())));
    }

    private void add(SdfPath path, Kind kind) {
        found.add(new Leftover(file, path, kind, ""));
    }

    private static boolean saysNothing(PrimSpec spec) {
        return spec.properties().isEmpty()
                && spec.metadata().isEmpty()
                && spec.variantSets().isEmpty()
                && spec.children().stream().allMatch(Leftovers::saysNothing);
    }

    /** Takes note of all that a spec speaks of, but for what it is itself within. */
    private void mention(PrimSpec spec, SdfPath path) {
        SpecTargets.remap(spec.copyOfOwn(), target -> {
            for (SdfPath at = target.prim(); !at.equals(SdfPath.ROOT) && !path.startsWith(at); at = at.parent()) {
                mentioned.add(at);
            }
            return Optional.of(target);
        });
        spec.children().forEach(child -> mention(child, path.child(child.name())));
        spec.variantSets().values().forEach(variants -> variants.values()
                .forEach(variant -> mention(variant.contents(), path)));
    }

    private void inherit(PrimSpec spec) {
        for (String field : List.of("inherits", "specializes")) {
            if (spec.metadata().get(field) instanceof Value.PathEdit(ListEdit<SdfPath> edit)) {
                classes.addAll(edit.applyTo(List.of()));
            }
        }
        spec.children().forEach(this::inherit);
        spec.variantSets().values().forEach(variants -> variants.values()
                .forEach(variant -> inherit(variant.contents())));
    }

    /** What has to be done to the files; each is written anew as a whole. */
    public static List<FileEdit> edits(List<Leftover> leftovers) {
        Map<Path, List<Leftover>> byFile = new LinkedHashMap<>();
        leftovers.forEach(each ->
                byFile.computeIfAbsent(each.file(), file -> new ArrayList<>()).add(each));
        List<FileEdit> edits = new ArrayList<>();
        byFile.forEach((file, all) -> edits.add(new FileEdit(file, all.size(), before -> cleared(file, before, all))));
        return edits;
    }

    private static byte[] cleared(Path file, byte[] before, List<Leftover> leftovers) {
        Layer layer = LayerAssets.copied(LayerFiles.read(file), AssetLocation.of(file));
        for (Leftover each : leftovers) {
            PrimSpec spec = layer.prim(each.path())
                    .orElseThrow(() -> new PantryException(
                            file.toString(), each.path().toString(), "was changed since it was looked through", null));
            if (each.kind() == Kind.CHOICE) {
                unchoose(spec, each.detail());
            } else {
                PrimSpec parent = each.path().isRootPrim()
                        ? layer.root()
                        : layer.prim(each.path().parent()).orElseThrow();
                parent.removeChild(each.path().name());
            }
        }
        return LayerBytes.of(layer, file, LayerBytes.isText(before) ? "usda" : "usdc");
    }

    private static void unchoose(PrimSpec spec, String set) {
        if (spec.metadata().get("variants") instanceof Value.Selections chosen) {
            Map<String, String> left = new LinkedHashMap<>(chosen.bySet());
            left.remove(set);
            if (left.isEmpty()) {
                spec.metadata().remove("variants");
            } else {
                spec.metadata().put("variants", new Value.Selections(left));
            }
        }
    }
}
