package pantry.desktop.session;

import java.util.concurrent.CancellationException;
import java.util.concurrent.Executor;
import java.util.concurrent.RejectedExecutionException;
import java.util.function.Consumer;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.PantryException;

/**
 * The one way to do work in the background: it has a name, a progress and can be cancelled; what comes of it is handled
 * on the interface's thread. {@link LatestWork} is for work of which only the newest counts.
 */
public final class BackgroundWork {

    private final Background background;
    private final Ledger ledger;
    private int going;
    private final ObservableList<Job> jobs = FXCollections.observableArrayList();

    /** @param ledger gets the failures that nobody handles otherwise */
    BackgroundWork(Background background, Ledger ledger) {
        this.background = background;
        this.ledger = ledger;
    }

    /** Whether nothing is being done, shown or not; for those who wait for a picture to be complete. */
    public boolean isIdle() {
        return going == 0;
    }

    /** What is going on and shown, the oldest first. */
    public ObservableList<Job> jobs() {
        return jobs;
    }

    /** Does work in the background, shown as a job; failures go to the ledger. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then) {
        return run(what, work, then, this::wrong);
    }

    /** As above, with failures handled otherwise. */
    public <T> Job run(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        Job job = new Job(what, background.ui());
        jobs.add(job);
        start(background.work(), job, work, then, failed);
        return job;
    }

    /** Does work that is soon done, in the background, without showing it as a job; failures go to the ledger. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then) {
        quietly(what, work, then, this::wrong);
    }

    /** As above, with failures handled otherwise. */
    public <T> void quietly(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        start(background.work(), new Job(what, background.ui()), work, then, failed);
    }

    /** Answers a question that must not wait behind long work; failures go to the ledger. */
    public <T> void answer(String what, Work<T> work, Consumer<T> then) {
        answer(what, work, then, this::wrong);
    }

    /** As above, with failures handled otherwise. */
    public <T> void answer(String what, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        start(background.answers(), new Job(what, background.ui()), work, then, failed);
    }

    /** Writes a failure into the ledger. */
    void wrong(PantryException problem) {
        ledger.wrong(problem);
    }

    private <T> void start(
            Executor executor, Job job, Work<T> work, Consumer<T> then, Consumer<PantryException> failed) {
        going++;
        submit(executor, () -> {
            try {
                T result = work.run(job);
                over(job, () -> then.accept(result));
            } catch (CancellationException e) {
                over(job, () -> ledger.told(String.valueOf(e.getMessage())));
            } catch (RuntimeException | Error e) {
                over(job, () -> failed(job.name(), e, failed));
            }
        });
    }

    /** Tells a failure: a refusal as what it says, anything else as a fault, which is logged. */
    void failed(String what, Throwable failure, Consumer<PantryException> told) {
        if (failure instanceof PantryException refusal) {
            told.accept(refusal);
        } else {
            log().error("{} failed", what, failure);
            told.accept(
                    new PantryException(null, null, what + " failed by a fault of Pantry's own: " + failure, failure));
        }
    }

    /** On the interface's thread, what comes of work. */
    private void over(Job job, Runnable outcome) {
        background.ui().execute(() -> {
            jobs.remove(job);
            try {
                outcome.run();
            } finally {
                going--;
            }
        });
    }

    /** Work after which something is done on the interface's thread where it was cancelled: what was begun is let go of. */
    public <T> Work<T> whenCancelled(Work<T> work, Runnable then) {
        return progress -> {
            try {
                return work.run(progress);
            } catch (CancellationException e) {
                onInterface(then);
                throw e;
            }
        };
    }

    private static void submit(Executor executor, Runnable work) {
        try {
            executor.execute(work);
        } catch (RejectedExecutionException e) {
            log().debug("the application ends; nothing more is begun");
        }
    }

    /** Does something on the interface's thread, soon. */
    public void onInterface(Runnable action) {
        background.ui().execute(action);
    }

    /** Does something on the interface's thread once the first view stands there; soon, where it does already. */
    public void onceShown(Runnable action) {
        going++;
        background.shown().execute(() -> {
            try {
                action.run();
            } finally {
                going--;
            }
        });
    }

    /** Asked for when it is used: a constant of the class would set the log up before anything is seen. */
    private static Logger log() {
        return LoggerFactory.getLogger(BackgroundWork.class);
    }
}
