package pantry.model;

import java.nio.file.Path;
import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import pantry.base.ImageTiles;

/**
 * An image that a material uses.
 *
 * @param name as the file that was read writes it
 * @param file where it was found; empty where it is missing
 * @param sampling how it lies on the surface
 * @param tiles of an image in tiles, the files by their numbers ({@link UdimTiles}), of which {@code file} is the first
 */
public record Texture(String name, Optional<Path> file, Sampling sampling, Map<Integer, Path> tiles) {
    public Texture {
        tiles = Collections.unmodifiableMap(new TreeMap<>(tiles));
    }

    public Texture(String name, Optional<Path> file, Sampling sampling) {
        this(name, file, sampling, Map.of());
    }

    /**
     * An image by its name, in tiles where that says so.
     *
     * @param find the file of a name; empty where there is none
     */
    public static Texture of(String name, Sampling sampling, Function<String, Optional<Path>> find) {
        if (!ImageTiles.isTiled(name)) {
            return new Texture(name, find.apply(name), sampling);
        }
        Map<Integer, Path> tiles = new TreeMap<>();
        ImageTiles.numbers()
                .forEach(number -> find.apply(ImageTiles.of(name, number)).ifPresent(file -> tiles.put(number, file)));
        return new Texture(name, tiles.values().stream().findFirst(), sampling, tiles);
    }

    public boolean isTiled() {
        return !tiles.isEmpty();
    }

    /** The image of a tile; empty where it has none. */
    public Optional<Texture> tile(int number) {
        return Optional.ofNullable(tiles.get(number))
                .map(path -> new Texture(ImageTiles.of(name, number), Optional.of(path), sampling));
    }

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
     * How an image is looked up between its pixels, in the numbers of glTF's samplers; 0 where the file does not say.
     *
     * @param magnified where a pixel covers more than one of the screen
     * @param reduced where it covers less
     */
    public record Filter(int magnified, int reduced) {
        public static final Filter UNSAID = new Filter(0, 0);
    }

    /** The channel that a number is read from; where none is told, the one that the slot has. */
    public enum Channel {
        OF_SLOT(""),
        RED("r"),
        GREEN("g"),
        BLUE("b"),
        ALPHA("a");

        private final String output;

        Channel(String output) {
            this.output = output;
        }

        /** UsdUVTexture's output; empty where the slot tells. */
        public String output() {
            return output;
        }

        /** By UsdUVTexture's output; that of the slot where it is its own, or of several channels. */
        public static Channel of(String output, Material.Slot slot) {
            for (Channel channel : values()) {
                if (channel.output.equals(output) && !slot.output().equals(output)) {
                    return channel;
                }
            }
            return OF_SLOT;
        }
    }

    /**
     * Where an image lies on a surface: its coordinates are scaled, turned, then moved, as UsdTransform2d does.
     *
     * @param uvSet which set of texture coordinates, 0 the first
     * @param rotation degrees, counter-clockwise, v upwards
     */
    public record Placement(int uvSet, float scaleU, float scaleV, float rotation, float moveU, float moveV) {
        /** On the first set of coordinates as they are. */
        public static final Placement USUAL = new Placement(0, 1, 1, 0, 0, 0);

        /** On a set of coordinates as they are. */
        public static Placement on(int uvSet) {
            return new Placement(uvSet, 1, 1, 0, 0, 0);
        }

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

    /**
     * How a surface uses an image.
     *
     * @param strength of a normal map's slopes, or of occlusion; of displacement, how far white stands above black, metres
     */
    public record Sampling(
            Wrap wrapS, Wrap wrapT, Filter filter, Placement placement, float strength, Channel channel) {
        public static final Sampling USUAL =
                new Sampling(Wrap.REPEAT, Wrap.REPEAT, Filter.UNSAID, Placement.USUAL, 1, Channel.OF_SLOT);

        /** The usual way, but placed. */
        public static Sampling placed(Placement placement) {
            return USUAL.with(placement);
        }

        public Sampling with(Placement other) {
            return new Sampling(wrapS, wrapT, filter, other, strength, channel);
        }

        public Sampling with(Wrap s, Wrap t) {
            return new Sampling(s, t, filter, placement, strength, channel);
        }

        public Sampling with(Filter other) {
            return new Sampling(wrapS, wrapT, other, placement, strength, channel);
        }

        public Sampling with(Channel other) {
            return new Sampling(wrapS, wrapT, filter, placement, strength, other);
        }

        public Sampling withStrength(float other) {
            return new Sampling(wrapS, wrapT, filter, placement, other, channel);
        }

        /** Which set of texture coordinates, 0 the first. */
        public int uvSet() {
            return placement.uvSet;
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

    /** The same image, used in another way. */
    public Texture with(Sampling other) {
        return new Texture(name, file, other, tiles);
    }

    /** The name without its folders. */
    public String baseName() {
        String plain = name.replace('\\', '/');
        return plain.substring(plain.lastIndexOf('/') + 1);
    }
}
