package pantry.exchange.surface;

import java.util.Arrays;

/** Lists of numbers that grow; without boxes. */
final class Growing {
    private Growing() {}

    static final class Floats {
        private float[] data = new float[1024];
        private int size;

        void add(float value) {
            if (size == data.length) {
                data = Arrays.copyOf(data, data.length + (data.length >> 1));
            }
            data[size++] = value;
        }

        int size() {
            return size;
        }

        /** The numbers themselves; may be longer than the list. */
        float[] shared() {
            return data;
        }

        float[] toArray() {
            return Arrays.copyOf(data, size);
        }
    }

    static final class Ints {
        private int[] data = new int[64];
        private int size;

        void add(int value) {
            if (size == data.length) {
                data = Arrays.copyOf(data, data.length + (data.length >> 1));
            }
            data[size++] = value;
        }

        int size() {
            return size;
        }

        /** Forgets what comes after the first so many. */
        void cut(int length) {
            size = length;
        }

        int[] toArray() {
            return Arrays.copyOf(data, size);
        }
    }
}
