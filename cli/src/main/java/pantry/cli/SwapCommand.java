package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.project.ChangePlan;
import pantry.project.Swapping;
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

    @Option(
            names = "--keep-base",
            description =
                    "Let the middle of the base stand where that of the other stood; files are then written anew.")
    private boolean keepBase;

    SwapCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Asset asset = asset(from);
        Asset other = asset(to);
        ChangePlan plan = new Updates(reach(), List.of(asset), scenes).swap(other);
        Optional<Vec3> offset = Swapping.offset(asset, other);
        offset.ifPresent(by -> output.say(String.format(
                Locale.ROOT,
                "pantry: the base of %s is %.3f m from where that of %s is%s",
                other.card().name(),
                by.length(),
                asset.card().name(),
                keepBase ? "; placements are moved by that" : "; --keep-base makes up for that")));
        return keepBase && offset.isPresent()
                ? carryOut(plan, paths -> Swapping.edits(plan, Matrix4.translation(offset.get()), paths))
                : carryOut(plan);
    }
}
