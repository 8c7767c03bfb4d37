package pantry.render;

import org.jspecify.annotations.Nullable;
import pantry.base.math.Vec3;
import pantry.model.Colour;

/** What is seen where no surface is: the ground with its shadow and grid, and what is above it. */
final class GroundShading {
    private static final double LEVEL = 0.02;

    /** Half the width of a strong line of the grid, pixels. */
    private static final double STRONG = 1.5;

    private static final int SHADE = 0x2A2620;
    private static final float[] LINEAR = new float[256];

    /** The ground that lamps shine on, by day and by night, and the lines of its grid. */
    private static final int SNOW = 0xF0EEE9;

    private static final int SNOW_LINES = 0xD2CDC2;

    /** Beyond so many times the distance at which the grid fades, the ground is sky. */
    private static final double HORIZON = 4;

    static {
        for (int i = 0; i < LINEAR.length; i++) {
            LINEAR[i] = Colour.linear(i);
        }
    }

    private final RenderOptions options;
    private final ContactShadow shadow;
    private final Vec3 eye;
    private final Vec3 forward;
    private final double focal;
    private final double gridStep;
    private final double linesPerMetre;
    private final double fadeDistance;
    private final boolean parallel;
    private final @Nullable Lighting lighting;

    /** @param height of the picture, pixels */
    GroundShading(ContactShadow shadow, Camera camera, int height, RenderOptions options, @Nullable Lighting lighting) {
        this.options = options;
        this.shadow = shadow;
        this.eye = camera.eye();
        this.forward = camera.back().times(-1);
        this.focal = camera.focal(height);
        this.gridStep = camera.gridStep();
        this.linesPerMetre = 1 / gridStep;
        this.fadeDistance = camera.distance() * 5;
        this.parallel = camera.isParallel();
        this.lighting = lighting;
    }

    /** The colour of the ground, or of what is above it, in a direction from the eye: sRGB, as ARGB. */
    int colour(RowScratch row, double dx, double dy, double dz) {
        if (options.background() == RenderOptions.CLEAR) {
            return clear(dx, dy, dz);
        }
        return lighting == null
                ? ground(row, options.background(), options.gridColour(), dx, dy, dz)
                : ground(row, lighting, dx, dy, dz);
    }

    /** The ground and what is above it, in the light of the scene's lamps. */
    private int ground(RowScratch row, Lighting lamps, double dx, double dy, double dz) {
        double far = (shadow.ground() - eye.y()) / dy;
        if (dy < 0 && far > 0 && far < HORIZON * fadeDistance) {
            lamps.on(
                    eye.x() + dx * far, shadow.ground(), eye.z() + dz * far, 0, 1, 0, 0, 0, 0, 1, row.light, row.shine);
        } else {
            lamps.sky(dx, dy, dz, row.light);
            if (lamps.hasPicture()) {
                return DisplayColours.pack(
                        Lighting.pressed(row.light[0]), Lighting.pressed(row.light[1]), Lighting.pressed(row.light[2]));
            }
        }
        int paper = ground(row, SNOW, SNOW_LINES, dx, dy, dz);
        float[] light = row.light;
        return DisplayColours.pack(
                Lighting.pressed(LINEAR[paper >> 16 & 0xff] * light[0]),
                Lighting.pressed(LINEAR[paper >> 8 & 0xff] * light[1]),
                Lighting.pressed(LINEAR[paper & 0xff] * light[2]));
    }

    private int ground(RowScratch row, int plain, int lines, double dx, double dy, double dz) {
        int colour = plain;
        // Seen along itself, the ground would be nothing but the blur of its lines.
        boolean level = parallel && Math.abs(forward.y()) < LEVEL;
        if (dy >= 0 || level || !options.shadow() && !options.grid()) {
            return 0xff000000 | colour;
        }
        if (dy != row.down) {
            row.down = dy;
            row.far = (shadow.ground() - eye.y()) / dy;
            row.footprint = row.far / focal / Math.max(0.05, -dy);
            row.fade = Math.max(0, 1 - row.far / fadeDistance);
        }
        double far = row.far;
        if (far <= 0) {
            return 0xff000000 | colour;
        }
        double x = eye.x() + dx * far;
        double z = eye.z() + dz * far;
        if (options.grid() && row.fade > 0) {
            double line = Math.max(line(x, row.footprint), line(z, row.footprint));
            colour = mixed(colour, lines, line * row.fade);
        }
        if (options.shadow() && options.cut().isEmpty()) {
            colour = mixed(colour, SHADE, shadow.at(x, z) * 0.8);
        }
        return 0xff000000 | colour;
    }

    /** Only the shadow, as a dark veil. */
    private int clear(double dx, double dy, double dz) {
        double along = (shadow.ground() - eye.y()) / dy;
        if (dy >= 0 || along <= 0 || !options.shadow()) {
            return 0;
        }
        int veil = (int) (shadow.at(eye.x() + dx * along, eye.z() + dz * along) * 0.8 * 255);
        return veil << 24 | SHADE;
    }

    /** How much of a pixel a line of the grid covers, 0 to 1; every tenth line is stronger. */
    private double line(double coordinate, double footprint) {
        double number = Math.rint(coordinate * linesPerMetre);
        double off = Math.abs(coordinate - number * gridStep);
        if (off >= footprint * STRONG) {
            return 0;
        }
        boolean strong = (long) number % 10 == 0;
        double half = footprint * (strong ? STRONG : 1.1);
        if (off >= half) {
            return 0;
        }
        double cover = Math.min(1, (half - off) / footprint);
        return cover * (strong ? 1 : 0.7) * Math.min(1, gridStep / (footprint * 6));
    }

    /** A display colour between two; {@code share} 0 to 1 of the second. */
    private static int mixed(int from, int to, double share) {
        int weight = (int) (share * 256);
        if (weight <= 0) {
            return from;
        }
        int redBlue = (from & 0xff00ff) * (256 - weight) + (to & 0xff00ff) * weight;
        int green = (from & 0xff00) * (256 - weight) + (to & 0xff00) * weight;
        return redBlue >>> 8 & 0xff00ff | green >>> 8 & 0xff00;
    }
}
