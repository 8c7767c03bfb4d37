package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.project.Updates;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "swap",
        description = {
            "Let the placements of one asset in the files of projects be of another one.",
            "Where they stand does not change. Those that are pinned, are pinned to its ready version."
        })
final class SwapCommand extends ChangeCommand<ChangeCommand.Result> {
    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset that is placed now.")
    private String from = "";

    @Parameters(index = "1", paramLabel = "OTHER", description = "The asset that shall be.")
    private String to = "";

    @Option(names = "--scene", paramLabel = "F", description = "Only in this file of the projects; may be given again.")
    private List<Path> scenes = new ArrayList<>();

    SwapCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        return carryOut(new Updates(reach(), List.of(asset(from)), scenes).swap(asset(to)));
    }
}
