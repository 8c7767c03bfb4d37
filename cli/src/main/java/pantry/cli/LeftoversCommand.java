package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.project.ChangeRuns;
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
        List<Path> files =
                scenes.stream().map(file -> file.toAbsolutePath().normalize()).toList();
        List<Leftovers.Leftover> found = Leftovers.find(reach(), files, output.progress());
        List<Line> lines = found.stream().map(each -> Line.of(each.change())).toList();
        if (isDryRun() || found.isEmpty()) {
            return new Result("", lines, List.of());
        }
        ChangeRuns.Done done =
                workbench.changeRuns().run("Cleared leftovers", Leftovers.edits(found), file -> "", output.progress());
        return new Result(
                done.changed().isEmpty() ? "" : done.id(),
                found.stream()
                        .filter(each -> done.changed().contains(each.file()))
                        .map(each -> Line.of(each.change()))
                        .toList(),
                Failed.of(done));
    }

    @Override
    void tell(Result result) {
        result.changes().forEach(line -> output.line("%s  %s  %s", line.file(), line.path(), line.says()));
        tellCount(result);
    }
}
