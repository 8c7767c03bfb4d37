package pantry.desktop.session;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Executor;

/**
 * Keeps what is handed over until it is opened, and from then on passes it on at once: what is not needed for the first view
 * does not compete with it for the processor. Safe for use by several threads.
 */
public final class StartGate implements Executor {
    private final Executor behind;
    private final List<Runnable> held = new ArrayList<>();
    private boolean open;

    /** @param behind runs what has passed */
    public StartGate(Executor behind) {
        this.behind = behind;
    }

    @Override
    public void execute(Runnable action) {
        synchronized (held) {
            if (!open) {
                held.add(action);
                return;
            }
        }
        behind.execute(action);
    }

    /** Passes on what was kept, in its order; does nothing when called again. */
    public void open() {
        List<Runnable> kept;
        synchronized (held) {
            open = true;
            kept = List.copyOf(held);
            held.clear();
        }
        kept.forEach(behind::execute);
    }
}
