package pantry.prep.tools;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.locationtech.jts.geom.Geometry;
import org.locationtech.jts.geom.LineString;
import org.locationtech.jts.geom.Polygon;
import org.locationtech.jts.geom.util.PolygonExtracter;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
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
 * @param rings all closed lines of the outline: outer ones and those of holes
 * @param edges lines within the outline
 * @param area square metres that it covers
 * @param tolerance metres that a line may be off, at most
 */
public record PlanSymbol(List<Line> rings, List<Line> edges, double area, double tolerance) {
    /** A place on the ground, metres. */
    public record Point(double x, double z) {}

    /** A line of at least two points; of one that is closed the last point is the first. */
    public record Line(List<Point> points) {
        public Line {
            points = List.copyOf(points);
        }

        public boolean isClosed() {
            return points.getFirst().equals(points.getLast());
        }

        /** Metres. */
        public double length() {
            double sum = 0;
            for (int i = 1; i < points.size(); i++) {
                Point a = points.get(i - 1);
                Point b = points.get(i);
                sum += Math.hypot(b.x() - a.x(), b.z() - a.z());
            }
            return sum;
        }

        private Line grown(double wider, double deeper) {
            return new Line(points.stream()
                    .map(point -> new Point(point.x() * wider, point.z() * deeper))
                    .toList());
        }
    }

    /** The prim below the root that holds it. */
    public static final String NAME = "Plan";

    public PlanSymbol {
        rings = List.copyOf(rings);
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
        PlanTracing drawing = new PlanTracing(tolerance, progress);
        model.visit((owner, part, world) -> drawing.add(part.mesh(), world));
        Geometry outline = drawing.outline();
        if (outline.isEmpty()) {
            throw new PrepException(model.name() + " shows nothing that could be seen from above");
        }
        List<Line> edges = withEdges
                ? drawing.edges(outline).stream().map(PlanSymbol::line).toList()
                : List.of();
        return new PlanSymbol(rings(outline), edges, outline.getArea(), tolerance);
    }

    /** The lines of polygons: outer ones and those of holes. */
    private static List<Line> rings(Geometry outline) {
        List<Line> rings = new ArrayList<>();
        for (Object each : PolygonExtracter.getPolygons(outline)) {
            Polygon polygon = (Polygon) each;
            rings.add(line(polygon.getExteriorRing()));
            for (int i = 0; i < polygon.getNumInteriorRing(); i++) {
                rings.add(line(polygon.getInteriorRingN(i)));
            }
        }
        return rings;
    }

    private static Line line(LineString line) {
        return new Line(Arrays.stream(line.getCoordinates())
                .map(each -> new Point(each.getX(), each.getY()))
                .toList());
    }

    /** The box around it on the ground: x from its minimum to its maximum, and z likewise; y is 0. */
    public Box3 bounds() {
        Box3 box = Box3.EMPTY;
        for (Line ring : rings) {
            for (Point point : ring.points()) {
                Vec3 at = new Vec3(point.x(), 0, point.z());
                box = box.union(new Box3(at, at));
            }
        }
        return box;
    }

    /** Metres along x. */
    public double width() {
        return bounds().size().x();
    }

    /** Metres along z. */
    public double depth() {
        return bounds().size().z();
    }

    /** The symbol of a thing that is so many times as wide and deep: each grows by itself, from the origin. */
    public PlanSymbol grown(double wider, double deeper) {
        return new PlanSymbol(
                rings.stream().map(line -> line.grown(wider, deeper)).toList(),
                edges.stream().map(line -> line.grown(wider, deeper)).toList(),
                area * wider * deeper,
                tolerance * Math.max(wider, deeper));
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
        List<Line> lines = new ArrayList<>(plan.rings());
        lines.addAll(plan.edges());
        Matrix4 toRoot = top.world().inverse();
        int count = lines.stream().mapToInt(line -> line.points().size()).sum();
        float[] points = new float[3 * count];
        int at = 0;
        for (Line line : lines) {
            for (Point each : line.points()) {
                Vec3 p = toRoot.point(each.x(), 0, each.z());
                points[at++] = (float) p.x();
                points[at++] = (float) p.y();
                points[at++] = (float) p.z();
            }
        }
        prim.set(
                "int[]",
                "curveVertexCounts",
                new Value.Ints(
                        lines.stream().mapToInt(line -> line.points().size()).toArray(), 1));
        prim.set("point3f[]", "points", new Value.Floats(points, 3));
        prim.set("float[]", "widths", new Value.Floats(new float[] {(float) (plan.tolerance() / 2)}, 1))
                .metadata()
                .put("interpolation", new Value.Token("constant"));
        tidying.edits().add(root, prim);
    }
}
