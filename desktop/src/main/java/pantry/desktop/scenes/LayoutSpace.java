package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Model;
import pantry.scene.Curve;
import pantry.scene.Layout;
import pantry.scene.LayoutFigures;
import pantry.scene.LayoutGround;
import pantry.scene.LayoutPlan;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/**
 * Where the figures of a layout are told, and what they come to in the world before it is laid out.
 *
 * @param toWorld from the layout's space to the world, metres
 * @param start where the first use stands in the layout's space, or stood before it was laid out
 * @param boxes around the objects that are laid out, from where each stands and from the height of the first, in the
 *     world's directions; metres
 * @param own what is laid out: the objects, or the group that they hang on
 */
record LayoutSpace(Matrix4 toWorld, Vec3 start, List<Box3> boxes, List<SdfPath> own) {
    /** More than these are not drawn. */
    private static final int MOST_SEEN = 600;

    /**
     * What is seen of a layout.
     *
     * @param places the middle of each use's base, in the world
     * @param sizes of the uses, metres
     * @param points of the path, in the world; none where it goes along none
     * @param line that the path takes through its points
     */
    record Seen(List<Vec3> places, List<Vec3> sizes, List<Vec3> points, List<Vec3> line) {
        static final Seen NOTHING = new Seen(List.of(), List.of(), List.of(), List.of());
    }

    /** For what is selected: a group that was laid out, or else an object that is to be. */
    static Optional<LayoutSpace> of(ScenesModel model) {
        Optional<Scene> open = model.sceneProperty().get();
        List<SdfPath> chosen = model.selected();
        if (open.isEmpty() || chosen.isEmpty()) {
            return Optional.empty();
        }
        SdfPath path = chosen.getFirst();
        Matrix4 metres = open.get().toMetres();
        Optional<LayoutFigures> kept = open.get().layouts().kept(path);
        if (kept.isPresent()) {
            Optional<Matrix4> group = open.get().world(path);
            List<SdfPath> uses = open.get().childNames(path).stream()
                    .limit(kept.get().objects())
                    .map(path::child)
                    .toList();
            Vec3 start = Matrix4.ofRows(kept.get().original()).translationPart();
            return group.filter(world -> !uses.isEmpty())
                    .map(world -> new LayoutSpace(world, start, around(model, uses), List.of(path)));
        }
        return model.selection().occurrence(path).flatMap(seen -> open.get()
                .spec(path)
                .flatMap(prim -> open.get().world(path).map(world -> {
                    Matrix4 space = metres.inverse().times(seen.parentSpace()).times(metres);
                    Vec3 start = space.inverse().point(world.translationPart());
                    return new LayoutSpace(space, start, around(model, chosen), chosen);
                })));
    }

    /** The boxes of objects, from their own origins and the height of the first. */
    private static List<Box3> around(ScenesModel model, List<SdfPath> paths) {
        double height = origin(model, paths.getFirst()).y();
        return paths.stream()
                .map(path -> {
                    Box3 box = model.display().box(path);
                    Vec3 own = origin(model, path);
                    Vec3 from = new Vec3(own.x(), height, own.z());
                    return box.isEmpty()
                            ? box
                            : new Box3(box.min().minus(from), box.max().minus(from));
                })
                .toList();
    }

    private static Vec3 origin(ScenesModel model, SdfPath path) {
        return model.sceneProperty()
                .get()
                .flatMap(open -> open.world(path))
                .map(Matrix4::translationPart)
                .orElse(Vec3.ZERO);
    }

    /** A point of the world as a point of the layout's space. */
    Vec3 inLayout(Vec3 world) {
        return toWorld.inverse().point(world);
    }

    /**
     * What a layout comes to.
     *
     * @param path that it goes along, in its space; none where it goes along none
     * @param model what is drawn, for what it lies and stands on
     */
    Seen seen(LayoutPlan plan, List<Vec3> path, Model model) {
        Set<SdfPath> laidOut = Set.copyOf(own);
        LayoutGround ground = new LayoutGround(model, object -> object.startsWithAny(laidOut));
        Layout layout = plan.layout();
        Layout.Terrain terrain = surface -> ground.triangles(SdfPath.of(surface), toWorld.inverse());
        boolean onSurface = layout instanceof Layout.OnSurface;
        List<Vec3> origins = new ArrayList<>();
        for (Matrix4 place : layout.places(terrain)) {
            if (origins.size() == MOST_SEEN) {
                break;
            }
            Vec3 at = place.translationPart();
            origins.add(toWorld.point(onSurface ? at : start.plus(at)));
        }
        int objects = Math.clamp(plan.shares().size(), 1, boxes.size());
        int[] kinds = plan.kinds(objects, Math.max(origins.size(), objects));
        double[] heights = plan.standing() && !onSurface
                ? ground.heights(
                        toWorld.point(start)
                                .plus(new Vec3(0, middle(boxes.getFirst()).y(), 0)),
                        origins)
                : new double[0];
        List<Vec3> places = new ArrayList<>();
        List<Vec3> sizes = new ArrayList<>();
        for (int i = 0; i < origins.size(); i++) {
            Box3 box = boxes.get(kinds[i]);
            Vec3 at = onSurface ? origins.get(i) : origins.get(i).plus(middle(box));
            places.add(heights.length == 0 ? at : new Vec3(at.x(), heights[i], at.z()));
            sizes.add(box.isEmpty() ? Vec3.ZERO : box.size());
        }
        // Of a path that was kept, only what lies between its points and the object counts.
        Vec3 shift = layout instanceof Layout.Along along ? start.minus(along.from()) : Vec3.ZERO;
        List<Vec3> points =
                path.stream().map(point -> toWorld.point(point.plus(shift))).toList();
        boolean bends = layout instanceof Layout.Along bent && bent.smooth() && points.size() > 2;
        return new Seen(places, sizes, points, bends ? Curve.through(points) : points);
    }

    private static Vec3 middle(Box3 box) {
        return box.isEmpty()
                ? Vec3.ZERO
                : new Vec3(box.centre().x(), box.min().y(), box.centre().z());
    }
}
