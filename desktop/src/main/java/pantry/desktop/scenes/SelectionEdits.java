package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.Units;
import pantry.render.RenderScene;
import pantry.scene.Anchors;
import pantry.scene.Arranging;
import pantry.scene.Drawers;
import pantry.scene.Layout;
import pantry.scene.LayoutFigures;
import pantry.scene.LayoutPlan;
import pantry.scene.Scene;
import pantry.scene.SceneClipboard;
import pantry.scene.Settling;
import pantry.scene.TransformStep;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** What is done by hand to the selected objects: moved, arranged, grouped, copied, laid out, let fall. */
public final class SelectionEdits {
    private static final int MOST_COPIES = 10_000;

    private final OpenScene scene;
    private final SceneDisplay display;
    private final Keeping keeping;
    private final BooleanProperty ontoThings = new SimpleBooleanProperty();
    private final BooleanProperty droppedOntoThings = new SimpleBooleanProperty(true);
    private final BooleanProperty inSteps = new SimpleBooleanProperty();
    private final DoubleProperty stepSize = new SimpleDoubleProperty(0.1);
    private final BooleanProperty flush = new SimpleBooleanProperty();
    private Optional<SceneClipboard> clipping = Optional.empty();
    private Optional<TransformComponents> copiedPlace = Optional.empty();
    private Optional<Runnable> last = Optional.empty();

    SelectionEdits(OpenScene scene, SceneDisplay display, Keeping keeping) {
        this.scene = scene;
        this.display = display;
        this.keeping = keeping;
    }

    /** Gives the one selected placement another place. */
    public void move(SdfPath path, TransformComponents placing) {
        scene.act(open -> {
            if (scene.selection().part(path).isPresent()) {
                open.parts().place(path, placing);
                return;
            }
            if (path.startsWithAny(open.drawers().in(Drawers.State::locked))) {
                throw new PantryException(open.file(), path.name() + " is locked by its drawer");
            }
            open.arranging().move(Map.of(path, placing));
        });
    }

    /** Gives objects, or parts, other places, as one change. */
    public void moveEach(Map<SdfPath, TransformComponents> places) {
        scene.arrange(open -> {
            if (scene.selection().isOfParts()) {
                open.parts().place(places);
            } else {
                List<SdfPath> free = free(open);
                Map<SdfPath, TransformComponents> moved = new LinkedHashMap<>(places);
                moved.keySet().retainAll(free);
                open.arranging().move(moved);
            }
        });
    }

    /** Moves all that is selected by a distance in the world. */
    public void nudge(Vec3 by) {
        step(new TransformStep(by, Vec3.ZERO, 1, TransformStep.About.PIVOT, TransformStep.Axes.WORLD));
    }

    /** Moves, turns or sizes all that is selected. */
    public void step(TransformStep step) {
        again(() -> scene.arrange(open -> {
            if (scene.selection().isOfParts()) {
                double by = step.factor();
                open.parts().adjust(scene.selected(), step.move(), step.turn(), new Vec3(by, by, by));
            } else {
                open.arranging().step(free(open), step);
            }
        }));
    }

    /** What is selected and not locked by a drawer. */
    private List<SdfPath> free(Scene open) {
        Set<SdfPath> locked = open.drawers().in(Drawers.State::locked);
        List<SdfPath> free = scene.selected().stream()
                .filter(path -> !path.startsWithAny(locked))
                .toList();
        if (free.isEmpty()) {
            throw new PantryException(open.file(), "what is selected is locked by its drawer");
        }
        return free;
    }

    /** Does something that can be done again to what is selected then. */
    private void again(Runnable action) {
        last = Optional.of(action);
        action.run();
    }

    /** Does the last step again. */
    public void repeat() {
        last.ifPresent(Runnable::run);
    }

    /** Keeps the place of the one that is selected, to be given to others. */
    public void copyPlace() {
        scene.selection().one().ifPresent(own -> {
            copiedPlace = Optional.of(own.placing());
            scene.session().told("copied the place of " + own.path().name());
        });
    }

    /** Gives what is selected the place that was copied. */
    public void givePlace() {
        copiedPlace.ifPresent(placing -> scene.act(open -> {
            Map<SdfPath, TransformComponents> places = new LinkedHashMap<>();
            free(open).forEach(path -> places.put(path, placing));
            open.arranging().move(places);
        }));
    }

    /** The axes, 0 to 2, along which nothing is moved by hand. */
    public Set<Integer> lockedAxes() {
        return scene.get().map(open -> open.axisLocks().locked()).orElse(Set.of());
    }

    /** Locks an axis of the scene, or frees it. */
    public void lock(int axis, boolean wanted) {
        scene.act(open -> open.axisLocks().set(axis, wanted));
    }

    /** Whether what is slid over the floor comes to lie flush with what is near. */
    public BooleanProperty flushProperty() {
        return flush;
    }

    /** Whether dragging goes in steps without a key held, and how large they are, metres. */
    public BooleanProperty inStepsProperty() {
        return inSteps;
    }

    public DoubleProperty stepSizeProperty() {
        return stepSize;
    }

    /** A place with what is locked as it was before. */
    TransformComponents locked(TransformComponents before, TransformComponents after) {
        Vec3 from = before.move();
        Vec3 to = after.move();
        Set<Integer> lockedAxes = lockedAxes();
        return after.withMove(new Vec3(
                lockedAxes.contains(0) ? from.x() : to.x(),
                lockedAxes.contains(1) ? from.y() : to.y(),
                lockedAxes.contains(2) ? from.z() : to.z()));
    }

    /** Whether what is slid over the floor comes to stand on what is below it. */
    public BooleanProperty ontoThingsProperty() {
        return ontoThings;
    }

    /** Whether what is dropped from the tray comes to stand on what is below the mouse, rather than on the floor. */
    public BooleanProperty droppedOntoThingsProperty() {
        return droppedOntoThings;
    }

    /** Keeps what is selected, to be pasted here or in another scene. */
    public void copy() {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            clipping = Optional.of(SceneClipboard.of(open, scene.selected()));
            scene.session().told("copied " + Names.counted(clipping.get().count(), "object"));
        }));
    }

    /** As {@link #copy}, and takes it out of this scene. */
    public void cut() {
        copy();
        removeSelected();
    }

    /** Puts what was copied into the scene, where it stood. */
    public void paste() {
        clipping.ifPresent(clip -> scene.act(
                "pasting", 3L * clip.count(), (fork, progress) -> clip.paste(fork, Optional.empty()), () -> {}));
    }

    /** Hangs objects on another one. */
    public void hang(List<SdfPath> paths, SdfPath parent) {
        scene.act(
                "hanging on " + parent.name(),
                3L * paths.size(),
                (fork, progress) -> fork.structure().reparent(paths, parent),
                () -> {});
    }

    public void sort() {
        scene.act(open -> {
            SdfPath parent = scene.selection()
                    .one()
                    .map(SceneSelection.Own::path)
                    .filter(path -> open.placements().at(path).isEmpty())
                    .orElse(open.root());
            open.structure().sort(parent);
        });
    }

    public void switchOn(boolean on) {
        scene.arrange(open -> open.structure().switchOn(scene.selected(), on));
    }

    public void hide(boolean away) {
        scene.arrange(open -> {
            if (scene.selection().isOfParts()) {
                open.parts().show(scene.selected(), !away);
            } else {
                open.structure().show(scene.selected(), !away);
            }
        });
    }

    public void share() {
        scene.arrange(open -> open.structure().share(scene.selected()));
    }

    public void choose(String set, String variant) {
        scene.arrange(open -> {
            if (scene.selection().isOfParts()) {
                open.together("chose " + variant, () -> {
                    scene.selected().forEach(path -> open.parts().choose(path, set, variant));
                    return variant;
                });
            } else {
                open.structure().choose(scene.selected(), set, variant);
            }
        });
    }

    /** Lets the selected placements do a motion of theirs, or stand at rest. */
    public void doMotion(Optional<String> motion) {
        scene.arrange(open -> open.motions().bind(scene.selected(), motion));
    }

    /** Lets the selected placements do the first motion of an asset of the library. */
    public void borrowMotion(IndexedAsset item) {
        scene.arrange(open -> open.motions()
                .borrow(scene.selected(), scene.session().shelving().asset(item), Optional.empty())
                .forEach(scene.session()::told));
    }

    /**
     * Lets what the selected placements do begin at a time of the scene, and go by faster or slower.
     *
     * @param start seconds
     * @param speed times as fast as it is by itself
     */
    public void timeMotion(Optional<Double> start, Optional<Double> speed) {
        scene.arrange(open -> open.motions().time(scene.selected(), start, speed));
    }

    /** Makes an anchor where the view looks, or gives the selected one a mark. */
    public void anchor(String name, Anchors.Mark mark, Vec3 at) {
        scene.act(open -> {
            Optional<SceneSelection.Own> own =
                    scene.selection().one().filter(each -> each.placement().isEmpty());
            if (own.isPresent()) {
                open.anchors().draw(own.get().path(), mark);
            } else {
                scene.selectionProperty()
                        .set(Set.of(open.anchors()
                                .make(name, mark, TransformComponents.ORIGIN.withMove(at), Optional.empty())));
            }
        });
    }

    /** Lets what is selected fall onto all else, or onto some. */
    public void settle(Set<SdfPath> standing, boolean floor, Consumer<RenderScene> seen) {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            keeping.autosave();
            Settling settling = Settling.of(open, free(open), standing, floor);
            RenderScene before = display.shownProperty().get().drawn();
            scene.session()
                    .run(
                            "settling "
                                    + Units.count(
                                            scene.selectionProperty().get().size()) + " objects",
                            scene.session()
                                    .whenCancelled(
                                            progress -> settling.fall(MOST_SECONDS, progress, falling -> scene.session()
                                                    .onInterface(() -> seen.accept(before.moved(named(falling))))),
                                            () -> seen.accept(display.shownProperty()
                                                    .get()
                                                    .drawn())),
                            settled -> settled(open, settled, seen),
                            problem -> {
                                seen.accept(display.shownProperty().get().drawn());
                                scene.session().wrong(problem);
                            });
        }));
    }

    private static final double MOST_SECONDS = 20;

    private static Map<String, Matrix4> named(Map<SdfPath, Matrix4> byPath) {
        Map<String, Matrix4> named = new LinkedHashMap<>();
        byPath.forEach((path, change) -> named.put(path.toString(), change));
        return named;
    }

    private void settled(Scene open, Settling.Settled settled, Consumer<RenderScene> seen) {
        boolean still = scene.isOpen(open);
        if (!still || !settled.moving().isEmpty()) {
            seen.accept(display.shownProperty().get().drawn());
            if (still) {
                scene.session()
                        .wrong(new PantryException(
                                open.file(),
                                settled.moving().getFirst().name() + " had not come to rest after "
                                        + Math.round(settled.seconds()) + " s; everything stands where it stood"));
            }
            return;
        }
        scene.act(now -> now.arranging().transform("settled", settled.changes()));
    }

    /** Takes what is selected out of the scene; parts of placements, which the asset brings, are hidden. */
    public void removeSelected() {
        if (scene.selection().isOfParts()) {
            hide(true);
        } else if (!scene.selectionProperty().get().isEmpty()) {
            scene.act(open -> {
                open.structure().remove(free(open));
                scene.selectionProperty().set(Set.of());
            });
        }
    }

    /** Puts what is selected on an anchor of its own. */
    public void group(String name) {
        onSelected(
                3,
                "grouping",
                (fork, progress, chosen) -> List.of(fork.structure().group(chosen, name)));
    }

    /** Takes the selected groups apart. */
    public void ungroup() {
        // How much hangs on a group is not known before.
        onSelected(50, "taking groups apart", (fork, progress, chosen) -> fork.structure()
                .ungroup(chosen));
    }

    /** Gives the first that is selected another name. */
    public void rename(String name) {
        scene.withSelected(
                open -> List.of(open.structure().rename(scene.selected().getFirst(), name)));
    }

    /** Lets the selected placements no longer share their insides. */
    public void breakOut() {
        arrangeSelected(5, "breaking out", (fork, chosen) -> fork.structure().breakOut(chosen));
    }

    public void mirror(int axis) {
        again(() -> scene.arrange(open -> open.arranging().mirror(free(open), axis)));
    }

    public void align(int axis, Arranging.Side side) {
        again(() -> scene.arrange(open -> open.arranging().align(free(open), axis, side)));
    }

    /** Puts the others next to the one that was selected last, in a row along an axis. */
    public void nextToLast(int axis, boolean onwards) {
        List<SdfPath> all = scene.selected();
        if (all.size() > 1) {
            scene.arrange(
                    open -> open.arranging().nextTo(all.subList(0, all.size() - 1), all.getLast(), axis, onwards));
        }
    }

    /** Puts the others over the middle of the one that was selected last. */
    public void centreOnLast() {
        List<SdfPath> all = scene.selected();
        if (all.size() > 1) {
            scene.arrange(open -> open.arranging().centreOn(all.subList(0, all.size() - 1), all.getLast()));
        }
    }

    public void spread(int axis) {
        again(() -> scene.arrange(open -> open.arranging().spread(free(open), axis)));
    }

    /** Lets what is selected down onto what is below it. */
    public void drop() {
        again(() -> scene.arrange(open -> open.arranging().drop(free(open))));
    }

    /** Takes the own transforms of what is selected away. */
    public void resetPlace() {
        again(() -> scene.arrange(open -> open.arranging().reset(free(open))));
    }

    /** Lays selected objects out many times. */
    public void layOut(List<SdfPath> objects, String name, LayoutPlan plan) {
        if (scene.selected().isEmpty()) {
            return;
        }
        scene.act(
                "laying out " + name,
                size(plan),
                (fork, progress) -> List.of(fork.layouts().lay(objects, name, plan, progress)),
                this::tellShortfall);
    }

    /** Of what lies or stands on something, all that is drawn is looked at. */
    private long size(LayoutPlan plan) {
        boolean lies = plan.standing() || plan.layout() instanceof Layout.OnSurface;
        return plan.layout().most() + (lies ? scene.placements().size() : 0);
    }

    /** Says it where fewer were laid out than asked for. */
    private void tellShortfall() {
        scene.get().ifPresent(open -> scene.selected().stream()
                .findFirst()
                .flatMap(open.layouts()::shortfall)
                .ifPresent(said -> scene.session().wrong(new PantryException(open.file(), said))));
    }

    /** Lays the selected group out otherwise. */
    public void layAgain(LayoutPlan plan) {
        if (scene.selected().isEmpty()) {
            return;
        }
        SdfPath group = scene.selected().getFirst();
        int before = laidOut().map(figures -> figures.uses().size()).orElse(0);
        scene.act(
                "laying out " + group.name() + " otherwise",
                size(plan) + before,
                (fork, progress) -> {
                    fork.layouts().relay(group, plan, progress);
                    return List.of(group);
                },
                this::tellShortfall);
    }

    /** The figures that the selected group was laid out by; empty where it was not. */
    public Optional<LayoutFigures> laidOut() {
        return scene.selectionProperty().get().size() == 1
                ? scene.get()
                        .flatMap(open -> open.layouts().kept(scene.selected().getFirst()))
                : Optional.empty();
    }

    /** One more use of each selected object, a little aside; the new ones are selected. */
    public void duplicateSelected() {
        if (!scene.selectionProperty().get().isEmpty()) {
            TransformStep aside = new TransformStep(
                    new Vec3(1, 0, 0), Vec3.ZERO, 1, TransformStep.About.PIVOT, TransformStep.Axes.PARENT);
            again(() -> onSelected(1, "duplicating", (fork, progress, all) -> {
                // What a selected group holds comes along with it.
                List<SdfPath> from = fork.structure().outermost(all);
                return fork.together("duplicated " + Names.counted(from.size(), "object"), () -> {
                    List<SdfPath> made = fork.instancing().instances(from, 1);
                    fork.arranging().step(made, aside);
                    return made;
                });
            }));
        }
    }

    /**
     * More uses of each selected object, each one step further than the one before; all are selected then.
     *
     * @param count of new uses of each, 1 to 10,000
     */
    public void copies(int count, TransformStep step) {
        if (count < 1 || count > MOST_COPIES) {
            throw new PantryException("1 to " + MOST_COPIES + " copies are made at once, not " + count);
        }
        again(() -> onSelected(count, "making copies", (fork, progress, chosen) -> {
            List<SdfPath> from = fork.structure().outermost(chosen);
            return fork.together("made " + count + " copies", () -> {
                List<SdfPath> all = new ArrayList<>(from);
                all.addAll(fork.instancing().instances(from, count));
                for (int i = 1; i <= count; i++) {
                    progress.step("copy " + i + " of " + count, (double) i / count);
                    List<SdfPath> last = all.subList((i - 1) * from.size(), i * from.size());
                    List<SdfPath> next = all.subList(i * from.size(), (i + 1) * from.size());
                    fork.arranging().stepFrom(last, next, step);
                }
                return all;
            });
        }));
    }

    /** A change of what is selected that takes the longer the more of it there is. */
    private interface SelectedChange {
        List<SdfPath> of(Scene fork, Progress progress, List<SdfPath> selected);
    }

    /**
     * Changes what is selected, and selects what came of it; in the background where it is much.
     *
     * @param times how many prims it makes or changes of each object, roughly
     */
    private void onSelected(int times, String doing, SelectedChange change) {
        List<SdfPath> chosen = scene.selected();
        if (!chosen.isEmpty()) {
            scene.act(
                    doing,
                    (long) times * chosen.size(),
                    (fork, progress) -> change.of(fork, progress, chosen),
                    () -> {});
        }
    }

    /** As above, of what stays selected. */
    private void arrangeSelected(int times, String doing, BiConsumer<Scene, List<SdfPath>> change) {
        onSelected(times, doing, (fork, progress, chosen) -> {
            change.accept(fork, chosen);
            return chosen;
        });
    }

    /** A copy of its own of each selected object: groups are not shared, and placements have insides of their own. */
    public void copyAsOwn() {
        onSelected(5, "copying", (fork, progress, chosen) -> {
            List<SdfPath> made = fork.structure().duplicate(chosen, new Vec3(1, 0, 0));
            List<SdfPath> shared = made.stream()
                    .filter(path -> fork.stage().prim(path).orElseThrow().isInstance())
                    .toList();
            if (!shared.isEmpty()) {
                fork.structure().breakOut(shared);
            }
            return made;
        });
    }
}
