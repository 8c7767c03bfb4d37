package pantry.prep.tools;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.usd.SdfPath;
import pantry.usd.schema.Values;
import pantry.workpiece.InspectedPrim;
import pantry.workpiece.Subject;
import pantry.workpiece.Workpiece;

/** What is in a workpiece, to be listed and drawn: a picture of one moment, which does not change. */
public final class WorkpieceContents {
    /**
     * One thing.
     *
     * @param kind in a word: group, mesh, instance, light
     * @param triangles of its own surface; of an instance, those of the shape
     * @param box around it and all below it, metres
     * @param pivot where it is held, metres
     * @param alike how many share its shape, itself included; 1 where it is its own
     * @param shape the shared shape; empty where it is its own
     */
    public record Thing(
            SdfPath path,
            String title,
            String kind,
            boolean seen,
            long triangles,
            Box3 box,
            Vec3 pivot,
            int alike,
            Optional<SdfPath> shape,
            List<Thing> below) {
        public Thing {
            below = List.copyOf(below);
        }
    }

    private final Subject subject;
    private final List<Thing> tops;
    private final Map<SdfPath, Thing> byPath = new HashMap<>();

    private WorkpieceContents(Subject subject) {
        this.subject = subject;
        Map<SdfPath, Integer> shared = new HashMap<>();
        subject.items().forEach(item -> Instances.shape(item).ifPresent(shape -> shared.merge(shape, 1, Integer::sum)));
        this.tops = subject.roots().stream().map(item -> thing(item, shared)).toList();
    }

    /** As a workpiece is now. */
    public static WorkpieceContents of(Workpiece piece) {
        return new WorkpieceContents(new Subject(piece, Progress.NONE));
    }

    private Thing thing(InspectedPrim item, Map<SdfPath, Integer> shared) {
        Optional<SdfPath> shape = Instances.shape(item);
        List<Thing> below = new ArrayList<>();
        for (InspectedPrim child : item.children()) {
            if (!List.of("Shader", "GeomSubset").contains(child.prim().typeName())) {
                below.add(thing(child, shared));
            }
        }
        long triangles = shape.flatMap(subject::item)
                .map(definition -> definition
                        .below()
                        .flatMap(each -> each.mesh().stream())
                        .mapToLong(Mesh::triangleCount)
                        .sum())
                .orElseGet(() ->
                        item.mesh().map(mesh -> (long) mesh.triangleCount()).orElse(0L));
        Thing thing = new Thing(
                item.path(),
                item.title(),
                item.prim().isAbstract() ? "definition" : Renaming.kind(item),
                item.seen(),
                triangles,
                item.bounds(),
                item.pivot(),
                shape.map(path -> shared.getOrDefault(path, 1)).orElse(1),
                shape,
                below);
        byPath.put(item.path(), thing);
        return thing;
    }

    /** The things at the top, in the order of the file. */
    public List<Thing> tops() {
        return tops;
    }

    public Optional<Thing> find(SdfPath path) {
        return Optional.ofNullable(byPath.get(path));
    }

    /** All instances of the shape that a thing shares; none where its shape is its own. */
    public List<SdfPath> like(SdfPath path) {
        Optional<SdfPath> shape = find(path).flatMap(Thing::shape);
        return shape.isEmpty()
                ? List.of()
                : byPath.values().stream()
                        .filter(thing -> thing.shape().equals(shape))
                        .map(Thing::path)
                        .sorted()
                        .toList();
    }

    /** Everything that shares its shape with something else. */
    public List<SdfPath> shared() {
        return byPath.values().stream()
                .filter(thing -> thing.alike() > 1)
                .map(Thing::path)
                .sorted()
                .toList();
    }

    /**
     * The edges of a thing and of what is below it, hidden or not, to be drawn as lines.
     *
     * @param most edges; of more, some are left out evenly
     * @return two ends, each x, y and z in metres, for each edge
     */
    public List<Vec3> edges(SdfPath path, int most) {
        List<Vec3> ends = new ArrayList<>();
        subject.item(path).ifPresent(top -> top.below().forEach(item -> {
            item.mesh().ifPresent(mesh -> edges(mesh, item, ends));
            curves(item, ends);
        }));
        int edges = ends.size() / 2;
        if (edges <= most) {
            return ends;
        }
        List<Vec3> some = new ArrayList<>();
        for (int i = 0; i < most; i++) {
            int edge = (int) ((long) i * edges / most);
            some.add(ends.get(2 * edge));
            some.add(ends.get(2 * edge + 1));
        }
        return some;
    }

    private static void edges(Mesh mesh, InspectedPrim item, List<Vec3> ends) {
        int start = 0;
        for (int size : mesh.faceSizes()) {
            for (int i = 0; i < size; i++) {
                int from = mesh.corners()[start + i];
                int to = mesh.corners()[start + (i + 1) % size];
                // Each edge between two faces once.
                if (from < to || size < 4) {
                    ends.add(item.world().point(mesh.point(from)));
                    ends.add(item.world().point(mesh.point(to)));
                }
            }
            start += size;
        }
    }

    private static void curves(InspectedPrim item, List<Vec3> ends) {
        int[] counts = Values.ints(item.prim(), "curveVertexCounts");
        float[] points = Values.floats(item.prim(), "points", 3);
        if (counts == null || points == null) {
            return;
        }
        int at = 0;
        for (int count : counts) {
            for (int i = 1; i < count && 3 * (at + i) + 2 < points.length; i++) {
                ends.add(item.world().point(point(points, at + i - 1)));
                ends.add(item.world().point(point(points, at + i)));
            }
            at += Math.max(0, count);
        }
    }

    private static Vec3 point(float[] points, int i) {
        return new Vec3(points[3 * i], points[3 * i + 1], points[3 * i + 2]);
    }
}
