package pantry.render;

import java.util.Optional;
import pantry.base.LinearImage;
import pantry.base.math.Vec3;
import pantry.model.Colour;
import pantry.model.Lamp;

/**
 * The light of a picture of all that is around: what comes from each direction, and what falls on a surface of each normal.
 *
 * <p>The picture goes once around, its middle row the horizon: looking along z is its middle, along x a quarter from its left
 * edge, y its upper edge ("latlong" of UsdLux and OpenEXR; from memory of both). What falls on a surface is told by the first
 * nine spherical harmonics (R. Ramamoorthi and P. Hanrahan, An efficient representation for irradiance environment maps,
 * SIGGRAPH 2001). A sun is too small for these: it is taken out of them, and is a lamp of its own that casts shadows.
 */
final class SkyLight {
    /** So many pixels of the picture are kept across. */
    static final int WIDTH = 512;

    /** What is so many times as bright as the whole is on the average may be a sun. */
    private static final double SUN_OVER_MEAN = 16;

    /** Cosine of how far from the brightest point a sun reaches, 6°: with the glow of a blurred picture. */
    private static final double SUN_REACH = Math.cos(Math.toRadians(6));

    /** What gives less of the whole light than this is none. */
    private static final double SUN_SHARE = 0.05;

    private static final int TERMS = 9;

    /** The square of each harmonic's factor, times what is left of its band where light falls on what scatters it. */
    private static final double[] FACTORS = factors();

    private final LinearImage picture;
    private final double[] harmonics = new double[3 * TERMS];
    private final Optional<Lamp.Distant> sun;

    private SkyLight(LinearImage picture) {
        this.picture = picture;
        double[] whole = new double[1];
        forEach((pixel, towards, angle) -> whole[0] += brightness(pixel) * angle);
        double dim = SUN_OVER_MEAN * whole[0] / (4 * Math.PI);
        Vec3 brightest = brightest();
        double[] sunlight = new double[6];
        forEach((pixel, towards, angle) -> {
            double taken = taken(pixel, towards, dim, brightest);
            for (int channel = 0; channel < 3; channel++) {
                sunlight[channel] += taken * picture.rgb()[pixel + channel] * angle;
            }
            double weight = taken * brightness(pixel) * angle;
            sunlight[3] += weight * towards.x();
            sunlight[4] += weight * towards.y();
            sunlight[5] += weight * towards.z();
        });
        Colour strength = new Colour((float) sunlight[0], (float) sunlight[1], (float) sunlight[2]);
        Vec3 place = new Vec3(sunlight[3], sunlight[4], sunlight[5]);
        boolean shines = strength.luminance() > SUN_SHARE * whole[0] && place.length() > 0;
        this.sun = shines ? Optional.of(new Lamp.Distant(strength, place.unit())) : Optional.empty();
        forEach((pixel, towards, angle) -> {
            double left = shines ? 1 - taken(pixel, towards, dim, brightest) : 1;
            for (int term = 0; term < TERMS; term++) {
                double weight = FACTORS[term] * term(term, towards.x(), towards.y(), towards.z()) * left * angle;
                for (int channel = 0; channel < 3; channel++) {
                    harmonics[3 * term + channel] += weight * picture.rgb()[pixel + channel];
                }
            }
        });
    }

    /**
     * The share of a pixel's light that is the sun's: what is left is as bright as the brightest sky may be.
     *
     * @param dim how bright that is
     */
    private double taken(int pixel, Vec3 towards, double dim, Vec3 brightest) {
        double bright = brightness(pixel);
        return bright > dim && brightest.dot(towards) > SUN_REACH ? 1 - dim / bright : 0;
    }

    private static double[] factors() {
        double[] squares = {0.282095, 0.488603, 0.488603, 0.488603, 1.092548, 1.092548, 0.315392, 1.092548, 0.546274};
        for (int term = 0; term < TERMS; term++) {
            double smoothed = term == 0 ? Math.PI : term < 4 ? 2 * Math.PI / 3 : Math.PI / 4;
            squares[term] *= squares[term] * smoothed;
        }
        return squares;
    }

    static SkyLight of(LinearImage picture) {
        return new SkyLight(picture);
    }

    /** The sun that is seen in it, as strong as it shines on what faces it; empty where there is none. */
    Optional<Lamp.Distant> sun() {
        return sun;
    }

    private interface Pixel {
        /**
         * @param pixel where its red stands
         * @param towards unit vector to it
         * @param angle that it takes up, steradian
         */
        void of(int pixel, Vec3 towards, double angle);
    }

    private void forEach(Pixel use) {
        int width = picture.width();
        int height = picture.height();
        for (int y = 0; y < height; y++) {
            double top = Math.PI * (0.5 - (double) y / height);
            double bottom = Math.PI * (0.5 - (y + 1.0) / height);
            double angle = 2 * Math.PI / width * (Math.sin(top) - Math.sin(bottom));
            for (int x = 0; x < width; x++) {
                use.of(3 * (y * width + x), towards((x + 0.5) / width, (y + 0.5) / height), angle);
            }
        }
    }

    /** @param u with {@code v} a place in the picture, 0 to 1 from its left upper corner */
    private static Vec3 towards(double u, double v) {
        double longitude = Math.PI * (1 - 2 * u);
        double latitude = Math.PI * (0.5 - v);
        double level = Math.cos(latitude);
        return new Vec3(Math.sin(longitude) * level, Math.sin(latitude), Math.cos(longitude) * level);
    }

    private double brightness(int pixel) {
        float[] rgb = picture.rgb();
        return new Colour(rgb[pixel], rgb[pixel + 1], rgb[pixel + 2]).luminance();
    }

    private Vec3 brightest() {
        double[] most = {-1};
        Vec3[] found = {Vec3.UP};
        forEach((pixel, towards, angle) -> {
            double bright = brightness(pixel);
            if (bright > most[0]) {
                most[0] = bright;
                found[0] = towards;
            }
        });
        return found[0];
    }

    /** The polynomial of a unit vector that a spherical harmonic is, but for its factor. */
    private static double term(int number, double x, double y, double z) {
        return switch (number) {
            case 0 -> 1;
            case 1 -> y;
            case 2 -> z;
            case 3 -> x;
            case 4 -> x * y;
            case 5 -> y * z;
            case 6 -> 3 * z * z - 1;
            case 7 -> x * z;
            default -> x * x - y * y;
        };
    }

    /**
     * What falls on a surface from all around, but for the sun.
     *
     * @param channel 0 red, 1 green, 2 blue
     * @param x with y and z its unit normal
     * @return irradiance
     */
    double irradiance(int channel, double x, double y, double z) {
        double light = 0;
        for (int term = 0; term < TERMS; term++) {
            light += harmonics[3 * term + channel] * term(term, x, y, z);
        }
        return Math.max(0, light);
    }

    /**
     * What comes from a direction, the sun with it.
     *
     * @param x with y and z a unit vector
     * @param into receives three components of radiance
     */
    void radiance(double x, double y, double z, float[] into) {
        int width = picture.width();
        int height = picture.height();
        double across = (0.5 - Math.atan2(x, z) / (2 * Math.PI)) * width - 0.5;
        double down = (0.5 - Math.asin(Math.clamp(y, -1, 1)) / Math.PI) * height - 0.5;
        int left = (int) Math.floor(across);
        int top = (int) Math.floor(down);
        double right = across - left;
        double below = down - top;
        for (int channel = 0; channel < 3; channel++) {
            double upper = at(left, top, channel) * (1 - right) + at(left + 1, top, channel) * right;
            double lower = at(left, top + 1, channel) * (1 - right) + at(left + 1, top + 1, channel) * right;
            into[channel] = (float) (upper * (1 - below) + lower * below);
        }
    }

    /** What stands in a pixel; it goes around, and ends at its poles. */
    private float at(int x, int y, int channel) {
        int width = picture.width();
        int row = Math.clamp(y, 0, picture.height() - 1);
        return picture.rgb()[3 * (row * width + Math.floorMod(x, width)) + channel];
    }
}
