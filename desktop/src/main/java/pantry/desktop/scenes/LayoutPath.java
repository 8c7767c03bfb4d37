package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.List;
import pantry.base.math.Vec3;
import pantry.scene.Layout;

/** The points of a path that things are laid out along, in the layout's space, metres. */
final class LayoutPath {
    /** Metres. */
    private static final double SAME = 1e-6;

    private final List<Vec3> points = new ArrayList<>();

    /** Where the object stands that is laid out. */
    private Vec3 from = Vec3.ZERO;

    /** Whether it begins where the object stands, rather than somewhere else, as along an edge. */
    private boolean tied = true;

    /** Begins a path where the object stands, so that each point is where it is clicked. */
    void begin(Vec3 start) {
        points.clear();
        points.add(start);
        from = start;
        tied = true;
    }

    /** Takes over points that lie elsewhere than the object. */
    void take(List<Vec3> line, Vec3 start) {
        points.clear();
        points.addAll(line);
        from = start;
        tied = false;
    }

    /**
     * Shows the path of what was laid out, which may be told in another space since then: of a path, only what lies
     * between its points and the object counts.
     *
     * @param start where the object stands in the layout's space now
     */
    void show(Layout.Along along, Vec3 start) {
        Vec3 shift = start.minus(along.from());
        points.clear();
        along.points().forEach(point -> points.add(point.plus(shift)));
        from = start;
        tied = along.from().equals(along.points().getFirst());
    }

    /** Forgets the path unless the object that is laid out stands where it is drawn from. */
    void keepFrom(Vec3 start) {
        if (start.minus(from).length() > SAME) {
            points.clear();
        }
    }

    void add(Vec3 at) {
        points.add(at);
    }

    /** Whether a point can be moved and taken away; where it begins at the object, the first cannot. */
    boolean isFree(int number) {
        return number > 0 || !tied;
    }

    private boolean isClosed() {
        return points.size() > 2 && points.getFirst().equals(points.getLast());
    }

    /** Moves a point; where the path ends at its first point, it stays closed. */
    void move(int number, Vec3 at) {
        boolean end = isClosed() && (number == 0 || number == points.size() - 1);
        points.set(number, at);
        if (end) {
            points.set(0, at);
            points.set(points.size() - 1, at);
        }
    }

    void insert(int after, Vec3 at) {
        points.add(after + 1, at);
    }

    /** Takes a point away; two at least are left. */
    void remove(int number) {
        if (points.size() > 2) {
            points.remove(number);
        }
    }

    List<Vec3> points() {
        return List.copyOf(points);
    }

    boolean isLine() {
        return points.size() > 1;
    }

    double length() {
        double length = 0;
        for (int i = 1; i < points.size(); i++) {
            length += points.get(i).minus(points.get(i - 1)).length();
        }
        return length;
    }

    Layout.Along layout(int count, boolean smooth) {
        return new Layout.Along(points, count, true, smooth, from);
    }
}
