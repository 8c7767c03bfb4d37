package pantry.scene;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.Progress;
import pantry.usd.SdfPath;
import pantry.usd.schema.Xforms;

/**
 * Lays out many uses of one object, or of several, under an anchor; what a group holds is shared by its uses. The figures of
 * the layout are kept with the anchor, so that it can be laid out otherwise later: what was moved or taken away by hand
 * stays so.
 */
public final class LayoutOperations {
    private static final String KEPT = "pantryLayout";

    private final SceneLayer scene;

    LayoutOperations(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * Lays one object out. It becomes the first of its uses, under a new anchor.
     *
     * @return the anchor
     */
    public SdfPath lay(SdfPath path, String name, Layout layout, Layout.Variation variation) {
        return lay(List.of(path), name, LayoutPlan.of(layout, variation));
    }

    /**
     * Lays objects out. They become the first of their uses, under a new anchor.
     *
     * @return the anchor
     * @throws SceneException where the layout cannot be, or has fewer places than there are objects
     */
    public SdfPath lay(List<SdfPath> paths, String name, LayoutPlan plan) {
        return lay(paths, name, plan, Progress.NONE);
    }

    /** As above; where it is cancelled, nothing is changed. */
    public SdfPath lay(List<SdfPath> paths, String name, LayoutPlan plan, Progress progress) {
        return scene.editor().change("laid out " + SceneLayer.named(paths), edits -> {
            SdfPath group = new Structure(scene).group(edits, paths, name);
            List<SdfPath> firsts = edits.stage().prim(group).orElseThrow().children().stream()
                    .map(prim -> prim.path())
                    .toList();
            List<double[]> originals = new ArrayList<>();
            for (SdfPath first : firsts) {
                originals.add(
                        Xforms.local(edits.stage().prim(first).orElseThrow()).rows());
                new Instancing(scene).share(edits, first);
            }
            List<String> names = firsts.stream().map(SdfPath::name).toList();
            LayoutFigures first = new LayoutFigures(plan, originals.getFirst(), originals.subList(1, originals.size()));
            new LayoutUses(scene, edits, group, progress).fill(first, LayoutUses.Before.fresh(names), KEPT);
            return group;
        });
    }

    /** The layout of an anchor; empty where it has none. */
    public Optional<LayoutFigures> kept(SdfPath group) {
        return scene.spec(group)
                .map(prim -> prim.metadata().get(CustomData.PRIM))
                .flatMap(field -> scene.figures(field, kept -> CustomData.read(kept, KEPT, LayoutFigures.class)));
    }

    /** What is to be said of a layout in which not all found room that were asked for; empty where all did. */
    public Optional<String> shortfall(SdfPath group) {
        Optional<LayoutFigures> figures = kept(group);
        int asked = figures.map(each -> each.layout().asked()).orElse(0);
        int made = figures.filter(each -> !each.uses().isEmpty())
                .map(each -> each.uses().size())
                .orElseGet(() -> LayoutUses.names(scene, group).size());
        return asked <= made
                ? Optional.empty()
                : Optional.of("only " + made + " of " + asked + " found room in " + group.name()
                        + ": the others would stand too near to each other; allow them to, or make the area larger");
    }

    /**
     * Lays the uses under an anchor out otherwise.
     *
     * @throws SceneException where nothing is laid out there, or the layout cannot be
     */
    public void relay(SdfPath group, Layout layout, Layout.Variation variation) {
        LayoutFigures before = laidOut(group);
        relay(group, new LayoutPlan(layout, variation, before.shares(), before.standing()));
    }

    /** As above, with other shares, or standing otherwise. */
    public void relay(SdfPath group, LayoutPlan plan) {
        relay(group, plan, Progress.NONE);
    }

    /** As above; where it is cancelled, nothing is changed. */
    public void relay(SdfPath group, LayoutPlan plan, Progress progress) {
        LayoutFigures before = laidOut(group);
        LayoutUses.Before there = LayoutUses.Before.of(scene, group, before);
        scene.editor().changeAll("laid out " + group.name() + " otherwise" + there.told(), edits -> {
            LayoutFigures wanted = new LayoutFigures(plan, before.original(), before.others());
            new LayoutUses(scene, edits, group, progress).fill(wanted, there, KEPT);
        });
    }

    private LayoutFigures laidOut(SdfPath group) {
        return kept(group)
                .orElseThrow(
                        () -> new SceneException(scene.file(), "<" + group + "> has no layout that could be changed"));
    }
}
