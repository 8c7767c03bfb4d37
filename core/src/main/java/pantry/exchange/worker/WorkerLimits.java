package pantry.exchange.worker;

import java.time.Duration;

/**
 * What one file may cost.
 *
 * @param time from the request to the answer
 * @param memory bytes that the worker process may occupy, native memory included
 */
public record WorkerLimits(Duration time, long memory) {
    /** A minute and 4 GiB. */
    public static final WorkerLimits USUAL = new WorkerLimits(Duration.ofSeconds(60), 4L << 30);

    public WorkerLimits {
        if (time.isNegative() || time.isZero() || memory < 64L << 20) {
            throw new IllegalArgumentException("a worker needs some time and at least 64 MiB");
        }
    }
}
