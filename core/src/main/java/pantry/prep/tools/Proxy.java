package pantry.prep.tools;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.usd.UsdModelWriter;
import pantry.mesh.ConvexHull;
import pantry.mesh.Merging;
import pantry.mesh.Mesh;
import pantry.mesh.MeshBuilder;
import pantry.mesh.Simplification;
import pantry.mesh.Welding;
import pantry.model.Model;
import pantry.model.WorldPoints;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.workpiece.DisplayText;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.PrepException;
import pantry.workpiece.Subject;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * A stand-in for something heavy: shown while working, while the original is rendered. Its base plane and the middle of
 * its plan are the original's.
 *
 * @param mesh in metres, Y up
 * @param made what it is made of
 * @param boxes how many, where it is made of boxes
 * @param overlap how well its outline overlaps the original's, by direction: 0 to 1
 * @param tried the mean overlap of each way in which boxes were fitted, measured coarsely; of them this is the best
 */
public record Proxy(Mesh mesh, Made made, int boxes, Map<String, Double> overlap, Map<String, Double> tried) {
    /** What a proxy is made of. */
    public enum Made {
        /** Boxes that fill the original's outlines. */
        BOXES("boxes"),
        /** The original's surface with fewer triangles. */
        SURFACE("the simplified surface"),
        /** The original's surface, joined where it lies close; parts may be lost. */
        COARSE("a coarse surface"),
        /** The convex hull. */
        HULL("the hull");

        private final String words;

        Made(String words) {
            this.words = words;
        }

        /**
         * For a person.
         *
         * @param boxes how many, where it is made of these
         */
        public String words(int boxes) {
            return this != BOXES ? words : boxes == 1 ? "one box" : boxes + " " + words;
        }
    }

    /** A box as triangles, and as faces of four corners. */
    private static final int BOX_TRIANGLES = 12;

    private static final int BOX_FACES = 6;

    /** What is simplified may be this much smaller than the original on an axis; it is made as large as that again. */
    private static final double MOST_SHRUNK = 0.8;

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
        BoxFit.Fit fit = BoxFit.of(triangles, count, progress);
        List<BoxFit.Box> boxes = fit.boxes();
        List<Vec3> corners = new ArrayList<>();
        boxes.forEach(box -> corners.addAll(List.of(box.corners())));
        Vec3 move = toBase(bounds(corners), BoxFit.bounds(triangles));
        MeshBuilder builder = new MeshBuilder();
        boxes.forEach(box -> addBox(builder, box.moved(move).corners()));
        return measured(builder.build(), Made.BOXES, boxes.size(), triangles).trying(fit.tried());
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

    /**
     * A proxy of at most so many triangles: the simplified surface; where that needs more, the best of a coarse surface,
     * boxes and the hull.
     *
     * @param triangles at least 12
     * @throws PrepException where the model shows nothing, or fewer are asked for
     */
    public static Proxy simplified(Model model, int triangles, Progress progress) {
        if (triangles < BOX_TRIANGLES) {
            throw new PrepException("a proxy has at least " + BOX_TRIANGLES + " triangles, not " + triangles);
        }
        Mesh whole = whole(model);
        progress.step("simplifying", 0.2);
        double share = Math.min(1, Math.max(1e-6, (double) triangles / Math.max(1, whole.triangleCount())));
        Mesh surface = Simplification.of(whole, share).mesh();
        if (surface.triangleCount() <= triangles && keepsSize(surface, whole)) {
            return of(surface, Made.SURFACE, model);
        }
        List<Proxy> others = new ArrayList<>();
        Simplification.atMost(whole, triangles)
                .filter(mesh -> keepsSize(mesh, whole))
                .ifPresent(mesh -> others.add(of(mesh, Made.COARSE, model)));
        progress.step("fitting boxes", 0.4);
        int count = Math.min(MOST_BOXES, triangles / BOX_TRIANGLES);
        Mesh boxes = boxes(model, count, progress.part(0.4, 0.9)).mesh();
        others.add(of(boxes, Made.BOXES, model));
        ConvexHull.of(points(whole))
                .filter(hull -> hull.triangleCount() <= triangles)
                .ifPresent(hull -> others.add(of(hull, Made.HULL, model)));
        return others.stream().max(Comparator.comparingDouble(Proxy::mean)).orElseThrow();
    }

    private static double[] points(Mesh mesh) {
        double[] points = new double[mesh.points().length];
        Arrays.setAll(points, i -> mesh.points()[i]);
        return points;
    }

    /** Whether a simplified surface is about as large as the original on each axis. */
    private static boolean keepsSize(Mesh mesh, Mesh original) {
        Vec3 size = mesh.bounds().size();
        Vec3 wanted = original.bounds().size();
        for (int axis = 0; axis < 3; axis++) {
            if (wanted.get(axis) > 0 && size.get(axis) < MOST_SHRUNK * wanted.get(axis)) {
                return false;
            }
        }
        return true;
    }

    /** As large as the original on each axis, and where it stands. */
    private static Mesh fitted(Mesh mesh, Box3 original) {
        Box3 box = mesh.bounds();
        Vec3 by = new Vec3(ratio(original, box, 0), ratio(original, box, 1), ratio(original, box, 2));
        return mesh.transformed(Matrix4.translation(box.centre().times(-1))
                .times(Matrix4.scale(by))
                .times(Matrix4.translation(original.centre())));
    }

    private static double ratio(Box3 wanted, Box3 box, int axis) {
        double size = box.size().get(axis);
        return size > 0 ? wanted.size().get(axis) / size : 1;
    }

    /** A proxy whose surface is at most so far from the original's, as meshoptimizer estimates it. */
    public static Proxy within(Model model, double metres, Progress progress) {
        Mesh whole = whole(model);
        progress.step("simplifying", 0.3);
        return of(Simplification.within(whole, 1e-6, metres).mesh(), Made.SURFACE, model);
    }

    private static Proxy of(Mesh mesh, Made made, Model model) {
        double[] triangles = triangles(model);
        int boxes = made == Made.BOXES ? mesh.faceCount() / BOX_FACES : 0;
        return measured(fitted(mesh, BoxFit.bounds(triangles)), made, boxes, triangles);
    }

    /** All that is drawn as one surface: places only, so that seams of texture do not matter. */
    private static Mesh whole(Model model) {
        List<Mesh> meshes = new ArrayList<>();
        model.visit((owner, part, world) -> {
            Mesh mesh = part.mesh();
            meshes.add(new Mesh(mesh.points(), mesh.faceSizes(), mesh.corners(), null, null)
                    .withLeftHanded(mesh.leftHanded())
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
        double[] triangles = WorldPoints.triangles(model);
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

    private static Proxy measured(Mesh mesh, Made made, int boxes, double[] triangles) {
        Silhouettes original =
                Silhouettes.around(BoxFit.bounds(triangles), PIXELS).withTriangles(triangles);
        double[] overlap = original.overlap(original.withTriangles(WorldPoints.triangles(mesh)));
        Map<String, Double> byDirection = new LinkedHashMap<>();
        for (int i = 0; i < overlap.length; i++) {
            byDirection.put(Silhouettes.DIRECTIONS.get(i).name(), overlap[i]);
        }
        return new Proxy(mesh, made, boxes, byDirection, Map.of());
    }

    private Proxy trying(Map<String, Double> ways) {
        return new Proxy(mesh, made, boxes, overlap, ways);
    }

    /** Writes it into a workpiece, in the place of one that is there. */
    public static void write(Workpiece piece, Proxy proxy) {
        Tidying.change(
                piece,
                "Proxy of " + DisplayText.count(proxy.mesh().triangleCount(), "triangle"),
                tidying -> write(tidying, proxy));
    }

    public static void write(Tidying tidying, Proxy proxy) {
        SdfPath root = rootFor(tidying);
        Subject subject = new Subject(tidying.piece(), Progress.NONE);
        InspectedPrim top = subject.item(root).orElseThrow();
        for (InspectedPrim item : subject.items().toList()) {
            boolean topmost = item.parent() == null || !item.parent().purpose().equals("proxy");
            if (item.purpose().equals("proxy") && topmost && item.own()) {
                tidying.remove(item.path());
            }
        }
        for (InspectedPrim item : Pivots.carried(top)) {
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
        InspectedPrim top = subject.top()
                .orElseThrow(() -> new PrepException(tidying.piece().source(), "has no object at the top"));
        if (top.mesh().isEmpty()) {
            return top.path();
        }
        Pivots.group(tidying, Names.identifier(top.name()));
        return SdfPath.ROOT.child(tidying.at(top.path()).names().getFirst());
    }
}
