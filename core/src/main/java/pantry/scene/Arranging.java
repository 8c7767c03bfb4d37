package pantry.scene;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Bounds;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** Moves, turns and mirrors objects as they stand in the world; each step is one change. */
public final class Arranging {
    private final SceneLayer scene;

    Arranging(SceneLayer scene) {
        this.scene = scene;
    }

    /** What objects are brought in line by. */
    public enum Side {
        LEAST,
        MIDDLE,
        GREATEST
    }

    /** Transforms objects in the world, metres with Y up. */
    public void transform(String what, Map<SdfPath, Matrix4> changes) {
        Map<SdfPath, Matrix4> locals = new LinkedHashMap<>();
        Matrix4 metres = scene.toMetres();
        changes.forEach((path, change) -> {
            Prim prim = prim(path);
            Matrix4 above =
                    prim.parent().map(Xforms::world).orElse(Matrix4.IDENTITY).times(metres);
            locals.put(path, Xforms.local(prim).times(above).times(change).times(above.inverse()));
        });
        scene.editor()
                .changeAll(
                        what + " " + SceneLayer.named(changes.keySet()),
                        edits -> locals.forEach((path, local) -> {
                            Matrix4 before = Xforms.local(prim(path));
                            edits.change(path, spec -> TransformOps.write(spec, before, local));
                        }));
    }

    private Prim prim(SdfPath path) {
        return scene.stage()
                .prim(path)
                .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + ">"));
    }

    /** The box around an object, metres; empty where it shows nothing. */
    public Box3 box(SdfPath path) {
        return new Bounds(scene.stage(), Bounds.DRAWN).world(prim(path)).transformed(scene.toMetres());
    }

    private Map<SdfPath, Box3> boxes(Collection<SdfPath> paths) {
        Bounds bounds = new Bounds(scene.stage(), Bounds.DRAWN);
        Map<SdfPath, Box3> boxes = new LinkedHashMap<>();
        for (SdfPath path : paths) {
            Box3 box = bounds.world(prim(path)).transformed(scene.toMetres());
            if (!box.isEmpty()) {
                boxes.put(path, box);
            }
        }
        if (boxes.isEmpty()) {
            throw new SceneException(scene.file(), "nothing that can be seen is chosen");
        }
        return boxes;
    }

    private static Box3 all(Collection<Box3> boxes) {
        return boxes.stream().reduce(Box3.EMPTY, Box3::union);
    }

    /** Moves, turns and sizes objects by one step, each or all together as it says. */
    public void step(Collection<SdfPath> paths, TransformStep step) {
        Vec3 middle = step.about() == TransformStep.About.CENTRE
                ? all(boxes(paths).values()).centre()
                : Vec3.ZERO;
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        for (SdfPath path : paths) {
            Prim prim = prim(path);
            Matrix4 metres = scene.toMetres();
            Matrix4 own = Xforms.world(prim).times(metres);
            Matrix4 above =
                    prim.parent().map(Xforms::world).orElse(Matrix4.IDENTITY).times(metres);
            Vec3 pivot =
                    switch (step.about()) {
                        case PIVOT -> own.translationPart();
                        case CENTRE -> middle;
                        case ANCHOR -> above.translationPart();
                    };
            Matrix4 frame =
                    switch (step.axes()) {
                        case WORLD -> Matrix4.IDENTITY;
                        case PARENT -> TransformStep.frame(above);
                        case OWN -> TransformStep.frame(own);
                    };
            changes.put(path, step.change(pivot, frame));
        }
        transform("moved", changes);
    }

    /**
     * Puts objects one step further than others stand, each or all together as it says.
     *
     * @param from as many objects, of the same parents
     */
    public void stepFrom(List<SdfPath> from, List<SdfPath> paths, TransformStep step) {
        Map<SdfPath, TransformComponents> places = new LinkedHashMap<>();
        for (int i = 0; i < paths.size(); i++) {
            places.put(
                    paths.get(i),
                    TransformComponents.read(scene.spec(from.get(i)).orElseThrow()));
        }
        move(places);
        step(paths, step);
    }

    /**
     * Mirrors objects, all together, at the middle of their box.
     *
     * @param axis 0 to 2: left and right, above and below, front and back are exchanged
     */
    public void mirror(Collection<SdfPath> paths, int axis) {
        Map<SdfPath, Box3> boxes = boxes(paths);
        Vec3 centre = all(boxes.values()).centre();
        Matrix4 mirror = Matrix4.translation(centre.times(-1))
                .times(Matrix4.scale(new Vec3(axis == 0 ? -1 : 1, axis == 1 ? -1 : 1, axis == 2 ? -1 : 1)))
                .times(Matrix4.translation(centre));
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        boxes.keySet().forEach(path -> changes.put(path, mirror));
        transform("mirrored", changes);
    }

    /** Brings objects in line with the first of them, by a side of their boxes. */
    public void align(List<SdfPath> paths, int axis, Side side) {
        Map<SdfPath, Box3> boxes = boxes(paths);
        double goal = at(boxes.values().iterator().next(), axis, side);
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        boxes.forEach((path, box) -> changes.put(path, along(axis, goal - at(box, axis, side))));
        transform("aligned", changes);
    }

    private static double at(Box3 box, int axis, Side side) {
        return switch (side) {
            case LEAST -> box.min().get(axis);
            case MIDDLE -> box.centre().get(axis);
            case GREATEST -> box.max().get(axis);
        };
    }

    private static Matrix4 along(int axis, double by) {
        return Matrix4.translation(new Vec3(axis == 0 ? by : 0, axis == 1 ? by : 0, axis == 2 ? by : 0));
    }

    /**
     * Puts objects next to another one, in a row: the first touches it, each other one the one before, by their boxes.
     *
     * @param target stays where it is
     * @param axis along which the row goes, 0 to 2
     * @param onwards whether it goes towards greater figures
     */
    public void nextTo(Collection<SdfPath> paths, SdfPath target, int axis, boolean onwards) {
        Box3 before = boxes(List.of(target)).get(target);
        double edge = at(before, axis, onwards ? Side.GREATEST : Side.LEAST);
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        for (Map.Entry<SdfPath, Box3> entry : boxes(paths).entrySet()) {
            Box3 box = entry.getValue();
            double by = edge - at(box, axis, onwards ? Side.LEAST : Side.GREATEST);
            changes.put(entry.getKey(), along(axis, by));
            edge = at(box, axis, onwards ? Side.GREATEST : Side.LEAST) + by;
        }
        transform("put next to " + target.name(), changes);
    }

    /**
     * Leaves equal gaps between objects along an axis; the outermost stay.
     *
     * @throws SceneException where there are fewer than three
     */
    public void spread(Collection<SdfPath> paths, int axis) {
        Map<SdfPath, Box3> boxes = boxes(paths);
        if (boxes.size() < 3) {
            throw new SceneException(scene.file(), "at least three objects are spread");
        }
        List<Map.Entry<SdfPath, Box3>> inOrder = new ArrayList<>(boxes.entrySet());
        inOrder.sort(
                Comparator.comparingDouble(entry -> entry.getValue().centre().get(axis)));
        double room = inOrder.getLast().getValue().max().get(axis)
                - inOrder.getFirst().getValue().min().get(axis);
        for (Map.Entry<SdfPath, Box3> entry : inOrder) {
            room -= entry.getValue().size().get(axis);
        }
        double gap = room / (inOrder.size() - 1);
        double at = inOrder.getFirst().getValue().min().get(axis);
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        for (Map.Entry<SdfPath, Box3> entry : inOrder) {
            changes.put(entry.getKey(), along(axis, at - entry.getValue().min().get(axis)));
            at += entry.getValue().size().get(axis) + gap;
        }
        transform("spread", changes);
    }

    /** Puts the middle of objects, all together, over the middle of another one; heights stay. */
    public void centreOn(Collection<SdfPath> paths, SdfPath target) {
        Map<SdfPath, Box3> boxes = boxes(paths);
        Vec3 by = boxes(List.of(target))
                .get(target)
                .centre()
                .minus(all(boxes.values()).centre());
        Matrix4 move = Matrix4.translation(new Vec3(by.x(), 0, by.z()));
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        boxes.keySet().forEach(path -> changes.put(path, move));
        transform("centred", changes);
    }

    /** Lets objects down, or up, onto what lies below the middle of each, or onto the ground at height 0. */
    public void drop(Collection<SdfPath> paths) {
        Map<SdfPath, Box3> boxes = boxes(paths);
        List<SdfPath> order = List.copyOf(boxes.keySet());
        Set<SdfPath> own = Set.copyOf(paths);
        double[] heights = new LayoutGround(scene.model(), path -> path.startsWithAny(own))
                .below(order.stream().map(path -> boxes.get(path).centre()).toList());
        Map<SdfPath, Matrix4> changes = new LinkedHashMap<>();
        for (int i = 0; i < heights.length; i++) {
            SdfPath path = order.get(i);
            changes.put(path, along(1, heights[i] - boxes.get(path).min().y()));
        }
        transform("dropped", changes);
    }

    /** Takes an object's own transform away; it stands where what it hangs on stands. */
    public void reset(Collection<SdfPath> paths) {
        scene.editor()
                .changeAll(
                        "reset " + SceneLayer.named(paths),
                        edits -> paths.forEach(path -> {
                            Matrix4 before = Xforms.local(prim(path));
                            edits.change(path, spec -> TransformOps.write(spec, before, further(spec, before)));
                        }));
    }

    /** What is behind the usual ops, such as the correction of a foreign unit. */
    private static Matrix4 further(PrimSpec spec, Matrix4 local) {
        return TransformComponents.isUsual(spec)
                ? local.times(TransformComponents.read(spec).matrix().inverse())
                : Matrix4.IDENTITY;
    }

    /**
     * Moves, turns and scales placements, all in one step.
     *
     * @throws SceneException where one is not there, or has a transform of another form
     */
    public void move(Map<SdfPath, TransformComponents> placings) {
        for (SdfPath path : placings.keySet()) {
            PrimSpec prim = scene.spec(path)
                    .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + "> to move"));
            if (!TransformComponents.isUsual(prim)) {
                throw new SceneException(
                        scene.file(),
                        "<" + path + "> has a transform of another form, which this step would overwrite");
            }
        }
        scene.editor()
                .changeAll(
                        "moved " + SceneLayer.named(placings.keySet()),
                        edits -> placings.forEach((path, placing) -> edits.change(path, placing::write)));
    }
}
