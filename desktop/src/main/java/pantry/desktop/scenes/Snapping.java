package pantry.desktop.scenes;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.mesh.FeatureEdges;
import pantry.render.PlanEdges;
import pantry.render.RenderScene;

/**
 * What something that is slid over the floor comes to lie flush with: the sides of its box with the sides of those nearby,
 * its pivot with theirs, along x and z each for itself; and its corners and edges with theirs, whichever way they are
 * turned.
 *
 * @param shift that brings it there, metres; nothing where nothing is near enough
 * @param guides the lines along which things lie flush then, two ends each, in the world
 */
record Snapping(Vec3 shift, List<Vec3> guides) {
    static final Snapping NONE = new Snapping(Vec3.ZERO, List.of());

    /** Things further away than this, or than twice its size, are none that anything is laid flush with. */
    private static final double NEAR = 2;

    /** Half the length of the lines at a corner, metres. */
    private static final double CROSS = 0.25;

    /** Of so many of those nearby the edges are looked at, the nearest first. */
    private static final int MOST_BY_EDGES = 40;

    /** One way to lie flush along an axis. */
    private record Match(double by, double at, RenderScene.Standing with) {}

    /**
     * Looks for the least shifts.
     *
     * @param slid where it would stand
     * @param reach how far it is moved to lie flush at most, metres
     */
    static Snapping of(RenderScene.Standing slid, List<RenderScene.Standing> others, double reach) {
        if (slid.box().isEmpty()) {
            return NONE;
        }
        Vec3 shift = Vec3.ZERO;
        List<Vec3> guides = new ArrayList<>();
        for (int axis = 0; axis <= 2; axis += 2) {
            Match best = null;
            for (RenderScene.Standing other : others) {
                Match match = isNear(slid.box(), other.box()) ? match(slid, other, axis) : null;
                if (match != null
                        && Math.abs(match.by()) <= reach
                        && (best == null || Math.abs(match.by()) < Math.abs(best.by()))) {
                    best = match;
                }
            }
            if (best != null) {
                shift = shift.plus(along(axis, best.by()));
                guides.addAll(guide(slid.box(), best, axis));
            }
        }
        return new Snapping(shift, guides);
    }

    /** Those that something may lie flush with by its edges, the nearest first. */
    static List<RenderScene.Standing> near(Box3 slid, List<RenderScene.Standing> others) {
        return others.stream()
                .filter(other -> !slid.isEmpty() && isNear(slid, other.box()))
                .sorted(Comparator.comparingDouble(other -> Math.max(0, gap(slid, other.box(), 0))
                        + Math.max(0, gap(slid, other.box(), 1))
                        + Math.max(0, gap(slid, other.box(), 2))))
                .limit(MOST_BY_EDGES)
                .toList();
    }

    /** This, or a meeting of corners and edges: where corners meet, or where it is nearer than sides and pivots are. */
    Snapping or(PlanEdges.Meeting meeting) {
        return switch (meeting) {
            case PlanEdges.Meeting.AtCorner(Vec3 to, Vec3 corner) -> new Snapping(to, cross(corner));
            case PlanEdges.Meeting.AlongEdge(Vec3 to, FeatureEdges.Segment edge) ->
                guides.isEmpty() || to.length() < shift.length() - 1e-6
                        ? new Snapping(to, List.of(edge.from(), edge.to()))
                        : this;
        };
    }

    private static List<Vec3> cross(Vec3 at) {
        return List.of(
                at.minus(along(0, CROSS)),
                at.plus(along(0, CROSS)),
                at.minus(along(2, CROSS)),
                at.plus(along(2, CROSS)));
    }

    private static Vec3 along(int axis, double length) {
        return axis == 0 ? new Vec3(length, 0, 0) : new Vec3(0, 0, length);
    }

    private static boolean isNear(Box3 one, Box3 other) {
        if (other.isEmpty()) {
            return false;
        }
        double most = Math.max(NEAR, 2 * Math.max(one.size().x(), one.size().z()));
        return gap(one, other, 0) <= most && gap(one, other, 2) <= most && gap(one, other, 1) <= most;
    }

    private static double gap(Box3 one, Box3 other, int axis) {
        return Math.max(
                one.min().get(axis) - other.max().get(axis),
                other.min().get(axis) - one.max().get(axis));
    }

    private static Match match(RenderScene.Standing slid, RenderScene.Standing other, int axis) {
        double[] mine = {slid.box().min().get(axis), slid.box().max().get(axis)};
        double[] theirs = {other.box().min().get(axis), other.box().max().get(axis)};
        double pivot = other.pivot().get(axis);
        Match best = new Match(pivot - slid.pivot().get(axis), pivot, other);
        for (double from : mine) {
            for (double to : theirs) {
                if (Math.abs(to - from) < Math.abs(best.by())) {
                    best = new Match(to - from, to, other);
                }
            }
        }
        return best;
    }

    /** From one to the other on the ground, along what lies flush. */
    private static List<Vec3> guide(Box3 slid, Match match, int axis) {
        Box3 other = match.with().box();
        int across = 2 - axis;
        double from = Math.min(slid.min().get(across), other.min().get(across));
        double to = Math.max(slid.max().get(across), other.max().get(across));
        double y = Math.min(slid.min().y(), other.min().y());
        return axis == 0
                ? List.of(new Vec3(match.at(), y, from), new Vec3(match.at(), y, to))
                : List.of(new Vec3(from, y, match.at()), new Vec3(to, y, match.at()));
    }
}
