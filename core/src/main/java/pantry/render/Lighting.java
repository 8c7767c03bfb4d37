package pantry.render;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.base.math.Box3;
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

    /** How bright paper is where the light is measured. */
    private static final double MEASURED = 0.95;

    /** The share of measured places that may be brighter than that. */
    private static final double BRIGHTER = 0.1;

    /** From here on light is pressed together. */
    private static final double KNEE = 0.7;

    private static final int PLACES = 400;
    private static final Vec3[] SIDES = {
        Vec3.UP, new Vec3(1, 0, 0), new Vec3(-1, 0, 0), new Vec3(0, 0, 1), new Vec3(0, 0, -1)
    };

    private final Colour sky;
    private final List<Lamp.Distant> suns;
    private final List<Lamp.Near> near;
    private final double exposure;
    private final @Nullable SunShadow shadow;

    private Lighting(
            Colour sky, List<Lamp.Distant> suns, List<Lamp.Near> near, double exposure, @Nullable SunShadow shadow) {
        this.sky = sky;
        this.suns = suns;
        this.near = near;
        this.exposure = exposure;
        this.shadow = shadow;
    }

    /**
     * Lamps that light a scene, exposed for it.
     *
     * @param lamps in metres; where there are none, nothing can be seen
     * @param stops how many times more the light is doubled than what was measured asks for
     */
    static Lighting of(RenderScene scene, List<Lamp> lamps, double stops) {
        return exposed(scene, lamps, measured(scene, lamps)).brighter(stops);
    }

    /** The same lamps, the light doubled as many times more. */
    Lighting brighter(double stops) {
        return new Lighting(sky, suns, near, exposure * Math.pow(2, stops), shadow);
    }

    /** Lamps that light a scene, under a known exposure. */
    static Lighting exposed(RenderScene scene, List<Lamp> lamps, double exposure) {
        Lighting open = sorted(scene, lamps, exposure);
        SunShadow shadow = open.suns.isEmpty() || scene.bounds().isEmpty()
                ? null
                : SunShadow.of(scene, open.suns.getFirst().towards());
        return new Lighting(open.sky, open.suns, open.near, exposure, shadow);
    }

    /** The strongest lamps first, and no shadow. */
    private static Lighting sorted(RenderScene scene, List<Lamp> lamps, double exposure) {
        Colour sky = Colour.BLACK;
        List<Lamp.Distant> suns = new ArrayList<>();
        List<Lamp.Near> near = new ArrayList<>();
        for (Lamp lamp : lamps) {
            switch (lamp) {
                case Lamp.Dome(Colour c) -> sky = new Colour(sky.r() + c.r(), sky.g() + c.g(), sky.b() + c.b());
                case Lamp.Distant sun -> suns.add(sun);
                case Lamp.Near each -> near.add(each);
            }
        }
        suns.sort(Comparator.comparingDouble((Lamp.Distant sun) -> brightness(sun.strength()))
                .reversed());
        Vec3 centre = scene.bounds().isEmpty() ? Vec3.ZERO : scene.bounds().centre();
        double radius = scene.bounds().isEmpty() ? 1 : scene.bounds().radius();
        near.sort(Comparator.comparingDouble((Lamp.Near lamp) -> {
                    double away =
                            Math.max(radius * 0.25, lamp.place().minus(centre).length());
                    return brightness(lamp.strength()) / (away * away);
                })
                .reversed());
        return new Lighting(sky, suns, List.copyOf(near.subList(0, Math.min(MOST, near.size()))), exposure, null);
    }

    /** The exposure that shows white paper nearly white where a scene is well lit. */
    public static double measured(RenderScene scene, List<Lamp> lamps) {
        Lighting lit = sorted(scene, lamps, 1);
        List<Box3> boxes = scene.boxes();
        List<Double> seen = new ArrayList<>();
        float[] light = new float[3];
        float[] shine = new float[3];
        int step = Math.max(1, boxes.size() / PLACES);
        for (int i = 0; i < boxes.size(); i += step) {
            Box3 box = boxes.get(i);
            if (box.isEmpty()) {
                continue;
            }
            Vec3 c = box.centre();
            Vec3 half = box.size().times(0.5);
            for (Vec3 side : SIDES) {
                Vec3 at =
                        new Vec3(c.x() + side.x() * half.x(), c.y() + side.y() * half.y(), c.z() + side.z() * half.z());
                lit.on(at.x(), at.y(), at.z(), side.x(), side.y(), side.z(), 0, 0, 0, 1, light, shine);
                seen.add((double) Math.max(light[0], Math.max(light[1], light[2])));
            }
        }
        seen.sort(Comparator.reverseOrder());
        double bright = seen.isEmpty() ? 0 : seen.get((int) (seen.size() * BRIGHTER));
        return bright > 0 ? MEASURED / bright : 1;
    }

    private static double brightness(Colour colour) {
        return 0.2126 * colour.r() + 0.7152 * colour.g() + 0.0722 * colour.b();
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
        double sr = 0;
        double sg = 0;
        double sb = 0;
        double alpha = Math.max(0.08, rough) * Math.max(0.08, rough);
        for (int i = 0; i < suns.size(); i++) {
            Lamp.Distant sun = suns.get(i);
            Colour c = sun.strength();
            Vec3 to = sun.towards();
            double stray = 0.06 * open;
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

    /** How bright the sky is, exposed; written as three components. */
    void sky(float[] into) {
        float sun = 0;
        for (Lamp.Distant each : suns) {
            sun += (float) brightness(each.strength());
        }
        // A sky that nobody made is as bright as its sun lets it be.
        float own = 0.12f * sun / (float) WHITE;
        into[0] = (float) exposure * (sky.r() + own);
        into[1] = (float) exposure * (sky.g() + own);
        into[2] = (float) exposure * (sky.b() + own);
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
