package pantry.demo;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/**
 * The sky over the ridge, all around and up, with a low sun that is far brighter than white: an OpenEXR file of halves,
 * uncompressed, as its specification lays it out ("OpenEXR File Layout").
 */
final class Sky {
    private static final int WIDTH = 512;
    private static final int HEIGHT = 256;
    private static final int MAGIC = 20_000_630;
    private static final int VERSION = 2;
    private static final int HALF = 1;

    /** In the order in which the channels stand: blue, green, red. */
    private static final float[] GROUND = {0.62f, 0.60f, 0.58f};

    private static final float[] HORIZON = {0.78f, 0.72f, 0.66f};
    private static final float[] ZENITH = {0.52f, 0.26f, 0.12f};
    private static final float[] SUN = {700, 980, 1150};

    private Sky() {}

    static byte[] exr() {
        int line = 8 + WIDTH * 3 * 2;
        ByteBuffer out = ByteBuffer.allocate(1024 + HEIGHT * (8 + line)).order(ByteOrder.LITTLE_ENDIAN);
        out.putInt(MAGIC).putInt(VERSION);
        attribute(out, "channels", "chlist", 3 * 18 + 1);
        for (String channel : new String[] {"B", "G", "R"}) {
            text(out, channel);
            out.putInt(HALF).putInt(0).putInt(1).putInt(1);
        }
        out.put((byte) 0);
        attribute(out, "compression", "compression", 1);
        out.put((byte) 0);
        for (String window : new String[] {"dataWindow", "displayWindow"}) {
            attribute(out, window, "box2i", 16);
            out.putInt(0).putInt(0).putInt(WIDTH - 1).putInt(HEIGHT - 1);
        }
        attribute(out, "lineOrder", "lineOrder", 1);
        out.put((byte) 0);
        attribute(out, "pixelAspectRatio", "float", 4);
        out.putFloat(1);
        attribute(out, "screenWindowCenter", "v2f", 8);
        out.putFloat(0).putFloat(0);
        attribute(out, "screenWindowWidth", "float", 4);
        out.putFloat(1).put((byte) 0);
        long first = out.position() + 8L * HEIGHT;
        for (int y = 0; y < HEIGHT; y++) {
            out.putLong(first + (long) y * line);
        }
        for (int y = 0; y < HEIGHT; y++) {
            out.putInt(y).putInt(line - 8);
            for (int channel = 0; channel < 3; channel++) {
                for (int x = 0; x < WIDTH; x++) {
                    out.putShort(Float.floatToFloat16(light(x, y, channel)));
                }
            }
        }
        byte[] file = new byte[out.position()];
        out.flip().get(file);
        return file;
    }

    private static void attribute(ByteBuffer out, String name, String type, int size) {
        text(out, name);
        text(out, type);
        out.putInt(size);
    }

    private static void text(ByteBuffer out, String text) {
        out.put(text.getBytes(StandardCharsets.US_ASCII)).put((byte) 0);
    }

    /** Linear light; the horizon lies half-way down. */
    private static float light(int x, int y, int channel) {
        double up = 1 - 2.0 * y / HEIGHT;
        if (up < 0) {
            return GROUND[channel];
        }
        double high = Math.sqrt(up);
        double sky = HORIZON[channel] * (1 - high) + ZENITH[channel] * high;
        double across = (x - 0.7 * WIDTH) / WIDTH * 2;
        double off = Math.sqrt(across * across + (up - 0.22) * (up - 0.22));
        double glow = 0.9 * Math.exp(-off * 9);
        return (float) (off < 0.018 ? SUN[channel] : sky + glow);
    }
}
