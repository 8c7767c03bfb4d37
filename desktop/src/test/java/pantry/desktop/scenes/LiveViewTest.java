package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import pantry.base.AtomicFiles;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.desktop.session.Desk;
import pantry.desktop.session.LedgerLine;
import pantry.library.Asset;
import pantry.render.Camera;
import pantry.render.Frame;
import pantry.render.Picking;
import pantry.render.RenderCache;
import pantry.render.RenderOptions;
import pantry.render.RenderScene;
import pantry.render.Renderer;
import pantry.scene.Layout;
import pantry.scene.LayoutPlan;
import pantry.scene.Occurrence;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What the view shows is what the saved file shows when it is opened anew: the picture, and what is under the mouse. */
class LiveViewTest {
    /** Of 255: a file holds some numbers in single precision, which moves a shade from one side of a step to the other. */
    private static final int ROUNDING = 1;

    private static final int WIDTH = 120;
    private static final int HEIGHT = 90;
    /** Pixels at outlines that may fall to either side: files hold turns and sizes in single precision. */
    private static final int OUTLINE = WIDTH * HEIGHT / 500;

    private static final RenderOptions NO_SHADOW = RenderOptions.bare(0xFFFDF8);

    /** A yard with a mast and a crate, in which things are done. */
    private static final class Yard implements AutoCloseable {
        final Path folder;
        final Desk desk;
        final List<Asset> assets;
        final ScenesModel model;

        Yard() throws IOException {
            folder = Files.createTempDirectory("pantry-live-");
            desk = new Desk(folder);
            assets = List.of(desk.shelve("Mast", "Masts", 3), desk.shelve("Crate", "Boxes", 1));
            model = new ScenesModel(desk.session());
            desk.open();
            model.create("Yard");
        }

        Scene scene() {
            return model.sceneProperty().get().orElseThrow();
        }

        private int placed;

        /** No two faces lie in one plane, where nobody could say which of them is seen. */
        Vec3 unlikeAnyOther(Vec3 place) {
            placed++;
            return place.plus(new Vec3(0.0137 * placed, 0.0071 * placed, 0.0093 * placed));
        }

        SdfPath place(int asset, double x) {
            model.place(assets.get(asset), unlikeAnyOther(new Vec3(x, 0, x / 2)));
            return model.selection().single().orElseThrow().path();
        }

        /** All objects of the scene, what groups share among them. */
        List<SdfPath> objects() {
            List<SdfPath> objects = new ArrayList<>();
            collect(scene().root(), objects);
            return objects;
        }

        private void collect(SdfPath at, List<SdfPath> objects) {
            if (scene().placements().at(at).isPresent()) {
                return;
            }
            for (String name : scene().childNames(at)) {
                SdfPath child = at.child(name);
                boolean scope = scene().spec(child).orElseThrow().typeName().equals("Scope");
                boolean shape = at.name().equals("Shapes");
                if (!scope && !shape) {
                    objects.add(child);
                }
                collect(child, objects);
            }
        }

        private static int furthest(int[] one, int[] other) {
            int most = 0;
            for (int i = 0; i < one.length; i++) {
                for (int shift = 0; shift < 32; shift += 8) {
                    most = Math.max(most, Math.abs((one[i] >>> shift & 0xff) - (other[i] >>> shift & 0xff)));
                }
            }
            return most;
        }

        void assertLiveIsSaved(String after) {
            assertThat(model.placements())
                    .as("the placements after " + after)
                    .isEqualTo(scene().placements().all());
            model.keeping().save();
            RenderScene live = model.shownProperty().get().drawn();
            Scene anew = desk.workbench().openScene(scene().file());
            RenderScene saved = RenderScene.of(anew.model(), new RenderCache());
            Camera camera = Camera.START.framing(saved.bounds(), (double) WIDTH / HEIGHT);
            Frame one = new Renderer().draw(live, camera, WIDTH, HEIGHT, NO_SHADOW);
            Frame other = new Renderer().draw(saved, camera, WIDTH, HEIGHT, NO_SHADOW);
            assertThat(live.triangles()).as(after).isEqualTo(saved.triangles());
            assertThat(furthest(one.argb(), other.argb()))
                    .as("how far a channel of the picture is off after " + after)
                    .isLessThanOrEqualTo(ROUNDING);
            Map<String, Box3> now = boxes(live, anew);
            boxes(saved, anew).forEach((path, box) -> assertThat(isNear(box, now.get(path)))
                    .as(path + " after " + after + ": " + now.get(path) + " and saved " + box)
                    .isTrue());
            int otherwise = 0;
            for (int i = 0; i < WIDTH * HEIGHT; i++) {
                Optional<String> seen = live.owner(one.ids()[i]);
                boolean same = seen.equals(saved.owner(other.ids()[i]))
                        || seen.isPresent() && isAsNear(saved, camera, i, seen.get());
                otherwise += same ? 0 : 1;
            }
            assertThat(otherwise)
                    .as("pixels with another object under the mouse after " + after)
                    .isLessThan(OUTLINE);
        }

        /** Whether an object is as near as the nearest: of two surfaces in one plane, either may be seen. */
        private static boolean isAsNear(RenderScene scene, Camera camera, int pixel, String object) {
            Set<String> others = new HashSet<>();
            for (int id = 0; scene.owner(id).isPresent(); id++) {
                String path = scene.owner(id).get();
                if (!object.equals(path) && !object.startsWith(path + "/")) {
                    others.add(path);
                }
            }
            Vec3 ray = camera.ray(pixel % WIDTH + 0.5, pixel / WIDTH + 0.5, WIDTH, HEIGHT);
            Optional<Picking.Hit> own = Picking.hit(scene, camera.eye(), ray, others);
            Optional<Picking.Hit> nearest = Picking.hit(scene, camera.eye(), ray);
            return own.isPresent()
                    && nearest.isPresent()
                    && own.get().point().minus(nearest.get().point()).length() < 1e-3;
        }

        /** Files hold turns and sizes in single precision. */
        private static boolean isNear(Box3 one, Box3 other) {
            return other != null
                    && one.min().minus(other.min()).length() < 1e-4
                    && one.max().minus(other.max()).length() < 1e-4;
        }

        private static Map<String, Box3> boxes(RenderScene drawn, Scene scene) {
            Map<String, Box3> boxes = new TreeMap<>();
            scene.model().visit((owner, part, world) -> drawn.bounds(owner.path())
                    .ifPresent(box -> boxes.put(owner.path(), box)));
            return boxes;
        }

        @Override
        public void close() throws IOException {
            desk.close();
            AtomicFiles.deleteTree(folder);
        }
    }

    private static final int KINDS = 28;

    /** One thing that somebody does, to one object or two. */
    private static String act(Yard yard, int step) {
        List<SdfPath> objects = yard.objects();
        int kind = step % KINDS;
        int which = step / KINDS;
        if (objects.isEmpty() || kind == 0) {
            yard.place(which % 2, which % 7);
            return "placing";
        }
        SdfPath one = objects.get(which % objects.size());
        SdfPath two = objects.get(which / 3 % objects.size());
        yard.model.selectionProperty().set(Set.of(one));
        SelectionEdits edits = yard.model.edits();
        switch (kind) {
            case 1, 2, 3 ->
                edits.move(
                        one,
                        yard.model
                                .selection()
                                .one()
                                .orElseThrow()
                                .placing()
                                .withMove(new Vec3(which % 5, which % 3 * 0.5, which % 4))
                                .withTurn(new Vec3(0, 15 * (which % 9), 0)));
            case 4 -> edits.nudge(yard.unlikeAnyOther(new Vec3(0.5, 0, 0.25 * (which % 3))));
            case 5 -> {
                edits.duplicateSelected();
                edits.nudge(yard.unlikeAnyOther(Vec3.ZERO));
            }
            case 6 -> {
                yard.model.selectionProperty().set(new LinkedHashSet<>(List.of(one, two)));
                edits.group("Group");
            }
            case 7 -> edits.ungroup();
            case 8 ->
                edits.layOut(
                        yard.model.selected(),
                        "Row",
                        LayoutPlan.of(
                                new Layout.Grid(
                                        new int[] {2 + which % 2, 1, 1}, yard.unlikeAnyOther(new Vec3(2.5, 0, 0.5))),
                                new Layout.Variation(30, 0, "", List.of(), which)));
            case 9 -> edits.breakOut();
            case 10 -> edits.hide(which % 2 == 0);
            case 11 -> edits.removeSelected();
            case 12 -> yard.model.undo();
            case 13 -> yard.model.redo();
            case 14 -> edits.hang(List.of(one), two);
            case 15 -> edits.mirror(0);
            case 16, 17, 18 ->
                part(yard, one).ifPresent(part -> {
                    yard.model.selectionProperty().set(Set.of(part));
                    switch (kind) {
                        case 16 ->
                            edits.step(new TransformStep(
                                    yard.unlikeAnyOther(new Vec3(0, 0.5, 0)),
                                    new Vec3(0, 15 * (which % 5), 0),
                                    1,
                                    TransformStep.About.PIVOT,
                                    TransformStep.Axes.WORLD));
                        case 17 -> edits.removeSelected();
                        default -> yard.model.change(scene -> scene.parts().drop(List.of(part)));
                    }
                });
            case 19 ->
                edits.copies(
                        1 + which % 3,
                        new TransformStep(
                                yard.unlikeAnyOther(new Vec3(1.5, 0, 0.5)),
                                Vec3.ZERO,
                                1,
                                TransformStep.About.PIVOT,
                                TransformStep.Axes.WORLD));
            case 20 -> {
                List<SdfPath> placed = yard.model.several().placements().stream()
                        .map(Placement::path)
                        .toList();
                if (!placed.isEmpty()) {
                    yard.model.exports().swap(placed, yard.assets.get(which % 2));
                }
            }
            case 21 -> {
                yard.model.selectionProperty().set(new LinkedHashSet<>(List.of(one, two)));
                List<SdfPath> chosen = yard.scene().structure().outermost(yard.model.selected());
                edits.layOut(
                        chosen,
                        "Mixed",
                        new LayoutPlan(
                                new Layout.Grid(new int[] {3, 1, 1}, yard.unlikeAnyOther(new Vec3(2.5, 0, 0.5))),
                                new Layout.Variation(20, 0.1, "", List.of(), which),
                                chosen.size() == 2 ? List.of(1.0, 2.0) : List.of(),
                                which % 2 == 0));
            }
            case 22 ->
                objects.stream()
                        .filter(path -> yard.scene().layouts().kept(path).isPresent())
                        .findFirst()
                        .ifPresent(group -> {
                            yard.model.selectionProperty().set(Set.of(group));
                            edits.layAgain(new LayoutPlan(
                                    new Layout.Grid(
                                            new int[] {2 + which % 3, 1, 1}, yard.unlikeAnyOther(new Vec3(2, 0, 0.75))),
                                    Layout.Variation.NONE,
                                    List.of(),
                                    which % 2 == 0));
                        });
            case 23 -> inASection(yard, one);
            case 24 ->
                yard.model.changeApart(
                        "copying in the background",
                        (fork, progress) -> fork.structure().duplicate(List.of(one), yard.unlikeAnyOther(Vec3.ZERO)),
                        () -> {});
            case 25, 26 -> all(yard, objects, kind == 25 || objects.size() > 40);
            default -> {
                yard.model.selection().enter(one);
                yard.model.selection().selectAll();
                edits.hide(which % 2 == 0);
                yard.model.selection().leaveTo(Optional.empty());
            }
        }
        return "step " + kind + " on " + one + " and " + two;
    }

    /** What is done to everything at once: grouped and taken apart, or copied, which is seen beside what it was. */
    private static void all(Yard yard, List<SdfPath> objects, boolean group) {
        SelectionEdits edits = yard.model.edits();
        yard.model.selectionProperty().set(new LinkedHashSet<>(objects));
        if (!group) {
            edits.duplicateSelected();
            edits.nudge(yard.unlikeAnyOther(new Vec3(0, 3, 0)));
            return;
        }
        edits.group("All");
        if (objects.size() % 3 == 0) {
            edits.ungroup();
        }
    }

    /** Cuts an object out, moves what is in it where it stands, and goes back. */
    private static void inASection(Yard yard, SdfPath one) {
        if (!one.parent().equals(yard.scene().root())) {
            return;
        }
        yard.model.exports().cutSection("Section " + System.nanoTime());
        List<SdfPath> cut = yard.model.selected();
        yard.model.keeping().save();
        if (cut.size() == 1 && yard.model.isSection(cut.getFirst())) {
            yard.model.openSection(cut.getFirst());
            yard.model.selection().selectAll();
            yard.model.edits().nudge(yard.unlikeAnyOther(Vec3.ZERO));
            yard.model.keeping().save();
            yard.model.leaveSection();
        }
    }

    /** The part of an object that is a placement. */
    private static Optional<SdfPath> part(Yard yard, SdfPath object) {
        return yard.scene().placements().at(object).isPresent()
                ? yard.scene().parts().below(object).stream().findFirst()
                : Optional.empty();
    }

    @Property(tries = 60)
    void afterAnySequenceOfActions(@ForAll @Size(min = 4, max = 14) List<@IntRange(max = KINDS * 60) Integer> steps)
            throws IOException {
        try (Yard yard = new Yard()) {
            yard.place(0, 0);
            yard.place(1, 2);
            for (int step : steps) {
                String done = act(yard, step);
                assertThat(yard.desk.session().ledger())
                        .filteredOn(line -> line.kind() == LedgerLine.Kind.WRONG)
                        .as(done)
                        .noneMatch(line -> line.text().contains("fault of Pantry"));
                yard.assertLiveIsSaved(done);
            }
        }
    }

    /** A mast and a crate in a group, used in a row, and that row in a field. */
    private static SdfPath shared(Yard yard, int depth) {
        SdfPath mast = yard.place(0, 0);
        SdfPath crate = yard.place(1, 1);
        yard.model.selectionProperty().set(new LinkedHashSet<>(List.of(mast, crate)));
        yard.model.edits().group("Stand");
        for (int level = 0; level < depth; level++) {
            yard.model
                    .edits()
                    .layOut(
                            yard.model.selected(),
                            "Level " + level,
                            LayoutPlan.of(
                                    new Layout.Grid(
                                            level % 2 == 0 ? new int[] {3, 1, 1} : new int[] {1, 1, 2},
                                            new Vec3(4, 0, 6 * (level + 1))),
                                    Layout.Variation.NONE));
        }
        return yard.objects().stream()
                .filter(path ->
                        yard.scene().instancing().isShared(path) && path.name().equals("Crate"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aPartOfASharedGroupMovesWhereverItIsUsedAtAnyDepth() throws IOException {
        int uses = 1;
        for (int depth = 1; depth <= 3; depth++) {
            uses *= (depth - 1) % 2 == 0 ? 3 : 2;
            try (Yard yard = new Yard()) {
                SdfPath crate = shared(yard, depth);
                yard.model.selectionProperty().set(Set.of(crate));
                assertThat(yard.scene().instancing().occurrences(crate)).hasSize(uses);
                SceneSelection.Own own = yard.model.selection().one().orElseThrow();
                TransformComponents there = own.placing().withMove(new Vec3(1.5, 0.5, 1));
                RenderScene before = yard.model.shownProperty().get().drawn();
                RenderScene dragged = yard.model.display().preview(own, there);
                Box3 outlined = yard.model.display().previewBox(own, there);
                yard.model.edits().move(crate, there);
                assertThat(Yard.isNear(outlined, yard.model.display().box(crate)))
                        .as("the outline follows")
                        .isTrue();
                RenderScene live = yard.model.shownProperty().get().drawn();
                assertThat(live.bounds()).isNotEqualTo(before.bounds());
                assertThat(dragged.boxes()).hasSameSizeAs(live.boxes());
                for (int i = 0; i < live.boxes().size(); i++) {
                    assertThat(Yard.isNear(dragged.boxes().get(i), live.boxes().get(i)))
                            .isTrue();
                }
                assertThat(yard.desk.session().ledger().getFirst().text()).endsWith("in all " + uses + " uses");
                yard.assertLiveIsSaved("moving a part at depth " + depth);
                yard.model.undo();
                assertThat(yard.model.shownProperty().get().drawn().boxes()).isEqualTo(before.boxes());
                yard.assertLiveIsSaved("taking that back");
            }
        }
    }

    @Test
    void aPartOfAPlacementInASharedGroupIsDraggedAsItIsWritten() throws IOException {
        for (int depth = 1; depth <= 2; depth++) {
            try (Yard yard = new Yard()) {
                SdfPath body = shared(yard, depth).child("Body");
                yard.model.selectionProperty().set(Set.of(body));
                SceneSelection.Own own = yard.model.selection().one().orElseThrow();
                TransformComponents there = own.placing().withMove(new Vec3(0.25, 0.5, 1));
                RenderScene dragged = yard.model.display().preview(own, there);
                Box3 outlined = yard.model.display().previewBox(own, there);
                yard.model.edits().move(body, there);
                assertThat(Yard.isNear(outlined, yard.model.display().box(body)))
                        .as("the outline follows")
                        .isTrue();
                RenderScene live = yard.model.shownProperty().get().drawn();
                assertThat(Yard.isNear(dragged.bounds(), live.bounds())).isTrue();
                yard.assertLiveIsSaved("moving a part of a placement at depth " + depth);
            }
        }
    }

    @Test
    void whatIsSharedIsWorkedOnInTheUseThroughWhichItWasReached() throws IOException {
        try (Yard yard = new Yard()) {
            SdfPath crate = shared(yard, 2);
            List<Occurrence> all = yard.scene().instancing().occurrences(crate);
            for (Occurrence each : all) {
                yard.model.selection().reached(crate, each.through());
                yard.model.selectionProperty().set(Set.of(crate));
                Vec3 size = yard.model.display().box(crate).size();
                assertThat(size.y()).isBetween(0.9, 1.1);
                Vec3 middle = yard.model.display().box(crate).centre();
                Vec3 grips = yard.model
                        .selection()
                        .parentSpace(crate)
                        .point(yard.model
                                .selection()
                                .one()
                                .orElseThrow()
                                .placing()
                                .move());
                assertThat(middle.minus(grips).length())
                        .as("the grips are at it")
                        .isLessThan(1.5);
                assertThat(yard.model
                                .selection()
                                .occurrence(crate)
                                .orElseThrow()
                                .seenAs())
                        .isEqualTo(each.through().getFirst());
            }
            assertThat(all.stream().map(Occurrence::parentSpace).distinct()).hasSize(6);
            yard.model.display().isolate();
            assertThat(yard.model.shownProperty().get().drawn().triangles())
                    .as("alone shows the use that it is in")
                    .isPositive();
        }
    }
}
