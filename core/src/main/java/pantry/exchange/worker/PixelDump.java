package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import pantry.base.Parallel;

/**
 * Writes pixels for the process that asked for them: width and height, then for each pixel, row by row from the top, alpha, red,
 * green and blue of eight bits as one number, all little-endian.
 */
final class PixelDump {
    /** So many pixels are made before they are written. */
    private static final int BLOCK = 1 << 20;

    private PixelDump() {}

    /** Takes the pixels of a row. */
    interface Row {
        void put(int x, int argb);
    }

    /** Makes the pixels of a row; called for several rows at once. */
    interface Rows {
        void make(int y, Row row);
    }

    static void write(Path result, int width, int height, Rows rows) throws IOException {
        try (FileChannel out = FileChannel.open(result, StandardOpenOption.WRITE)) {
            ByteBuffer size = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
            out.write(size.putInt(width).putInt(height).flip());
            int together = Math.clamp(BLOCK / Math.max(1, width), 1, height);
            ByteBuffer block = ByteBuffer.allocateDirect(4 * width * together).order(ByteOrder.LITTLE_ENDIAN);
            for (int top = 0; top < height; top += together) {
                int first = top;
                int count = Math.min(together, height - top);
                Parallel.forEach(
                        count, row -> rows.make(first + row, (x, argb) -> block.putInt(4 * (row * width + x), argb)));
                block.position(0).limit(4 * width * count);
                while (block.hasRemaining()) {
                    out.write(block);
                }
                block.clear();
            }
        }
    }
}
