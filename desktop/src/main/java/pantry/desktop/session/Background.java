package pantry.desktop.session;

import java.util.concurrent.Executor;

/**
 * Where work is done: {@code work} for what takes time, {@code answers} for what is soon answered and must not wait
 * behind that, {@code ui} for what touches what is shown. Passed in, so that tests can run all at once and in order.
 */
public record Background(Executor work, Executor answers, Executor ui) {}
