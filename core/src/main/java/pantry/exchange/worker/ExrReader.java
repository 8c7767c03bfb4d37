package pantry.exchange.worker;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import javax.imageio.IIOException;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;

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
