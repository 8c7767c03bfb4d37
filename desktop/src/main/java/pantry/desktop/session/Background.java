package pantry.desktop.session;

import java.util.concurrent.Executor;

/**
 * Where work is done: {@code work} for what takes time, {@code ui} for what touches what is shown. Passed in, so that
 * tests can run both at once and in order.
 */
public record Background(Executor work, Executor ui) {}
