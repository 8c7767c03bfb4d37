package pantry.usd.compose;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.usd.UsdException;

/**
 * What composing one stage may cost. A few layers of a few lines can bring in each other so often that no machine ever
 * composes them; composing stops then with one error that tells the chain of arcs it was in.
 *
 * <p>Counted are sites, each of which takes some hundred bytes and some microseconds, so that the count bounds memory and
 * time on any machine alike; besides, the time itself where a deadline is given, and the depth of arcs, which is that of
 * the program's stack. To be used by one thread at a time, as its stage is.
 */
public final class Budget {
    private static final int TIME_EVERY = 1 << 12;

    private final Limits limits;
    private Progress progress;
    private final long deadline;
    private long sites;
    private long steps;

    /**
     * The most that composing may cost.
     *
     * @param sites in all
     * @param depth of arcs that lead to each other, sublayers, and prims within each other
     * @param layers of one layer stack
     * @param placements that a stage may show, those within instances counted each time
     * @param time that reading a foreign file may take
     */
    public record Limits(long sites, int depth, int layers, long placements, Duration time) {
        /** A site with what is kept of its prim takes less, bytes. */
        private static final long PER_SITE = 1024;

        /** As many sites and placements as memory holds, 256 deep, 4,096 sublayers, a minute. */
        public static final Limits USUAL = new Limits(
                Runtime.getRuntime().maxMemory() / PER_SITE,
                256,
                4096,
                Runtime.getRuntime().maxMemory() / PER_SITE,
                Duration.ofSeconds(60));

        /**
         * The usual limits, but for what {@code PANTRY_READ_SECONDS} and {@code PANTRY_COMPOSE_SITES} say.
         *
         * @throws PantryException where one of them is not a whole number greater than 0
         */
        public static Limits ofEnvironment(Map<String, String> environment) {
            long most = number(environment, "PANTRY_COMPOSE_SITES", USUAL.sites);
            return new Limits(
                    most,
                    USUAL.depth,
                    USUAL.layers,
                    most,
                    Duration.ofSeconds(number(environment, "PANTRY_READ_SECONDS", USUAL.time.toSeconds())));
        }

        private static long number(Map<String, String> environment, String name, long otherwise) {
            String text = environment.getOrDefault(name, "").strip();
            if (text.isEmpty()) {
                return otherwise;
            }
            if (!text.matches("\\d{1,12}") || Long.parseLong(text) < 1) {
                throw new PantryException(name + " must be a whole number of at least 1, not " + text);
            }
            return Long.parseLong(text);
        }
    }

    private Budget(Limits limits, Progress progress, long deadline) {
        this.limits = limits;
        this.progress = progress;
        this.deadline = deadline;
    }

    /** For a stage that stays open: no deadline. */
    public static Budget of(Limits limits) {
        return new Budget(limits, Progress.NONE, Long.MAX_VALUE);
    }

    /** For a foreign file that is read once, from now on; ends too when the progress is cancelled. */
    public static Budget forReading(Limits limits, Progress progress) {
        return new Budget(limits, progress, System.nanoTime() + limits.time.toNanos());
    }

    public Limits limits() {
        return limits;
    }

    /**
     * Does work on the stage that ends where a progress is cancelled; the stage can be asked on after that.
     *
     * @throws java.util.concurrent.CancellationException where it was
     */
    public <R> R watched(Progress by, Supplier<R> work) {
        Progress before = progress;
        progress = by;
        try {
            return work.get();
        } finally {
            progress = before;
        }
    }

    /**
     * Takes note of one more site.
     *
     * @param depth how many arcs lead to it
     * @param chain the sites on the way, the outermost first, for what is said of it
     * @throws UsdException where that is one too many
     */
    void site(int depth, Supplier<List<Opinion.Site>> chain) {
        if (depth > limits.depth) {
            throw over("arcs lead to each other more than " + limits.depth + " deep", chain.get());
        }
        if (++sites > limits.sites) {
            throw over("takes more than " + limits.sites + " sites to be composed", chain.get());
        }
        step(chain);
    }

    /** Takes note that a layer stack has so many layers, and sublayers so deep. */
    void layers(int count, int depth, String name) {
        if (count > limits.layers || depth > limits.depth) {
            throw new UsdException(
                    name,
                    null,
                    "its sublayers bring in each other too often: more than "
                            + (count > limits.layers ? limits.layers + " in all" : limits.depth + " deep"),
                    null);
        }
    }

    /**
     * Takes note of work on a stage.
     *
     * @throws UsdException where the time is over
     * @throws java.util.concurrent.CancellationException where the work is no longer wanted
     */
    public void step() {
        step(List::of);
    }

    private void step(Supplier<List<Opinion.Site>> chain) {
        if (++steps % TIME_EVERY == 0) {
            progress.step("composing", -1);
            if (System.nanoTime() > deadline) {
                throw over("was not composed within " + limits.time.toSeconds() + " s", chain.get());
            }
        }
    }

    private static UsdException over(String what, List<Opinion.Site> sites) {
        if (sites.isEmpty()) {
            return new UsdException(what);
        }
        List<String> chain = sites.stream().map(Opinion.Site::toString).toList();
        String file = sites.getFirst().layer().name();
        List<String> told = chain.size() <= 6 ? chain : chain.subList(chain.size() - 6, chain.size());
        return new UsdException(
                file,
                null,
                what + "; the chain: " + (told.size() < chain.size() ? "… → " : "") + String.join(" → ", told),
                null);
    }
}
