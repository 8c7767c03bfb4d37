package pantry.scene;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.DoubleStream;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Xforms;

/**
 * Lays out many uses of one object under an anchor; what a group holds is shared by its uses. The figures of the layout are kept with the anchor, so that it can
 * be laid out otherwise later; uses beyond the first are made anew then.
 */
public final class LayoutOperations {
    private static final String KEPT = "pantryLayout";

    private final SceneLayer scene;

    LayoutOperations(SceneLayer scene) {
        this.scene = scene;
    }

    /**
     * What is kept with an anchor.
     *
     * @param original the transform of the first use as it was before, row by row
     */
    public record Figures(Layout layout, Layout.Variation variation, double[] original) {}

    /**
     * Lays an object out. It becomes the first of its uses, under a new anchor.
     *
     * @return the anchor
     */
    public SdfPath lay(SdfPath path, String name, Layout layout, Layout.Variation variation) {
        return scene.editor().change("laid out " + path.name(), edits -> {
            SdfPath group = new Structure(scene).group(edits, List.of(path), name);
            SdfPath first = edits.stage()
                    .prim(group)
                    .flatMap(prim -> prim.children().stream().findFirst())
                    .orElseThrow()
                    .path();
            Matrix4 original = Xforms.local(edits.stage().prim(first).orElseThrow());
            new Instancing(scene).share(edits, first);
            fill(edits, group, first, new Figures(layout, variation, original.rows()));
            return group;
        });
    }

    /** The layout of an anchor; empty where it has none. */
    public Optional<Figures> kept(SdfPath group) {
        return scene.spec(group).flatMap(prim -> CustomData.read(prim, KEPT, Figures.class));
    }

    /** What is to be said of a layout in which not all found room that were asked for; empty where all did. */
    public Optional<String> shortfall(SdfPath group) {
        int asked = kept(group).map(figures -> figures.layout().asked()).orElse(0);
        int made = uses(group).size();
        return asked <= made
                ? Optional.empty()
                : Optional.of("only " + made + " of " + asked + " found room in " + group.name()
                        + ": the others would stand too near to each other; allow them to, or make the area larger");
    }

    private List<String> uses(SdfPath group) {
        return scene.spec(group).stream()
                .flatMap(prim -> prim.childNames().stream())
                .filter(name -> !name.equals(Anchors.MARK))
                .toList();
    }

    /** Lays the uses under an anchor out otherwise. */
    public void relay(SdfPath group, Layout layout, Layout.Variation variation) {
        Figures before = kept(group)
                .orElseThrow(
                        () -> new SceneException(scene.file(), "<" + group + "> has no layout that could be changed"));
        List<String> names = uses(group);
        scene.editor().changeAll("laid out " + group.name() + " otherwise", edits -> {
            for (String name : names.subList(1, names.size())) {
                edits.remove(group.child(name));
            }
            fill(edits, group, group.child(names.getFirst()), new Figures(layout, variation, before.original()));
        });
    }

    private void fill(Transaction edits, SdfPath group, SdfPath first, Figures kept) {
        List<Matrix4> places = kept.layout().places(path -> triangles(edits, group, path));
        Layout.Variation variation = kept.variation();
        Matrix4 now = Xforms.local(edits.stage().prim(first).orElseThrow());
        Matrix4 original = Matrix4.ofRows(kept.original());
        // The first place may be elsewhere than the original, as at random; all are told from the original's.
        List<String> names = names(edits, group, first, places.size() - 1);
        edits.copies(
                first,
                names,
                (copy, number) -> stand(copy, number + 1, now, original.times(places.get(number + 1)), variation));
        edits.change(first, prim -> stand(prim, 0, now, original.times(places.getFirst()), variation));
        edits.change(group, prim -> CustomData.write(prim, KEPT, kept));
    }

    /** Free names for copies, which continue the number that the first has, if any. */
    private static List<String> names(Transaction edits, SdfPath group, SdfPath first, int count) {
        Set<String> taken = new HashSet<>();
        edits.stage().prim(group).orElseThrow().children().forEach(child -> taken.add(child.name()));
        String stem = first.name().replaceAll("_\\d+$", "");
        List<String> names = new ArrayList<>();
        for (int number = 2; names.size() < count; number++) {
            String name = stem + "_" + number;
            if (taken.add(name)) {
                names.add(name);
            }
        }
        return names;
    }

    private static void stand(PrimSpec prim, int number, Matrix4 now, Matrix4 place, Layout.Variation variation) {
        TransformOps.write(prim, now, variation.of(number).times(place));
        variation.variant(number).ifPresent(variant -> {
            Map<String, String> selections = new LinkedHashMap<>();
            if (prim.metadata().get("variants") instanceof Value.Selections before) {
                selections.putAll(before.bySet());
            }
            selections.put(variation.variantSet(), variant);
            prim.metadata().put("variants", new Value.Selections(selections));
        });
    }

    /** The triangles of an object, in the space of an anchor. */
    private double[] triangles(Transaction edits, SdfPath group, String surface) {
        if (!SdfPath.isWellFormed(surface)
                || scene.stage().prim(SdfPath.of(surface)).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + surface + "> to lay anything out on");
        }
        SdfPath path = SdfPath.of(surface);
        if (group.startsWith(path)) {
            throw new SceneException(scene.file(), "<" + path + "> cannot lie on itself");
        }
        Matrix4 into = scene.toMetres()
                .inverse()
                .times(edits.stage()
                        .prim(group)
                        .map(Xforms::world)
                        .orElse(Matrix4.IDENTITY)
                        .inverse());
        DoubleStream.Builder all = DoubleStream.builder();
        scene.model().visit((owner, part, world) -> {
            SdfPath at = SdfPath.of(owner.path());
            if (at.startsWith(path) && !at.startsWith(group)) {
                Mesh mesh = part.mesh();
                Matrix4 place = world.times(into);
                for (int corner : Triangulation.corners(mesh)) {
                    Vec3 p = place.point(mesh.point(mesh.corners()[corner]));
                    all.add(p.x()).add(p.y()).add(p.z());
                }
            }
        });
        return all.build().toArray();
    }
}
