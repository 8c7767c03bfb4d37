package pantry.model;

import java.nio.file.Path;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/**
 * What a light of a stage sends out from where it stands, as far as a picture without mirrors needs it. Colours are linear;
 * a surface that meets an irradiance of π and reflects all of it is white.
 */
public sealed interface Lamp {
    /** What it sends out, per colour: radiance of a dome, irradiance from afar, radiant intensity of one nearby. */
    Colour strength();

    /** The same lamp in another space. */
    Lamp at(Matrix4 place);

    /**
     * The sky.
     *
     * @param strength of all of it, or what its picture is multiplied by
     * @param picture what it looks like all around (latlong of UsdLux); alike from all sides without one
     * @param turn from its own space, in which y is up
     */
    record Dome(Colour strength, Optional<Path> picture, Matrix4 turn) implements Lamp {
        /** A sky that is alike from all sides. */
        public Dome(Colour strength) {
            this(strength, Optional.empty(), Matrix4.IDENTITY);
        }

        @Override
        public Lamp at(Matrix4 place) {
            return new Dome(strength, picture, turn.times(place));
        }
    }

    /**
     * A sun.
     *
     * @param towards unit vector to where it stands
     */
    record Distant(Colour strength, Vec3 towards) implements Lamp {
        @Override
        public Lamp at(Matrix4 place) {
            return new Distant(strength, place.direction(towards).unit());
        }
    }

    /**
     * A lamp nearby; what it sends falls off with the square of the distance.
     *
     * @param place in metres
     * @param reach its own size: nearer than this it grows no brighter, metres
     * @param facing unit vector along which it shines
     * @param spread to which sides it shines
     * @param grows whether it sends more where it is made larger
     */
    record Near(Colour strength, Vec3 place, double reach, Vec3 facing, Spread spread, boolean grows) implements Lamp {
        @Override
        public Lamp at(Matrix4 to) {
            double grown = Math.cbrt(Math.abs(to.determinant3()));
            return new Near(
                    grows ? strength.times(grown * grown) : strength,
                    to.point(place),
                    reach * grown,
                    to.direction(facing).unit(),
                    spread,
                    grows);
        }
    }

    /**
     * To which sides a lamp shines.
     *
     * @param flat whether it sends less to its sides and nothing backwards, as a lit surface does
     * @param edge cosine of half the opening of its shade, beyond which nothing comes; -1 without one
     * @param core cosine within which the shade takes nothing away, not less than the edge's
     */
    record Spread(boolean flat, double edge, double core) {
        /** How much comes out to one side, of 1; {@code cosine} of the angle to where the lamp faces. */
        public double at(double cosine) {
            double open = flat ? Math.max(0, cosine) : 1;
            if (cosine < edge) {
                return 0;
            }
            if (cosine >= core) {
                return open;
            }
            double t = (cosine - edge) / (core - edge);
            return open * t * t * (3 - 2 * t);
        }
    }
}
