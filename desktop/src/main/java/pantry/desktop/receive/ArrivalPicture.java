package pantry.desktop.receive;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.intake.CollisionShape;
import pantry.intake.DetailLevels;
import pantry.intake.Preparation;
import pantry.intake.Slip;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.render.Figure;
import pantry.render.RenderCache;
import pantry.render.RenderScene;

/**
 * An arrival as it will be shelved, beside the figure: within its collision shape, and with its levels of detail, or what it
 * is in other states, in a row to the right of it.
 *
 * @param model all that is drawn, with the skeleton that parts of it hang on
 * @param box around the arrival itself, metres
 * @param figure whether the figure is of use beside it
 * @param triangles as it will be shelved
 * @param error how far its surfaces are moved by leaving triangles out, at most, metres
 * @param collision the triangles of its collision shape; empty where it gets none
 * @param levels its coarser levels of detail, the finest first; none where it gets none
 */
record ArrivalPicture(
        Model model,
        RenderScene scene,
        Box3 box,
        boolean figure,
        long triangles,
        double error,
        Optional<Integer> collision,
        List<Level> levels) {
    /** The figure stands beside what is up to so many times as large as it, or as small. */
    private static final double FIGURE_REACH = 40;

    /** Seen through, and a little larger, so that it does not lie in the surfaces it touches. */
    private static final Material SHAPE =
            new Material("Collision shape", Colour.ofDisplay(0x2F6B57), 0.3f, 0, 1, Colour.BLACK, Map.of());

    private static final double LARGER = 1.002;

    /**
     * A level of detail.
     *
     * @param error how far its surfaces are from the full ones, at most, metres
     */
    record Level(String name, long triangles, double error) {}

    /** The model stands over the origin, however far off its own it is: so no digits are lost on the way to the screen. */
    static ArrivalPicture of(Imported arrival, Slip choices, RenderCache cache) {
        Preparation.Reduced reduced = Preparation.prepared(arrival, choices);
        Model prepared = reduced.model();
        Box3 box = prepared.bounds();
        Vec3 size = box.size();
        Matrix4 home = Matrix4.translation(
                new Vec3(box.centre().x(), box.min().y(), box.centre().z()).times(-1));
        List<Model.Node> together = new ArrayList<>(prepared.moved(home).roots());
        Optional<Mesh> collision = choices.making().collision().around(prepared);
        collision.ifPresent(mesh -> together.add(shape(mesh, box, home)));
        List<Level> levels = new ArrayList<>();
        Row row = new Row(together, home, box);
        if (choices.making().levels() && !arrival.hasLevels()) {
            DetailLevels.of(prepared, choices.parts()).forEach((name, level) -> {
                levels.add(new Level(name, level.model().trianglesDrawn(), level.error()));
                row.add(level.model().named(name));
            });
        }
        Preparation.series(arrival, choices)
                .ifPresent(series -> series.others().forEach((name, other) -> row.add(other.named(name))));
        double longest = Math.max(size.x(), Math.max(size.y(), size.z()));
        boolean figure = longest > Figure.HEIGHT / FIGURE_REACH && longest < Figure.HEIGHT * FIGURE_REACH;
        if (figure) {
            double aside = Math.max(0.35, size.x() * 0.08);
            together.add(Figure.at(new Vec3(-reach(prepared, box) - aside - 0.3, 0, size.z() / 2)));
        }
        Model all = new Model(
                "Arrival",
                together,
                Model.Extras.NONE.with(prepared.extras().skeleton().map(bones -> bones.moved(home))));
        return new ArrivalPicture(
                all,
                RenderScene.of(all, cache),
                box,
                figure,
                prepared.trianglesDrawn(),
                reduced.error(),
                collision.map(Mesh::triangleCount),
                List.copyOf(levels));
    }

    /** What is drawn to the right of the arrival, one beside the other. */
    private static final class Row {
        private final List<Model.Node> nodes;
        private final Matrix4 home;
        private final double gap;
        private double edge;

        /** @param first the box of what stands at the left */
        Row(List<Model.Node> nodes, Matrix4 home, Box3 first) {
            this.nodes = nodes;
            this.home = home;
            this.gap =
                    Math.max(0.05 * first.size().length(), 0.15 * first.size().x());
            this.edge = first.transformed(home).max().x();
        }

        void add(Model next) {
            Box3 place = next.bounds().transformed(home);
            Vec3 aside = new Vec3(edge + gap - place.min().x(), 0, 0);
            edge += gap + place.size().x();
            nodes.addAll(next.moved(home.times(Matrix4.translation(aside))).roots());
        }
    }

    /** How far to the left of its middle it comes while it moves. */
    private static double reach(Model prepared, Box3 box) {
        double still = box.size().x() / 2;
        return Posing.of(prepared)
                .map(posing -> posing.skeleton().motions().stream()
                        .mapToDouble(motion ->
                                box.centre().x() - posing.reach(motion).min().x())
                        .reduce(still, Math::max))
                .orElse(still);
    }

    private static Model.Node shape(Mesh mesh, Box3 box, Matrix4 home) {
        Vec3 centre = box.centre();
        Matrix4 larger = Matrix4.translation(centre.times(-1))
                .times(Matrix4.scale(new Vec3(LARGER, LARGER, LARGER)))
                .times(Matrix4.translation(centre));
        return Model.Node.of(CollisionShape.PRIM, larger.times(home), List.of(new Model.Part(mesh, SHAPE)), List.of());
    }
}
