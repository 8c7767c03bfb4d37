package pantry.model;

import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** A light or a camera that a file carries; both look along their own negative z axis. */
public sealed interface Fixture {
    String name();

    /** From its own space to the model's. */
    Matrix4 world();

    /** An image that it uses. */
    default Optional<Texture> picture() {
        return Optional.empty();
    }

    /** The same fixture standing elsewhere. */
    Fixture at(Matrix4 place);

    /**
     * A light.
     *
     * @param kind the schema that OpenUSD has for it
     * @param intensity as the schema has it
     * @param coneAngle half the opening of a spot, degrees; 180 for what shines everywhere
     * @param picture of a dome: what is seen of it, once around and up (latlong of UsdLux)
     */
    record Light(
            String name,
            Matrix4 world,
            Kind kind,
            Colour colour,
            double intensity,
            double coneAngle,
            Optional<Texture> picture)
            implements Fixture {
        public Light(String name, Matrix4 world, Kind kind, Colour colour, double intensity, double coneAngle) {
            this(name, world, kind, colour, intensity, coneAngle, Optional.empty());
        }

        /** The schemas of UsdLux that Pantry writes. */
        public enum Kind {
            DISTANT("DistantLight"),
            SPHERE("SphereLight"),
            RECT("RectLight"),
            DOME("DomeLight");

            private final String type;

            Kind(String type) {
                this.type = type;
            }

            /** The prim type. */
            public String type() {
                return type;
            }

            /** The nearest kind of a prim type. */
            public static Kind of(String type) {
                return switch (type) {
                    case "DistantLight" -> DISTANT;
                    case "RectLight", "DiskLight", "PortalLight" -> RECT;
                    default -> type.startsWith("DomeLight") ? DOME : SPHERE;
                };
            }
        }

        @Override
        public Light at(Matrix4 place) {
            return new Light(name, place, kind, colour, intensity, coneAngle, picture);
        }
    }

    /**
     * A camera.
     *
     * @param angle vertical field of view, degrees; 0 for a parallel view
     * @param aspect width over height
     */
    record Camera(String name, Matrix4 world, double angle, double aspect) implements Fixture {
        @Override
        public Camera at(Matrix4 place) {
            return new Camera(name, place, angle, aspect);
        }
    }

    /** In another frame, of another unit: it moves and turns, but does not grow. */
    default Fixture reframed(Matrix4 change) {
        double grown = Math.cbrt(Math.abs(change.determinant3()));
        Vec3 back = new Vec3(1 / grown, 1 / grown, 1 / grown);
        return at(Matrix4.scale(back).times(world()).times(change));
    }
}
