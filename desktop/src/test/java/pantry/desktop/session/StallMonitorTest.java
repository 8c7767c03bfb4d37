package pantry.desktop.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class StallMonitorTest {
    private static final Duration LIMIT = Duration.ofMillis(200);

    @Test
    void aThreadThatIsHeldIsReportedWithWhatHoldsIt() throws InterruptedException {
        BlockingQueue<StallMonitor.Stall> stalls = new LinkedBlockingQueue<>();
        CountDownLatch answered = new CountDownLatch(1);
        try (ExecutorService ui = Executors.newSingleThreadExecutor();
                StallMonitor monitor = new StallMonitor(
                        sign -> ui.execute(() -> {
                            sign.run();
                            answered.countDown();
                        }),
                        LIMIT,
                        stalls::add)) {
            assertThat(answered.await(10, TimeUnit.SECONDS)).isTrue();
            ui.execute(() -> hold(LIMIT.multipliedBy(2)));
            StallMonitor.Stall stall = stalls.poll(10, TimeUnit.SECONDS);
            assertThat(stall).isNotNull();
            assertThat(stall.held()).isGreaterThan(LIMIT);
            assertThat(stall.text()).contains("hold(");
            assertThat(stall.isOwn(LIMIT)).as("waiting is Pantry's own").isTrue();
        }
    }

    @Test
    void whatOtherProgramsTookOfTheProcessorIsNotPantrys() {
        Duration little = LIMIT.dividedBy(4);
        Duration twice = LIMIT.multipliedBy(2);
        assertThat(new StallMonitor.Stall(twice, little, false, List.of()).isOwn(LIMIT))
                .isFalse();
        assertThat(new StallMonitor.Stall(twice, twice, false, List.of()).isOwn(LIMIT))
                .isTrue();
        assertThat(new StallMonitor.Stall(twice, little, true, List.of()).isOwn(LIMIT))
                .isTrue();
    }

    private static void hold(Duration time) {
        try {
            new CountDownLatch(1).await(time.toNanos(), TimeUnit.NANOSECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }
}
