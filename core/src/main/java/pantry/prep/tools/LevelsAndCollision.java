package pantry.prep.tools;

import java.util.ArrayList;
import java.util.List;
import pantry.base.Progress;
import pantry.intake.CollisionShape;
import pantry.intake.DetailLevels;
import pantry.mesh.ConvexHull;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.model.WorldPoints;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/** Makes what goes with an asset beside the thing itself: coarser levels of detail, and shapes for collision. */
public final class LevelsAndCollision {
    private LevelsAndCollision() {}

    /**
     * Writes coarser levels as a variant set of the root, in the place of those that are there.
     *
     * @throws PrepException where there are levels of detail already
     */
    public static void levels(Workpiece piece) {
        Tidying.change(piece, "Levels of detail", tidying -> {
            SdfPath root = Proxy.rootFor(tidying);
            PrimSpec spec = piece.layer().prim(root).orElseThrow();
            if (spec.variantSets().containsKey(DetailLevels.SET)) {
                throw new PrepException(piece.source(), "has levels of detail already");
            }
            tidying.edits().replace(root, copy -> {
                DetailLevels.write(copy);
                return copy;
            });
        });
    }

    /**
     * Writes shapes for collision, in the place of those that are there.
     *
     * @param hulls 1 for one hull around all; more for hulls around parts of it, as many as help
     */
    public static int collision(Workpiece piece, CollisionShape shape, int hulls, Progress progress) {
        Model model = piece.model();
        List<Mesh> shapes = hulls > 1
                ? hulls(model, hulls, progress)
                : shape.around(model).stream().toList();
        Tidying.change(piece, "Collision by " + DisplayText.count(shapes.size(), "shape"), tidying -> {
            SdfPath root = Proxy.rootFor(tidying);
            Subject subject = new Subject(piece, Progress.NONE);
            InspectedPrim top = subject.item(root).orElseThrow();
            top.children().stream()
                    .filter(item -> item.own() && item.prim().apiSchemas().contains("PhysicsCollisionAPI"))
                    .forEach(item -> tidying.remove(item.path()));
            for (Mesh mesh : shapes) {
                String name = tidying.freeBelow(root, CollisionShape.PRIM, "");
                tidying.edits()
                        .add(
                                root,
                                CollisionShape.prim(
                                        name, mesh.transformed(top.world().inverse())));
            }
        });
        return shapes.size();
    }

    /** Hulls around the parts of a surface into which the best boxes would divide it. */
    private static List<Mesh> hulls(Model model, int count, Progress progress) {
        double[] triangles = WorldPoints.triangles(model);
        if (triangles.length == 0) {
            throw new PrepException(model.name() + " shows nothing that could touch anything");
        }
        List<Mesh> hulls = new ArrayList<>();
        for (BoxFit.Box box : BoxFit.of(triangles, count, progress).boxes()) {
            double[] points = BoxFit.pointsWithin(triangles, box);
            hulls.add(ConvexHull.of(points).orElseGet(() -> {
                var bounds = BoxFit.bounds(points);
                return Shapes.box(bounds.min(), bounds.max());
            }));
        }
        return hulls;
    }
}
