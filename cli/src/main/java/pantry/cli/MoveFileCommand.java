package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import pantry.project.ChangeRuns;
import pantry.project.Moving;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "move-file",
        description = {
            "Give a file of a project, or a folder with all that is in it, another name or place.",
            "What names it names it there from then on, over all projects; what it names is named from there."
        })
final class MoveFileCommand extends ReachCommand<MoveFileCommand.Result> {
    @Parameters(index = "0", paramLabel = "FROM", description = "A scene, another layer, an image, or a folder.")
    private Path from = Path.of("");

    @Parameters(index = "1", paramLabel = "TO", description = "The new place, where nothing is yet.")
    private Path to = Path.of("");

    @Option(names = "--dry-run", description = "Only tell what would be moved and changed.")
    private boolean dryRun;

    /**
     * @param id by which it is undone; empty where it is only told
     * @param users the other files that name what is moved, and in how many places
     */
    record Result(String id, List<String> moved, Map<String, Integer> users) {}

    MoveFileCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Moving moving = Moving.plan(reach(), projects(), from, to);
        Map<String, Integer> users = new TreeMap<>();
        moving.users().forEach((file, places) -> users.put(file.toString(), places));
        List<String> moved =
                moving.moved().stream().map(Path::toString).sorted().toList();
        if (dryRun) {
            return new Result("", moved, users);
        }
        ChangeRuns.Done done = moving.run(workbench.changeRuns(), file -> "", output.progress());
        return new Result(done.id(), moved, users);
    }

    @Override
    void tell(Result result) {
        result.users().forEach((file, places) -> output.line("%s: %s", file, Output.counted(places, "place")));
        output.line(
                "%,d files %s, and %,d others name them there%s",
                result.moved().size(),
                result.id().isEmpty() ? "would be moved" : "were moved",
                result.users().size(),
                result.id().isEmpty() ? "" : "; pantry changes --undo " + result.id() + " takes that back");
    }
}
