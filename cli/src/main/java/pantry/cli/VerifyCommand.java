package pantry.cli;

import java.util.List;
import pantry.library.Problem;
import pantry.usecase.CheckLibrary;
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
        CheckLibrary check = new CheckLibrary(library());
        CheckLibrary.Result found = check.run(output.progress());
        if (repair && !found.verification().ok()) {
            for (Problem left : check.repairAll(found, output.progress())) {
                output.say("pantry verify: " + left.path() + ": was left: " + left.message());
            }
            found = check.run(output.progress());
        }
        for (CheckLibrary.Finding finding : found.findings()) {
            output.say("pantry verify: " + finding.problem().path() + ": "
                    + finding.problem().message());
            finding.ways().forEach(way -> output.say("    " + way.name() + ": " + way.words()));
        }
        return new Result(
                found.verification().versions(),
                found.verification().ok(),
                found.findings().stream().map(VerifyCommand::line).toList());
    }

    private static ProblemLine line(CheckLibrary.Finding finding) {
        Problem problem = finding.problem();
        return new ProblemLine(
                problem.path().toString(),
                problem.kind().word(),
                problem.message(),
                finding.ways().stream()
                        .map(way -> new Way(way.name(), way.words()))
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
