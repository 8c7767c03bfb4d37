package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Label;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.mesh.Mesh;
import pantry.render.RenderCache;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.SdfPath;
import pantry.usd.file.LayerAssets;
import pantry.usd.schema.TransformComponents;

@DisplayName("Arranging a scene")
class ArrangingTest extends WithWorkshop {
    private Scene scene;
    private Asset block;

    @BeforeEach
    void open() {
        block = workshop.block("Block", "Parts", 1);
        scene = workshop.newScene(folder.resolve("yard.usda"));
    }

    private SdfPath put(String name, double x, double y, double z) {
        TransformComponents placing =
                new TransformComponents(new Vec3(x, y, z), new Vec3(0, 20 * x, 0), new Vec3(1, 1 + x / 10, 1));
        return scene.placements().place(block, Optional.empty(), name, placing, Optional.empty());
    }

    /** The world's vertices of each drawn object, whatever it is called and hangs on. */
    static Map<String, List<Vec3>> vertices(Scene scene) {
        Map<String, List<Vec3>> all = new LinkedHashMap<>();
        scene.model().visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            List<Vec3> points = new ArrayList<>();
            for (int p = 0; p < mesh.pointCount(); p++) {
                points.add(world.point(mesh.point(p)));
            }
            all.put("mesh " + all.size(), points);
        });
        return all;
    }

    /** Compares what is drawn, in any order. */
    static void assertSame(Map<String, List<Vec3>> before, Map<String, List<Vec3>> after) {
        assertThat(after).hasSameSizeAs(before);
        List<List<Vec3>> left = new ArrayList<>(after.values());
        for (List<Vec3> mesh : before.values()) {
            assertThat(left.removeIf(other -> isSame(mesh, other))).isTrue();
            if (left.isEmpty()) {
                break;
            }
        }
    }

    private static boolean isSame(List<Vec3> one, List<Vec3> other) {
        for (int i = 0; i < one.size(); i++) {
            if (one.size() != other.size() || one.get(i).minus(other.get(i)).length() > 1e-6) {
                return false;
            }
        }
        return true;
    }

    @Test
    @DisplayName("objects are put next to another one in a row, face to face, before it and behind it")
    void nextTo() {
        SdfPath target = put("Target", 4, 0, 0);
        SdfPath first = put("First", 0, 0, 5);
        SdfPath second = put("Second", 1, 3, -5);
        for (boolean onwards : new boolean[] {true, false}) {
            scene.arranging().nextTo(List.of(first, second), target, 0, onwards);
            Box3 standing = scene.arranging().box(target);
            Box3 one = scene.arranging().box(first);
            Box3 two = scene.arranging().box(second);
            // Between faces that touch there is no gap, whatever each is turned by.
            double gap = onwards
                    ? one.min().x() - standing.max().x()
                    : standing.min().x() - one.max().x();
            double next = onwards
                    ? two.min().x() - one.max().x()
                    : one.min().x() - two.max().x();
            assertThat(gap).isCloseTo(0, within(1e-6));
            assertThat(next).isCloseTo(0, within(1e-6));
            assertThat(one.centre().z()).as("along the axis alone").isCloseTo(5, within(1e-6));
            assertThat(two.min().y()).isCloseTo(3, within(1e-6));
        }
        assertThatThrownBy(() ->
                        scene.arranging().nextTo(List.of(first), scene.root().child("Gone"), 0, true))
                .isInstanceOf(SceneException.class);
    }

    @Test
    @DisplayName("by groups keeps every vertex where it is, and is undone to the last figure")
    void groups() {
        SdfPath a = put("A", 1, 0, 2);
        SdfPath b = put("B", 4, 0, -3);
        SdfPath c = put("C", -2, 1, 0);
        Layer before =
                LayerAssets.renamed(scene.layer(), scene.layer().location().orElseThrow(), path -> path);
        Map<String, List<Vec3>> drawn = vertices(scene);
        SdfPath inner = scene.structure().group(List.of(a, b), "Pair");
        SdfPath outer = scene.structure().group(List.of(inner, c), "All three");
        assertSame(drawn, vertices(scene));
        assertThat(scene.stage().prim(outer).flatMap(prim -> prim.text("displayName")))
                .contains("All three");
        scene.arranging()
                .transform(
                        "turned", Map.of(outer, Matrix4.rotation(1, 37).times(Matrix4.translation(new Vec3(0, 0, 5)))));
        Map<String, List<Vec3>> turned = vertices(scene);
        List<SdfPath> freed = scene.structure().ungroup(List.of(outer));
        assertThat(freed).hasSize(2);
        SdfPath pair = freed.stream()
                .filter(path -> path.name().equals("Pair"))
                .findFirst()
                .orElseThrow();
        scene.structure().ungroup(List.of(pair));
        assertSame(turned, vertices(scene));
        for (int i = 0; i < 5; i++) {
            scene.undo();
        }
        assertThat(scene.layer().sameAs(before)).isTrue();
    }

    @Test
    @DisplayName("by hanging things elsewhere keeps their places; what cannot be is refused")
    void reparent() {
        SdfPath a = put("A", 1, 0, 2);
        SdfPath b = put("B", 4, 0, -3);
        SdfPath group = scene.structure().group(List.of(a), "Group");
        Map<String, List<Vec3>> drawn = vertices(scene);
        List<SdfPath> moved = scene.structure().reparent(List.of(b), group);
        assertSame(drawn, vertices(scene));
        assertThatThrownBy(() -> scene.structure().reparent(List.of(group), moved.getFirst()))
                .hasMessageContaining("cannot hang on itself");
        SdfPath c = put("C", 0, 0, 0);
        assertThatThrownBy(() -> scene.structure().reparent(List.of(c), moved.getFirst()))
                .hasMessageContaining("shows another file");
        SdfPath renamed = scene.structure().rename(c, "Crate no. 7");
        assertThat(renamed.name()).isEqualTo("Crate_no_7");
        assertThat(scene.structure().rename(group, "Crate no. 7").name()).isEqualTo("Crate_no_7_2");
    }

    @Test
    @DisplayName("breaks out of what is shared, switches off, hides, and sorts")
    void switches() {
        SdfPath a = put("Zebra", 1, 0, 2);
        SdfPath b = put("Ant", 4, 0, -3);
        scene.structure().breakOut(List.of(a));
        assertThat(scene.stage().prim(a).orElseThrow().isInstance()).isFalse();
        assertThatThrownBy(() -> scene.structure().breakOut(List.of(a))).hasMessageContaining("shares nothing");
        scene.structure().share(List.of(a));
        assertThat(scene.stage().prim(a).orElseThrow().isInstance()).isTrue();
        scene.structure().switchOn(List.of(b), false);
        assertThat(vertices(scene)).hasSize(1);
        scene.structure().switchOn(List.of(b), true);
        scene.structure().show(List.of(b), false);
        assertThat(vertices(scene)).hasSize(1);
        scene.structure().sort(scene.root());
        assertThat(scene.stage().prim(scene.root()).orElseThrow().children())
                .extracting(prim -> prim.name())
                .containsExactly("Ant", "Zebra");
    }

    @Test
    @DisplayName("mirrors, aligns, spreads, centres and drops by boxes")
    void boxes() {
        List<SdfPath> row = new ArrayList<>();
        for (double x : new double[] {0, 1.5, 7}) {
            row.add(scene.placements()
                    .place(
                            block,
                            Optional.empty(),
                            "Block",
                            TransformComponents.ORIGIN.withMove(new Vec3(x, x / 3, x / 2)),
                            Optional.empty()));
        }
        Arranging arranging = scene.arranging();
        arranging.spread(row, 0);
        assertThat(arranging.box(row.get(1)).min().x()
                        - arranging.box(row.get(0)).max().x())
                .isCloseTo(2.5, within(1e-9));
        arranging.align(row, 2, Arranging.Side.LEAST);
        assertThat(row)
                .allSatisfy(path -> assertThat(arranging.box(path).min().z()).isCloseTo(-0.5, within(1e-9)));
        arranging.drop(row);
        assertThat(row)
                .allSatisfy(path -> assertThat(arranging.box(path).min().y()).isCloseTo(0, within(1e-9)));
        SdfPath above = scene.placements()
                .place(
                        block,
                        Optional.empty(),
                        "Above",
                        TransformComponents.ORIGIN.withMove(new Vec3(0.2, 9, 0.1)),
                        Optional.empty());
        arranging.drop(List.of(above));
        assertThat(arranging.box(above).min().y()).isCloseTo(1, within(1e-6));
        arranging.centreOn(List.of(above), row.get(2));
        assertThat(arranging.box(above).centre().x()).isCloseTo(7, within(1e-9));
        Box3 before = arranging.box(row.get(0)).union(arranging.box(row.get(2)));
        arranging.mirror(List.of(row.get(0), row.get(2)), 0);
        Box3 after = arranging.box(row.get(0)).union(arranging.box(row.get(2)));
        assertThat(after.min().minus(before.min()).length()).isLessThan(1e-9);
        assertThat(arranging.box(row.get(0)).centre().x()).isCloseTo(7, within(1e-9));
        arranging.reset(List.of(row.get(0)));
        assertThat(scene.placements().at(row.get(0)).orElseThrow().placing()).isEqualTo(TransformComponents.ORIGIN);
    }

    @Property(tries = 200)
    @Label("a place that is turned, sized and mirrored in any way is read back from its transform")
    void places(
            @ForAll @DoubleRange(min = -180, max = 180) double x,
            @ForAll @DoubleRange(min = -180, max = 180) double y,
            @ForAll @DoubleRange(min = -180, max = 180) double z,
            @ForAll @DoubleRange(min = 0.01, max = 50) double size,
            @ForAll boolean mirrored) {
        TransformComponents placing = new TransformComponents(
                new Vec3(x, y, z), new Vec3(x, y, z), new Vec3(mirrored ? -size : size, 1, 2 * size));
        Matrix4 back = TransformComponents.of(placing.matrix()).orElseThrow().matrix();
        for (int row = 0; row < 4; row++) {
            for (int column = 0; column < 3; column++) {
                assertThat(back.get(row, column))
                        .isCloseTo(placing.matrix().get(row, column), within(1e-9 * Math.max(1, size)));
            }
        }
        Matrix4 sheared =
                Matrix4.scale(new Vec3(1, 3, 1)).times(Matrix4.rotation(2, 30)).times(Matrix4.scale(new Vec3(2, 1, 1)));
        assertThat(TransformComponents.of(sheared)).isEmpty();
    }

    @Test
    @DisplayName("in grids and rings puts uses where the closed forms say; layouts are changed afterwards")
    void layouts() {
        SdfPath one = scene.placements()
                .place(
                        block,
                        Optional.empty(),
                        "Panel",
                        TransformComponents.ORIGIN.withMove(new Vec3(10, 0, 5)),
                        Optional.empty());
        Layout.Grid grid = new Layout.Grid(new int[] {4, 1, 3}, new Vec3(2, 0, 3));
        SdfPath group = scene.layouts().lay(one, "Field", grid, Layout.Variation.NONE);
        List<Vec3> places = centres(group);
        assertThat(places).hasSize(12);
        for (int i = 0; i < 12; i++) {
            Vec3 expected = new Vec3(10 + 2 * (i % 4), 0.5, 5 + 3 * (i / 4));
            assertThat(places.get(i).minus(expected).length()).isLessThan(1e-9);
        }
        assertThat(scene.weight(scene.model()).trianglesStored()).isEqualTo(12);
        scene.layouts().relay(group, new Layout.Ring(6, 60, new Vec3(3, 0, 0), true), Layout.Variation.NONE);
        places = centres(group);
        assertThat(places).hasSize(6);
        Vec3 anchor = new Vec3(10, 0, 5);
        Vec3 centre = anchor.plus(new Vec3(3, 0, 0));
        for (int i = 0; i < 6; i++) {
            double angle = Math.toRadians(60 * i);
            // Turned about the upright as OpenUSD turns about y.
            Vec3 expected = centre.plus(new Vec3(-3 * Math.cos(angle), 0.5, 3 * Math.sin(angle)));
            assertThat(places.get(i).minus(expected).length()).isLessThan(1e-9);
        }
        scene.undo();
        assertThat(centres(group)).hasSize(12);
        assertThat(scene.layouts().kept(group).orElseThrow().layout()).isInstanceOf(Layout.Grid.class);
        assertThatThrownBy(() -> scene.layouts().relay(scene.root(), grid, Layout.Variation.NONE))
                .hasMessageContaining("no layout");
    }

    @Test
    @DisplayName("scattered leaves the least distance, and is the same again for the same seed")
    void scatter() {
        Layout.Scatter scatter = new Layout.Scatter(30, 20, 200, 0.9, 7);
        List<Vec3> places =
                scatter.places().stream().map(Matrix4::translationPart).toList();
        assertThat(places).hasSize(200);
        for (int i = 0; i < places.size(); i++) {
            assertThat(Math.abs(places.get(i).x())).isLessThanOrEqualTo(15);
            assertThat(Math.abs(places.get(i).z())).isLessThanOrEqualTo(10);
            for (int j = 0; j < i; j++) {
                assertThat(places.get(i).minus(places.get(j)).length()).isGreaterThanOrEqualTo(0.9);
            }
        }
        assertThat(new Layout.Scatter(30, 20, 200, 0.9, 7).places()).isEqualTo(scatter.places());
        assertThat(new Layout.Scatter(30, 20, 200, 0.9, 8).places()).isNotEqualTo(scatter.places());
        assertThat(new Layout.Scatter(1, 1, 500, 0.9, 7).places()).hasSizeLessThan(5);
        SdfPath group = scene.layouts()
                .lay(put("Rock", 0, 0, 0), "Rocks", scatter, new Layout.Variation(180, 0.3, "", List.of(), 3));
        assertThat(centres(group)).hasSize(200);
    }

    @Test
    void whatFindsNoRoomIsTold() {
        Scene scene = workshop.newScene(folder.resolve("room.usda"));
        SdfPath post = scene.placements()
                .place(
                        workshop.block("Post", "Masts", 2),
                        Optional.empty(),
                        "Post",
                        TransformComponents.ORIGIN,
                        Optional.empty());
        SdfPath posts = scene.layouts().lay(post, "Posts", new Layout.Scatter(1, 1, 20, 3, 7), Layout.Variation.NONE);
        assertThat(scene.layouts().shortfall(posts))
                .hasValueSatisfying(said -> assertThat(said).startsWith("only 1 of 20 found room in Posts"));
        scene.layouts().relay(posts, new Layout.Scatter(100, 100, 20, 3, 7), Layout.Variation.NONE);
        assertThat(scene.layouts().shortfall(posts)).isEmpty();
        scene.layouts().relay(posts, new Layout.Grid(new int[] {3, 1, 1}, Vec3.ONE), Layout.Variation.NONE);
        assertThat(scene.layouts().shortfall(posts)).as("a grid has room").isEmpty();
        assertThat(scene.layouts().shortfall(scene.root()))
                .as("it is no layout")
                .isEmpty();
    }

    @Test
    @DisplayName("along a path stands at equal distances by its length")
    void along() {
        Layout.Along along = new Layout.Along(List.of(Vec3.ZERO, new Vec3(4, 0, 0), new Vec3(4, 0, 4)), 5, true, false);
        List<Vec3> places =
                along.places().stream().map(Matrix4::translationPart).toList();
        assertThat(places)
                .containsExactly(Vec3.ZERO, new Vec3(2, 0, 0), new Vec3(4, 0, 0), new Vec3(4, 0, 2), new Vec3(4, 0, 4));
        Vec3 ahead = along.places().get(3).direction(new Vec3(1, 0, 0));
        assertThat(ahead.minus(new Vec3(0, 0, 1)).length()).isLessThan(1e-9);
    }

    private List<Vec3> centres(SdfPath group) {
        return scene.stage().prim(group).orElseThrow().children().stream()
                .map(prim -> scene.arranging().box(prim.path()).centre())
                .toList();
    }

    @Test
    @DisplayName(
            "by steps turns about the pivot, the middle or the anchor, along the world's, the anchor's or own axes")
    void steps() {
        SdfPath a = put("A", 2, 0, 0);
        SdfPath b = put("B", 4, 0, 0);
        SdfPath anchor = scene.anchors()
                .make(
                        "Pole",
                        Anchors.Mark.USUAL,
                        TransformComponents.ORIGIN.withTurn(new Vec3(0, 90, 0)),
                        Optional.empty());
        List<SdfPath> hung = scene.structure().reparent(List.of(a, b), anchor);
        Vec3 up = new Vec3(0, 1, 0);
        record Case(TransformStep.About about, TransformStep.Axes axes, Vec3 move, Vec3 expected) {}
        // Where B's middle, (4, 0.7, 0) at first, comes to by a quarter turn about the upright, and a move.
        for (Case each : List.of(
                new Case(TransformStep.About.PIVOT, TransformStep.Axes.WORLD, Vec3.ZERO, new Vec3(4, 0, 0)),
                new Case(TransformStep.About.CENTRE, TransformStep.Axes.WORLD, Vec3.ZERO, new Vec3(3, 0, -1)),
                new Case(TransformStep.About.ANCHOR, TransformStep.Axes.WORLD, Vec3.ZERO, new Vec3(0, 0, -4)),
                new Case(TransformStep.About.PIVOT, TransformStep.Axes.WORLD, new Vec3(1, 0, 0), new Vec3(5, 0, 0)),
                // Turned by 90°, the anchor's x axis lies along the world's -z.
                new Case(
                        TransformStep.About.PIVOT, TransformStep.Axes.PARENT, new Vec3(1, 0, 0), new Vec3(4, 0, -1)))) {
            scene.arranging().step(hung, new TransformStep(each.move(), up.times(90), 1, each.about(), each.axes()));
            Vec3 at = scene.arranging().box(hung.get(1)).centre();
            assertThat(new Vec3(at.x(), 0, at.z()).minus(each.expected()).length())
                    .as(each.toString())
                    .isLessThan(each.about() == TransformStep.About.CENTRE ? 0.1 : 1e-5);
            scene.undo();
        }
        // B itself is turned by 80° about the upright: its own x axis is (cos 80°, 0, -sin 80°).
        scene.arranging()
                .step(
                        List.of(hung.get(1)),
                        new TransformStep(
                                new Vec3(1, 0, 0), Vec3.ZERO, 1, TransformStep.About.PIVOT, TransformStep.Axes.OWN));
        Vec3 at = scene.arranging().box(hung.get(1)).centre();
        double angle = Math.toRadians(80);
        assertThat(at.x()).isCloseTo(4 + Math.cos(angle), within(1e-5));
        assertThat(at.z()).isCloseTo(-Math.sin(angle), within(1e-5));
        assertThatThrownBy(() ->
                        new TransformStep(Vec3.ZERO, Vec3.ZERO, 0, TransformStep.About.PIVOT, TransformStep.Axes.WORLD))
                .hasMessageContaining("factor above 0");
    }

    @Test
    @DisplayName(
            "by nested uses stores each thing once: counts follow the product, and a change at the bottom is in all")
    void nestedUses() {
        SdfPath panel = put("Panel", 0, 0, 0);
        SdfPath row = scene.layouts()
                .lay(panel, "Row", new Layout.Grid(new int[] {4, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        SdfPath field = scene.layouts()
                .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 5}, new Vec3(0, 0, 3)), Layout.Variation.NONE);
        SdfPath second = scene.instancing()
                .instance(field, "Second", TransformComponents.ORIGIN.withMove(new Vec3(0, 0, 40)), Optional.empty());
        assertThat(scene.model().trianglesDrawn()).isEqualTo(12 * 4 * 5 * 2);
        assertThat(scene.model().trianglesStored()).isEqualTo(12);
        // One panel each of a row, a row each of a field, and two fields: that is all that is said.
        assertThat(scene.placements().all()).hasSize(4);
        SdfPath bottom = scene.placements().all().get(2).path();
        assertThat(scene.instancing().uses(bottom)).isEqualTo(5 * 2);
        Map<String, List<Vec3>> before = vertices(scene);
        scene.arranging()
                .move(Map.of(
                        bottom,
                        scene.placements().at(bottom).orElseThrow().placing().withMove(new Vec3(0, 7, 0))));
        long raised = vertices(scene).values().stream()
                .filter(mesh -> mesh.getFirst().y() > 5)
                .count();
        assertThat(raised).isEqualTo(10);
        scene.undo();

        scene.structure().breakOut(List.of(second));
        assertSame(before, vertices(scene));
        assertThat(scene.placements().all()).hasSize(4);
        SdfPath inner = second.child(
                scene.layer().prim(second).orElseThrow().childNames().iterator().next());
        scene.structure().breakOut(List.of(inner));
        assertSame(before, vertices(scene));
        assertThat(scene.placements().all()).hasSize(8);
        SdfPath shape = scene.instancing().contents(field).orElseThrow();
        assertThatThrownBy(() -> scene.structure().reparent(List.of(field), shape))
                .hasMessageContaining("hold itself");
        assertThatThrownBy(() ->
                        scene.instancing().instance(field, "Again", TransformComponents.ORIGIN, Optional.of(shape)))
                .hasMessageContaining("hold itself");
    }

    @Test
    @DisplayName("by nested uses can be cut into a section, pasted elsewhere and shelved as a prefab; nothing moves")
    void nestedUsesElsewhere() throws Exception {
        SdfPath panel = put("Panel", 0, 0, 0);
        SdfPath row = scene.layouts()
                .lay(panel, "Row", new Layout.Grid(new int[] {3, 1, 1}, new Vec3(2, 0, 0)), Layout.Variation.NONE);
        SdfPath field = scene.layouts()
                .lay(row, "Field", new Layout.Grid(new int[] {1, 1, 2}, new Vec3(0, 0, 3)), Layout.Variation.NONE);
        Map<String, List<Vec3>> before = vertices(scene);
        Scene other = workshop.newScene(folder.resolve("other.usda"));
        SceneClipboard.of(scene, List.of(field)).paste(other, Optional.empty());
        assertSame(before, vertices(other));
        Prefab prefab = new Prefab(scene, workshop.layers(), List.of(field), library, new RenderCache());
        Asset made = prefab.shelve("Field", AssetKind.PREFAB, "Solar", List.of(), Progress.NONE)
                .asset();
        Scene third = workshop.newScene(folder.resolve("third.usda"));
        third.placements()
                .place(
                        made,
                        Optional.empty(),
                        "Field",
                        TransformComponents.ORIGIN.withMove(prefab.origin()),
                        Optional.empty());
        assertSame(before, vertices(third));
        assertThat(third.model().trianglesStored()).isEqualTo(12);
        SdfPath section = scene.sections().cut(List.of(field), "West");
        assertSame(before, vertices(scene));
        scene.sections().join(section, "tester");
        assertSame(before, vertices(scene));
    }

    @Test
    @DisplayName("lays out what a number ends the name of, and many at once")
    void numberedNames() {
        SdfPath rack = put("Rack_3", 0, 0, 0);
        Layout row = new Layout.Grid(new int[] {6, 1, 1}, new Vec3(2, 0, 0));
        SdfPath group = scene.layouts().lay(rack, "Racks", row, Layout.Variation.NONE);
        assertThat(scene.spec(group).orElseThrow().childNames())
                .containsExactly("Rack_3", "Rack_2", "Rack_4", "Rack_5", "Rack_6", "Rack_7");
        Layout many = new Layout.Grid(new int[] {30, 10, 10}, new Vec3(2, 2, 2));
        scene.layouts().relay(group, many, Layout.Variation.NONE);
        assertThat(scene.spec(group).orElseThrow().childNames()).hasSize(3000);
        assertThat(scene.model().trianglesDrawn()).isEqualTo(3000 * 12);
        Map<String, List<Vec3>> live = vertices(scene);
        scene.save();
        assertSame(live, vertices(workshop.openScene(scene.file())));
        scene.undo();
        assertThat(scene.spec(group).orElseThrow().childNames()).hasSize(6);
    }

    @Test
    @DisplayName("turns what stands upright about the upright axis only, however far")
    void uprightTurns() {
        SdfPath block = put("Block", 0, 0, 0);
        Layout row = new Layout.Grid(new int[] {50, 1, 1}, new Vec3(2, 0, 0));
        SdfPath group = scene.layouts().lay(block, "Row", row, new Layout.Variation(180, 0, "", List.of(), 7));
        for (String name : scene.spec(group).orElseThrow().childNames()) {
            Vec3 turn = TransformComponents.read(scene.spec(group.child(name)).orElseThrow())
                    .turn();
            assertThat(turn.x()).isZero();
            assertThat(turn.z()).isZero();
        }
    }
}
