package pantry.desktop.session;

import java.util.concurrent.Executor;

/**
 * Where work is done. Passed in, so that tests can run all at once and in order.
 *
 * @param work for what takes time
 * @param answers for what is soon answered and must not wait behind that
 * @param ui for what touches what is shown
 * @param shown for what is begun, on the interface's thread, only once the first view stands there
 */
public record Background(Executor work, Executor answers, Executor ui, Executor shown) {
    /** Where nothing has to wait for a first view. */
    public Background(Executor work, Executor answers, Executor ui) {
        this(work, answers, ui, ui);
    }
}
