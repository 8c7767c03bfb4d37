package pantry.shading;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import pantry.base.DeepImage;
import pantry.base.DisplayCurve;
import pantry.base.ImageDecoder;
import pantry.model.Colour;
import pantry.model.ShaderNetwork.Input;
import pantry.model.Texture;

/** Images as fields: looked up between four of their pixels, repeated or held at their edges. */
final class ImageFields {
    /** Larger ones are thinned out on reading. */
    private static final int LARGEST = 4096;

    private final Field.Maker make;
    private final Consumer<String> tell;
    private final Map<Path, Optional<Pixels>> read = new HashMap<>();

    ImageFields(Field.Maker make, Consumer<String> tell) {
        this.make = make;
        this.tell = tell;
    }

    /** What an image holds. */
    private sealed interface Pixels {
        int width();

        int height();

        /** Whether its file holds numbers of light. */
        boolean ofLight();

        /** @param linear whether display colours are made linear */
        float component(int x, int y, int channel, boolean linear);
    }

    /** Display colours of eight bits, row by row from the top. */
    private record Shallow(int[] argb, int width, int height, boolean ofLight) implements Pixels {
        private static final int[] SHIFTS = {16, 8, 0, 24};

        @Override
        public float component(int x, int y, int channel, boolean linear) {
            int value = argb[y * width + x] >>> SHIFTS[channel] & 0xff;
            return linear && channel < 3 ? Colour.linear(value) : value / 255f;
        }
    }

    private record Deep(DeepImage image) implements Pixels {
        @Override
        public int width() {
            return image.width();
        }

        @Override
        public int height() {
            return image.height();
        }

        @Override
        public boolean ofLight() {
            return image.linear();
        }

        @Override
        public float component(int x, int y, int channel, boolean linear) {
            float value = image.component(x, y, channel);
            return linear && channel < 3 && !image.linear() ? DisplayCurve.linearQuickly(value) : value;
        }
    }

    private Optional<Pixels> pixels(Path file) {
        return read.computeIfAbsent(file, path -> {
            try {
                Optional<DeepImage> deep = ImageDecoder.readDeep(path, LARGEST);
                if (deep.isPresent()) {
                    return deep.map(Deep::new);
                }
                BufferedImage image = ImageDecoder.read(path, LARGEST);
                int[] argb = image.getRGB(0, 0, image.getWidth(), image.getHeight(), null, 0, image.getWidth());
                return Optional.of(new Shallow(
                        argb,
                        image.getWidth(),
                        image.getHeight(),
                        image.getProperty(ImageDecoder.LINEAR) == Boolean.TRUE));
            } catch (IOException e) {
                tell.accept("the image " + path.getFileName() + ", which " + e.getMessage());
                return Optional.empty();
            }
        });
    }

    /** What an image node shows; its default where the image is missing, which is told. */
    Field field(NodeUse node, Field coordinates) {
        Optional<Input> file = node.said("file");
        Optional<Texture> texture = file.flatMap(Input::image);
        Optional<Pixels> pixels = texture.flatMap(Texture::file).flatMap(this::pixels);
        if (pixels.isEmpty()) {
            texture.filter(image -> !image.found())
                    .ifPresent(image -> tell.accept("the image " + image.baseName() + ", which is missing"));
            float[] nothing = new float[node.width()];
            return node.input("default", nothing);
        }
        Field at = node.category().equals("tiledimage")
                ? make.map(
                        make.map(coordinates, node.input("uvtiling", 1, 1), (a, b) -> a * b),
                        node.input("uvoffset", 0, 0),
                        (a, b) -> a - b)
                : coordinates;
        boolean linear = pixels.get().ofLight() || node.width() >= 3 && isDisplayed(file.orElseThrow());
        Texture.Wrap acrossU = wrap(node, "uaddressmode", "wrapS");
        Texture.Wrap acrossV = wrap(node, "vaddressmode", "wrapT");
        return sampled(pixels.get(), at, node.width(), linear, acrossU, acrossV);
    }

    /** Colours whose space is told nowhere are display colours (common practice). */
    private static boolean isDisplayed(Input file) {
        return file.colourSpace().isEmpty() || file.colourSpace().startsWith("srgb");
    }

    private static Texture.Wrap wrap(NodeUse node, String... names) {
        for (String name : names) {
            Optional<Input> said = node.said(name);
            if (said.isPresent()) {
                return Texture.Wrap.of(said.get().value().strip());
            }
        }
        return Texture.Wrap.REPEAT;
    }

    private Field sampled(
            Pixels pixels, Field at, int wide, boolean linear, Texture.Wrap acrossU, Texture.Wrap acrossV) {
        return make.of(wide, List.of(at), (in, out, places) -> {
            int n = places.count;
            for (int i = 0; i < n; i++) {
                float x = in[0][i] * pixels.width() - 0.5f;
                float y = (1 - in[0][n + i]) * pixels.height() - 0.5f;
                int left = (int) Math.floor(x);
                int top = (int) Math.floor(y);
                float fx = x - left;
                float fy = y - top;
                int x0 = wrapped(left, pixels.width(), acrossU);
                int x1 = wrapped(left + 1, pixels.width(), acrossU);
                int y0 = wrapped(top, pixels.height(), acrossV);
                int y1 = wrapped(top + 1, pixels.height(), acrossV);
                for (int c = 0; c < wide; c++) {
                    float upper =
                            pixels.component(x0, y0, c, linear) * (1 - fx) + pixels.component(x1, y0, c, linear) * fx;
                    float lower =
                            pixels.component(x0, y1, c, linear) * (1 - fx) + pixels.component(x1, y1, c, linear) * fx;
                    out[c * n + i] = upper * (1 - fy) + lower * fy;
                }
            }
        });
    }

    private static int wrapped(int at, int size, Texture.Wrap wrap) {
        return switch (wrap) {
            case REPEAT -> Math.floorMod(at, size);
            case CLAMP -> Math.clamp(at, 0, size - 1);
            case MIRROR -> {
                int twice = Math.floorMod(at, 2 * size);
                yield twice < size ? twice : 2 * size - 1 - twice;
            }
        };
    }
}
