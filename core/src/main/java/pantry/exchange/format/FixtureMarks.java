package pantry.exchange.format;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/** Small bodies that show where lights and cameras stand and where they look, for files that have nothing else. */
final class FixtureMarks {
    /** As large as a hand lamp, metres. */
    private static final double SIZE = 0.3;

    /** Of what stands in no known unit, as a part of how far the fixtures stand apart. */
    private static final double SHARE = 0.1;

    private static final Material BODY = Material.plain("Lamp body", Colour.ofDisplay(0x3B4248), 0, 0.6);
    private static final int SIDES = 24;
    private static final float GLOW = 0.15f;

    private FixtureMarks() {}

    /** A model of the marks, with all that the read one carries. */
    static Model of(Imported read) {
        List<Fixture> fixtures = read.model().extras().fixtures();
        Box3 box = Box3.EMPTY;
        for (Fixture fixture : fixtures) {
            Vec3 at = fixture.world().point(Vec3.ZERO);
            box = box.union(new Box3(at, at));
        }
        double apart = box.size().length();
        double usual = apart > 0 ? SHARE * apart : SIZE;
        double size = read.unit().map(unit -> SIZE / unit).orElse(usual);
        List<Model.Node> marks = new ArrayList<>();
        for (Fixture fixture : fixtures) {
            Matrix4 grown = Matrix4.scale(new Vec3(size, size, size)).times(upright(fixture.world()));
            marks.add(Model.Node.of(SampleNodes.NAME + " of " + fixture.name(), grown, parts(fixture), List.of()));
        }
        return new Model(read.model().name(), marks, read.model().extras());
    }

    /** The place and the turn alone: a light's own size is not that of its mark. */
    private static Matrix4 upright(Matrix4 world) {
        double grown = Math.cbrt(Math.abs(world.determinant3()));
        boolean usable = Double.isFinite(grown) && grown > 0;
        double back = usable ? 1 / grown : 1;
        return usable
                ? Matrix4.scale(new Vec3(back, back, back)).times(world)
                : Matrix4.translation(world.point(Vec3.ZERO));
    }

    /** Bodies a unit in size that look along negative z, as fixtures do. */
    private static List<Model.Part> parts(Fixture fixture) {
        return switch (fixture) {
            case Fixture.Camera camera ->
                List.of(
                        new Model.Part(
                                Shapes.block(0.5, 0.5, 0.8).transformed(Matrix4.translation(new Vec3(0, -0.25, 0))),
                                BODY),
                        new Model.Part(forward(Shapes.cone(0.18, 0.32, 0.4, SIDES), 0.4), BODY));
            case Fixture.Light light -> {
                Material glow = light.picture()
                        .map(picture -> pictured(light.name(), picture))
                        .orElseGet(() -> glow(light.colour()));
                yield switch (light.kind()) {
                    case SPHERE ->
                        light.coneAngle() < 90
                                ? List.of(
                                        new Model.Part(forward(Shapes.cone(0.15, 0.5, 0.8, SIDES), 0), BODY),
                                        new Model.Part(forward(Shapes.cylinder(0.46, 0.02, SIDES), 0.8), glow))
                                : List.of(new Model.Part(Shapes.sphere(0.4, SIDES, SIDES / 2), glow));
                    case RECT ->
                        List.of(
                                new Model.Part(
                                        Shapes.block(1, 1, 0.1)
                                                .transformed(Matrix4.translation(new Vec3(0, -0.5, 0.06))),
                                        BODY),
                                new Model.Part(
                                        Shapes.block(0.9, 0.9, 0.02)
                                                .transformed(Matrix4.translation(new Vec3(0, -0.45, 0))),
                                        glow));
                    case DISTANT ->
                        List.of(
                                new Model.Part(Shapes.sphere(0.35, SIDES, SIDES / 2), glow),
                                new Model.Part(forward(Shapes.cylinder(0.04, 0.9, SIDES), 0.35), BODY),
                                new Model.Part(forward(Shapes.cone(0.14, 0, 0.3, SIDES), 1.2), BODY));
                    case DOME -> List.of(new Model.Part(Shapes.sphere(1, 2 * SIDES, SIDES), glow));
                };
            }
        };
    }

    /** It shines a little, so that its shape is still seen. */
    private static Material glow(Colour colour) {
        Colour shine = new Colour(GLOW * colour.r(), GLOW * colour.g(), GLOW * colour.b());
        return new Material("Light", colour, 1, 0, 0.5f, shine, Map.of());
    }

    private static Material pictured(String name, Texture picture) {
        return new Material(name, Colour.WHITE, 1, 0, 1, Colour.BLACK, Map.of(Material.Slot.BASE, picture));
    }

    /** What stands upright on the ground, from there on along negative z. */
    private static Mesh forward(Mesh mesh, double from) {
        return mesh.transformed(Matrix4.rotation(0, -90).times(Matrix4.translation(new Vec3(0, 0, -from))));
    }
}
