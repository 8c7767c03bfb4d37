package pantry.scene;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Vec3;
import pantry.model.Colour;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;

/**
 * Anchors: objects without a surface, to hold, move and turn what hangs on them; with a drawn mark, so that they are
 * found. The mark is guide curves (UsdGeomBasisCurves), which nothing renders.
 */
public final class Anchors {
    /** The prim with the mark's curves. */
    static final String MARK = "Mark";

    private static final String KEPT = "pantryAnchor";
    private static final int ROUND = 32;

    private final SceneLayer scene;

    Anchors(SceneLayer scene) {
        this.scene = scene;
    }

    /** How a mark is drawn. */
    public enum Shape {
        CROSS,
        RING,
        ARROW,
        BOX
    }

    /**
     * A drawn mark.
     *
     * @param size across, metres
     * @param colour 0xRRGGBB, as displayed
     */
    public record Mark(Shape shape, double size, int colour) {
        public static final Mark USUAL = new Mark(Shape.CROSS, 1, 0x3C6491);

        public Mark {
            if (!(size > 0) || Double.isInfinite(size)) {
                throw new SceneException("an anchor's mark has a size above 0 m");
            }
        }

        /** Its lines, each as points one after the other, metres, about the anchor. */
        public List<List<Vec3>> lines() {
            double h = size / 2;
            return switch (shape) {
                case CROSS ->
                    List.of(
                            List.of(new Vec3(-h, 0, 0), new Vec3(h, 0, 0)),
                            List.of(new Vec3(0, -h, 0), new Vec3(0, h, 0)),
                            List.of(new Vec3(0, 0, -h), new Vec3(0, 0, h)));
                case RING -> List.of(ring(h), List.of(new Vec3(h * 0.8, 0, 0), new Vec3(h * 1.2, 0, 0)));
                case ARROW ->
                    List.of(
                            List.of(Vec3.ZERO, new Vec3(0, 0, size)),
                            List.of(
                                    new Vec3(-h * 0.4, 0, size - h * 0.6),
                                    new Vec3(0, 0, size),
                                    new Vec3(h * 0.4, 0, size - h * 0.6)),
                            List.of(Vec3.ZERO, new Vec3(0, h * 0.5, 0)));
                case BOX -> box(h);
            };
        }

        private static List<Vec3> ring(double radius) {
            List<Vec3> points = new ArrayList<>();
            for (int i = 0; i <= ROUND; i++) {
                double angle = 2 * Math.PI * i / ROUND;
                points.add(new Vec3(radius * Math.cos(angle), 0, radius * Math.sin(angle)));
            }
            return points;
        }

        private static List<List<Vec3>> box(double h) {
            List<List<Vec3>> lines = new ArrayList<>();
            for (double y : new double[] {-h, h}) {
                lines.add(List.of(
                        new Vec3(-h, y, -h),
                        new Vec3(h, y, -h),
                        new Vec3(h, y, h),
                        new Vec3(-h, y, h),
                        new Vec3(-h, y, -h)));
            }
            for (int corner = 0; corner < 4; corner++) {
                double x = corner < 2 ? -h : h;
                double z = corner % 2 == 0 ? -h : h;
                lines.add(List.of(new Vec3(x, -h, z), new Vec3(x, h, z)));
            }
            return lines;
        }
    }

    /**
     * Makes an anchor that nothing hangs on yet.
     *
     * @param under an existing prim; the scene's root where empty
     */
    public SdfPath make(String name, Mark mark, TransformComponents placing, Optional<SdfPath> under) {
        SdfPath parent = under.orElseGet(scene::root);
        return scene.editor().change("made the anchor " + name, edits -> {
            SdfPath path = parent.child(ChildNames.free(edits, parent, name));
            PrimSpec prim = new PrimSpec(Specifier.DEF, "Xform", path.name());
            prim.metadata().put("kind", new Value.Token("group"));
            placing.write(prim);
            edits.add(parent, prim);
            draw(edits, path, mark);
            return path;
        });
    }

    /** The mark of an anchor; empty where it has none. */
    public Optional<Mark> mark(SdfPath path) {
        return scene.spec(path).flatMap(prim -> mark(prim));
    }

    /**
     * All marks of anchors that are not within alternates, in the order of the scene.
     *
     * @param most how many are looked for at most
     */
    public Map<SdfPath, Mark> marks(int most) {
        Map<SdfPath, Mark> marks = new LinkedHashMap<>();
        collect(SdfPath.ROOT, scene.layer().root(), most, marks);
        return marks;
    }

    private static void collect(SdfPath at, PrimSpec prim, int most, Map<SdfPath, Mark> marks) {
        for (PrimSpec child : prim.children()) {
            Optional<Mark> mark = child.typeName().equals("Xform") && !child.isBare() ? mark(child) : Optional.empty();
            boolean isGroup = !child.children().isEmpty() && !child.metadata().containsKey("references");
            if (marks.size() < most && (mark.isPresent() || isGroup)) {
                SdfPath path = at.child(child.name());
                mark.ifPresent(found -> marks.put(path, found));
                if (isGroup) {
                    collect(path, child, most, marks);
                }
            }
        }
    }

    static Optional<Mark> mark(PrimSpec prim) {
        return CustomData.read(prim, KEPT, Mark.class);
    }

    /**
     * Gives an anchor or group a mark, or another one.
     *
     * @throws SceneException where there is no anchor
     */
    public void draw(SdfPath path, Mark mark) {
        PrimSpec prim = scene.spec(path)
                .orElseThrow(() -> new SceneException(scene.file(), "there is no <" + path + "> to mark"));
        if (prim.metadata().containsKey("references") || !prim.typeName().equals("Xform")) {
            throw new SceneException(scene.file(), "<" + path + "> is no anchor; group it first");
        }
        scene.editor().changeAll("marked " + path.name(), edits -> draw(edits, path, mark));
    }

    /** Takes the mark of an anchor away. */
    public void clear(SdfPath path) {
        scene.editor().changeAll("took the mark of " + path.name() + " away", edits -> {
            edits.clearPrim(path.child(MARK));
            edits.change(path, prim -> CustomData.write(prim, KEPT, null));
        });
    }

    private static void draw(Transaction edits, SdfPath path, Mark mark) {
        edits.clearPrim(path.child(MARK));
        edits.change(path, prim -> CustomData.write(prim, KEPT, mark));
        List<List<Vec3>> lines = mark.lines();
        float[] points = new float[3 * lines.stream().mapToInt(List::size).sum()];
        int at = 0;
        for (List<Vec3> line : lines) {
            for (Vec3 p : line) {
                points[at++] = (float) p.x();
                points[at++] = (float) p.y();
                points[at++] = (float) p.z();
            }
        }
        PrimSpec curves = new PrimSpec(Specifier.DEF, "BasisCurves", MARK);
        curves.set("token", "purpose", new Value.Token("guide")).setUniform(true);
        curves.set("token", "type", new Value.Token("linear")).setUniform(true);
        curves.set(
                "int[]",
                "curveVertexCounts",
                new Value.Ints(lines.stream().mapToInt(List::size).toArray(), 1));
        curves.set("point3f[]", "points", new Value.Floats(points, 3));
        curves.set("color3f[]", "primvars:displayColor", new Value.Floats(linear(mark.colour()), 3));
        edits.add(path, curves);
    }

    private static float[] linear(int colour) {
        Colour linear = Colour.ofDisplay(colour);
        return new float[] {linear.r(), linear.g(), linear.b()};
    }
}
