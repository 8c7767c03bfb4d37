package pantry.cli;

import java.util.List;
import pantry.library.Problem;
import pantry.library.Repair;
import pantry.library.Repairs;
import pantry.library.Verification;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "verify", description = "Check cards, places and every sealed version against its checksums.")
final class VerifyCommand extends LibraryCommand<VerifyCommand.Result> {
    @Option(
            names = "--repair",
            description = "Put right what can be, each by the first way that is told. Nothing is destroyed by it.")
    private boolean repair;

    record Way(String name, String words) {}

    record ProblemLine(String path, String kind, String message, List<Way> repairs) {}

    record Result(int versions, boolean ok, List<ProblemLine> problems) {}

    VerifyCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Repairs repairs = new Repairs(library());
        Verification verification = library().verify(output.progress());
        if (repair && !verification.ok()) {
            for (Problem left : repairs.repairAll(verification.problems(), output.progress())) {
                output.say("pantry verify: " + left.path() + ": was left: " + left.message());
            }
            verification = library().verify(output.progress());
        }
        for (Problem problem : verification.problems()) {
            output.say("pantry verify: " + problem.path() + ": " + problem.message());
            for (Repair way : repairs.of(problem)) {
                output.say("    " + way.name() + ": " + way.words());
            }
        }
        return new Result(
                verification.versions(),
                verification.ok(),
                verification.problems().stream()
                        .map(problem -> new ProblemLine(
                                problem.path().toString(),
                                problem.kind().word(),
                                problem.message(),
                                repairs.of(problem).stream()
                                        .map(way -> new Way(way.name(), way.words()))
                                        .toList()))
                        .toList());
    }

    @Override
    void tell(Result result) {
        output.line(
                "%d versions checked, %s",
                result.versions(),
                result.ok() ? "all as sealed" : result.problems().size() + " problems");
    }

    @Override
    boolean done(Result result) {
        return result.ok();
    }
}
