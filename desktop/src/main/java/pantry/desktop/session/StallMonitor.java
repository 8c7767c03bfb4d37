package pantry.desktop.session;

import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.slf4j.LoggerFactory;

/**
 * Reports whenever the interface's thread was held for longer than a limit, with its stack while it was. A switch for
 * developers: {@code -Dpantry.stalls=50} sets the limit in milliseconds.
 *
 * <p>A thread of its own asks the interface's thread again and again for a sign of life; an answer that is late by more
 * than the limit is a stall. The stack is taken when the limit is reached, so what is reported is what was going on then,
 * and not all that took the time.
 */
public final class StallMonitor implements AutoCloseable {
    private static final String SWITCH = "pantry.stalls";
    private static final ThreadMXBean THREADS = ManagementFactory.getThreadMXBean();
    private static final String PANTRY = "pantry.";
    private static final List<String> OUTSIDE = List.of("java.io.", "java.net.", "sun.nio.", "org.sqlite.");

    /** So often is a thread looked at until the limit. */
    private static final int SAMPLES = 20;

    private static final Duration PAUSE = Duration.ofMillis(5);

    private final Executor ui;
    private final Duration limit;
    private final Consumer<Stall> told;
    private final Thread watcher;

    /**
     * A time for which the interface's thread did not answer.
     *
     * @param worked the processor's time that the thread used meanwhile
     * @param waited whether Pantry waited for something at most of the times that it was looked at: a lock, another thread,
     *     a file
     * @param stack of the interface's thread when the limit was reached, the innermost call first
     */
    public record Stall(Duration held, Duration worked, boolean waited, List<StackTraceElement> stack) {
        /**
         * Whether it was Pantry that held the thread for longer than a limit, and not other programs that had the
         * processor.
         */
        public boolean isOwn(Duration limit) {
            return waited ? held.compareTo(limit) > 0 : worked.compareTo(limit) > 0;
        }

        /** In one line: the innermost call, and those of Pantry's own that led there. */
        String text() {
            String calls = IntStream.range(0, stack.size())
                    .filter(i -> i == 0 || stack.get(i).getClassName().startsWith(PANTRY))
                    .mapToObj(i -> stack.get(i).toString())
                    .collect(Collectors.joining(" < "));
            return "held for " + held.toMillis() + " ms: " + calls;
        }
    }

    /** Begins to watch, until it is closed. */
    public StallMonitor(Executor ui, Duration limit, Consumer<Stall> told) {
        this.ui = ui;
        this.limit = limit;
        this.told = told;
        watcher = Thread.ofPlatform().daemon().name("stall monitor").start(this::watch);
    }

    /** One that writes to the log, where the switch is set. */
    public static Optional<StallMonitor> ofSwitch(Executor ui) {
        return Optional.ofNullable(Long.getLong(SWITCH))
                .map(millis -> new StallMonitor(ui, Duration.ofMillis(millis), StallMonitor::log));
    }

    private static void log(Stall stall) {
        // Asked for when it is used: a constant of the class would set the log up before anything is seen.
        LoggerFactory.getLogger(StallMonitor.class).warn("the interface's thread was {}", stall.text());
    }

    private void watch() {
        AtomicReference<@Nullable Thread> interfaceThread = new AtomicReference<>();
        try {
            CountDownLatch known = new CountDownLatch(1);
            ui.execute(() -> {
                interfaceThread.set(Thread.currentThread());
                known.countDown();
            });
            known.await();
            while (true) {
                CountDownLatch answered = new CountDownLatch(1);
                long asked = System.nanoTime();
                Thread held = Objects.requireNonNull(interfaceThread.get());
                long used = THREADS.getThreadCpuTime(held.threadId());
                ui.execute(answered::countDown);
                if (!answered.await(limit.toNanos() / SAMPLES, TimeUnit.NANOSECONDS)) {
                    watch(held, answered, asked, used);
                }
                Thread.sleep(PAUSE);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** Looks again and again at a thread that does not answer, until it does. */
    private void watch(Thread held, CountDownLatch answered, long asked, long used) throws InterruptedException {
        int looks = 0;
        int waiting = 0;
        List<StackTraceElement> stack = List.of();
        do {
            List<StackTraceElement> now = Arrays.asList(held.getStackTrace());
            looks++;
            // The toolkit waits for its own drawing, which is not Pantry's to hasten.
            boolean own = now.stream().anyMatch(call -> call.getClassName().startsWith(PANTRY));
            waiting += own && (waits(held) || waits(now)) ? 1 : 0;
            if (stack.isEmpty() && System.nanoTime() - asked >= limit.toNanos()) {
                stack = now;
            }
        } while (!answered.await(limit.toNanos() / SAMPLES, TimeUnit.NANOSECONDS));
        Duration time = Duration.ofNanos(System.nanoTime() - asked);
        if (time.compareTo(limit) > 0) {
            Duration worked = Duration.ofNanos(THREADS.getThreadCpuTime(held.threadId()) - used);
            told.accept(new Stall(time, worked, 2 * waiting > looks, stack));
        }
    }

    private static boolean waits(Thread thread) {
        return switch (thread.getState()) {
            case BLOCKED, WAITING, TIMED_WAITING -> true;
            case NEW, RUNNABLE, TERMINATED -> false;
        };
    }

    /** Whether the innermost call is one to the system for a file or a database, whose waiting no state tells. */
    private static boolean waits(List<StackTraceElement> stack) {
        return stack.stream().limit(1).filter(StackTraceElement::isNativeMethod).anyMatch(call -> OUTSIDE.stream()
                .anyMatch(call.getClassName()::startsWith));
    }

    @Override
    public void close() {
        watcher.interrupt();
    }
}
