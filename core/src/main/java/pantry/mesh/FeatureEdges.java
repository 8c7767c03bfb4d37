package pantry.mesh;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.math.Vec3;

/**
 * The edges at which a surface ends, or bends by more than 30°, and the lines that they make: a line goes on from edge to edge
 * where it turns least, and ends where it would turn by more than 60° or comes back to its beginning.
 */
public final class FeatureEdges {
    private static final double BENT = Math.cos(Math.toRadians(30));
    private static final double ONWARDS = Math.cos(Math.toRadians(60)) - 1e-6;

    private final Mesh mesh;
    private final Map<Integer, List<Integer>> beyond = new HashMap<>();

    private record Edge(int from, int to) {}

    /**
     * A line of edges.
     *
     * @param points its corners; the first once more at the end where it is closed
     * @param distance from the point that it was looked for at
     */
    public record Line(List<Vec3> points, double distance) {}

    public FeatureEdges(Mesh mesh) {
        this.mesh = mesh;
        Vec3[] normals = new Vec3[mesh.faceCount()];
        int corner = 0;
        for (int f = 0; f < normals.length; f++) {
            normals[f] = normal(corner, mesh.faceSizes()[f]);
            corner += mesh.faceSizes()[f];
        }
        EdgeTable edges = new EdgeTable(mesh, Welding.firstAtPlace(mesh.points()));
        edges.forEach((low, high, from, to) -> {
            boolean smooth = to - from == 2 && normals[edges.face(from)].dot(normals[edges.face(from + 1)]) >= BENT;
            if (!smooth) {
                beyond.computeIfAbsent(low, key -> new ArrayList<>()).add(high);
                beyond.computeIfAbsent(high, key -> new ArrayList<>()).add(low);
            }
        });
    }

    /** An edge between two neighbouring points. */
    public record Segment(Vec3 from, Vec3 to) {}

    /** All edges, each once. */
    public List<Segment> edges() {
        List<Segment> edges = new ArrayList<>();
        beyond.forEach((low, others) -> others.stream()
                .filter(high -> low < high)
                .forEach(high -> edges.add(new Segment(mesh.point(low), mesh.point(high)))));
        return edges;
    }

    /** The points at which edges end, meet more than one other, or bend by more than 30°. */
    public List<Vec3> corners() {
        return beyond.entrySet().stream()
                .filter(entry -> isCorner(entry.getKey(), entry.getValue()))
                .map(entry -> mesh.point(entry.getKey()))
                .toList();
    }

    private boolean isCorner(int at, List<Integer> others) {
        if (others.size() != 2) {
            return true;
        }
        Vec3 before = mesh.point(at).minus(mesh.point(others.getFirst())).unit();
        Vec3 after = mesh.point(others.getLast()).minus(mesh.point(at)).unit();
        return before.dot(after) < BENT;
    }

    /** By the areas that a face's shadows have (M. E. Newell's method). */
    private Vec3 normal(int first, int size) {
        Vec3 sum = Vec3.ZERO;
        for (int i = 0; i < size; i++) {
            Vec3 a = mesh.point(mesh.corners()[first + i]);
            Vec3 b = mesh.point(mesh.corners()[first + (i + 1) % size]);
            sum = sum.plus(a.cross(b));
        }
        return sum.length() == 0 ? Vec3.ZERO : sum.unit();
    }

    /** The line whose nearest edge is nearest to a point; empty where the surface has no such edge. */
    public Optional<Line> nearest(Vec3 point) {
        Edge best = null;
        double least = Double.POSITIVE_INFINITY;
        for (Map.Entry<Integer, List<Integer>> entry : beyond.entrySet()) {
            for (int other : entry.getValue()) {
                double distance = entry.getKey() < other
                        ? distance(point, mesh.point(entry.getKey()), mesh.point(other))
                        : Double.POSITIVE_INFINITY;
                if (distance < least) {
                    least = distance;
                    best = new Edge(entry.getKey(), other);
                }
            }
        }
        return best == null ? Optional.empty() : Optional.of(new Line(line(best), least));
    }

    private static double distance(Vec3 point, Vec3 a, Vec3 b) {
        Vec3 along = b.minus(a);
        double part = Math.clamp(point.minus(a).dot(along) / Math.max(along.dot(along), 1e-300), 0, 1);
        return point.minus(a.plus(along.times(part))).length();
    }

    private List<Vec3> line(Edge edge) {
        Deque<Integer> line = new ArrayDeque<>(List.of(edge.from, edge.to));
        Set<Integer> passed = new HashSet<>(line);
        boolean closed = follow(edge.from, edge.to, line, passed, true);
        if (!closed) {
            follow(edge.to, edge.from, line, passed, false);
        }
        List<Vec3> points = new ArrayList<>();
        for (int at : line) {
            add(points, mesh.point(at));
        }
        if (closed) {
            add(points, mesh.point(line.getFirst()));
        }
        return points;
    }

    /** Leaves out points between that lie straight on the way. */
    private static void add(List<Vec3> points, Vec3 next) {
        int n = points.size();
        if (n > 1) {
            Vec3 before = points.get(n - 1).minus(points.get(n - 2));
            Vec3 after = next.minus(points.get(n - 1));
            if (before.cross(after).length() <= 1e-6 * before.length() * after.length()) {
                points.removeLast();
            }
        }
        points.add(next);
    }

    /** Goes on as long as there is a way that does not turn much; tells whether it came back to the beginning. */
    private boolean follow(int from, int to, Deque<Integer> line, Set<Integer> passed, boolean atEnd) {
        int before = from;
        int at = to;
        while (true) {
            Vec3 heading = mesh.point(at).minus(mesh.point(before)).unit();
            int next = -1;
            double straightest = ONWARDS;
            for (int other : beyond.get(at)) {
                double straight = other == before
                        ? -1
                        : mesh.point(other).minus(mesh.point(at)).unit().dot(heading);
                if (straight >= straightest) {
                    straightest = straight;
                    next = other;
                }
            }
            if (next < 0) {
                return false;
            }
            if (!passed.add(next)) {
                return next == (atEnd ? line.getFirst() : line.getLast());
            }
            if (atEnd) {
                line.addLast(next);
            } else {
                line.addFirst(next);
            }
            before = at;
            at = next;
        }
    }
}
