package pantry.exchange.worker;

import java.awt.image.BufferedImage;
import java.awt.image.ColorModel;
import java.awt.image.DataBufferInt;
import java.awt.image.DirectColorModel;
import java.awt.image.WritableRaster;
import java.io.EOFException;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteOrder;
import java.nio.IntBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Hashtable;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.atomic.AtomicBoolean;
import javax.imageio.IIOException;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.ImageTypeSpecifier;
import javax.imageio.metadata.IIOMetadata;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;
import org.jspecify.annotations.Nullable;
import pantry.base.ImageDecoder;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.base.Scratch;

/**
 * Reads an image by native code: its size from its header here, and its pixels by the worker process, since native code that
 * meets a damaged file may end the process that it is in.
 */
abstract class WorkerImageReader extends ImageReader {
    private static final ColorModel ARGB = ColorModel.getRGBdefault();

    /** The worker for images of this process; started with the first of them. */
    private static @Nullable ForeignReader worker;

    private int width = -1;
    private int height = -1;

    WorkerImageReader(ImageReaderSpi spi) {
        super(spi);
    }

    /** The kind of request to the worker. */
    abstract int request();

    /** Whether what comes of the worker was made of linear numbers. */
    abstract boolean isLinear();

    /**
     * Reads an image's width and height from its header, pixels.
     *
     * @param in at its beginning
     */
    abstract int[] size(ImageInputStream in) throws IOException;

    private static synchronized ForeignReader worker() throws IOException {
        ForeignReader running = worker;
        if (running == null) {
            running = new ForeignReader(WorkerLimits.ofEnvironment(System.getenv()), Scratch.folder("images"));
            worker = running;
        }
        return running;
    }

    @Override
    public void setInput(@Nullable Object input, boolean forwardOnly, boolean ignoreMetadata) {
        super.setInput(input, forwardOnly, ignoreMetadata);
        width = -1;
    }

    private void readHeader() throws IOException {
        if (width < 0) {
            try {
                ImageInputStream in = (ImageInputStream) getInput();
                in.seek(0);
                in.setByteOrder(ByteOrder.LITTLE_ENDIAN);
                int[] size = size(in);
                width = size[0];
                height = size[1];
            } catch (EOFException e) {
                throw new IIOException("is a damaged image: its header is cut off", e);
            }
        }
    }

    @Override
    public int getNumImages(boolean allowSearch) {
        return 1;
    }

    @Override
    public int getWidth(int index) throws IOException {
        readHeader();
        return width;
    }

    @Override
    public int getHeight(int index) throws IOException {
        readHeader();
        return height;
    }

    @Override
    public Iterator<ImageTypeSpecifier> getImageTypes(int index) {
        return List.of(ImageTypeSpecifier.createFromBufferedImageType(BufferedImage.TYPE_INT_ARGB))
                .iterator();
    }

    @Override
    public @Nullable IIOMetadata getStreamMetadata() {
        return null;
    }

    @Override
    public @Nullable IIOMetadata getImageMetadata(int index) {
        return null;
    }

    @Override
    public BufferedImage read(int index, @Nullable ImageReadParam how) throws IOException {
        int step = how == null ? 1 : Math.max(1, Math.max(how.getSourceXSubsampling(), how.getSourceYSubsampling()));
        Path pixels = asked(request());
        try {
            return image(pixels, step);
        } finally {
            Files.deleteIfExists(pixels);
        }
    }

    /**
     * What the worker makes of the image.
     *
     * @param what is asked for, as {@link WorkerMain} numbers it
     * @return a file, to be removed
     */
    final Path asked(int what) throws IOException {
        readHeader();
        ImageDecoder.requireDecodable(width, height);
        Path copy = Scratch.file("image", ".bin");
        try {
            copyTo(copy);
            return worker().image(what, copy, Progress.NONE);
        } catch (PantryException e) {
            throw new IIOException(e.reason(), e);
        } finally {
            Files.deleteIfExists(copy);
        }
    }

    private void copyTo(Path file) throws IOException {
        ImageInputStream in = (ImageInputStream) getInput();
        in.seek(0);
        byte[] block = new byte[1 << 16];
        try (OutputStream out = Files.newOutputStream(file)) {
            for (int read = in.read(block); read >= 0; read = in.read(block)) {
                out.write(block, 0, read);
            }
        }
    }

    /** @param step which of the rows and columns are taken: all, every second one and so on */
    private BufferedImage image(Path pixels, int step) throws IOException {
        try (FileChannel in = FileChannel.open(pixels)) {
            IntBuffer all = in.map(FileChannel.MapMode.READ_ONLY, 0, in.size())
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .asIntBuffer();
            int wide = all.get(0);
            int high = all.get(1);
            int across = (wide + step - 1) / step;
            int down = (high + step - 1) / step;
            int[] argb = new int[across * down];
            AtomicBoolean clear = new AtomicBoolean();
            Parallel.forEach(down, () -> new int[wide], (row, y) -> {
                all.get(2 + y * step * wide, row);
                int solid = 0xff;
                for (int x = 0; x < across; x++) {
                    int pixel = row[x * step];
                    argb[y * across + x] = pixel;
                    solid &= pixel >>> 24;
                }
                if (solid != 0xff) {
                    clear.set(true);
                }
            });
            ColorModel colours = clear.get() ? ARGB : new DirectColorModel(24, 0xff0000, 0xff00, 0xff);
            WritableRaster raster = colours.createCompatibleWritableRaster(across, down);
            System.arraycopy(argb, 0, ((DataBufferInt) raster.getDataBuffer()).getData(), 0, argb.length);
            Hashtable<String, Object> properties = new Hashtable<>();
            properties.put(ImageDecoder.LINEAR, isLinear());
            return new BufferedImage(colours, raster, false, properties);
        }
    }
}
