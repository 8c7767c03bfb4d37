package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Map;
import java.util.Set;
import pantry.base.Json;
import pantry.exchange.worker.WorkerLimits;
import pantry.workbench.Workbench;

/** Runs commands as a shell would, and keeps what the last one printed. */
final class Shell implements AutoCloseable {
    private final Workbench workbench;
    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    Shell(Path folder) {
        workbench = new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
    }

    /** The exit status. */
    int run(String... arguments) {
        out.reset();
        err.reset();
        return Main.run(
                workbench,
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(err, true, StandardCharsets.UTF_8),
                arguments);
    }

    /** Runs a command that has to succeed. */
    void done(String... arguments) {
        assertThat(run(arguments)).as(said()).isZero();
    }

    /** Runs a command that has to succeed, and what it prints as JSON. */
    Map<?, ?> json(String... arguments) {
        done(arguments);
        return Json.read(printed(), "output", Map.class);
    }

    /** The names of all commands of this module. */
    Set<String> commands() {
        PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
        return Set.copyOf(
                Main.commandLine(workbench, nowhere, nowhere).getSubcommands().keySet());
    }

    /** What the commands work with, to look at what they left. */
    Workbench workbench() {
        return workbench;
    }

    String printed() {
        return out.toString(StandardCharsets.UTF_8);
    }

    String said() {
        return err.toString(StandardCharsets.UTF_8);
    }

    @Override
    public void close() {
        workbench.close();
    }
}
