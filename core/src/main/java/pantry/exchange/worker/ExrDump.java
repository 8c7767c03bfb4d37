package pantry.exchange.worker;

import java.io.IOException;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.file.Path;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.system.libc.LibCStdlib;
import org.lwjgl.util.tinyexr.TinyEXR;
import pantry.base.DisplayCurve;

/**
 * Writes the pixels of an OpenEXR image, which TinyEXR decodes, in the worker process. Linear light is coded for a display; what
 * is brighter than 1 is 1. The first layer counts; an image of one channel is grey.
 */
final class ExrDump {
    private static final int SAMPLES = 4;

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
                long first = pixels.get(0);
                int wide = width.get(0);
                PixelDump.write(result, wide, height.get(0), (y, row) -> code(first, wide, y, row));
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

    /** Codes a row of the image. */
    private static void code(long pixels, int width, int y, PixelDump.Row row) {
        FloatBuffer samples =
                MemoryUtil.memFloatBuffer(pixels + (long) y * width * SAMPLES * Float.BYTES, width * SAMPLES);
        float[] line = new float[width * SAMPLES];
        samples.get(line);
        for (int x = 0; x < width; x++) {
            float alpha = line[SAMPLES * x + 3];
            int clear = alpha > 0 ? Math.round(255 * Math.min(alpha, 1)) : 0;
            row.put(
                    x,
                    clear << 24
                            | DisplayCurve.codedQuickly(line[SAMPLES * x]) << 16
                            | DisplayCurve.codedQuickly(line[SAMPLES * x + 1]) << 8
                            | DisplayCurve.codedQuickly(line[SAMPLES * x + 2]));
        }
    }
}
