package pantry.usd.schema;

import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.SdfPath;
import pantry.usd.UsdException;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * Boxes around prims, aligned with the axes: of what is visible, active and of the wanted purposes.
 *
 * <p>A model's {@code extentsHint} is taken for all below it, and a shape's {@code extent} for the shape, where they are
 * given; else the box is computed from points, sizes and instances. Boxes are turned with their eight corners, so that
 * they hold everything, and may be larger than need be. What was computed is kept, shared prims' once: a change of the
 * stage asks for another of these.
 */
public final class Bounds {
    /** What is drawn where detail is wanted. */
    public static final Set<String> DRAWN = Set.of("default", "render");

    /** The order of the pairs in {@code extentsHint} (UsdGeomModelAPI). */
    private static final List<String> HINT_ORDER = List.of("default", "render", "proxy", "guide");

    private final Stage stage;
    private final Set<String> purposes;
    private final Map<Prim, Map<Imageable, Box3>> known = new IdentityHashMap<>();

    /** @param purposes of the prims to be counted */
    public Bounds(Stage stage, Set<String> purposes) {
        this.stage = stage;
        this.purposes = Set.copyOf(purposes);
    }

    /** The box around a prim and all below it, in the stage's space; empty where nothing is seen. */
    public Box3 world(Prim prim) {
        return local(prim).transformed(Xforms.world(prim));
    }

    /** The box around a prim and all below it, in the prim's own space. */
    public Box3 local(Prim prim) {
        return within(prim, prim.parent().map(Imageable::of).orElse(Imageable.ROOT));
    }

    private Box3 within(Prim prim, Imageable above) {
        if (!prim.isActive() || prim.parent().isPresent() && (!prim.isDefined() || prim.isAbstract())) {
            return Box3.EMPTY;
        }
        Imageable here = above.at(prim);
        if (!here.visible()) {
            return Box3.EMPTY;
        }
        Map<Imageable, Box3> boxes = known.computeIfAbsent(prim, p -> new HashMap<>(2));
        Box3 box = boxes.get(here);
        if (box == null) {
            box = hinted(prim, here).orElseGet(() -> own(prim, here).union(below(prim, here)));
            boxes.put(here, box);
        }
        return box;
    }

    private Optional<Box3> hinted(Prim prim, Imageable here) {
        float[] hint = prim.kind().isEmpty() ? null : Values.floats(prim, "extentsHint", 3);
        if (hint == null || hint.length < 6 || hint.length % 6 != 0) {
            return Optional.empty();
        }
        Box3 box = Box3.EMPTY;
        for (int i = 0; i < Math.min(hint.length / 6, HINT_ORDER.size()); i++) {
            if (purposes.contains(HINT_ORDER.get(i))) {
                box = box.union(box(hint, i * 6));
            }
        }
        return Optional.of(box);
    }

    private static Box3 box(float[] corners, int at) {
        boolean nothing = corners[at] > corners[at + 3];
        return nothing
                ? Box3.EMPTY
                : new Box3(
                        new Vec3(corners[at], corners[at + 1], corners[at + 2]),
                        new Vec3(corners[at + 3], corners[at + 4], corners[at + 5]));
    }

    private Box3 own(Prim prim, Imageable here) {
        if (!purposes.contains(here.purpose())) {
            return Box3.EMPTY;
        }
        float[] extent = Values.floats(prim, "extent", 3);
        return extent != null && extent.length == 6 ? box(extent, 0) : shape(prim);
    }

    private static Box3 shape(Prim prim) {
        return switch (prim.typeName()) {
            case "Mesh" -> points(prim, 0);
            case "Points" -> points(prim, widest(prim, 1) / 2);
            case "BasisCurves", "NurbsCurves", "HermiteCurves" -> points(prim, widest(prim, 0) / 2);
            case "NurbsPatch", "TetMesh" -> points(prim, 0);
            case "Cube" -> {
                double half = Values.number(prim, "size", 2) / 2;
                yield around(half, half, half);
            }
            case "Sphere" -> {
                double radius = Values.number(prim, "radius", 1);
                yield around(radius, radius, radius);
            }
            case "Cylinder", "Cone" -> upright(prim, Values.number(prim, "radius", 1), 0, 2);
            case "Cylinder_1" -> upright(prim, ends(prim, 1), 0, 2);
            case "Capsule" -> {
                double radius = Values.number(prim, "radius", 0.5);
                yield upright(prim, radius, radius, 1);
            }
            case "Capsule_1" -> upright(prim, ends(prim, 0.5), ends(prim, 0.5), 1);
            case "Plane" -> plane(prim);
            default -> Box3.EMPTY;
        };
    }

    private static Box3 around(double x, double y, double z) {
        return new Box3(new Vec3(-x, -y, -z), new Vec3(x, y, z));
    }

    /** The larger one of what has a radius at each end; of a capsule the box is that of its larger end at both. */
    private static double ends(Prim prim, double otherwise) {
        return Math.max(Values.number(prim, "radiusBottom", otherwise), Values.number(prim, "radiusTop", otherwise));
    }

    /** @param beyond how far it reaches beyond half its height */
    private static Box3 upright(Prim prim, double radius, double beyond, double usualHeight) {
        double half = Values.number(prim, "height", usualHeight) / 2 + beyond;
        return switch (Values.token(prim, "axis").orElse("Z")) {
            case "X" -> around(half, radius, radius);
            case "Y" -> around(radius, half, radius);
            default -> around(radius, radius, half);
        };
    }

    private static Box3 plane(Prim prim) {
        double width = Values.number(prim, "width", 2) / 2;
        double length = Values.number(prim, "length", 2) / 2;
        return switch (Values.token(prim, "axis").orElse("Z")) {
            case "X" -> around(0, length, width);
            case "Y" -> around(width, 0, length);
            default -> around(width, length, 0);
        };
    }

    private static double widest(Prim prim, double otherwise) {
        float[] widths = Values.floats(prim, "widths", 1);
        if (widths == null || widths.length == 0) {
            return otherwise;
        }
        float widest = 0;
        for (float width : widths) {
            widest = Math.max(widest, width);
        }
        return widest;
    }

    private static Box3 points(Prim prim, double margin) {
        float[] points = Values.floats(prim, "points", 3);
        return points == null || points.length == 0 ? Box3.EMPTY : grown(box(points), margin);
    }

    private static Box3 box(float[] points) {
        float[] min = {points[0], points[1], points[2]};
        float[] max = min.clone();
        for (int i = 3; i < points.length; i++) {
            int axis = i % 3;
            min[axis] = Math.min(min[axis], points[i]);
            max[axis] = Math.max(max[axis], points[i]);
        }
        return new Box3(new Vec3(min[0], min[1], min[2]), new Vec3(max[0], max[1], max[2]));
    }

    private static Box3 grown(Box3 box, double margin) {
        Vec3 more = new Vec3(margin, margin, margin);
        return margin == 0 ? box : new Box3(box.min().minus(more), box.max().plus(more));
    }

    private Box3 below(Prim prim, Imageable here) {
        if (prim.typeName().equals(PointInstancer.TYPE)) {
            return prim.attribute("extent").flatMap(Attribute::value).isPresent() ? Box3.EMPTY : uses(prim, here);
        }
        Box3 box = Box3.EMPTY;
        Prim above = prim.prototype().orElse(prim);
        for (Prim child : above.children()) {
            Box3 inner = within(child, here);
            if (!inner.isEmpty()) {
                box = box.union(inner.transformed(Xforms.resets(child) ? outOf(prim, child) : Xforms.local(child)));
            }
        }
        return box;
    }

    /** From the space of a child that starts from the stage's to that of its parent. */
    private static Matrix4 outOf(Prim parent, Prim child) {
        return Xforms.local(child).times(Xforms.world(parent).inverse());
    }

    private Box3 uses(Prim prim, Imageable here) {
        PointInstancer instancer;
        try {
            instancer = PointInstancer.of(prim);
        } catch (UsdException e) {
            // What cannot be read is not seen; whoever draws it says why.
            return Box3.EMPTY;
        }
        Box3[] boxes = new Box3[instancer.prototypes().size()];
        for (int i = 0; i < boxes.length; i++) {
            SdfPath path = instancer.prototypes().get(i);
            boxes[i] = stage.prim(path)
                    .map(used -> within(used, here).transformed(Xforms.local(used)))
                    .orElse(Box3.EMPTY);
        }
        Box3 box = Box3.EMPTY;
        for (int use = 0; use < instancer.count(); use++) {
            Box3 inner = boxes[instancer.prototype(use)];
            if (instancer.isShown(use) && !inner.isEmpty()) {
                box = box.union(inner.transformed(instancer.transform(use)));
            }
        }
        return box;
    }
}
