package pantry.exchange.worker;

import javax.imageio.ImageReader;
import org.jspecify.annotations.Nullable;

/** OpenEXR; found by ImageIO as a service. */
public final class ExrReaderSpi extends WorkerImageSpi {
    private static final byte[] MARK = {0x76, 0x2f, 0x31, 0x01};

    public ExrReaderSpi() {
        super("exr", "image/x-exr", ExrReader.class, MARK);
    }

    @Override
    public ImageReader createReaderInstance(@Nullable Object extension) {
        return new ExrReader(this);
    }
}
