package pantry.shading;

/**
 * Noise over the plane and space: K. Perlin's gradient noise (2002) with B. Jenkins' hash of whole numbers (lookup3, public
 * domain), and the constants that MaterialX's own implementation scales it by; these from memory.
 */
final class LatticeNoise {
    private static final float SCALE_2 = 0.6616f;
    private static final float SCALE_3 = 0.9820f;

    private LatticeNoise() {}

    /**
     * Gradient noise, about -1 to 1.
     *
     * @param component of several that are unlike each other: 0 to 3
     * @param whole whether only one is wanted, which takes its directions from the whole hash
     */
    static float gradient(float x, float y, int component, boolean whole) {
        int cellX = floor(x);
        int cellY = floor(y);
        float fx = x - cellX;
        float fy = y - cellY;
        float u = fade(fx);
        float v = fade(fy);
        float low = mix(
                slope(picked(hash(cellX, cellY), component, whole), fx, fy),
                slope(picked(hash(cellX + 1, cellY), component, whole), fx - 1, fy),
                u);
        float high = mix(
                slope(picked(hash(cellX, cellY + 1), component, whole), fx, fy - 1),
                slope(picked(hash(cellX + 1, cellY + 1), component, whole), fx - 1, fy - 1),
                u);
        return SCALE_2 * mix(low, high, v);
    }

    /** As above, in space. */
    static float gradient(float x, float y, float z, int component, boolean whole) {
        int cellX = floor(x);
        int cellY = floor(y);
        int cellZ = floor(z);
        float fx = x - cellX;
        float fy = y - cellY;
        float fz = z - cellZ;
        float u = fade(fx);
        float v = fade(fy);
        float w = fade(fz);
        float result = 0;
        for (int k = 0; k < 2; k++) {
            float plane = 0;
            for (int j = 0; j < 2; j++) {
                float line = mix(
                        slope(picked(hash(cellX, cellY + j, cellZ + k), component, whole), fx, fy - j, fz - k),
                        slope(picked(hash(cellX + 1, cellY + j, cellZ + k), component, whole), fx - 1, fy - j, fz - k),
                        u);
                plane += line * (j == 0 ? 1 - v : v);
            }
            result += plane * (k == 0 ? 1 - w : w);
        }
        return SCALE_3 * result;
    }

    /** Another number from 0 to 1 for each cell of the plane. */
    static float cell(float x, float y) {
        return unit(hash(floor(x), floor(y)));
    }

    /** Another number from 0 to 1 for each cell of space. */
    static float cell(float x, float y, float z) {
        return unit(hash(floor(x), floor(y), floor(z)));
    }

    /** A hash as a number from 0 to 1. */
    static float unit(int hash) {
        return (float) ((hash & 0xffffffffL) / (double) 0xffffffffL);
    }

    private static int floor(float x) {
        return (int) Math.floor(x);
    }

    private static float fade(float t) {
        return t * t * t * (t * (t * 6 - 15) + 10);
    }

    private static float mix(float a, float b, float t) {
        return a + (b - a) * t;
    }

    private static int picked(int hash, int component, boolean whole) {
        return whole ? hash : hash >>> 8 * component & 0xff;
    }

    /** The dot product with one of eight directions. */
    private static float slope(int hash, float x, float y) {
        boolean first = (hash & 7) < 4;
        float u = first ? x : y;
        float v = 2 * (first ? y : x);
        return ((hash & 1) != 0 ? -u : u) + ((hash & 2) != 0 ? -v : v);
    }

    /** The dot product with one of twelve directions. */
    private static float slope(int hash, float x, float y, float z) {
        int h = hash & 15;
        float u = h < 8 ? x : y;
        float v = h < 4 ? y : h == 12 || h == 14 ? x : z;
        return ((h & 1) != 0 ? -u : u) + ((h & 2) != 0 ? -v : v);
    }

    static int hash(int x, int y) {
        int start = 0xdeadbeef + (2 << 2) + 13;
        return last(start + x, start + y, start);
    }

    static int hash(int x, int y, int z) {
        int start = 0xdeadbeef + (3 << 2) + 13;
        return last(start + x, start + y, start + z);
    }

    static int hash(int x, int y, int z, int w) {
        int start = 0xdeadbeef + (4 << 2) + 13;
        int a = start + x;
        int b = start + y;
        int c = start + z;
        // The mixing of lookup3 between one block of three and the next.
        a = (a - c) ^ Integer.rotateLeft(c, 4);
        c += b;
        b = (b - a) ^ Integer.rotateLeft(a, 6);
        a += c;
        c = (c - b) ^ Integer.rotateLeft(b, 8);
        b += a;
        a = (a - c) ^ Integer.rotateLeft(c, 16);
        c += b;
        b = (b - a) ^ Integer.rotateLeft(a, 19);
        a += c;
        c = (c - b) ^ Integer.rotateLeft(b, 4);
        b += a;
        return last(a + w, b, c);
    }

    /** The final mixing of lookup3. */
    private static int last(int first, int second, int third) {
        int a = first;
        int b = second;
        int c = third;
        c = (c ^ b) - Integer.rotateLeft(b, 14);
        a = (a ^ c) - Integer.rotateLeft(c, 11);
        b = (b ^ a) - Integer.rotateLeft(a, 25);
        c = (c ^ b) - Integer.rotateLeft(b, 16);
        a = (a ^ c) - Integer.rotateLeft(c, 4);
        b = (b ^ a) - Integer.rotateLeft(a, 14);
        return (c ^ b) - Integer.rotateLeft(b, 24);
    }
}
