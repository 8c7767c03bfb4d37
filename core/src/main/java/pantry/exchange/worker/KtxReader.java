package pantry.exchange.worker;

import java.io.IOException;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;

/** Reads a KTX 2.0 texture: the first level of its first image, as it is stored. */
final class KtxReader extends WorkerImageReader {
    /** Where width and height stand: behind the mark, the format and the size of its type (KTX 2.0, section 3). */
    private static final int SIZE = 20;

    KtxReader(ImageReaderSpi spi) {
        super(spi);
    }

    @Override
    int request() {
        return WorkerMain.KTX;
    }

    @Override
    boolean isLinear() {
        return false;
    }

    @Override
    int[] size(ImageInputStream in) throws IOException {
        in.seek(SIZE);
        return new int[] {Math.max(0, in.readInt()), Math.max(1, in.readInt())};
    }
}
