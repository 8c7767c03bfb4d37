package pantry.exchange.worker;

import java.awt.image.DataBuffer;
import java.awt.image.DataBufferFloat;
import java.awt.image.PixelInterleavedSampleModel;
import java.awt.image.Raster;
import java.awt.image.SampleModel;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.imageio.IIOException;
import javax.imageio.ImageReadParam;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;
import org.jspecify.annotations.Nullable;

/** Reads an OpenEXR image. What comes out is coded for a display, and says that its file is linear. */
final class ExrReader extends WorkerImageReader {
    private static final int LARGEST_HEADER = 1 << 20;

    ExrReader(ImageReaderSpi spi) {
        super(spi);
    }

    @Override
    int request() {
        return WorkerMain.EXR;
    }

    @Override
    boolean isLinear() {
        return true;
    }

    @Override
    public boolean canReadRaster() {
        return true;
    }

    /** The light itself, of which there may be more than a display shows, in few pixels ({@link ExrDump#writeLight}). */
    @Override
    public Raster readRaster(int index, @Nullable ImageReadParam how) throws IOException {
        Path numbers = asked(WorkerMain.EXR_LIGHT);
        try {
            ByteBuffer all = ByteBuffer.wrap(Files.readAllBytes(numbers)).order(ByteOrder.LITTLE_ENDIAN);
            int width = all.getInt();
            int height = all.getInt();
            float[] rgb = new float[3 * width * height];
            all.asFloatBuffer().get(rgb);
            SampleModel pixels = new PixelInterleavedSampleModel(
                    DataBuffer.TYPE_FLOAT, width, height, 3, 3 * width, new int[] {0, 1, 2});
            return Raster.createRaster(pixels, new DataBufferFloat(rgb, rgb.length), null);
        } finally {
            Files.deleteIfExists(numbers);
        }
    }

    /** Where the pixels are: the attribute {@code dataWindow}, after the description of the file's layout. */
    @Override
    int[] size(ImageInputStream in) throws IOException {
        in.seek(8);
        for (String name = text(in); !name.isEmpty(); name = text(in)) {
            text(in);
            int size = in.readInt();
            if (size < 0 || in.getStreamPosition() > LARGEST_HEADER) {
                throw new IIOException("is a damaged image: its header has no end");
            }
            if (name.equals("dataWindow")) {
                long left = in.readInt();
                long top = in.readInt();
                long right = in.readInt();
                long bottom = in.readInt();
                return new int[] {
                    (int) Math.clamp(right - left + 1, 0, Integer.MAX_VALUE),
                    (int) Math.clamp(bottom - top + 1, 0, Integer.MAX_VALUE)
                };
            }
            in.seek(in.getStreamPosition() + size);
        }
        throw new IIOException("is a damaged image: it does not say how large it is");
    }

    private static String text(ImageInputStream in) throws IOException {
        byte[] bytes = new byte[256];
        for (int i = 0; i < bytes.length; i++) {
            bytes[i] = in.readByte();
            if (bytes[i] == 0) {
                return new String(bytes, 0, i, StandardCharsets.UTF_8);
            }
        }
        throw new IIOException("is a damaged image: a name in its header has no end");
    }
}
