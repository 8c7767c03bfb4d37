package pantry.exchange.worker;

import java.time.Duration;
import java.util.Map;
import pantry.base.PantryException;

/**
 * What one file may cost.
 *
 * @param time of the processor's, and at least as long on the clock, from the request to the answer
 * @param memory bytes that the worker process may occupy, native memory included
 */
public record WorkerLimits(Duration time, long memory) {
    /** A minute and 4 GiB. */
    public static final WorkerLimits USUAL = new WorkerLimits(Duration.ofSeconds(60), 4L << 30);

    /**
     * The usual limits, but for what {@code PANTRY_READ_SECONDS} and {@code PANTRY_READ_MEGABYTES} say.
     *
     * @throws PantryException where one of them is not a whole number in range
     */
    public static WorkerLimits ofEnvironment(Map<String, String> environment) {
        return new WorkerLimits(
                Duration.ofSeconds(number(environment, "PANTRY_READ_SECONDS", USUAL.time.toSeconds(), 1)),
                number(environment, "PANTRY_READ_MEGABYTES", USUAL.memory >> 20, 64) << 20);
    }

    private static long number(Map<String, String> environment, String name, long otherwise, long least) {
        String text = environment.getOrDefault(name, "");
        if (text.isBlank()) {
            return otherwise;
        }
        if (!text.strip().matches("\\d{1,9}") || Long.parseLong(text.strip()) < least) {
            throw new PantryException(name + " must be a whole number of at least " + least + ", not " + text);
        }
        return Long.parseLong(text.strip());
    }

    public WorkerLimits {
        if (time.isNegative() || time.isZero() || memory < 64L << 20) {
            throw new IllegalArgumentException("a worker needs some time and at least 64 MiB");
        }
    }
}
