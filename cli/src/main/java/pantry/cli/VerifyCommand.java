package pantry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import pantry.library.Library;
import pantry.library.Problem;
import pantry.library.Verification;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(name = "verify", description = "Check every sealed version against its checksums.")
final class VerifyCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
    private Path folder = Path.of("");

    VerifyCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        Library library = workbench.openLibrary(folder);
        Verification verification = library.verify(output.progress());
        if (common.json) {
            output.json(verification);
        } else {
            output.line(
                    "%d versions checked, %s",
                    verification.versions(),
                    verification.ok()
                            ? "all as sealed"
                            : verification.problems().size() + " problems");
        }
        for (Problem problem : verification.problems()) {
            output.say("pantry verify: " + problem.path() + ": " + problem.message());
        }
        return verification.ok() ? 0 : 1;
    }
}
