package pantry.cli;

import java.io.PrintStream;
import java.util.Locale;
import java.util.Optional;
import pantry.base.Json;
import pantry.base.Printable;
import pantry.base.Progress;

/** Where a command's result and messages go. */
final class Output {
    private final PrintStream out;
    private final PrintStream err;
    private final Optional<TerminalProgress> progress;

    /** @param watched whether somebody watches standard error, so that it is told how far work is */
    Output(PrintStream out, PrintStream err, boolean watched) {
        this.out = out;
        this.err = err;
        this.progress = watched ? Optional.of(new TerminalProgress(err)) : Optional.empty();
    }

    /** One JSON document on standard output. */
    void json(Object document) {
        progress.ifPresent(TerminalProgress::clear);
        out.print(Json.write(document));
    }

    /** A line of the result, for a person. */
    void line(String format, Object... arguments) {
        progress.ifPresent(TerminalProgress::clear);
        Object[] shown = arguments.clone();
        for (int i = 0; i < shown.length; i++) {
            if (!(shown[i] instanceof Number) && !(shown[i] instanceof Boolean)) {
                shown[i] = Printable.of(String.valueOf(shown[i]));
            }
        }
        out.printf(Locale.ROOT, format + "%n", shown);
    }

    /** A line on standard error. */
    void say(String message) {
        progress.ifPresent(TerminalProgress::clear);
        err.println(Printable.of(message));
    }

    /** One JSON document on standard error. */
    void sayJson(Object document) {
        progress.ifPresent(TerminalProgress::clear);
        err.print(Json.write(document));
    }

    /** Shows the work at hand where somebody watches. */
    Progress progress() {
        return progress.<Progress>map(shown -> shown).orElse(Progress.NONE);
    }

    /** So many of a thing, as {@code 1 file} and {@code 1,200 files}. */
    static String counted(long count, String thing) {
        return String.format(Locale.ROOT, "%,d %s%s", count, thing, count == 1 ? "" : "s");
    }
}
