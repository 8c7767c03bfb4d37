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
import org.locationtech.jts.geom.util.AffineTransformation;
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
import pantry.model.Model;
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
 * A thing as it is drawn in a plan: its outline as seen from above, with the holes in it, and, where wanted, the edges
 * of its parts that are seen from there.
 *
 * <p>Coordinates are x and z in metres. The outline is the union of all faces, projected (JTS, OverlayNG); meshes of
 * very many triangles are simplified first, by less than the tolerance.
 *
 * @param outline polygons with holes
 * @param edges lines within the outline
 * @param tolerance metres that a line may be off, at most
 */
public record PlanSymbol(Geometry outline, List<LineString> edges, double tolerance) {
    /** The prim below the root that holds it. */
    public static final String NAME = "Plan";

    /** Meshes of more triangles are simplified before they are projected. */
    private static final int MOST_TRIANGLES = 20_000;

    /** Lines of a length below so many tolerances are no edge that anybody would draw. */
    private static final double SHORTEST = 4;

    public PlanSymbol {
        edges = List.copyOf(edges);
    }

    /** The usual tolerance for a model: a three-hundredth of its plan's diagonal. */
    public static double usualTolerance(Model model) {
        Vec3 size = model.bounds().isEmpty() ? Vec3.ONE : model.bounds().size();
        return Math.max(1e-6, Math.hypot(size.x(), size.z()) / 300);
    }

    /**
     * Draws a model.
     *
     * @param model in metres, Y up
     * @param tolerance metres that a line may be off, above 0
     * @param withEdges whether the parts' own edges are drawn too
     * @throws PrepException where it shows nothing, or nothing that has an area from above
     */
    public static PlanSymbol of(Model model, double tolerance, boolean withEdges, Progress progress) {
        if (!(tolerance > 0)) {
            throw new PrepException("the tolerance of a plan symbol is above 0 metres, not " + tolerance);
        }
        Drawing drawing = new Drawing(tolerance, progress);
        model.visit((owner, part, world) -> drawing.add(part.mesh(), world));
        Geometry outline = drawing.outline();
        if (outline.isEmpty()) {
            throw new PrepException(model.name() + " shows nothing that could be seen from above");
        }
        return new PlanSymbol(outline, withEdges ? drawing.edges(outline) : List.of(), tolerance);
    }

    private static final class Drawing {
        private record Part(Geometry plan, double top) {}

        private final GeometryFactory factory;
        private final double tolerance;
        private final Progress progress;
        private final List<Part> parts = new ArrayList<>();
        private final List<Mesh> meshes = new ArrayList<>();

        Drawing(double tolerance, Progress progress) {
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
                meshes.add(mesh);
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
            return factory.buildGeometry(
                    polygons.stream().map(Polygon.class::cast).toList());
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

    /** Square metres that it covers. */
    public double area() {
        return outline.getArea();
    }

    /** Metres along x. */
    public double width() {
        return outline.getEnvelopeInternal().getWidth();
    }

    /** Metres along z. */
    public double depth() {
        return outline.getEnvelopeInternal().getHeight();
    }

    /** The symbol of a thing that is so many times as wide and deep: each grows by itself, from the origin. */
    public PlanSymbol grown(double wider, double deeper) {
        AffineTransformation grow = AffineTransformation.scaleInstance(wider, deeper);
        return new PlanSymbol(
                grow.transform(outline),
                edges.stream().map(line -> (LineString) grow.transform(line)).toList(),
                tolerance * Math.max(wider, deeper));
    }

    /** All closed lines of the outline: outer ones and those of holes. The last point of each is its first. */
    public List<LineString> rings() {
        List<LineString> rings = new ArrayList<>();
        for (Object each : PolygonExtracter.getPolygons(outline)) {
            Polygon polygon = (Polygon) each;
            rings.add(polygon.getExteriorRing());
            for (int i = 0; i < polygon.getNumInteriorRing(); i++) {
                rings.add(polygon.getInteriorRingN(i));
            }
        }
        return rings;
    }

    /** Writes it into a workpiece as guide curves on the ground, in the place of one that is there. */
    public static void write(Workpiece piece, PlanSymbol plan) {
        Tidying.change(
                piece,
                "Plan symbol of " + DisplayText.count(plan.rings().size(), "line"),
                tidying -> write(tidying, plan));
    }

    static void write(Tidying tidying, PlanSymbol plan) {
        SdfPath root = Proxy.rootFor(tidying);
        Subject subject = new Subject(tidying.piece(), Progress.NONE);
        InspectedPrim top = subject.item(root).orElseThrow();
        subject.item(root.child(NAME))
                .filter(item -> item.own() && item.prim().typeName().equals("BasisCurves"))
                .ifPresent(item -> tidying.remove(item.path()));
        PrimSpec prim = new PrimSpec(Specifier.DEF, "BasisCurves", tidying.freeBelow(root, NAME, ""));
        prim.set("token", "purpose", new Value.Token("guide")).setUniform(true);
        prim.set("token", "type", new Value.Token("linear")).setUniform(true);
        prim.set("token", "wrap", new Value.Token("nonperiodic")).setUniform(true);
        List<LineString> lines = new ArrayList<>(plan.rings());
        lines.addAll(plan.edges());
        Matrix4 toRoot = top.world().inverse();
        int count = lines.stream().mapToInt(LineString::getNumPoints).sum();
        float[] points = new float[3 * count];
        int at = 0;
        for (LineString line : lines) {
            for (Coordinate c : line.getCoordinates()) {
                Vec3 p = toRoot.point(c.getX(), 0, c.getY());
                points[at++] = (float) p.x();
                points[at++] = (float) p.y();
                points[at++] = (float) p.z();
            }
        }
        prim.set(
                "int[]",
                "curveVertexCounts",
                new Value.Ints(lines.stream().mapToInt(LineString::getNumPoints).toArray(), 1));
        prim.set("point3f[]", "points", new Value.Floats(points, 3));
        prim.set("float[]", "widths", new Value.Floats(new float[] {(float) (plan.tolerance() / 2)}, 1))
                .metadata()
                .put("interpolation", new Value.Token("constant"));
        tidying.edits().add(root, prim);
    }
}
