package pantry.exchange;

import java.nio.file.Path;
import java.util.Optional;

/**
 * An image that a material uses.
 *
 * @param name as the file that was read writes it
 * @param file where it was found; empty where it is missing
 * @param sampling how it lies on the surface
 */
public record Texture(String name, Optional<Path> file, Sampling sampling) {
    /** What lies beyond an image's edge. */
    public enum Wrap {
        REPEAT("repeat"),
        MIRROR("mirror"),
        CLAMP("clamp");

        private final String token;

        Wrap(String token) {
            this.token = token;
        }

        /** UsdUVTexture's word for it. */
        public String token() {
            return token;
        }

        /** By UsdUVTexture's word; repeating where it is another. */
        public static Wrap of(String token) {
            return token.equals("mirror") ? MIRROR : token.equals("clamp") || token.equals("black") ? CLAMP : REPEAT;
        }
    }

    /**
     * How an image lies on a surface: its coordinates are scaled, turned, then moved, as UsdTransform2d does.
     *
     * @param uvSet which set of texture coordinates, 0 the first
     * @param rotation degrees, counter-clockwise, v upwards
     * @param strength of a normal map's slopes
     */
    public record Sampling(
            Wrap wrapS,
            Wrap wrapT,
            int uvSet,
            float scaleU,
            float scaleV,
            float rotation,
            float moveU,
            float moveV,
            float strength) {
        public static final Sampling USUAL = new Sampling(Wrap.REPEAT, Wrap.REPEAT, 0, 1, 1, 0, 0, 0, 1);

        /** Whether the coordinates are taken as they are. */
        public boolean inPlace() {
            return scaleU == 1 && scaleV == 1 && rotation == 0 && moveU == 0 && moveV == 0;
        }

        /** Texture coordinates (u, v of each) where the image lies as it is told here; always a new array. */
        public float[] placed(float[] uvs) {
            float[] placed = uvs.clone();
            if (inPlace()) {
                return placed;
            }
            double turn = Math.toRadians(rotation);
            double cosine = Math.cos(turn);
            double sine = Math.sin(turn);
            for (int i = 0; i < uvs.length; i += 2) {
                double u = uvs[i] * scaleU;
                double v = uvs[i + 1] * scaleV;
                placed[i] = (float) (u * cosine - v * sine + moveU);
                placed[i + 1] = (float) (u * sine + v * cosine + moveV);
            }
            return placed;
        }
    }

    public Texture(String name, Optional<Path> file) {
        this(name, file, Sampling.USUAL);
    }

    public boolean found() {
        return file.isPresent();
    }

    /** The same use of the image, found at last. */
    public Texture at(Path place) {
        return new Texture(name, Optional.of(place), sampling);
    }

    /** The name without its folders. */
    public String baseName() {
        String plain = name.replace('\\', '/');
        return plain.substring(plain.lastIndexOf('/') + 1);
    }
}
