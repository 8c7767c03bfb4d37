package pantry.base;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.Future;
import java.util.concurrent.Phaser;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Function;
import java.util.function.IntConsumer;
import java.util.function.ObjIntConsumer;
import java.util.function.Supplier;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Work on all cores where the pieces are of very unequal size: whoever is done takes the next one. A parallel stream
 * deals out stretches beforehand, and then waits for the one with the large files.
 */
public final class Parallel {
    /** So many for each thread, so that none waits long for another. */
    private static final int STRETCHES = 8;

    private Parallel() {}

    /**
     * What a function makes of each of some things, in their order.
     *
     * @throws RuntimeException the first that the function throws; some pieces may not have been begun then
     */
    @SuppressWarnings("unchecked")
    public static <T, R> List<R> map(List<T> things, Function<? super T, ? extends R> function) {
        Object[] results = new Object[things.size()];
        AtomicInteger next = new AtomicInteger();
        AtomicReference<@Nullable Throwable> failure = new AtomicReference<>();
        Runnable worker = () -> {
            try {
                for (int i = next.getAndIncrement(); i < results.length; i = next.getAndIncrement()) {
                    results[i] = function.apply(things.get(i));
                }
            } catch (RuntimeException | Error e) {
                failure.compareAndSet(null, e);
                next.set(results.length);
            }
        };
        // Only helpers that have begun are waited for: others may stand behind work that takes long, and have nothing
        // to do.
        Phaser working = new Phaser(1);
        int helpers = Math.min(ForkJoinPool.getCommonPoolParallelism(), Math.max(0, things.size() - 1));
        for (int i = 0; i < helpers; i++) {
            ForkJoinPool.commonPool().execute(() -> {
                if (working.register() == 0) {
                    try {
                        worker.run();
                    } finally {
                        working.arriveAndDeregister();
                    }
                }
            });
        }
        worker.run();
        working.awaitAdvance(working.arrive());
        switch (failure.get()) {
            case null -> {}
            case RuntimeException e -> throw e;
            case Error e -> throw e;
            case Throwable other -> throw new IllegalStateException(other);
        }
        return (List<R>) Arrays.asList(results);
    }

    /**
     * As above, on threads of its own, for work that waits for the disk or for other processes.
     *
     * @param threads how many things are worked on at once, at least 1
     */
    public static <T, R> List<R> map(List<T> things, int threads, Function<? super T, ? extends R> function) {
        List<R> results = new ArrayList<>();
        try (ExecutorService pool = Executors.newFixedThreadPool(Math.clamp(things.size(), 1, threads))) {
            List<Future<R>> begun = things.stream()
                    .map(thing -> pool.<R>submit(() -> function.apply(thing)))
                    .toList();
            for (Future<R> each : begun) {
                results.add(each.get());
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new CancellationException("interrupted");
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Error error) {
                throw error;
            }
            throw e.getCause() instanceof RuntimeException known ? known : new IllegalStateException(e.getCause());
        }
        return results;
    }

    /** Does something for each number from 0 on, where all are of much the same size, and returns when all is done. */
    public static void forEach(int count, IntConsumer work) {
        IntStream.range(0, count).parallel().forEach(work);
    }

    /**
     * As above, with something to work with that only one thread uses at a time.
     *
     * @param scratch makes it; called for each of some stretches of the numbers
     */
    public static <S> void forEach(int count, Supplier<S> scratch, ObjIntConsumer<S> work) {
        int stretches = Math.min(count, STRETCHES * (ForkJoinPool.getCommonPoolParallelism() + 1));
        forEach(stretches, stretch -> {
            S own = scratch.get();
            int end = (int) ((long) count * (stretch + 1) / stretches);
            for (int i = (int) ((long) count * stretch / stretches); i < end; i++) {
                work.accept(own, i);
            }
        });
    }
}
