package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.system.libc.LibCStdlib;
import org.lwjgl.util.tinyexr.TinyEXR;
import pantry.base.DisplayCurve;
import pantry.base.LinearImage;

/**
 * Writes the pixels of an OpenEXR image, which TinyEXR decodes, in the worker process. Linear light is coded for a display; what
 * is brighter than 1 is 1. The first layer counts; an image of one channel is grey.
 */
final class ExrDump {
    private static final int SAMPLES = 4;

    /** The light is written in so many pixels across at most. */
    private static final int LIGHT_WIDTH = 512;

    private ExrDump() {}

    /** What is done with the samples, red, green, blue and alpha of each pixel, row by row from the top. */
    private interface Use {
        void of(long samples, int width, int height) throws IOException;
    }

    static void write(Path file, Path result) throws IOException, SceneDump.Refusal {
        decode(
                file,
                (samples, width, height) ->
                        PixelDump.write(result, width, height, (y, row) -> code(samples, width, y, row)));
    }

    /**
     * Writes the light itself, without a limit above, in few pixels: width and height, then red, green and blue of each as
     * numbers of 32 bits, little-endian.
     */
    static void writeLight(Path file, Path result) throws IOException, SceneDump.Refusal {
        decode(file, (samples, width, height) -> {
            LinearImage light = LinearImage.ofRows(width, height, LIGHT_WIDTH, y -> light(samples, width, y));
            ByteBuffer bytes = ByteBuffer.allocate(8 + Float.BYTES * light.rgb().length)
                    .order(ByteOrder.LITTLE_ENDIAN)
                    .putInt(light.width())
                    .putInt(light.height());
            bytes.asFloatBuffer().put(light.rgb());
            Files.write(result, bytes.array());
        });
    }

    private static float[] light(long samples, int width, int y) {
        float[] line = line(samples, width, y);
        float[] rgb = new float[3 * width];
        for (int i = 0; i < rgb.length; i++) {
            rgb[i] = line[i / 3 * SAMPLES + i % 3];
        }
        return rgb;
    }

    private static void decode(Path file, Use use) throws IOException, SceneDump.Refusal {
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
                use.of(pixels.get(0), width.get(0), height.get(0));
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
        float[] line = line(pixels, width, y);
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

    /** The samples of a row. */
    private static float[] line(long pixels, int width, int y) {
        FloatBuffer samples =
                MemoryUtil.memFloatBuffer(pixels + (long) y * width * SAMPLES * Float.BYTES, width * SAMPLES);
        float[] line = new float[width * SAMPLES];
        samples.get(line);
        return line;
    }
}
