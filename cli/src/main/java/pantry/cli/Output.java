package pantry.cli;

import java.io.PrintStream;
import pantry.base.Json;
import pantry.base.Progress;

/** Where a command's result and messages go. */
record Output(PrintStream out, PrintStream err) {
    /** One JSON document on standard output. */
    void json(Object document) {
        out.print(Json.write(document));
    }

    /** A line of the result, for a person. */
    void line(String format, Object... arguments) {
        out.printf(java.util.Locale.ROOT, format + "%n", arguments);
    }

    /** A line on standard error. */
    void say(String message) {
        err.println(message);
    }

    /** Shows the work at hand where somebody watches. */
    Progress progress() {
        return Progress.NONE;
    }
}
