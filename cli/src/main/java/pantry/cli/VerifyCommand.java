package pantry.cli;

import java.nio.file.Path;
import pantry.library.Problem;
import pantry.library.Verification;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "verify", description = "Check every sealed version against its checksums.")
final class VerifyCommand extends PantryCommand<Verification> {
    @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
    private Path folder = Path.of("");

    VerifyCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Verification work() {
        Verification verification = workbench.openLibrary(folder).verify(output.progress());
        for (Problem problem : verification.problems()) {
            output.say("pantry verify: " + problem.path() + ": " + problem.message());
        }
        return verification;
    }

    @Override
    void tell(Verification verification) {
        output.line(
                "%d versions checked, %s",
                verification.versions(),
                verification.ok() ? "all as sealed" : verification.problems().size() + " problems");
    }

    @Override
    boolean done(Verification verification) {
        return verification.ok();
    }
}
