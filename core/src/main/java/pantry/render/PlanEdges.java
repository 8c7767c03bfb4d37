package pantry.render;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.index.strtree.STRtree;
import pantry.base.math.Vec3;
import pantry.mesh.FeatureEdges;

/**
 * The edges at which the surfaces of an object end or bend, and the corners at which those meet, as they lie in the plan:
 * what one thing is laid against another by. In the world, metres. Of very fine meshes, the edges of their box.
 */
public final class PlanEdges {
    /** Edges further above or below each other are none that meet in the eyes of a person. */
    private static final double LEVEL = 0.5;

    /** Corners nearer to each other than this are one, metres. */
    private static final double SAME = 1e-4;

    private final List<Vec3> corners;
    private final STRtree cornersByPlace = new STRtree();
    private final STRtree edges = new STRtree();

    /** How one object's corner comes to lie on another's corner or edge. */
    public sealed interface Meeting {
        /** Corners before edges, then what is nearer. */
        Comparator<Meeting> BEST_FIRST = Comparator.<Meeting, Boolean>comparing(AlongEdge.class::isInstance)
                .thenComparingDouble(meeting -> meeting.shift().length());

        /** What brings it there, metres; level. */
        Vec3 shift();

        record AtCorner(Vec3 shift, Vec3 corner) implements Meeting {}

        record AlongEdge(Vec3 shift, FeatureEdges.Segment edge) implements Meeting {}
    }

    private PlanEdges(List<Vec3> corners, List<FeatureEdges.Segment> segments) {
        this.corners = corners;
        corners.forEach(corner -> cornersByPlace.insert(around(corner, 0), corner));
        for (FeatureEdges.Segment edge : segments) {
            Envelope extent = around(edge.from(), 0);
            extent.expandToInclude(edge.to().x(), edge.to().z());
            edges.insert(extent, edge);
        }
        cornersByPlace.build();
        edges.build();
    }

    static PlanEdges of(List<DrawInstance> instances) {
        List<Vec3> corners = new ArrayList<>();
        Set<List<Long>> known = new HashSet<>();
        List<FeatureEdges.Segment> segments = new ArrayList<>();
        for (DrawInstance use : instances) {
            FeatureEdges of = use.mesh().edges();
            for (Vec3 corner : of.corners()) {
                Vec3 at = use.world().point(corner);
                // The two ends of an upright edge are one in the plan, but each has its height.
                if (known.add(List.of(key(at.x()), key(at.y()), key(at.z())))) {
                    corners.add(at);
                }
            }
            for (FeatureEdges.Segment edge : of.edges()) {
                segments.add(new FeatureEdges.Segment(
                        use.world().point(edge.from()), use.world().point(edge.to())));
            }
        }
        return new PlanEdges(corners, segments);
    }

    private static long key(double coordinate) {
        return Math.round(coordinate / SAME);
    }

    private static Envelope around(Vec3 point, double reach) {
        return new Envelope(point.x() - reach, point.x() + reach, point.z() - reach, point.z() + reach);
    }

    /**
     * How another object that is slid comes to meet this one: corner to corner where one is in reach, otherwise a corner
     * of one on an edge of the other.
     *
     * @param by how far the other was slid already
     * @param reach how far it is moved to meet at most, metres
     */
    public Optional<Meeting> meet(PlanEdges slid, Vec3 by, double reach) {
        Best best = new Best(reach);
        for (Vec3 corner : slid.corners) {
            Vec3 at = corner.plus(by);
            for (Object found : cornersByPlace.query(around(at, reach))) {
                Vec3 other = (Vec3) found;
                if (isLevel(at, other, other)) {
                    best.offer(new Meeting.AtCorner(level(other.minus(at)), other));
                }
            }
        }
        if (best.meeting == null) {
            for (Vec3 corner : slid.corners) {
                Vec3 at = corner.plus(by);
                onEdges(at, reach, (edge, to) -> best.offer(new Meeting.AlongEdge(level(to.minus(at)), edge)));
            }
            for (Vec3 corner : corners) {
                Vec3 back = corner.minus(by);
                slid.onEdges(back, reach, (edge, to) -> {
                    Vec3 shift = level(back.minus(to));
                    Vec3 whole = by.plus(shift);
                    best.offer(new Meeting.AlongEdge(
                            shift,
                            new FeatureEdges.Segment(
                                    edge.from().plus(whole), edge.to().plus(whole))));
                });
            }
        }
        return Optional.ofNullable(best.meeting);
    }

    private interface OnEdge {
        void found(FeatureEdges.Segment edge, Vec3 nearest);
    }

    /** Tells the edges that pass a point within reach, each with its point that is nearest in the plan. */
    private void onEdges(Vec3 point, double reach, OnEdge each) {
        for (Object found : edges.query(around(point, reach))) {
            FeatureEdges.Segment edge = (FeatureEdges.Segment) found;
            if (isLevel(point, edge.from(), edge.to())) {
                each.found(edge, nearest(point, edge));
            }
        }
    }

    private static Vec3 nearest(Vec3 point, FeatureEdges.Segment edge) {
        Vec3 along = level(edge.to().minus(edge.from()));
        double length = along.dot(along);
        double part =
                length == 0 ? 0 : Math.clamp(level(point.minus(edge.from())).dot(along) / length, 0, 1);
        return edge.from().plus(edge.to().minus(edge.from()).times(part));
    }

    /** Whether a point is about as high as something between two others. */
    private static boolean isLevel(Vec3 point, Vec3 from, Vec3 to) {
        return Math.max(from.y(), to.y()) >= point.y() - LEVEL && Math.min(from.y(), to.y()) <= point.y() + LEVEL;
    }

    private static Vec3 level(Vec3 v) {
        return new Vec3(v.x(), 0, v.z());
    }

    /** The meeting with the least shift so far. */
    private static final class Best {
        private double least;
        private @Nullable Meeting meeting;

        Best(double reach) {
            least = reach;
        }

        void offer(Meeting other) {
            double length = other.shift().length();
            if (length <= least) {
                least = length;
                meeting = other;
            }
        }
    }
}
