package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.model.Model;
import pantry.scene.Layout;
import pantry.scene.LayoutPlan;
import pantry.scene.Placement;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** A layout that is seen before it is laid out stands where it is laid out then. */
class LayoutSpaceTest extends WithScene {
    /** The middles of the bases of all that was laid out. */
    private List<Vec3> stand() {
        List<Vec3> stand = new ArrayList<>();
        for (Placement placement : scene().placements().all()) {
            if (!placement.path().toString().contains("/Row/")) {
                continue;
            }
            Box3 box = scene().arranging().box(placement.path());
            stand.add(new Vec3(box.centre().x(), box.min().y(), box.centre().z()));
        }
        return stand;
    }

    private static void assertSame(List<Vec3> seen, List<Vec3> laid) {
        Comparator<Vec3> order = Comparator.comparingLong((Vec3 v) -> Math.round(v.x() * 1000))
                .thenComparingLong(v -> Math.round(v.z() * 1000));
        List<Vec3> one = seen.stream().sorted(order).toList();
        List<Vec3> other = laid.stream().sorted(order).toList();
        assertThat(one).hasSameSizeAs(other);
        for (int i = 0; i < one.size(); i++) {
            assertThat(one.get(i).minus(other.get(i)).length())
                    .as(one.get(i) + " is seen, " + other.get(i) + " laid")
                    .isLessThan(1e-6);
        }
    }

    private static LayoutPlan plan(Layout layout) {
        return LayoutPlan.of(layout, Layout.Variation.NONE);
    }

    private Model drawn() {
        return model.display().drawnModel();
    }

    private void assertLaidAsSeen(Layout layout, List<Vec3> path) {
        assertLaidAsSeen(plan(layout), path);
    }

    private void assertLaidAsSeen(LayoutPlan plan, List<Vec3> path) {
        Set<SdfPath> selected = Set.copyOf(model.selected());
        LayoutSpace.Seen seen = LayoutSpace.of(model).orElseThrow().seen(plan, path, drawn());
        model.edits().layOut(model.selected(), "Row", plan);
        assertSame(seen.places(), stand());
        model.undo();
        model.selectionProperty().set(selected);
    }

    @Test
    void gridsRingsAndScattersAreLaidWhereTheyAreSeen() {
        model.place(crate, new TransformComponents(new Vec3(3, 0, -2), Vec3.ZERO, Vec3.ONE));
        for (Layout layout : List.of(
                new Layout.Grid(new int[] {3, 2, 2}, new Vec3(2, 1.5, 3)),
                new Layout.Ring(6, 60, new Vec3(4, 0, 0), false),
                new Layout.Scatter(20, 10, 12, 1.5, 7))) {
            assertLaidAsSeen(layout, List.of());
        }
    }

    @Test
    void whatStandsOnThingsOrIsScatteredOnThemIsLaidWhereItIsSeen() {
        model.place(crate, new TransformComponents(new Vec3(9, 0, 0), Vec3.ZERO, new Vec3(8, 2, 8)));
        SdfPath hill = model.selected().getFirst();
        model.place(crate, new TransformComponents(new Vec3(0.5, 0, 0), new Vec3(0, 30, 0), Vec3.ONE));
        Layout row = new Layout.Grid(new int[] {6, 1, 1}, new Vec3(3, 0, 0));
        LayoutPlan standing = new LayoutPlan(row, Layout.Variation.NONE, List.of(), true);
        List<Double> heights = LayoutSpace.of(model).orElseThrow().seen(standing, List.of(), drawn()).places().stream()
                .map(Vec3::y)
                .toList();
        assertThat(heights).containsExactly(0.0, 0.0, 2.0, 2.0, 2.0, 0.0);
        assertLaidAsSeen(standing, List.of());
        assertLaidAsSeen(new Layout.OnSurface(hill.toString(), 9, 0, 1, 60, true, 5), List.of());
        Set<SdfPath> selected = Set.copyOf(model.selected());
        model.edits().move(hill, new TransformComponents(new Vec3(6, 1, 0), new Vec3(0, 20, 0), new Vec3(8, 3, 8)));
        model.selectionProperty().set(selected);
        assertLaidAsSeen(standing, List.of());
        assertThat(drawn().bounds())
                .as("what was only moved is where it is")
                .isEqualTo(scene().model().bounds());
    }

    @Test
    void aPathThatBeginsAtTheObjectIsWalkedWhereItIsClicked() {
        model.place(crate, new TransformComponents(new Vec3(3, 0, -2), Vec3.ZERO, Vec3.ONE));
        LayoutSpace space = LayoutSpace.of(model).orElseThrow();
        List<Vec3> clicked = List.of(new Vec3(3, 0, -2), new Vec3(9, 0, -2), new Vec3(9, 0, 6));
        List<Vec3> path = clicked.stream().map(space::inLayout).toList();
        Layout along = new Layout.Along(path, 8, false, false);
        LayoutSpace.Seen seen = space.seen(plan(along), path, drawn());
        assertThat(seen.points()).hasSize(3);
        for (int i = 0; i < 3; i++) {
            assertThat(seen.points().get(i).minus(clicked.get(i)).length()).isLessThan(1e-9);
        }
        assertLaidAsSeen(along, path);
        Layout bent = new Layout.Along(path, 8, false, true);
        assertThat(space.seen(plan(bent), path, drawn()).line()).as("it bends").hasSizeGreaterThan(10);
        assertLaidAsSeen(bent, path);
    }

    @Test
    void insideATurnedGroupAPathIsStillWhereItIsClicked() {
        model.place(crate, Vec3.ZERO);
        model.edits().group("Turned");
        SdfPath group = model.selected().getFirst();
        model.edits().move(group, new TransformComponents(new Vec3(5, 0, 1), new Vec3(0, 90, 0), Vec3.ONE));
        SdfPath path = group.child("Crate");
        model.selectionProperty().set(Set.of(path));
        LayoutSpace space = LayoutSpace.of(model).orElseThrow();
        Vec3 start = scene().world(path).orElseThrow().translationPart();
        List<Vec3> points = List.of(space.start(), space.inLayout(start.plus(new Vec3(0, 0, 6))));
        Layout along = new Layout.Along(points, 3, false, false);
        LayoutSpace.Seen seen = space.seen(plan(along), points, drawn());
        assertThat(seen.places().getLast().z() - seen.places().getFirst().z()).isBetween(5.999, 6.001);
        assertLaidAsSeen(along, points);
    }

    @Test
    void agroupThatWasLaidOutShowsItsPathAndIsLaidOutOtherwiseAsSeen() {
        model.place(crate, new TransformComponents(new Vec3(3, 0, -2), Vec3.ZERO, Vec3.ONE));
        LayoutSpace first = LayoutSpace.of(model).orElseThrow();
        List<Vec3> path = List.of(first.start(), first.inLayout(new Vec3(9, 0, -2)));
        model.edits()
                .layOut(
                        model.selected(),
                        "Row",
                        LayoutPlan.of(new Layout.Along(path, 4, false, false), Layout.Variation.NONE));
        LayoutSpace kept = LayoutSpace.of(model).orElseThrow();
        List<Vec3> longer = new ArrayList<>(path);
        longer.add(path.getFirst().plus(new Vec3(6, 0, 5)));
        Layout other = new Layout.Along(longer, 6, false, false);
        LayoutSpace.Seen seen = kept.seen(plan(other), longer, drawn());
        assertThat(seen.points().getFirst().minus(new Vec3(3, 0, -2)).length())
                .as("where it began")
                .isLessThan(1e-6);
        model.edits().layAgain(LayoutPlan.of(other, Layout.Variation.NONE));
        assertSame(seen.places(), stand());
    }

    @Test
    void ofNothingNothingIsSeenAndOfManyOnlySome() {
        assertThat(LayoutSpace.of(model)).isEmpty();
        model.place(crate, Vec3.ZERO);
        LayoutSpace.Seen many = LayoutSpace.of(model)
                .orElseThrow()
                .seen(plan(new Layout.Grid(new int[] {100, 1, 100}, new Vec3(2, 1, 2))), List.of(), drawn());
        assertThat(many.places()).hasSizeBetween(100, 1000);
        assertThat(many.sizes()).allMatch(new Vec3(1, 1, 1)::equals);
    }

    @Test
    void ofSeveralObjectsEachIsSeenAtItsPlaceAndInItsSize() {
        model.place(crate, new TransformComponents(new Vec3(3, 0, -2), Vec3.ZERO, Vec3.ONE));
        SdfPath stored = model.selected().getFirst();
        model.place(mast, new TransformComponents(new Vec3(8, 0.5, 1), Vec3.ZERO, Vec3.ONE));
        model.selectionProperty()
                .set(new LinkedHashSet<>(List.of(stored, model.selected().getFirst())));
        Layout grid = new Layout.Grid(new int[] {4, 1, 3}, new Vec3(2, 1, 2));
        LayoutPlan mixed = new LayoutPlan(grid, Layout.Variation.NONE, List.of(1.0, 2.0), false);
        LayoutSpace.Seen seen = LayoutSpace.of(model).orElseThrow().seen(mixed, List.of(), drawn());
        assertThat(seen.sizes().stream().filter(size -> size.y() > 8))
                .as("masts")
                .hasSizeBetween(7, 9);
        assertLaidAsSeen(mixed, List.of());
        assertLaidAsSeen(new LayoutPlan(grid, Layout.Variation.NONE, List.of(1.0, 2.0), true), List.of());
    }
}
