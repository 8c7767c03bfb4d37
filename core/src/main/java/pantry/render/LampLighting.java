package pantry.render;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.model.Colour;
import pantry.model.Lamp;

/** Puts scenes into the light of their lamps: measures how bright they are, and finds what the first sun does not reach. */
public final class LampLighting {
    private static final int PLACES = 400;

    private static final Vec3[] SIDES = {
        Vec3.UP, new Vec3(1, 0, 0), new Vec3(-1, 0, 0), new Vec3(0, 0, 1), new Vec3(0, 0, -1)
    };

    /** The share of measured places that may be brighter than that. */
    private static final double BRIGHTER = 0.1;

    /** How bright paper is where the light is measured. */
    private static final double MEASURED = 0.95;

    private LampLighting() {}

    /**
     * A scene in the light of lamps, exposed for it.
     *
     * @param lamps in metres; where there are none, nothing can be seen
     * @param stops how many times more the light is doubled than what was measured asks for
     */
    public static RenderScene lit(RenderScene scene, List<Lamp> lamps, double stops) {
        return exposed(scene, lamps, measured(scene, lamps) * Math.pow(2, stops));
    }

    /** A scene in the light of lamps, under a known exposure: for scenes that are compared. */
    public static RenderScene exposed(RenderScene scene, List<Lamp> lamps, double exposure) {
        Lighting open = sorted(scene, lamps, exposure);
        return scene.with(
                scene.bounds().isEmpty()
                        ? open
                        : open.firstSun()
                                .map(sun -> open.shadowed(shadow(scene, sun)))
                                .orElse(open));
    }

    /** @param towards unit vector to the sun */
    private static SunShadow shadow(RenderScene scene, Vec3 towards) {
        Camera camera = SunShadow.camera(towards).framing(scene.boxes(), 1);
        return new SunShadow(new Renderer().depths(scene, camera, SunShadow.SIZE), camera, towards);
    }

    /** The strongest lamps first, and no shadow. */
    private static Lighting sorted(RenderScene scene, List<Lamp> lamps, double exposure) {
        Colour sky = Colour.BLACK;
        List<Lighting.PicturedSky> pictured = new ArrayList<>();
        List<Lamp.Distant> suns = new ArrayList<>();
        List<Lamp.Near> near = new ArrayList<>();
        for (Lamp lamp : lamps) {
            switch (lamp) {
                case Lamp.Dome dome -> {
                    Optional<SkyLight> picture = dome.picture().flatMap(SkyPictures::of);
                    if (picture.isEmpty()) {
                        sky = sky.plus(dome.strength());
                    } else {
                        pictured.add(pictured(dome, picture.get()));
                        picture.get().sun().map(sun -> sunOf(dome, sun)).ifPresent(suns::add);
                    }
                }
                case Lamp.Distant sun -> suns.add(sun);
                case Lamp.Near each -> near.add(each);
            }
        }
        suns.sort(
                Comparator.comparingDouble((Lamp.Distant sun) -> sun.strength().luminance())
                        .reversed());
        Vec3 centre = scene.bounds().isEmpty() ? Vec3.ZERO : scene.bounds().centre();
        double radius = scene.bounds().isEmpty() ? 1 : scene.bounds().radius();
        near.sort(Comparator.comparingDouble((Lamp.Near lamp) -> {
                    double away =
                            Math.max(radius * 0.25, lamp.place().minus(centre).length());
                    return lamp.strength().luminance() / (away * away);
                })
                .reversed());
        return new Lighting(
                sky,
                pictured,
                suns,
                List.copyOf(near.subList(0, Math.min(Lighting.MOST, near.size()))),
                exposure,
                null);
    }

    private static Lighting.PicturedSky pictured(Lamp.Dome dome, SkyLight light) {
        boolean turns = Math.abs(dome.turn().determinant3()) > 0;
        return new Lighting.PicturedSky(
                light, dome.strength(), turns ? dome.turn().inverse() : Matrix4.IDENTITY);
    }

    /** The sun in a dome's picture, in the scene's space. */
    private static Lamp.Distant sunOf(Lamp.Dome dome, Lamp.Distant sun) {
        return new Lamp.Distant(
                dome.strength().times(sun.strength()),
                dome.turn().direction(sun.towards()).unit());
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
}
