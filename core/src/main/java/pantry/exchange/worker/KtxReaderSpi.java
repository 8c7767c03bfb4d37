package pantry.exchange.worker;

import javax.imageio.ImageReader;
import org.jspecify.annotations.Nullable;

/** KTX 2.0; found by ImageIO as a service. */
public final class KtxReaderSpi extends WorkerImageSpi {
    private static final byte[] MARK = {(byte) 0xab, 'K', 'T', 'X', ' ', '2', '0', (byte) 0xbb, '\r', '\n', 0x1a, '\n'};

    public KtxReaderSpi() {
        super("ktx2", "image/ktx2", KtxReader.class, MARK);
    }

    @Override
    public ImageReader createReaderInstance(@Nullable Object extension) {
        return new KtxReader(this);
    }
}
