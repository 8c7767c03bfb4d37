package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.PantryException;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.SpecTargets;
import pantry.usd.Specifier;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;

/** Lets overrides that lose what they are about be about what is likely to be the same from then on. */
public final class CarryOver {
    private CarryOver() {}

    /** Whether it is known what something that is lost may be about from then on. */
    public static boolean isPossible(Lost lost) {
        return lost.kind() == Lost.Kind.OVERRIDE && !lost.likely().isEmpty();
    }

    /** The change that it would be, as a line of a plan. */
    public static Change change(Lost lost) {
        return new Change(
                lost.file(),
                lost.path().toString(),
                lost.file(),
                lost.file(),
                "now about " + lost.likely().getFirst().name());
    }

    /** What has to be done to the files, for overrides of which that is known; each goes to the likeliest. */
    public static List<FileEdit> edits(List<Lost> lost) {
        Map<Path, List<Lost>> byFile = new LinkedHashMap<>();
        for (Lost each : lost) {
            if (isPossible(each)) {
                List<Lost> inFile = byFile.computeIfAbsent(each.file(), file -> new ArrayList<>());
                // A file that several scenes use says it once.
                if (inFile.stream().noneMatch(known -> known.path().equals(each.path()))) {
                    inFile.add(each);
                }
            }
        }
        List<FileEdit> edits = new ArrayList<>();
        byFile.forEach((file, all) -> edits.add(new FileEdit(file, all.size(), before -> carried(file, before, all))));
        return edits;
    }

    private static byte[] carried(Path file, byte[] before, List<Lost> lost) {
        Layer layer = LayerAssets.copied(LayerFiles.read(file), AssetLocation.of(file));
        for (Lost each : lost) {
            SdfPath from = each.path();
            SdfPath to = each.likely().getFirst();
            PrimSpec old = layer.prim(from)
                    .filter(spec -> spec.specifier() == Specifier.OVER)
                    .orElseThrow(() -> new PantryException(
                            file.toString(), from.toString(), "was changed since it was tried", null));
            remove(layer, from);
            PrimSpec moved = old.copyAs(to.name());
            SpecTargets.remap(moved, target -> Optional.of(target.replacePrefix(from, to)));
            put(layer, to, moved);
        }
        return LayerBytes.of(layer, file, LayerBytes.isText(before) ? "usda" : "usdc");
    }

    /** With what is above it and says nothing without it. */
    private static void remove(Layer layer, SdfPath path) {
        PrimSpec parent = parent(layer, path);
        parent.removeChild(path.name());
        SdfPath above = path.parent();
        boolean says = parent.specifier() != Specifier.OVER
                || !parent.children().isEmpty()
                || !parent.properties().isEmpty()
                || !parent.metadata().isEmpty()
                || !parent.variantSets().isEmpty();
        if (!says && !above.equals(SdfPath.ROOT)) {
            remove(layer, above);
        }
    }

    private static PrimSpec parent(Layer layer, SdfPath path) {
        return path.isRootPrim() ? layer.root() : layer.prim(path.parent()).orElseThrow();
    }

    private static void put(Layer layer, SdfPath path, PrimSpec moved) {
        PrimSpec at = layer.root();
        for (SdfPath above : ancestors(path)) {
            PrimSpec parent = at;
            at = parent.child(above.name()).orElseGet(() -> parent.add(new PrimSpec(Specifier.OVER, "", above.name())));
        }
        Optional<PrimSpec> there = at.child(path.name());
        if (there.isEmpty()) {
            at.add(moved);
            return;
        }
        merge(there.get(), moved);
    }

    /** What is said already stays. */
    private static void merge(PrimSpec there, PrimSpec moved) {
        moved.metadata().forEach(there.metadata()::putIfAbsent);
        moved.properties().forEach(property -> {
            if (there.property(property.name()).isEmpty()) {
                there.put(property);
            }
        });
        moved.children().forEach(child -> there.child(child.name())
                .ifPresentOrElse(known -> merge(known, child), () -> there.add(child.copy())));
    }

    /** The prims above one, the topmost first. */
    private static List<SdfPath> ancestors(SdfPath path) {
        List<SdfPath> above = new ArrayList<>();
        for (SdfPath at = path.parent(); !at.equals(SdfPath.ROOT); at = at.parent()) {
            above.addFirst(at);
        }
        return above;
    }
}
