package pantry.render;

import java.util.function.IntConsumer;
import java.util.stream.IntStream;

/** Work on all cores. */
final class Parallel {
    private Parallel() {}

    /** Does something for each number from 0 on, side by side, and returns when all is done. */
    static void forEach(int count, IntConsumer work) {
        IntStream.range(0, count).parallel().forEach(work);
    }
}
