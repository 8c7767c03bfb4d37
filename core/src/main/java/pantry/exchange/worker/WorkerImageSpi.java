package pantry.exchange.worker;

import java.io.IOException;
import java.util.Arrays;
import java.util.Locale;
import javax.imageio.spi.ImageReaderSpi;
import javax.imageio.stream.ImageInputStream;
import org.jspecify.annotations.Nullable;

/** Has ImageIO read images of a format by the worker process, wherever images are read. */
abstract class WorkerImageSpi extends ImageReaderSpi {
    private final byte[] mark;

    /** @param mark the first bytes of every such file */
    WorkerImageSpi(String ending, String type, Class<?> reader, byte[] mark) {
        super(
                "Pantry",
                "1",
                new String[] {ending, ending.toUpperCase(Locale.ROOT)},
                new String[] {ending},
                new String[] {type},
                reader.getName(),
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
        this.mark = mark.clone();
    }

    @Override
    public boolean canDecodeInput(Object source) throws IOException {
        if (!(source instanceof ImageInputStream in)) {
            return false;
        }
        byte[] first = new byte[mark.length];
        in.mark();
        try {
            in.readFully(first);
        } catch (IOException e) {
            return false;
        } finally {
            in.reset();
        }
        return Arrays.equals(first, mark);
    }

    @Override
    public String getDescription(@Nullable Locale locale) {
        return getFormatNames()[0] + ", decoded in a process of its own";
    }
}
