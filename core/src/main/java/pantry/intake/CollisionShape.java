package pantry.intake;

import java.util.Arrays;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.mesh.ConvexHull;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.usd.PrimSpec;
import pantry.usd.Specifier;
import pantry.usd.Value;

/** The simple shape by which an asset touches others, as guide geometry with UsdPhysics. */
public enum CollisionShape {
    NONE,
    BOX,
    HULL;

    /** The usual name of the prim. */
    public static final String PRIM = "Collision";

    /** Points beyond these change a hull by less than anybody sees. */
    private static final int MOST_POINTS = 200_000;

    /** The shape as a mesh; empty where there is to be none. A hull of flat things is a box. */
    public Optional<Mesh> around(Model model) {
        Box3 box = model.bounds();
        if (this == NONE || box.isEmpty()) {
            return Optional.empty();
        }
        Mesh block = Shapes.box(box.min(), box.max());
        return Optional.of(this == BOX ? block : ConvexHull.of(points(model)).orElse(block));
    }

    private static double[] points(Model model) {
        long[] total = {0};
        model.visit((owner, part, world) -> total[0] += part.mesh().pointCount());
        int every = (int) Math.max(1, total[0] / MOST_POINTS);
        double[] points = new double[3 * (int) (total[0] / every + 1)];
        int[] at = {0, 0};
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            for (int i = 0; i < mesh.pointCount(); i++) {
                if (at[1]++ % every == 0 && at[0] + 3 <= points.length) {
                    var p = world.point(mesh.point(i));
                    points[at[0]++] = p.x();
                    points[at[0]++] = p.y();
                    points[at[0]++] = p.z();
                }
            }
        });
        return Arrays.copyOf(points, at[0]);
    }

    /** Adds the shape below an asset's root prim; nothing where there is to be none. */
    void write(PrimSpec root, Model model) {
        around(model).ifPresent(mesh -> root.add(prim(PRIM, mesh)));
    }

    /** A convex mesh as guide geometry that others touch. */
    public static PrimSpec prim(String name, Mesh mesh) {
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Mesh", name);
        prim.set("token", "purpose", new Value.Token("guide")).setUniform(true);
        prim.set("int[]", "faceVertexCounts", new Value.Ints(mesh.faceSizes(), 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(mesh.corners(), 1));
        prim.set("point3f[]", "points", new Value.Floats(mesh.points(), 3));
        prim.set("token", "subdivisionScheme", new Value.Token("none")).setUniform(true);
        prim.setApiSchemas("PhysicsCollisionAPI", "PhysicsMeshCollisionAPI");
        prim.set("token", "physics:approximation", new Value.Token("convexHull"))
                .setUniform(true);
        return prim;
    }
}
