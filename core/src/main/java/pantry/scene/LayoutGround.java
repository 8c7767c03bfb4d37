package pantry.scene;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.DoubleStream;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Heights;
import pantry.mesh.Mesh;
import pantry.mesh.Triangulation;
import pantry.model.Model;
import pantry.usd.SdfPath;

/** What uses of a layout stand on and lie on, in a scene as it is drawn: metres, Y up. */
public final class LayoutGround {
    private final Model model;
    private final Predicate<SdfPath> own;

    /** @param own tells by its path whether an object is laid out itself, so that nothing stands on it */
    public LayoutGround(Model model, Predicate<SdfPath> own) {
        this.model = model;
        this.own = own;
    }

    /**
     * The triangles of an object.
     *
     * @param into from the world to the space in which they are told
     * @return nine coordinates each
     */
    public double[] triangles(SdfPath of, Matrix4 into) {
        DoubleStream.Builder all = DoubleStream.builder();
        model.visit((owner, part, world) -> {
            SdfPath path = SdfPath.of(owner.path());
            if (path.startsWith(of) && !own.test(path)) {
                Mesh mesh = part.mesh();
                Matrix4 place = world.times(into);
                for (int corner : Triangulation.corners(mesh)) {
                    Vec3 p = place.point(mesh.point(mesh.corners()[corner]));
                    all.add(p.x()).add(p.y()).add(p.z());
                }
            }
        });
        return all.build().toArray();
    }

    /**
     * The heights on which things stand at points: the highest surface there, or the highest under the ceiling that one
     * point is under; the floor at height 0 where there is nothing.
     *
     * @param under the point that tells whether they are under a ceiling
     * @param points whose x and z count
     */
    public double[] heights(Vec3 under, List<Vec3> points) {
        Heights over = new Heights(List.of(under));
        look(over);
        double level = Double.isFinite(over.ceiling(0)) ? Math.nextDown(over.ceiling(0)) : Double.MAX_VALUE;
        return below(points.stream()
                .map(point -> new Vec3(point.x(), level, point.z()))
                .toList());
    }

    /** The heights of the highest surfaces that are not above points; that of the floor where there is nothing. */
    double[] below(List<Vec3> points) {
        Heights heights = new Heights(points);
        look(heights);
        double[] found = new double[points.size()];
        for (int i = 0; i < found.length; i++) {
            found[i] = Double.isFinite(heights.below(i)) ? heights.below(i) : 0;
        }
        return found;
    }

    private void look(Heights heights) {
        Map<String, Boolean> known = new HashMap<>();
        model.visit((owner, part, world) -> {
            if (!known.computeIfAbsent(owner.path(), path -> own.test(SdfPath.of(path)))) {
                heights.add(part.mesh(), world);
            }
        });
    }
}
