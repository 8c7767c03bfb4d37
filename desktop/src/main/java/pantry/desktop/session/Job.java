package pantry.desktop.session;

import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import pantry.base.Progress;

/** Long work that is going on, as the counter shows it. */
public final class Job implements Progress {
    private final String name;
    private final ReadOnlyStringWrapper what;
    private final ReadOnlyDoubleWrapper fraction = new ReadOnlyDoubleWrapper(-1);
    private final Executor ui;
    private volatile boolean cancelled;
    private volatile long lastShown;

    Job(String what, Executor ui) {
        this.name = what;
        this.what = new ReadOnlyStringWrapper(what);
        this.ui = ui;
    }

    @Override
    public void report(String step, double done) {
        long now = System.nanoTime();
        if (now - lastShown > 50_000_000L || done >= 1) {
            lastShown = now;
            ui.execute(() -> {
                what.set(step);
                fraction.set(done);
            });
        }
    }

    @Override
    public boolean cancelled() {
        return cancelled;
    }

    /** What is done, whatever step it is at. */
    String name() {
        return name;
    }

    /** Asks the work to stop. */
    public void cancel() {
        cancelled = true;
    }

    public ReadOnlyStringProperty whatProperty() {
        return what.getReadOnlyProperty();
    }

    /** 0 to 1; negative where it cannot be known. */
    public ReadOnlyDoubleProperty fractionProperty() {
        return fraction.getReadOnlyProperty();
    }
}
