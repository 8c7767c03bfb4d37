package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.system.libc.LibCStdlib;
import org.lwjgl.util.tinyexr.TinyEXR;
import pantry.base.DisplayCurve;
import pantry.base.Parallel;

/**
 * Writes an OpenEXR image, which TinyEXR decodes, in the worker process: width and height, then for each pixel, row by row from
 * the top, alpha, red, green and blue of eight bits, all little-endian. Linear light is coded for a display; what is brighter than
 * 1 is 1. The first layer counts; an image of one channel is grey.
 */
final class ExrDump {
    private static final int SAMPLES = 4;

    /** So many pixels are coded before they are written. */
    private static final int BLOCK = 1 << 20;

    private ExrDump() {}

    static void write(Path file, Path result) throws IOException, SceneDump.Refusal {
        try (MemoryStack stack = MemoryStack.stackPush()) {
            PointerBuffer pixels = stack.callocPointer(1);
            IntBuffer width = stack.callocInt(1);
            IntBuffer height = stack.callocInt(1);
            PointerBuffer error = stack.callocPointer(1);
            // Without a layer's name, for which there is no call but by addresses, the first one is read.
            int code = TinyEXR.nLoadEXRWithLayer(
                    pixels.address(),
                    MemoryUtil.memAddress(width),
                    MemoryUtil.memAddress(height),
                    MemoryUtil.memAddress(stack.UTF8(file.toString())),
                    MemoryUtil.NULL,
                    error.address());
            if (code != TinyEXR.TINYEXR_SUCCESS) {
                throw new SceneDump.Refusal(words(error, code));
            }
            try {
                write(pixels.get(0), width.get(0), height.get(0), result);
            } finally {
                LibCStdlib.nfree(pixels.get(0));
            }
        }
    }

    private static String words(PointerBuffer error, int code) {
        if (error.get(0) == MemoryUtil.NULL) {
            return "TinyEXR's error " + code;
        }
        String words = MemoryUtil.memUTF8(error.get(0));
        TinyEXR.nFreeEXRErrorMessage(error.get(0));
        return words.strip();
    }

    private static void write(long pixels, int width, int height, Path result) throws IOException {
        try (FileChannel out = FileChannel.open(result, StandardOpenOption.WRITE)) {
            ByteBuffer size = ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN);
            out.write(size.putInt(width).putInt(height).flip());
            int rows = Math.clamp(BLOCK / Math.max(1, width), 1, height);
            ByteBuffer block = ByteBuffer.allocateDirect(4 * width * rows).order(ByteOrder.LITTLE_ENDIAN);
            for (int top = 0; top < height; top += rows) {
                int first = top;
                int count = Math.min(rows, height - top);
                Parallel.forEach(count, row -> code(pixels, width, first + row, block, row));
                block.position(0).limit(4 * width * count);
                while (block.hasRemaining()) {
                    out.write(block);
                }
                block.clear();
            }
        }
    }

    /** Codes a row of the image as a row of a block of them. */
    private static void code(long pixels, int width, int y, ByteBuffer block, int row) {
        FloatBuffer samples =
                MemoryUtil.memFloatBuffer(pixels + (long) y * width * SAMPLES * Float.BYTES, width * SAMPLES);
        float[] line = new float[width * SAMPLES];
        samples.get(line);
        for (int x = 0; x < width; x++) {
            float alpha = line[SAMPLES * x + 3];
            int clear = alpha > 0 ? Math.round(255 * Math.min(alpha, 1)) : 0;
            block.putInt(
                    4 * (row * width + x),
                    clear << 24
                            | DisplayCurve.codedQuickly(line[SAMPLES * x]) << 16
                            | DisplayCurve.codedQuickly(line[SAMPLES * x + 1]) << 8
                            | DisplayCurve.codedQuickly(line[SAMPLES * x + 2]));
        }
    }
}
