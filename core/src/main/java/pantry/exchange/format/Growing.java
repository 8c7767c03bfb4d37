package pantry.exchange.format;

import java.util.Arrays;

/** Lists of numbers that grow; without boxes. */
public final class Growing {
    private Growing() {}

    public static final class Floats {
        private float[] data = new float[1024];
        private int size;

        public void add(float value) {
            if (size == data.length) {
                data = Arrays.copyOf(data, data.length + (data.length >> 1));
            }
            data[size++] = value;
        }

        public int size() {
            return size;
        }

        /** The numbers themselves; may be longer than the list. */
        public float[] shared() {
            return data;
        }

        public float[] toArray() {
            return Arrays.copyOf(data, size);
        }
    }

    public static final class Ints {
        private int[] data = new int[64];
        private int size;

        public void add(int value) {
            if (size == data.length) {
                data = Arrays.copyOf(data, data.length + (data.length >> 1));
            }
            data[size++] = value;
        }

        public int size() {
            return size;
        }

        /** Forgets what comes after the first so many. */
        public void cut(int length) {
            size = length;
        }

        public int[] toArray() {
            return Arrays.copyOf(data, size);
        }
    }
}
