package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
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
            names = "--allow-outside",
            paramLabel = "DIR",
            description = "A folder in which files may name others, besides their own folder, project and libraries;"
                    + " may be given again.")
    private List<Path> allowed = new ArrayList<>();

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

    /** The number that an option was given. */
    double number(String option, String text) {
        try {
            double number = Double.parseDouble(text.strip());
            if (Double.isFinite(number)) {
                return number;
            }
        } catch (NumberFormatException e) {
            // Said below, together with numbers that are not finite.
        }
        throw wrongCall(option + ": " + text + " is not a number.");
    }

    /** Numbers that an option was given, with commas between. */
    double[] numbers(String option, String text, int count) {
        String[] parts = text.split(",", -1);
        if (parts.length != count) {
            throw wrongCall(option + " takes " + count + " numbers with commas, such as 1.5,0,-2; not " + text);
        }
        double[] numbers = new double[count];
        for (int i = 0; i < count; i++) {
            numbers[i] = number(option, parts[i]);
        }
        return numbers;
    }

    @Override
    public final Integer call() {
        allowed.forEach(workbench.access()::allow);
        R result = work();
        if (json) {
            output.json(result);
        } else {
            tell(result);
        }
        return done(result) ? 0 : 1;
    }
}
