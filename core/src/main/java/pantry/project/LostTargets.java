package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.compare.Comparison;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/** What a file says of prims and variants that would be gone, and what it may be about from then on. */
final class LostTargets {
    private final Stage before;
    private final Stage after;
    private final Optional<Comparison> comparison;
    private final List<Lost> lost = new ArrayList<>();

    private LostTargets(Stage before, Stage after, Optional<Comparison> comparison) {
        this.before = before;
        this.after = after;
        this.comparison = comparison;
    }

    /** @param comparison of what the asset is and what it would be */
    static List<Lost> of(Stage before, Stage after, Optional<Comparison> comparison) {
        LostTargets targets = new LostTargets(before, after, comparison);
        for (Layer layer : before.layerStack()) {
            layer.file().ifPresent(file -> layer.rootPrims()
                    .forEach(prim -> targets.find(file, prim, SdfPath.ROOT.child(prim.name()))));
        }
        return targets.lost;
    }

    private void find(Path file, PrimSpec spec, SdfPath path) {
        Optional<Prim> was = before.prim(path).filter(Prim::isDefined);
        Optional<Prim> is = after.prim(path).filter(Prim::isDefined);
        if (spec.specifier() == Specifier.OVER && was.isPresent() && is.isEmpty()) {
            // Of what is below, it is not said once more.
            lost.add(new Lost(Lost.Kind.OVERRIDE, file, path, "", likely(path)));
            return;
        }
        if (spec.metadata().get("variants") instanceof Value.Selections chosen && was.isPresent() && is.isPresent()) {
            chosen.bySet().forEach((set, variant) -> {
                if (has(was.get(), set, variant) && !has(is.get(), set, variant)) {
                    lost.add(new Lost(Lost.Kind.CHOICE, file, path, set + " = " + variant, List.of()));
                }
            });
        }
        spec.children().forEach(child -> find(file, child, path.child(child.name())));
    }

    private static boolean has(Prim prim, String set, String variant) {
        return prim.variantSets().getOrDefault(set, Set.of()).contains(variant);
    }

    /** What has its shape, and then what has its name, below the nearest prim above that is still there. */
    private List<SdfPath> likely(SdfPath gone) {
        Set<SdfPath> found = new LinkedHashSet<>();
        SdfPath above = gone.parent();
        String within = gone.name();
        while (!above.equals(SdfPath.ROOT)) {
            SdfPath at = above;
            String path = within;
            comparison.stream()
                    .flatMap(each -> each.objects().stream())
                    .filter(change ->
                            change.before().equals(path) && !change.after().isEmpty())
                    .map(change -> below(at, change.after()))
                    .filter(target -> isThere(target) && !target.equals(gone))
                    .forEach(found::add);
            within = above.name() + "/" + within;
            above = above.parent();
        }
        above = gone.parent();
        while (!above.equals(SdfPath.ROOT) && !isThere(above)) {
            above = above.parent();
        }
        after.prim(above).ifPresent(prim -> named(prim, gone.name(), found));
        return List.copyOf(found);
    }

    private boolean isThere(SdfPath path) {
        return after.prim(path).filter(Prim::isDefined).isPresent();
    }

    private static SdfPath below(SdfPath path, String names) {
        SdfPath below = path;
        for (String name : names.split("/")) {
            below = below.child(name);
        }
        return below;
    }

    private static void named(Prim prim, String name, Set<SdfPath> found) {
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
