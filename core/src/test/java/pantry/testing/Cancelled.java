package pantry.testing;

import pantry.base.Progress;

/** The progress of work that is no longer wanted. */
public final class Cancelled implements Progress {
    @Override
    public void report(String what, double fraction) {}

    @Override
    public boolean cancelled() {
        return true;
    }
}
