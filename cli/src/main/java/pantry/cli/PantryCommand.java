package pantry.cli;

import java.util.concurrent.Callable;
import pantry.workbench.Workbench;
import picocli.CommandLine;
import picocli.CommandLine.Option;

/**
 * What all commands do alike: work, then print the result as one JSON document or for a person.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class PantryCommand<R> implements Callable<Integer> {
    final Workbench workbench;
    final Output output;

    @CommandLine.Spec
    private CommandLine.Model.CommandSpec spec = CommandLine.Model.CommandSpec.create();

    @Option(names = "--json", description = "Print one JSON document instead of text.")
    private boolean json;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    private boolean help;

    PantryCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    /** Does what the command is for. */
    abstract R work();

    /** Prints the result for a person. */
    abstract void tell(R result);

    /** Whether the work was done; 1 is answered otherwise. */
    boolean done(R result) {
        return true;
    }

    /** A complaint about how the command was called, which is answered with 2. */
    CommandLine.ParameterException wrongCall(String message) {
        return new CommandLine.ParameterException(spec.commandLine(), message);
    }

    @Override
    public final Integer call() {
        R result = work();
        if (json) {
            output.json(result);
        } else {
            tell(result);
        }
        return done(result) ? 0 : 1;
    }
}
