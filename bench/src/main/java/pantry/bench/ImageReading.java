package pantry.bench;

import java.io.IOException;
import java.nio.IntBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.system.libc.LibCStdlib;
import org.lwjgl.util.tinyexr.TinyEXR;
import pantry.base.AtomicFiles;
import pantry.base.ImageDecoder;

/**
 * Measures reading an OpenEXR image of 4096 × 4096 half floats by way of the worker process, beside TinyEXR's own time in this
 * process. Run from the root: the image is written by {@code oracle/write-exr.mjs}.
 */
public final class ImageReading {
    private ImageReading() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        try {
            Path file = folder.resolve("sky.exr");
            int status = new ProcessBuilder("node", "oracle/write-exr.mjs", file.toString(), "4096")
                    .inheritIO()
                    .start()
                    .waitFor();
            if (status != 0) {
                throw new IOException("the image was not written");
            }
            Pairs.header();
            Pairs.pair(
                    "a 4k OpenEXR image read",
                    () -> ImageDecoder.read(file),
                    "TinyEXR in this process",
                    () -> decode(file));
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static void decode(Path file) {
        try (MemoryStack stack = MemoryStack.stackPush()) {
            PointerBuffer pixels = stack.callocPointer(1);
            IntBuffer width = stack.callocInt(1);
            IntBuffer height = stack.callocInt(1);
            PointerBuffer error = stack.callocPointer(1);
            int code = TinyEXR.nLoadEXRWithLayer(
                    pixels.address(),
                    MemoryUtil.memAddress(width),
                    MemoryUtil.memAddress(height),
                    MemoryUtil.memAddress(stack.UTF8(file.toString())),
                    MemoryUtil.NULL,
                    error.address());
            if (code != TinyEXR.TINYEXR_SUCCESS) {
                throw new IllegalStateException("TinyEXR's error " + code);
            }
            LibCStdlib.nfree(pixels.get(0));
        }
    }
}
