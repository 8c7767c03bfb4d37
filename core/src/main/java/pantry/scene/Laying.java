package pantry.scene;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.Xforms;

/**
 * Lays out many uses of one object under an anchor. The figures of the layout are kept with the anchor, so that it can
 * be laid out otherwise later; uses beyond the first are made anew then.
 */
public final class Laying {
    private static final String KEPT = "pantryLayout";

    private final Scene scene;

    Laying(Scene scene) {
        this.scene = scene;
    }

    /**
     * What is kept with an anchor.
     *
     * @param original the transform of the first use as it was before, row by row
     */
    public record Kept(Layout layout, Layout.Variation variation, double[] original) {}

    /**
     * Lays an object out. It becomes the first of its uses, under a new anchor.
     *
     * @return the anchor
     */
    public SdfPath lay(SdfPath path, String name, Layout layout, Layout.Variation variation) {
        return scene.editor().change("laid out " + path.name(), edits -> {
            SdfPath group = scene.structure().group(edits, List.of(path), name);
            SdfPath first = edits.stage()
                    .prim(group)
                    .flatMap(prim -> prim.children().stream().findFirst())
                    .orElseThrow()
                    .path();
            Matrix4 original = Xforms.local(edits.stage().prim(first).orElseThrow());
            fill(edits, group, first, new Kept(layout, variation, original.rows()));
            return group;
        });
    }

    /** The layout of an anchor; empty where it has none. */
    public Optional<Kept> kept(SdfPath group) {
        return scene.layer()
                .prim(group)
                .map(prim -> prim.metadata().get("customData"))
                .filter(Value.Dictionary.class::isInstance)
                .map(data -> ((Value.Dictionary) data).entries().get(KEPT))
                .map(entry -> entry == null ? null : entry.value())
                .filter(Value.Text.class::isInstance)
                .map(text -> Json.read(((Value.Text) text).value(), group.toString(), Kept.class));
    }

    /** Lays the uses under an anchor out otherwise. */
    public void relay(SdfPath group, Layout layout, Layout.Variation variation) {
        Kept before = kept(group)
                .orElseThrow(
                        () -> new SceneException(scene.file(), "<" + group + "> has no layout that could be changed"));
        PrimSpec prim = scene.layer().prim(group).orElseThrow();
        List<String> names = List.copyOf(prim.childNames());
        scene.editor().changeAll("laid out " + group.name() + " otherwise", edits -> {
            for (String name : names.subList(1, names.size())) {
                edits.remove(group.child(name));
            }
            fill(edits, group, group.child(names.getFirst()), new Kept(layout, variation, before.original()));
        });
    }

    private static void fill(Transaction edits, SdfPath group, SdfPath first, Kept kept) {
        List<Matrix4> places = kept.layout().places();
        Layout.Variation variation = kept.variation();
        Matrix4 now = Xforms.local(edits.stage().prim(first).orElseThrow());
        Matrix4 original = Matrix4.ofRows(kept.original());
        // The first place may be elsewhere than the original, as at random; all are told from the original's.
        List<SdfPath> uses = new ArrayList<>(List.of(first));
        String stem = first.name().replaceAll("_\\d+$", "");
        for (int i = 1; i < places.size(); i++) {
            SdfPath copy = group.child(stem + "_" + (i + 1));
            edits.copy(first, copy);
            uses.add(copy);
        }
        for (int i = 0; i < uses.size(); i++) {
            Matrix4 place = variation.of(i).times(original).times(places.get(i));
            edits.change(uses.get(i), prim -> Places.write(prim, now, place));
            int number = i;
            variation.variant(i).ifPresent(variant -> edits.select(uses.get(number), variation.variantSet(), variant));
        }
        keep(edits, group, kept);
    }

    private static void keep(Transaction edits, SdfPath group, Kept kept) {
        edits.change(group, prim -> {
            Map<String, Value.Dictionary.Entry> data = new LinkedHashMap<>();
            if (prim.metadata().get("customData") instanceof Value.Dictionary before) {
                data.putAll(before.entries());
            }
            data.put(KEPT, new Value.Dictionary.Entry("string", new Value.Text(Json.line(kept))));
            prim.metadata().put("customData", new Value.Dictionary(data));
        });
    }
}
