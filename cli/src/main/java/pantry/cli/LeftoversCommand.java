package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.project.ChangePlan;
import pantry.project.Leftovers;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "leftovers",
        description = {
            "Clear what nothing needs out of the files of projects: overrides of what is not there, materials that nothing"
                    + " shows, choices of variants that are not there.",
            "Only files that no other file uses are looked at, and only where nothing is missing."
        })
final class LeftoversCommand extends ChangeCommand<ChangeCommand.Result> {
    @Option(names = "--scene", paramLabel = "F", description = "Only in this file of the projects; may be given again.")
    private List<Path> scenes = new ArrayList<>();

    LeftoversCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        List<Leftovers.Leftover> found = Leftovers.find(reach(), scenes, output.progress());
        ChangePlan plan = new ChangePlan(
                "Cleared leftovers",
                found.stream().map(Leftovers.Leftover::change).toList());
        return carryOut(plan, paths -> Leftovers.edits(found));
    }

    @Override
    void tell(Result result) {
        result.changes().forEach(line -> output.line("%s  %s  %s", line.file(), line.path(), line.says()));
        tellCount(result);
    }
}
