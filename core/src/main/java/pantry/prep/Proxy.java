package pantry.prep;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.Model;
import pantry.exchange.UsdModelWriter;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Simplification;
import pantry.mesh.Welding;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;

/**
 * A stand-in for something heavy: shown while working, while the original is rendered. Its base plane and the middle of
 * its plan are the original's.
 *
 * @param mesh in metres, Y up
 * @param overlap how well its outline overlaps the original's, by direction: 0 to 1
 */
public record Proxy(Mesh mesh, int boxes, Map<String, Double> overlap) {
    /** The prim below the root that holds it. */
    public static final String NAME = "Proxy";

    /** The most boxes that one is made of. */
    public static final int MOST_BOXES = 12;

    private static final int PIXELS = 512;

    /** The mean of the overlaps. */
    public double mean() {
        return overlap.values().stream()
                .mapToDouble(Double::doubleValue)
                .average()
                .orElse(1);
    }

    /**
     * A proxy of some boxes.
     *
     * @param model in metres, Y up
     * @param count 1 to {@value #MOST_BOXES}
     * @throws PrepException where the model shows nothing
     */
    public static Proxy boxes(Model model, int count, Progress progress) {
        if (count < 1 || count > MOST_BOXES) {
            throw new PrepException("a proxy has 1 to " + MOST_BOXES + " boxes, not " + count);
        }
        double[] triangles = triangles(model);
        List<BoxFit.Box> boxes = BoxFit.of(triangles, count, progress);
        List<Vec3> corners = new ArrayList<>();
        boxes.forEach(box -> corners.addAll(List.of(box.corners())));
        Vec3 move = toBase(bounds(corners), BoxFit.bounds(triangles));
        MeshBuilder builder = new MeshBuilder();
        boxes.forEach(box -> addBox(builder, box.moved(move).corners()));
        return measured(builder.build(), boxes.size(), triangles);
    }

    private static void addBox(MeshBuilder builder, Vec3[] corners) {
        int[] p = new int[8];
        for (int i = 0; i < 8; i++) {
            p[i] = builder.point(corners[i]);
        }
        Vec3 x = corners[1].minus(corners[0]);
        Vec3 y = corners[2].minus(corners[0]);
        boolean right = x.cross(y).dot(corners[4].minus(corners[0])) > 0;
        int[][] faces = {{0, 4, 6, 2}, {1, 3, 7, 5}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 2, 3, 1}, {4, 5, 7, 6}};
        for (int[] f : faces) {
            if (right) {
                builder.face(p[f[0]], p[f[1]], p[f[2]], p[f[3]]);
            } else {
                builder.face(p[f[3]], p[f[2]], p[f[1]], p[f[0]]);
            }
        }
    }

    /** A proxy of at most so many triangles. */
    public static Proxy simplified(Model model, int triangles, Progress progress) {
        Mesh whole = whole(model);
        progress.step("simplifying", 0.3);
        double share = Math.min(1, Math.max(1e-6, (double) triangles / Math.max(1, whole.triangleCount())));
        return of(Simplification.of(whole, share).mesh(), model);
    }

    /** A proxy whose surface is at most so far from the original's, as meshoptimizer estimates it. */
    public static Proxy within(Model model, double metres, Progress progress) {
        Mesh whole = whole(model);
        progress.step("simplifying", 0.3);
        return of(Simplification.within(whole, 1e-6, metres).mesh(), model);
    }

    private static Proxy of(Mesh mesh, Model model) {
        double[] triangles = triangles(model);
        Vec3 move = toBase(mesh.bounds(), BoxFit.bounds(triangles));
        return measured(mesh.transformed(Matrix4.translation(move)), 0, triangles);
    }

    /** All that is drawn as one surface: places only, so that seams of texture do not matter. */
    private static Mesh whole(Model model) {
        List<Mesh> meshes = new ArrayList<>();
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            meshes.add(
                    new Mesh(mesh.points(), mesh.faceSizes(), mesh.corners(), null, null, mesh.leftHanded(), Map.of())
                            .transformed(world));
        });
        if (meshes.isEmpty()) {
            throw nothing(model);
        }
        return Welding.exact(Merging.of(meshes));
    }

    private static PrepException nothing(Model model) {
        return new PrepException(model.name() + " shows nothing that a proxy could stand in for");
    }

    private static double[] triangles(Model model) {
        double[] triangles = Check.triangles(model);
        if (triangles.length == 0) {
            throw nothing(model);
        }
        return triangles;
    }

    private static Box3 bounds(List<Vec3> points) {
        Box3 box = Box3.EMPTY;
        for (Vec3 point : points) {
            box = box.including(point);
        }
        return box;
    }

    private static Vec3 toBase(Box3 from, Box3 to) {
        return Instances.base(to).minus(Instances.base(from));
    }

    private static Proxy measured(Mesh mesh, int boxes, double[] triangles) {
        Outline original = Outline.around(BoxFit.bounds(triangles), PIXELS).withTriangles(triangles);
        double[] overlap = original.overlap(original.withTriangles(Check.triangles(mesh)));
        Map<String, Double> byDirection = new LinkedHashMap<>();
        for (int i = 0; i < overlap.length; i++) {
            byDirection.put(Outline.DIRECTIONS.get(i).name(), overlap[i]);
        }
        return new Proxy(mesh, boxes, byDirection);
    }

    /** Writes it into a workpiece, in the place of one that is there. */
    public static void write(Workpiece piece, Proxy proxy) {
        piece.change(
                "Proxy of " + Words.count(proxy.mesh().triangleCount(), "triangle"), tidying -> write(tidying, proxy));
    }

    static void write(Tidying tidying, Proxy proxy) {
        SdfPath root = rootFor(tidying);
        Subject subject = new Subject(tidying.piece(), Progress.NONE);
        Item top = subject.item(root).orElseThrow();
        for (Item item : subject.items().toList()) {
            boolean topmost = item.parent() == null || !item.parent().purpose().equals("proxy");
            if (item.purpose().equals("proxy") && topmost && item.own()) {
                tidying.remove(item.path());
            }
        }
        for (Item item : Pivots.carried(top)) {
            if (item.purpose().equals("default")) {
                tidying.edits().change(item.path(), prim -> prim.set("token", "purpose", new Value.Token("render"))
                        .setUniform(true));
            }
        }
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Mesh", tidying.freeBelow(root, NAME, ""));
        UsdModelWriter.writeSurface(prim, proxy.mesh().transformed(top.world().inverse()));
        prim.set("token", "purpose", new Value.Token("proxy")).setUniform(true);
        tidying.edits().add(root, prim);
    }

    /** The root to put something below: a mesh that stands alone is given one. */
    static SdfPath rootFor(Tidying tidying) {
        Subject subject = new Subject(tidying.piece(), Progress.NONE);
        Item top = subject.top()
                .orElseThrow(() -> new PrepException(tidying.piece().source(), "has no object at the top"));
        if (top.mesh().isEmpty()) {
            return top.path();
        }
        Pivots.group(tidying, Names.identifier(top.name()));
        return SdfPath.ROOT.child(tidying.at(top.path()).names().getFirst());
    }
}
