package pantry.render;

import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Colour;
import pantry.model.Lamp;

/**
 * What the lamps of a scene let be seen of it. One sun, the strongest, casts shadows; lamps nearby shine through things.
 *
 * <p>Each pixel asks each lamp, so that only the strongest of many are kept. Shadows of lamps nearby would need a map for
 * each side of each.
 */
public final class Lighting {
    /** So many lamps nearby are asked; the others' light is left out. */
    static final int MOST = 24;

    /** White paper facing this irradiance, times the exposure, is as bright as can be shown. */
    private static final double WHITE = Math.PI;

    /** From here on light is pressed together. */
    private static final double KNEE = 0.7;

    private final Colour sky;
    private final List<PicturedSky> pictured;
    private final List<Lamp.Distant> suns;
    private final List<Lamp.Near> near;
    private final double exposure;
    private final @Nullable SunShadow shadow;

    /**
     * A sky with a picture.
     *
     * @param strength what the picture is multiplied by
     * @param into from the scene's space into that of the picture
     */
    record PicturedSky(SkyLight light, Colour strength, Matrix4 into) {}

    /**
     * @param sky what comes alike from all sides
     * @param suns those of pictured skies among them
     */
    Lighting(
            Colour sky,
            List<PicturedSky> pictured,
            List<Lamp.Distant> suns,
            List<Lamp.Near> near,
            double exposure,
            @Nullable SunShadow shadow) {
        this.sky = sky;
        this.pictured = pictured;
        this.suns = suns;
        this.near = near;
        this.exposure = exposure;
        this.shadow = shadow;
    }

    /** The direction of the strongest sun; the shadow is of this one. */
    Optional<Vec3> firstSun() {
        return suns.isEmpty() ? Optional.empty() : Optional.of(suns.getFirst().towards());
    }

    /** The same lamps, of which the first sun does not reach everything. */
    Lighting shadowed(SunShadow cast) {
        return new Lighting(sky, pictured, suns, near, exposure, cast);
    }

    /** The same lamps, the light doubled as many times more. */
    Lighting brighter(double stops) {
        return new Lighting(sky, pictured, suns, near, exposure * Math.pow(2, stops), shadow);
    }

    /**
     * What reaches a surface, exposed so that 1 is white paper, and its highlight.
     *
     * @param nx with ny and nz its unit normal
     * @param dx with dy and dz the unit direction in which it is looked at
     * @param rough 0 to 1
     * @param light receives three components: what comes back of all that falls on white paper
     * @param shine receives three components: what is mirrored of lamps, before it is told how much is mirrored
     */
    void on(
            double x,
            double y,
            double z,
            double nx,
            double ny,
            double nz,
            double dx,
            double dy,
            double dz,
            double rough,
            float[] light,
            float[] shine) {
        // Of a sky over a floor that gives back a third of it, and of what the sun leaves in the air.
        double open = (0.5 + 0.5 * ny) + 0.33 * (0.5 - 0.5 * ny);
        double r = Math.PI * sky.r() * open;
        double g = Math.PI * sky.g() * open;
        double b = Math.PI * sky.b() * open;
        for (int i = 0; i < pictured.size(); i++) {
            PicturedSky each = pictured.get(i);
            Vec3 normal = each.into().direction(new Vec3(nx, ny, nz)).unit();
            SkyLight from = each.light();
            r += each.strength().r() * from.irradiance(0, normal.x(), normal.y(), normal.z());
            g += each.strength().g() * from.irradiance(1, normal.x(), normal.y(), normal.z());
            b += each.strength().b() * from.irradiance(2, normal.x(), normal.y(), normal.z());
        }
        double sr = 0;
        double sg = 0;
        double sb = 0;
        double alpha = Math.max(0.08, rough) * Math.max(0.08, rough);
        for (int i = 0; i < suns.size(); i++) {
            Lamp.Distant sun = suns.get(i);
            Colour c = sun.strength();
            Vec3 to = sun.towards();
            // Where the sky is known, it has that light itself.
            double stray = pictured.isEmpty() ? 0.06 * open : 0;
            double facing = nx * to.x() + ny * to.y() + nz * to.z();
            double seen = facing <= 0 ? 0 : facing * (i == 0 && shadow != null ? shadow.light(x, y, z, nx, ny, nz) : 1);
            double lit = seen + stray;
            r += c.r() * lit;
            g += c.g() * lit;
            b += c.b() * lit;
            double gloss = seen * gloss(nx, ny, nz, to.x() - dx, to.y() - dy, to.z() - dz, alpha);
            sr += c.r() * gloss;
            sg += c.g() * gloss;
            sb += c.b() * gloss;
        }
        for (int i = 0; i < near.size(); i++) {
            Lamp.Near lamp = near.get(i);
            double lx = lamp.place().x() - x;
            double ly = lamp.place().y() - y;
            double lz = lamp.place().z() - z;
            double square = lx * lx + ly * ly + lz * lz;
            double away = Math.sqrt(square);
            if (away == 0) {
                continue;
            }
            lx /= away;
            ly /= away;
            lz /= away;
            double facing = nx * lx + ny * ly + nz * lz;
            if (facing <= 0) {
                continue;
            }
            Vec3 f = lamp.facing();
            double out = lamp.spread().at(-(f.x() * lx + f.y() * ly + f.z() * lz));
            double lit = facing * out / Math.max(square, lamp.reach() * lamp.reach());
            Colour c = lamp.strength();
            r += c.r() * lit;
            g += c.g() * lit;
            b += c.b() * lit;
            double gloss = lit * gloss(nx, ny, nz, lx - dx, ly - dy, lz - dz, alpha);
            sr += c.r() * gloss;
            sg += c.g() * gloss;
            sb += c.b() * gloss;
        }
        double scale = exposure / WHITE;
        light[0] = (float) (r * scale);
        light[1] = (float) (g * scale);
        light[2] = (float) (b * scale);
        shine[0] = (float) (sr * scale);
        shine[1] = (float) (sg * scale);
        shine[2] = (float) (sb * scale);
    }

    /** Whether it is known how the sky looks in each direction. */
    boolean hasPicture() {
        return !pictured.isEmpty();
    }

    /**
     * How bright the sky is, exposed.
     *
     * @param x with y and z the direction in which it is looked at
     * @param into receives three components
     */
    void sky(double x, double y, double z, float[] into) {
        float r = sky.r();
        float g = sky.g();
        float b = sky.b();
        if (pictured.isEmpty()) {
            float sun = 0;
            for (Lamp.Distant each : suns) {
                sun += (float) each.strength().luminance();
            }
            // A sky that nobody made is as bright as its sun lets it be.
            float own = 0.12f * sun / (float) WHITE;
            r += own;
            g += own;
            b += own;
        }
        for (PicturedSky each : pictured) {
            Vec3 look = each.into().direction(new Vec3(x, y, z)).unit();
            each.light().radiance(look.x(), look.y(), look.z(), into);
            r += each.strength().r() * into[0];
            g += each.strength().g() * into[1];
            b += each.strength().b() * into[2];
        }
        into[0] = (float) exposure * r;
        into[1] = (float) exposure * g;
        into[2] = (float) exposure * b;
    }

    /** The GGX highlight (B. Walter et al., EGSR 2007), its peak brought to 1. */
    static double gloss(double nx, double ny, double nz, double hx, double hy, double hz, double alpha) {
        double hl = Math.sqrt(hx * hx + hy * hy + hz * hz);
        double nh = hl == 0 ? 0 : Math.max(0, (nx * hx + ny * hy + nz * hz) / hl);
        double spread = alpha * alpha / (nh * nh * (alpha * alpha - 1) + 1);
        return spread * spread;
    }

    /** Light that is more than white is pressed together below it, so that bright places keep their shape. */
    static double pressed(double linear) {
        return linear <= KNEE ? linear : 1 - (1 - KNEE) * Math.exp(-(linear - KNEE) / (1 - KNEE));
    }
}
