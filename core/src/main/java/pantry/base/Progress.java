package pantry.base;

import java.util.concurrent.CancellationException;

/**
 * How long work tells how far it is and learns that it is no longer wanted.
 *
 * <p>Implementations must be callable from any thread. Workers call {@link #step} at least several times a second and
 * so honour cancellation promptly.
 */
public interface Progress {
    /** Neither shows anything nor is ever cancelled. */
    Progress NONE = new Progress() {
        @Override
        public void report(String what, double fraction) {}

        @Override
        public boolean cancelled() {
            return false;
        }
    };

    /**
     * @param what the thing at hand, for a person
     * @param fraction how much is done, 0 to 1; negative where it cannot be known
     */
    void report(String what, double fraction);

    /** Whether the work should stop. */
    boolean cancelled();

    /**
     * Reports, and stops where cancelled.
     *
     * @throws CancellationException when the work is no longer wanted
     */
    default void step(String what, double fraction) {
        if (cancelled()) {
            throw new CancellationException("cancelled: " + what);
        }
        report(what, fraction);
    }

    /**
     * Stops where cancelled, without a report.
     *
     * @throws CancellationException when the work is no longer wanted
     */
    default void check() {
        if (cancelled()) {
            throw new CancellationException("cancelled");
        }
    }

    /** Tells nothing of how far it is, for one of several that are done at once; cancelling reaches it. */
    default Progress withoutSteps() {
        Progress whole = this;
        return new Progress() {
            @Override
            public void report(String what, double fraction) {}

            @Override
            public boolean cancelled() {
                return whole.cancelled();
            }
        };
    }

    /** This progress with its 0 to 1 standing for {@code from} to {@code to} of the whole. */
    default Progress part(double from, double to) {
        Progress whole = this;
        return new Progress() {
            @Override
            public void report(String what, double fraction) {
                whole.report(what, fraction < 0 ? from : from + (to - from) * fraction);
            }

            @Override
            public boolean cancelled() {
                return whole.cancelled();
            }
        };
    }
}
