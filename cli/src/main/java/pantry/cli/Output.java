package pantry.cli;

import java.io.PrintStream;
import java.util.Locale;
import pantry.base.Json;
import pantry.base.Printable;
import pantry.base.Progress;

/** Where a command's result and messages go. */
record Output(PrintStream out, PrintStream err) {
    /** One JSON document on standard output. */
    void json(Object document) {
        out.print(Json.write(document));
    }

    /** A line of the result, for a person. */
    void line(String format, Object... arguments) {
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
        err.println(Printable.of(message));
    }

    /** Shows the work at hand where somebody watches. */
    Progress progress() {
        return Progress.NONE;
    }
}
