package pantry.exchange.worker;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Path;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.ktx.KTX;
import org.lwjgl.util.ktx.ktxTexture;
import org.lwjgl.util.ktx.ktxTexture2;

/**
 * Writes the pixels of a KTX 2.0 texture, which Khronos' libktx reads, in the worker process: of the first level of the first
 * image. Basis Universal is made into plain pixels; formats of graphics cards that cannot be are refused.
 */
final class KtxDump {
    private KtxDump() {}

    static void write(Path file, Path result) throws IOException, SceneDump.Refusal {
        try (MemoryStack stack = MemoryStack.stackPush()) {
            PointerBuffer made = stack.callocPointer(1);
            check(KTX.ktxTexture2_CreateFromNamedFile(
                    file.toString(), KTX.KTX_TEXTURE_CREATE_LOAD_IMAGE_DATA_BIT, made));
            ktxTexture2 texture = ktxTexture2.create(made.get(0));
            try {
                write(texture, result, stack);
            } finally {
                KTX.ktxTexture2_Destroy(texture);
            }
        }
    }

    private static void check(int code) throws SceneDump.Refusal {
        if (code != KTX.KTX_SUCCESS) {
            throw new SceneDump.Refusal(String.valueOf(KTX.ktxErrorString(code)));
        }
    }

    private static void write(ktxTexture2 texture, Path result, MemoryStack stack)
            throws IOException, SceneDump.Refusal {
        if (KTX.ktxTexture2_NeedsTranscoding(texture)) {
            check(KTX.ktxTexture2_TranscodeBasis(texture, KTX.KTX_TTF_RGBA32, 0));
        }
        int channels = channels(texture.vkFormat());
        int width = texture.baseWidth();
        int height = texture.baseHeight();
        PointerBuffer offset = stack.callocPointer(1);
        check(KTX.ktxTexture2_GetImageOffset(texture, 0, 0, 0, offset));
        long size = (long) width * height * channels;
        long all = texture.dataSize();
        if (offset.get(0) < 0 || offset.get(0) > all || size > all - offset.get(0)) {
            throw new SceneDump.Refusal("its first level is shorter than its size says");
        }
        ktxTexture plain = ktxTexture.create(texture.address());
        long first = MemoryUtil.memAddress(KTX.ktxTexture_GetData(plain)) + offset.get(0);
        PixelDump.write(result, width, height, (y, row) -> {
            ByteBuffer line = MemoryUtil.memByteBuffer(first + (long) y * width * channels, width * channels);
            for (int x = 0; x < width; x++) {
                row.put(x, pixel(line, x * channels, channels));
            }
        });
    }

    /** The bytes of a pixel, for the formats of eight bits, by Vulkan's numbers. */
    private static int channels(int format) throws SceneDump.Refusal {
        return switch (format) {
            case 9, 15 -> 1;
            case 16, 22 -> 2;
            case 23, 29 -> 3;
            case 37, 43 -> 4;
            default ->
                throw new SceneDump.Refusal("it is stored for graphics cards (Vulkan's format " + format
                        + "); save it with eight bits a channel, or as Basis Universal");
        };
    }

    private static int pixel(ByteBuffer line, int at, int channels) {
        int red = line.get(at) & 0xff;
        int green = channels > 1 ? line.get(at + 1) & 0xff : red;
        int blue = channels > 2 ? line.get(at + 2) & 0xff : channels == 1 ? red : 0;
        int alpha = channels > 3 ? line.get(at + 3) & 0xff : 0xff;
        return alpha << 24 | red << 16 | green << 8 | blue;
    }
}
