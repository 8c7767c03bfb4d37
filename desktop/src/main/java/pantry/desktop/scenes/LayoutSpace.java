package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.scene.Curve;
import pantry.scene.Layout;
import pantry.scene.LayoutOperations;
import pantry.scene.Scene;
import pantry.usd.SdfPath;

/**
 * Where the figures of a layout are told, and what they come to in the world before it is laid out.
 *
 * @param toWorld from the layout's space to the world, metres
 * @param start where the first use stands in the layout's space, or stood before it was laid out
 * @param box around the object that is laid out, from where it stands, in the world's directions; metres
 */
record LayoutSpace(Matrix4 toWorld, Vec3 start, Box3 box) {
    /** More than these are not drawn. */
    private static final int MOST_SEEN = 600;

    /**
     * What is seen of a layout.
     *
     * @param places the middle of each use's base, in the world
     * @param size of the object, metres
     * @param points of the path, in the world; none where it goes along none
     * @param line that the path takes through its points
     */
    record Seen(List<Vec3> places, Vec3 size, List<Vec3> points, List<Vec3> line) {
        static final Seen NOTHING = new Seen(List.of(), Vec3.ZERO, List.of(), List.of());
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
        Optional<LayoutOperations.Figures> kept = open.get().layouts().kept(path);
        if (kept.isPresent()) {
            Optional<Matrix4> group = open.get().world(path);
            Optional<SdfPath> first =
                    open.get().childNames(path).stream().findFirst().map(path::child);
            Vec3 start = Matrix4.ofRows(kept.get().original()).translationPart();
            return group.flatMap(world -> first.map(use -> new LayoutSpace(world, start, around(model, use))));
        }
        return model.selection().occurrence(path).flatMap(seen -> open.get()
                .spec(path)
                .flatMap(prim -> open.get().world(path).map(world -> {
                    Matrix4 space = metres.inverse().times(seen.parentSpace()).times(metres);
                    Vec3 start = space.inverse().point(world.translationPart());
                    return new LayoutSpace(space, start, around(model, path));
                })));
    }

    /** The box of an object from its own origin. */
    private static Box3 around(ScenesModel model, SdfPath path) {
        Box3 box = model.display().box(path);
        Vec3 origin = model.sceneProperty()
                .get()
                .flatMap(open -> open.world(path))
                .map(Matrix4::translationPart)
                .orElse(Vec3.ZERO);
        return box.isEmpty() ? box : new Box3(box.min().minus(origin), box.max().minus(origin));
    }

    /** A point of the world as a point of the layout's space. */
    Vec3 inLayout(Vec3 world) {
        return toWorld.inverse().point(world);
    }

    /** @param path that the layout goes along, in its space; empty where it goes along none */
    Seen seen(Layout layout, List<Vec3> path) {
        Vec3 middle = box.isEmpty()
                ? Vec3.ZERO
                : new Vec3(box.centre().x(), box.min().y(), box.centre().z());
        List<Vec3> places = new ArrayList<>();
        for (Matrix4 place : layout.places()) {
            if (places.size() == MOST_SEEN) {
                break;
            }
            places.add(toWorld.point(start.plus(place.translationPart())).plus(middle));
        }
        // A layout's places are told from its first point.
        Vec3 shift = path.isEmpty() ? Vec3.ZERO : start.minus(path.getFirst());
        List<Vec3> points =
                path.stream().map(point -> toWorld.point(point.plus(shift))).toList();
        boolean bends = layout instanceof Layout.Along along && along.smooth() && points.size() > 2;
        return new Seen(places, box.isEmpty() ? Vec3.ZERO : box.size(), points, bends ? Curve.through(points) : points);
    }
}
