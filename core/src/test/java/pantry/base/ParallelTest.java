package pantry.base;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicIntegerArray;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

class ParallelTest {
    @Test
    void everythingIsDoneOnceAndComesInOrder() {
        AtomicInteger calls = new AtomicInteger();
        List<Integer> squares = Parallel.map(IntStream.range(0, 5000).boxed().toList(), i -> {
            calls.incrementAndGet();
            return i * i;
        });
        assertThat(calls).hasValue(5000);
        assertThat(squares).hasSize(5000).startsWith(0, 1, 4).endsWith(4999 * 4999);
        assertThat(Parallel.map(List.of(), i -> i)).isEmpty();
        assertThat(Parallel.map(List.of("one"), String::length)).containsExactly(3);
    }

    @Test
    void aFailureIsTheCallersAndEndsTheRest() {
        AtomicInteger calls = new AtomicInteger();
        List<Integer> many = IntStream.range(0, 100_000).boxed().toList();
        assertThatThrownBy(() -> Parallel.map(many, i -> {
                    calls.incrementAndGet();
                    if (i == 10) {
                        throw new IllegalStateException("ten");
                    }
                    return i;
                }))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("ten");
        assertThat(calls.get()).isLessThan(100_000);
    }

    /** Whoever can do it all alone does not wait for helpers that are busy with something else. */
    @Test
    @Timeout(60)
    void longWorkOfOthersIsNotWaitedFor() throws InterruptedException {
        CountDownLatch busy = new CountDownLatch(ForkJoinPool.getCommonPoolParallelism());
        CountDownLatch end = new CountDownLatch(1);
        for (int i = 0; i < ForkJoinPool.getCommonPoolParallelism(); i++) {
            ForkJoinPool.commonPool().execute(() -> {
                busy.countDown();
                try {
                    end.await();
                } catch (InterruptedException e) {
                    Thread.currentThread().interrupt();
                }
            });
        }
        try {
            busy.await();
            assertThat(Parallel.map(List.of(1, 2, 3), i -> 2 * i)).containsExactly(2, 4, 6);
        } finally {
            end.countDown();
        }
    }

    @Test
    void eachNumberIsMetOnceAndNoToolIsUsedByTwoAtATime() {
        for (int count : new int[] {0, 1, 7, 5000}) {
            AtomicIntegerArray met = new AtomicIntegerArray(count);
            AtomicInteger clashes = new AtomicInteger();
            Parallel.forEach(count, AtomicBoolean::new, (busy, i) -> {
                clashes.addAndGet(busy.getAndSet(true) ? 1 : 0);
                met.incrementAndGet(i);
                busy.set(false);
            });
            assertThat(clashes).hasValue(0);
            assertThat(IntStream.range(0, count).map(met::get)).allMatch(times -> times == 1);
        }
    }

    record Thing(String name, List<String> tags) {}

    @Test
    void recordsAndMapsAreTheSameFields() {
        Thing thing = new Thing("Mast", List.of("tall"));
        Map<String, Object> fields = Json.asMap(thing);
        assertThat(fields).containsEntry("name", "Mast").containsEntry("tags", List.of("tall"));
        assertThat(Json.ofMap(fields, Thing.class)).isEqualTo(thing);
        assertThatThrownBy(() -> Json.read("null", "card.json", Thing.class))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("says nothing");
    }
}
