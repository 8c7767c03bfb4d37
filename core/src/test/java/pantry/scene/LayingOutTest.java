package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** Layouts that stand on things, mix objects, follow edges, and keep what was done by hand. */
@DisplayName("Laying out")
class LayingOutTest extends WithWorkshop {
    private static final Layout ROW = new Layout.Grid(new int[] {6, 1, 1}, new Vec3(3, 0, 0));

    private Scene scene;
    private Asset block;
    private Asset post;

    @BeforeEach
    void open() {
        block = workshop.block("Block", "Parts", 1);
        post = workshop.block("Post", "Masts", 2);
        scene = workshop.newScene(folder.resolve("yard.usda"));
    }

    private SdfPath put(Asset asset, Vec3 at, Vec3 size) {
        return scene.placements()
                .place(
                        asset,
                        Optional.empty(),
                        asset.card().name(),
                        new TransformComponents(at, Vec3.ZERO, size),
                        Optional.empty());
    }

    private SdfPath put(Asset asset, double x, double y, double z) {
        return put(asset, new Vec3(x, y, z), Vec3.ONE);
    }

    private Vec3 stands(SdfPath path) {
        return Xforms.world(scene.stage().prim(path).orElseThrow()).translationPart();
    }

    private List<Vec3> stand(SdfPath group) {
        List<Vec3> all = new ArrayList<>();
        for (String name : scene.layouts().kept(group).orElseThrow().uses()) {
            all.add(stands(group.child(name)));
        }
        return all;
    }

    private List<Double> heights(SdfPath group) {
        return stand(group).stream().map(Vec3::y).toList();
    }

    private static LayoutPlan standing(Layout layout) {
        return new LayoutPlan(layout, Layout.Variation.NONE, List.of(), true);
    }

    @Test
    void usesStandOnWhatIsBelowEachOfThem() {
        put(block, new Vec3(8, 0, 0), new Vec3(8, 2, 8));
        SdfPath flag = put(post, 0.5, 0, 0);
        SdfPath group = scene.layouts().lay(List.of(flag), "Flags", standing(ROW));
        assertThat(heights(group)).containsExactly(0.0, 0.0, 2.0, 2.0, 0.0, 0.0);
        scene.undo();
        assertThat(stands(flag)).isEqualTo(new Vec3(0.5, 0, 0));
        scene.redo();
        scene.save();
        Scene again = workshop.openScene(scene.file());
        ArrangingTest.assertSame(ArrangingTest.vertices(scene), ArrangingTest.vertices(again));
        scene.layouts().relay(group, standing(new Layout.Grid(new int[] {3, 1, 1}, new Vec3(5, 0, 0))));
        assertThat(heights(group)).containsExactly(0.0, 2.0, 2.0);
        scene.layouts().relay(group, LayoutPlan.of(ROW, Layout.Variation.NONE));
        assertThat(heights(group)).as("at its own height again").containsOnly(0.0);
    }

    @Test
    @DisplayName("under a roof, uses stand under it; on the roof, on it")
    void roof() {
        put(block, new Vec3(8, 5, 0), new Vec3(40, 0.2, 40));
        put(block, new Vec3(8, 0, 0), new Vec3(8, 2, 8));
        SdfPath under = scene.layouts().lay(List.of(put(post, 0.5, 0, 0)), "Under", standing(ROW));
        assertThat(heights(under)).containsExactly(0.0, 0.0, 2.0, 2.0, 0.0, 0.0);
        SdfPath over = scene.layouts().lay(List.of(put(post, 0.5, 7, 1)), "Over", standing(ROW));
        assertThat(heights(over)).allSatisfy(y -> assertThat(y).isCloseTo(5.2, within(1e-6)));
    }

    @Test
    void whatHasItsOriginInItsMiddleStandsByItsBase() {
        put(block, new Vec3(8, 0, 0), new Vec3(8, 2, 8));
        SdfPath flag = put(post, 0.5, 0, 0);
        SdfPath hung = scene.structure().group(List.of(flag), "Raised");
        scene.arranging()
                .move(Map.of(hung.child(flag.name()), TransformComponents.ORIGIN.withMove(new Vec3(0, -1.5, 0))));
        LayoutPlan larger = new LayoutPlan(ROW, new Layout.Variation(0, 0.5, "", List.of(), 3), List.of(), true);
        SdfPath group = scene.layouts().lay(List.of(hung), "Flags", larger);
        List<Double> bases = new ArrayList<>();
        scene.model().visit((owner, part, world) -> {
            if (owner.path().contains("/Flags/")) {
                bases.add(part.mesh().bounds().transformed(world).min().y());
            }
        });
        assertThat(bases).hasSize(6).allSatisfy(base -> assertThat(Math.min(Math.abs(base), Math.abs(base - 2)))
                .isLessThan(1e-5));
        assertThat(group.name()).isEqualTo("Flags");
    }

    @Test
    void severalObjectsAreMixedByTheirSharesAndMorePlacesChangeNoneThatThereAre() {
        Asset drum = workshop.block("Drum", "Parts", 0.9);
        List<SdfPath> three = List.of(put(block, 0, 0, 0), put(post, 2, 0, 0), put(drum, 4, 0, 0));
        Layout hundred = new Layout.Grid(new int[] {10, 1, 10}, new Vec3(2, 0, 2));
        LayoutPlan plan = new LayoutPlan(hundred, Layout.Variation.NONE, List.of(5.0, 3.0, 2.0), false);
        SdfPath group = scene.layouts().lay(three, "Mixed", plan);
        List<String> assets = assets(group);
        assertThat(assets).hasSize(100);
        assertThat(assets.subList(0, 3)).as("one of each comes first").containsExactly("Block", "Post", "Drum");
        List<Vec3> places = stand(group);
        Vec3 first = places.getFirst();
        for (int i = 0; i < 100; i++) {
            Vec3 expected = first.plus(new Vec3(2 * (i % 10), 0, 2 * (i / 10)));
            assertThat(places.get(i).minus(expected).length())
                    .as("whichever stands there, at place " + i)
                    .isLessThan(1e-9);
        }
        Map<String, Integer> counts = new HashMap<>();
        assets.forEach(asset -> counts.merge(asset, 1, Integer::sum));
        assertThat(counts.get("Block")).isBetween(48, 52);
        assertThat(counts.get("Post")).isBetween(28, 32);
        assertThat(counts.get("Drum")).isBetween(18, 22);
        Layout more = new Layout.Grid(new int[] {10, 1, 15}, new Vec3(2, 0, 2));
        scene.layouts().relay(group, new LayoutPlan(more, Layout.Variation.NONE, plan.shares(), false));
        assertThat(assets(group)).hasSize(150).startsWith(assets.toArray(String[]::new));
        scene.layouts().relay(group, new LayoutPlan(more, Layout.Variation.NONE, List.of(1.0, 1.0, 8.0), false));
        assertThat(assets(group).stream().filter("Drum"::equals).count()).isBetween(115L, 124L);
        scene.save();
        ArrangingTest.assertSame(
                ArrangingTest.vertices(scene), ArrangingTest.vertices(workshop.openScene(scene.file())));
        LayoutPlan two = LayoutPlan.of(new Layout.Grid(new int[] {2, 1, 1}, Vec3.ONE), Layout.Variation.NONE);
        assertThatThrownBy(() -> scene.layouts().relay(group, two))
                .hasMessageContaining("3 different objects")
                .hasMessageContaining("more places");
    }

    private List<String> assets(SdfPath group) {
        return scene.layouts().kept(group).orElseThrow().uses().stream()
                .map(name -> scene.placements().at(group.child(name)).orElseThrow())
                .map(placement -> placement.layer().getParent().getFileName().toString())
                .map(slug -> slug.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + slug.substring(1))
                .toList();
    }

    @Test
    void whatWasMovedOrTakenAwayByHandStaysSo() {
        SdfPath group = scene.layouts().lay(put(post, 0, 0, 0), "Row", ROW, Layout.Variation.NONE);
        List<String> names = scene.layouts().kept(group).orElseThrow().uses();
        SdfPath aside = group.child(names.get(3));
        scene.arranging().move(Map.of(aside, TransformComponents.ORIGIN.withMove(new Vec3(9, 0, 7))));
        scene.structure().remove(List.of(group.child(names.get(4))));
        Layer before =
                LayerAssets.copied(scene.layer(), scene.layer().location().orElseThrow());

        Layout wider = new Layout.Grid(new int[] {8, 1, 1}, new Vec3(4, 0, 0));
        scene.layouts().relay(group, wider, Layout.Variation.NONE);
        assertThat(scene.undoName())
                .hasValueSatisfying(said ->
                        assertThat(said).contains("1 moved by hand stay").contains("1 taken away stay away"));
        List<String> now = scene.layouts().kept(group).orElseThrow().uses();
        assertThat(now).hasSize(8).startsWith(names.toArray(String[]::new));
        for (int i = 0; i < 8; i++) {
            SdfPath use = group.child(now.get(i));
            if (i == 4) {
                assertThat(scene.spec(use)).isEmpty();
            } else {
                Vec3 expected = i == 3 ? new Vec3(9, 0, 7) : new Vec3(4 * i, 0, 0);
                assertThat(stands(use).minus(expected).length()).isLessThan(1e-9);
            }
        }
        scene.undo();
        assertThat(pantry.usd.text.UsdaWriter.write(scene.layer())).isEqualTo(pantry.usd.text.UsdaWriter.write(before));
        scene.redo();
        scene.layouts().relay(group, ROW, Layout.Variation.NONE);
        assertThat(scene.spec(group).orElseThrow().childNames()).hasSize(5);
        assertThat(stands(aside)).isEqualTo(new Vec3(9, 0, 7));
    }

    @Test
    void whatIsSaidOfAUseByHandOutlivesAnotherLayout() {
        SdfPath group = scene.layouts().lay(put(post, 0, 0, 0), "Row", ROW, Layout.Variation.NONE);
        SdfPath third =
                group.child(scene.layouts().kept(group).orElseThrow().uses().get(2));
        scene.structure().show(List.of(third), false);
        scene.layouts().relay(group, new Layout.Ring(6, 60, new Vec3(3, 0, 0), true), Layout.Variation.NONE);
        assertThat(scene.model().trianglesDrawn())
                .as("the third is still hidden")
                .isEqualTo(5 * 12);
    }

    @Test
    void whereTheSurfaceHasChangedAllAreLaidAnewAndThatIsSaid() {
        SdfPath hill = put(block, new Vec3(8, 0, 0), new Vec3(8, 2, 8));
        Layout on = new Layout.OnSurface(hill.toString(), 12, 0, 0.5, 60, true, 4);
        SdfPath group = scene.layouts().lay(put(post, -9, 0, 0), "Flags", on, Layout.Variation.NONE);
        SdfPath first =
                group.child(scene.layouts().kept(group).orElseThrow().uses().getFirst());
        scene.arranging().move(Map.of(first, TransformComponents.ORIGIN.withMove(new Vec3(0, 9, 0))));
        scene.layouts()
                .relay(group, new Layout.OnSurface(hill.toString(), 14, 0, 0.5, 60, true, 4), Layout.Variation.NONE);
        assertThat(scene.undoName()).hasValueSatisfying(said -> assertThat(said).contains("1 moved by hand stay"));
        scene.arranging().move(Map.of(hill, new TransformComponents(new Vec3(8, 0, 0), Vec3.ZERO, new Vec3(8, 3, 8))));
        scene.layouts().relay(group, on, Layout.Variation.NONE);
        assertThat(scene.undoName()).hasValueSatisfying(said -> assertThat(said).contains("laid anew"));
        assertThat(heights(group)).allSatisfy(y -> assertThat(y).isCloseTo(3, within(1e-5)));
        scene.structure().remove(List.of(hill));
        scene.layouts().relay(group, ROW, Layout.Variation.NONE);
        assertThat(stand(group))
                .as("what lay on something that is gone is laid otherwise all the same")
                .hasSize(6);
    }

    @Test
    void aLayoutOfBeforeIsChangedAsEver() {
        SdfPath group = scene.layouts().lay(put(post, 0, 0, 0), "Row", ROW, Layout.Variation.NONE);
        String kept = "{\"layout\":{\"layout\":\"grid\",\"counts\":[6,1,1],\"steps\":{\"x\":3.0,\"y\":0.0,\"z\":0.0}},"
                + "\"variation\":{\"turn\":0.0,\"size\":0.0,\"variantSet\":\"\",\"variants\":[],\"seed\":1},"
                + "\"original\":[1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]}";
        scene.own()
                .editor()
                .changeAll(
                        "as it was kept before",
                        edits -> edits.change(group, prim -> prim.metadata()
                                .put(
                                        CustomData.PRIM,
                                        new pantry.usd.Value.Dictionary(Map.of(
                                                "pantryLayout",
                                                new pantry.usd.Value.Dictionary.Entry(
                                                        "string", new pantry.usd.Value.Text(kept)))))));
        scene.layouts().relay(group, new Layout.Grid(new int[] {4, 1, 1}, new Vec3(5, 0, 0)), Layout.Variation.NONE);
        assertThat(stand(group))
                .containsExactly(new Vec3(0, 0, 0), new Vec3(5, 0, 0), new Vec3(10, 0, 0), new Vec3(15, 0, 0));
    }

    @Test
    void thingsAreLaidAlongTheEdgeOfAnotherAndRoundARimNoneStandsTwice() {
        put(block, new Vec3(10, 0, 5), new Vec3(4, 1, 2));
        SdfPath flag = put(post, 0, 0, 0);
        List<Vec3> edge = ObjectEdges.near(scene.model(), path -> path.contains("Block"), new Vec3(10, 1.1, 6.1))
                .orElseThrow();
        assertThat(edge).hasSize(2);
        SdfPath group = scene.layouts()
                .lay(flag, "Flags", new Layout.Along(edge, 5, false, false, Vec3.ZERO), Layout.Variation.NONE);
        List<Double> along = stand(group).stream().map(Vec3::x).sorted().toList();
        for (int i = 0; i < 5; i++) {
            assertThat(along.get(i)).isCloseTo(8 + i, within(1e-5));
        }
        assertThat(stand(group)).allSatisfy(at -> {
            assertThat(at.y()).isCloseTo(1, within(1e-5));
            assertThat(at.z()).isCloseTo(6, within(1e-5));
        });
        List<Vec3> square = List.of(Vec3.ZERO, new Vec3(4, 0, 0), new Vec3(4, 0, 4), new Vec3(0, 0, 4), Vec3.ZERO);
        List<Vec3> round = new Layout.Along(square, 8, false, false)
                .places().stream().map(place -> place.translationPart()).toList();
        assertThat(round).doesNotHaveDuplicates().hasSize(8);
        for (int i = 0; i < 8; i++) {
            assertThat(round.get(i).minus(round.get((i + 1) % 8)).length()).isCloseTo(2, within(1e-9));
        }
    }
}
