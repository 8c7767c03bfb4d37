package pantry.exchange.usd;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.usd.compose.Prim;
import pantry.usd.schema.Values;

/** The simple solids of UsdGeom as meshes, with the schemas' fallback sizes. Round ones are polygons of 48 sides. */
final class UsdSolids {
    static final List<String> TYPES =
            List.of("Cube", "Sphere", "Cylinder", "Cylinder_1", "Cone", "Capsule", "Capsule_1", "Plane");

    private static final List<String> FIGURES =
            List.of("size", "radius", "radiusBottom", "radiusTop", "height", "width", "length", "axis", "doubleSided");

    private static final int SEGMENTS = 48;

    /** Bands of a half sphere. */
    private static final int RINGS = 12;

    private UsdSolids() {}

    /** The solid, around the prim's origin; empty where the prim is none. */
    static Optional<Mesh> of(Prim prim) {
        return switch (prim.typeName()) {
            case "Cube" -> {
                double half = Values.number(prim, "size", 2) / 2;
                yield Optional.of(Shapes.box(new Vec3(-half, -half, -half), new Vec3(half, half, half)));
            }
            case "Sphere" -> Optional.of(Shapes.sphere(Values.number(prim, "radius", 1), SEGMENTS, 2 * RINGS));
            case "Cylinder" -> {
                double radius = Values.number(prim, "radius", 1);
                yield Optional.of(frustum(prim, radius, radius));
            }
            case "Cylinder_1" ->
                Optional.of(frustum(prim, Values.number(prim, "radiusBottom", 1), Values.number(prim, "radiusTop", 1)));
            case "Cone" -> Optional.of(frustum(prim, Values.number(prim, "radius", 1), 0));
            case "Capsule" -> {
                double radius = Values.number(prim, "radius", 0.5);
                yield Optional.of(capsule(prim, radius, radius));
            }
            case "Capsule_1" ->
                Optional.of(
                        capsule(prim, Values.number(prim, "radiusBottom", 0.5), Values.number(prim, "radiusTop", 0.5)));
            case "Plane" -> Optional.of(plane(prim));
            default -> Optional.empty();
        };
    }

    /** All that a solid's shape depends on. */
    static List<String> figures(Prim prim) {
        List<String> figures = new ArrayList<>();
        figures.add(prim.typeName());
        for (String name : FIGURES) {
            figures.add(prim.value(name).map(Object::toString).orElse(""));
        }
        return figures;
    }

    private static Mesh frustum(Prim prim, double bottom, double top) {
        double height = Values.number(prim, "height", 2);
        return along(
                prim,
                Shapes.cone(bottom, top, height, SEGMENTS)
                        .transformed(Matrix4.translation(new Vec3(0, -height / 2, 0))));
    }

    /** The height is that between the centres of the two ends, which are spheres. */
    private static Mesh capsule(Prim prim, double bottom, double top) {
        return along(prim, Shapes.capsule(bottom, top, Values.number(prim, "height", 1), SEGMENTS, RINGS));
    }

    /** From upright to the axis that the prim names. */
    private static Mesh along(Prim prim, Mesh upright) {
        return switch (Values.token(prim, "axis").orElse("Z")) {
            case "X" -> upright.transformed(Matrix4.rotation(2, -90));
            case "Y" -> upright;
            default -> upright.transformed(Matrix4.rotation(0, 90));
        };
    }

    /** Seen from the axis' positive end; the width lies along x, of a plane across x along z. */
    private static Mesh plane(Prim prim) {
        double width = Values.number(prim, "width", 2);
        double length = Values.number(prim, "length", 2);
        Mesh lying = Shapes.plate(width, length);
        Mesh turned =
                switch (Values.token(prim, "axis").orElse("Z")) {
                    case "X" -> Shapes.plate(length, width).transformed(Matrix4.rotation(2, -90));
                    case "Y" -> lying;
                    default -> lying.transformed(Matrix4.rotation(0, 90));
                };
        // The one shape whose schema says that it is seen from both sides.
        return turned.withDoubleSided(prim.value("doubleSided").isEmpty() || Values.flag(prim, "doubleSided"));
    }
}
