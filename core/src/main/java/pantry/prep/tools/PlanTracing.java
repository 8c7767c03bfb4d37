package pantry.prep.tools;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.locationtech.jts.geom.Coordinate;
import org.locationtech.jts.geom.Envelope;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.GeometryFactory;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.geom.PrecisionModel;
import org.locationtech.jts.geom.util.LineStringExtracter;
import org.locationtech.jts.geom.util.PolygonExtracter;
import org.locationtech.jts.operation.linemerge.LineMerger;
import org.locationtech.jts.operation.overlayng.OverlayNG;
import org.locationtech.jts.operation.overlayng.OverlayNGRobust;
import org.locationtech.jts.simplify.DouglasPeuckerSimplifier;
import org.locationtech.jts.simplify.TopologyPreservingSimplifier;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Simplification;
import pantry.mesh.Triangulation;

/**
 * Draws models as they are seen from above. The outline is the union of all faces, projected (JTS, OverlayNG); meshes of
 * very many triangles are simplified first, by less than the tolerance.
 */
final class PlanTracing {
    /** Meshes of more triangles are simplified before they are projected. */
    private static final int MOST_TRIANGLES = 20_000;

    /** Lines of a length below so many tolerances are no edge that anybody would draw. */
    private static final double SHORTEST = 4;

    private record Part(Geometry plan, double top) {}

    private final GeometryFactory factory;
    private final double tolerance;
    private final Progress progress;
    private final List<Part> parts = new ArrayList<>();

    PlanTracing(double tolerance, Progress progress) {
        this.tolerance = tolerance;
        this.progress = progress;
        // A grid far below the tolerance, on which overlays of many small triangles never fail.
        this.factory = new GeometryFactory(new PrecisionModel(100 / tolerance));
    }

    void add(Mesh mesh, Matrix4 world) {
        progress.step("drawing the plan", -1);
        Mesh light = mesh;
        if (mesh.triangleCount() > MOST_TRIANGLES) {
            double share = (double) MOST_TRIANGLES / mesh.triangleCount();
            light = Simplification.within(mesh, share, tolerance / 4 / TwinSets.grown(world))
                    .mesh();
        }
        Geometry plan = projected(light, world);
        if (!plan.isEmpty()) {
            parts.add(new Part(plan, mesh.boundsIn(world).max().y()));
        }
    }

    private Geometry projected(Mesh mesh, Matrix4 world) {
        int[] corners = Triangulation.corners(mesh);
        List<Geometry> triangles = new ArrayList<>();
        for (int t = 0; t < corners.length; t += 3) {
            Coordinate[] ring = new Coordinate[4];
            for (int i = 0; i < 3; i++) {
                Vec3 p = world.point(mesh.point(mesh.corners()[corners[t + i]]));
                ring[i] = new Coordinate(p.x(), p.z());
                factory.getPrecisionModel().makePrecise(ring[i]);
            }
            ring[3] = ring[0];
            double twice = (ring[1].getX() - ring[0].getX()) * (ring[2].getY() - ring[0].getY())
                    - (ring[2].getX() - ring[0].getX()) * (ring[1].getY() - ring[0].getY());
            if (twice != 0) {
                triangles.add(factory.createPolygon(ring));
            }
        }
        return union(triangles);
    }

    /** Half by half, so that only small pieces are laid over each other. */
    private Geometry union(List<Geometry> pieces) {
        if (pieces.isEmpty()) {
            return factory.createPolygon();
        }
        List<Geometry> now = new ArrayList<>(pieces);
        now.sort(Comparator.comparingLong(this::cell));
        while (now.size() > 1) {
            progress.step("drawing the plan", -1);
            List<Geometry> next = new ArrayList<>();
            for (int i = 0; i + 1 < now.size(); i += 2) {
                next.add(merged(now.get(i), now.get(i + 1)));
            }
            if (now.size() % 2 == 1) {
                next.add(now.getLast());
            }
            now = next;
        }
        return polygons(now.getFirst());
    }

    /** On the grid, slivers of triangles may fall together into lines; these are left out. */
    private Geometry merged(Geometry one, Geometry other) {
        return polygons(OverlayNGRobust.overlay(one, other, OverlayNG.UNION));
    }

    /** The place of a piece along a curve that keeps neighbours together (G. M. Morton, IBM, 1966). */
    private long cell(Geometry piece) {
        Envelope box = piece.getEnvelopeInternal();
        long x = Math.round(box.getMinX() / tolerance) + (1L << 20);
        long y = Math.round(box.getMinY() / tolerance) + (1L << 20);
        long morton = 0;
        for (int bit = 0; bit < 21; bit++) {
            morton |= (x >> bit & 1) << (2 * bit) | (y >> bit & 1) << (2 * bit + 1);
        }
        return morton;
    }

    private Geometry polygons(Geometry geometry) {
        List<?> polygons = PolygonExtracter.getPolygons(geometry);
        return factory.buildGeometry(polygons.stream().map(Polygon.class::cast).toList());
    }

    Geometry outline() {
        Geometry whole = union(parts.stream().map(Part::plan).toList());
        return polygons(TopologyPreservingSimplifier.simplify(whole, tolerance));
    }

    /** The outlines of parts where nothing higher lies over them. */
    List<LineString> edges(Geometry outline) {
        List<Part> highestFirst = new ArrayList<>(parts);
        highestFirst.sort(Comparator.comparingDouble(Part::top).reversed());
        Geometry covered = factory.createPolygon();
        Geometry rim = outline.getBoundary().buffer(2 * tolerance);
        LineMerger merger = new LineMerger();
        for (Part part : highestFirst) {
            progress.step("drawing the edges", -1);
            Geometry seen = OverlayNGRobust.overlay(part.plan().getBoundary(), covered, OverlayNG.DIFFERENCE);
            merger.add(seen);
            covered = merged(covered, part.plan());
        }
        List<LineString> edges = new ArrayList<>();
        for (Object merged : merger.getMergedLineStrings()) {
            Geometry inner = OverlayNGRobust.overlay((LineString) merged, rim, OverlayNG.DIFFERENCE);
            for (Object line : LineStringExtracter.getLines(DouglasPeuckerSimplifier.simplify(inner, tolerance))) {
                if (((LineString) line).getLength() > SHORTEST * tolerance) {
                    edges.add((LineString) line);
                }
            }
        }
        return edges;
    }
}
