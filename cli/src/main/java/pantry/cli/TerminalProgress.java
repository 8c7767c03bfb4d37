package pantry.cli;

import java.io.PrintStream;
import pantry.base.Printable;
import pantry.base.Progress;

/** Tells how far work is in one line of a terminal, which is written over and goes when anything else is said. */
final class TerminalProgress implements Progress {
    private static final int COLUMNS = 79;
    private static final long BETWEEN_NANOS = 100_000_000;

    private final PrintStream terminal;
    private long last = System.nanoTime();
    private boolean shown;

    TerminalProgress(PrintStream terminal) {
        this.terminal = terminal;
    }

    /** Whether somebody watches this process's standard error. */
    static boolean isWatched() {
        return System.console() != null && System.console().isTerminal();
    }

    @Override
    public synchronized void report(String what, double fraction) {
        long now = System.nanoTime();
        if (now - last < BETWEEN_NANOS) {
            return;
        }
        last = now;
        String text = fraction < 0 ? what : String.format("%3d %%  %s", Math.round(100 * Math.min(1, fraction)), what);
        String line = Printable.of(text);
        terminal.print("\r" + padded(line.length() > COLUMNS ? line.substring(0, COLUMNS - 1) + "…" : line));
        terminal.flush();
        shown = true;
    }

    private static String padded(String line) {
        return line + " ".repeat(COLUMNS - line.length());
    }

    @Override
    public boolean cancelled() {
        return false;
    }

    /** Takes the line away, so that something else can be said. */
    synchronized void clear() {
        if (shown) {
            terminal.print("\r" + padded("") + "\r");
            terminal.flush();
            shown = false;
        }
    }
}
