package pantry.exchange.worker;

import java.io.IOException;
import java.util.Locale;
import javax.imageio.ImageReader;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;
import org.jspecify.annotations.Nullable;

/** Has ImageIO read OpenEXR, wherever images are read; found by it as a service. */
public final class ExrReaderSpi extends ImageReaderSpi {
    private static final int MAGIC = 0x762f3101;

    public ExrReaderSpi() {
        super(
                "Pantry",
                "1",
                new String[] {"exr", "EXR"},
                new String[] {"exr"},
                new String[] {"image/x-exr"},
                ExrReader.class.getName(),
                new Class<?>[] {ImageInputStream.class},
                null,
                false,
                null,
                null,
                null,
                null,
                false,
                null,
                null,
                null,
                null);
    }

    @Override
    public boolean canDecodeInput(Object source) throws IOException {
        if (!(source instanceof ImageInputStream in)) {
            return false;
        }
        byte[] first = new byte[4];
        in.mark();
        try {
            in.readFully(first);
        } catch (IOException e) {
            return false;
        } finally {
            in.reset();
        }
        return ((first[0] & 0xff) << 24 | (first[1] & 0xff) << 16 | (first[2] & 0xff) << 8 | first[3] & 0xff) == MAGIC;
    }

    @Override
    public ImageReader createReaderInstance(@Nullable Object extension) {
        return new ExrReader(this);
    }

    @Override
    public String getDescription(@Nullable Locale locale) {
        return "OpenEXR, decoded in a process of its own";
    }
}
