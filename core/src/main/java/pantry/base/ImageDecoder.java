package pantry.base;

import com.twelvemonkeys.imageio.plugins.hdr.HDRImageReadParam;
import com.twelvemonkeys.imageio.plugins.hdr.tonemap.NullToneMapper;
import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.ComponentColorModel;
import java.awt.image.DataBuffer;
import java.awt.image.IndexColorModel;
import java.awt.image.Raster;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Collections;
import java.util.Iterator;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.stream.ImageInputStream;

/** Decodes images whose size is looked at first: a few bytes can stand for more pixels than any memory holds. */
public final class ImageDecoder {
    /** 16,384 × 16,384, the largest that is common for textures. */
    private static final long MOST_PIXELS = 1L << 28;

    /** The property of images whose file holds linear numbers, which were made into colours for a display. */
    public static final String LINEAR = "linear";

    /** What is read as light is found under this name of a format ({@code canReadRaster}). */
    private static final String EXR = "exr";

    private static final Set<String> OF_LIGHT = Set.of(EXR, "hdr");

    private ImageDecoder() {}

    /**
     * An image as it is.
     *
     * @throws IOException where it cannot be read, is no image, or has more than 268 million pixels
     */
    public static BufferedImage read(Path file) throws IOException {
        return read(file, Integer.MAX_VALUE);
    }

    /**
     * An image, of which rows and columns are left out where it is more than twice as wide or high as is wanted.
     *
     * @param wanted width and height, pixels
     * @throws IOException where it cannot be read, is no image, or has more than 268 million pixels
     */
    public static BufferedImage read(Path file, int wanted) throws IOException {
        return decoded(file, reader -> {
            ImageReadParam how = reader.getDefaultReadParam();
            int longest = Math.max(reader.getWidth(0), reader.getHeight(0));
            int step = Integer.highestOneBit(Math.max(1, longest / 2 / Math.max(1, wanted)));
            if (step > 1) {
                how.setSourceSubsampling(step, step, 0, 0);
            }
            return stored(image(reader, how));
        });
    }

    /** What is made of an image by a reader that has it. */
    private interface Decoding<T> {
        T of(ImageReader reader) throws IOException;
    }

    /** Has an image read that is not too large. */
    private static <T> T decoded(Path file, Decoding<T> decoding) throws IOException {
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            Iterator<ImageReader> readers = in == null ? Collections.emptyIterator() : ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                throw new IOException("is no image that can be read");
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                requireDecodable(reader.getWidth(0), reader.getHeight(0));
                return decoding.of(reader);
            } finally {
                reader.dispose();
            }
        } catch (RuntimeException e) {
            // Decoders meet damaged files with whatever they run into.
            throw new IOException("is a damaged image", e);
        } catch (OutOfMemoryError e) {
            throw new IOException("needs more memory to be decoded than there is", e);
        }
    }

    private static BufferedImage image(ImageReader reader, ImageReadParam how) throws IOException {
        BufferedImage image = reader.read(0, how);
        if (image == null) {
            throw new IOException("is no image that can be read");
        }
        return image;
    }

    /**
     * An image that holds numbers rather than colours: as they are stored, from 0 to 255.
     *
     * @throws IOException as {@link #read}
     */
    public static BufferedImage readNumbers(Path file) throws IOException {
        BufferedImage image = read(file);
        if (image.getProperty(LINEAR) != Boolean.TRUE) {
            return image;
        }
        int[] stored = new int[256];
        for (int i = 0; i < stored.length; i++) {
            stored[i] = Math.round(255 * DisplayCurve.linear(i));
        }
        BufferedImage numbers = new BufferedImage(image.getWidth(), image.getHeight(), BufferedImage.TYPE_INT_ARGB);
        for (int y = 0; y < image.getHeight(); y++) {
            for (int x = 0; x < image.getWidth(); x++) {
                int c = image.getRGB(x, y);
                numbers.setRGB(
                        x,
                        y,
                        c & 0xff000000 | stored[c >> 16 & 0xff] << 16 | stored[c >> 8 & 0xff] << 8 | stored[c & 0xff]);
            }
        }
        return numbers;
    }

    /**
     * The light that an image shows: what stands in it where it holds numbers of light, or else what a display makes of its
     * colours.
     *
     * @param wide how many pixels it has across at most; fewer are means of what they stand for
     * @throws IOException as {@link #read}
     */
    public static LinearImage readLinear(Path file, int wide) throws IOException {
        return decoded(file, reader -> {
            if (reader.getFormatName().equals(EXR)) {
                return linear(reader.readRaster(0, null), wide);
            }
            BufferedImage image = image(reader, inFull(reader));
            return image.getRaster().getTransferType() == DataBuffer.TYPE_FLOAT
                    ? linear(image.getRaster(), wide)
                    : linear(stored(image), wide);
        });
    }

    /** Has numbers of light read as they are, rather than pressed into what a display shows. */
    private static ImageReadParam inFull(ImageReader reader) {
        ImageReadParam how = reader.getDefaultReadParam();
        if (how instanceof HDRImageReadParam radiance) {
            radiance.setToneMapper(new NullToneMapper());
        }
        return how;
    }

    /**
     * An image with all its bits; empty where these are no more than eight.
     *
     * @param most width and height, pixels: rows and columns are left out of what is larger
     * @throws IOException as {@link #read}
     */
    public static Optional<DeepImage> readDeep(Path file, int most) throws IOException {
        return decoded(file, reader -> {
            int step = Math.ceilDiv(Math.max(reader.getWidth(0), reader.getHeight(0)), most);
            if (reader.getFormatName().equals(EXR)) {
                return Optional.of(deep(reader.readRaster(0, null), step, 1, true));
            }
            ImageTypeSpecifier type = reader.getRawImageType(0);
            boolean ofLight = isOfLight(file);
            if (!ofLight && (type == null || !isDeep(type.getColorModel()))) {
                return Optional.empty();
            }
            Raster raster = image(reader, inFull(reader)).getRaster();
            return switch (raster.getTransferType()) {
                case DataBuffer.TYPE_FLOAT -> Optional.of(deep(raster, step, 1, ofLight));
                case DataBuffer.TYPE_USHORT -> Optional.of(deep(raster, step, 1 / 65535f, false));
                default -> Optional.empty();
            };
        });
    }

    private static boolean isDeep(ColorModel colours) {
        return colours instanceof ComponentColorModel && colours.getComponentSize(0) > 8;
    }

    /** @param step each so many rows and columns are taken */
    private static DeepImage deep(Raster raster, int step, float unit, boolean linear) {
        int bands = Math.min(4, raster.getNumBands());
        int width = Math.ceilDiv(raster.getWidth(), step);
        int height = Math.ceilDiv(raster.getHeight(), step);
        float[] values = new float[Math.multiplyExact(Math.multiplyExact(width, height), bands)];
        Parallel.forEach(height, () -> new float[raster.getWidth() * raster.getNumBands()], (row, y) -> {
            raster.getPixels(raster.getMinX(), raster.getMinY() + y * step, raster.getWidth(), 1, row);
            for (int x = 0; x < width; x++) {
                for (int band = 0; band < bands; band++) {
                    values[(y * width + x) * bands + band] = unit * row[x * step * raster.getNumBands() + band];
                }
            }
        });
        return new DeepImage(values, width, height, bands, linear);
    }

    /** One channel, or one and how clear it is, is grey. */
    private static LinearImage linear(Raster numbers, int wide) {
        int width = numbers.getWidth();
        int bands = numbers.getNumBands();
        return LinearImage.ofRows(width, numbers.getHeight(), wide, y -> {
            float[] row =
                    numbers.getPixels(numbers.getMinX(), numbers.getMinY() + y, width, 1, new float[bands * width]);
            float[] rgb = new float[3 * width];
            for (int i = 0; i < rgb.length; i++) {
                rgb[i] = row[i / 3 * bands + (bands < 3 ? 0 : i % 3)];
            }
            return rgb;
        });
    }

    private static LinearImage linear(BufferedImage colours, int wide) {
        int width = colours.getWidth();
        return LinearImage.ofRows(width, colours.getHeight(), wide, y -> {
            float[] rgb = new float[3 * width];
            for (int i = 0; i < rgb.length; i++) {
                rgb[i] = DisplayCurve.linear(colours.getRGB(i / 3, y) >> 16 - 8 * (i % 3) & 0xff);
            }
            return rgb;
        });
    }

    /** Whether an image is of a kind that holds numbers of light, with more bits than a display shows; by its ending. */
    public static boolean isOfLight(Path file) {
        return OF_LIGHT.contains(Names.ending(file.getFileName().toString()));
    }

    /** Width and height of an image, in pixels, without decoding it; empty where it is none that can be read. */
    public static Optional<int[]> size(Path file) {
        try (ImageInputStream in = ImageIO.createImageInputStream(file.toFile())) {
            Iterator<ImageReader> readers = in == null ? Collections.emptyIterator() : ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                return Optional.empty();
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                return Optional.of(new int[] {reader.getWidth(0), reader.getHeight(0)});
            } finally {
                reader.dispose();
            }
        } catch (IOException | RuntimeException e) {
            // Decoders meet damaged files with whatever they run into.
            return Optional.empty();
        }
    }

    /** Greys as they are stored: Java takes them for linear when it is asked for colours, and brightens them. */
    private static BufferedImage stored(BufferedImage image) {
        Raster raster = image.getRaster();
        int bands = raster.getNumBands();
        if (bands > 2 || image.getColorModel() instanceof IndexColorModel) {
            return image;
        }
        int[] bits = image.getSampleModel().getSampleSize();
        boolean clear = bands == 2;
        BufferedImage plain = new BufferedImage(
                image.getWidth(), image.getHeight(), clear ? BufferedImage.TYPE_INT_ARGB : BufferedImage.TYPE_INT_RGB);
        int[] pixel = new int[bands];
        for (int y = 0; y < image.getHeight(); y++) {
            for (int x = 0; x < image.getWidth(); x++) {
                raster.getPixel(x, y, pixel);
                int grey = eightBits(pixel[0], bits[0]);
                int alpha = clear ? eightBits(pixel[1], bits[1]) : 0xff;
                plain.setRGB(x, y, alpha << 24 | grey << 16 | grey << 8 | grey);
            }
        }
        return plain;
    }

    private static int eightBits(int sample, int bits) {
        return bits == 8 ? sample : (int) (sample * 255L / ((1L << bits) - 1));
    }

    /** Whether an image has transparency of its own; false where it cannot be read. */
    public static boolean hasAlpha(Path file) {
        try {
            return read(file, 16).getColorModel().hasAlpha();
        } catch (IOException e) {
            return false;
        }
    }

    /**
     * Whether an image of a size can be decoded at all.
     *
     * @throws IOException where it has no pixels, or more than 268 million
     */
    public static void requireDecodable(int width, int height) throws IOException {
        if (width <= 0 || height <= 0) {
            throw new IOException("is an empty image");
        }
        if ((long) width * height > MOST_PIXELS) {
            throw new IOException(String.format(
                    Locale.ROOT,
                    "has %,d × %,d pixels, which is more than the %,d that are decoded",
                    width,
                    height,
                    MOST_PIXELS));
        }
    }
}
