package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.project.ChangeRuns;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "changes", description = "List changes that were made over many files, and take one back.")
final class ChangesCommand extends PantryCommand<ChangesCommand.Result> {
    @Option(
            names = "--undo",
            paramLabel = "ID",
            description = "Give its files their contents back, but for those that were changed since.")
    private Optional<String> undone = Optional.empty();

    /**
     * @param changes those that can be taken back, the last first
     * @param restored files that are again what they were
     * @param kept files that others changed since
     */
    record Result(List<ChangeRuns.Run> changes, List<String> restored, List<String> kept) {}

    ChangesCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        ChangeRuns runs = workbench.changeRuns();
        runs.recover();
        Optional<ChangeRuns.Undone> done = undone.map(runs::undo);
        return new Result(
                runs.runs(),
                done.map(each -> each.restored().stream().map(Path::toString).toList())
                        .orElse(List.of()),
                done.map(each -> each.kept().stream().map(Path::toString).toList())
                        .orElse(List.of()));
    }

    @Override
    void tell(Result result) {
        result.restored().forEach(file -> output.line("%s is again as it was", file));
        result.kept().forEach(file -> output.say("pantry: " + file + " was changed since, and stays as it is"));
        if (undone.isEmpty()) {
            result.changes().forEach(run -> output.line("%s  %s  %s", run.id(), run.when(), run.title()));
        }
    }

    @Override
    boolean done(Result result) {
        return result.kept().isEmpty();
    }
}
