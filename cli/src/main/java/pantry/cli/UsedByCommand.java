package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import pantry.base.PantryException;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "used-by", description = "Tell which assets a file of a project uses, as it composes.")
final class UsedByCommand extends ReachCommand<UsedByCommand.Result> {
    @Parameters(paramLabel = "SCENE", description = "A USD file of one of the projects.")
    private Path file = Path.of("");

    /** A version of an asset that the file uses. */
    record Line(
            String id,
            String name,
            String shelf,
            String kind,
            String version,
            boolean following,
            int behind,
            long placements) {}

    record Result(String file, List<Line> assets) {}

    UsedByCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Path scene = file.toAbsolutePath().normalize();
        Reach reach = reach();
        if (!reach.files().contains(scene)) {
            throw new PantryException(scene, "is no file of the projects");
        }
        return new Result(
                scene.toString(),
                reach.usedBy(scene).stream()
                        .map(use -> new Line(
                                use.asset().card().id(),
                                use.asset().card().name(),
                                use.asset().shelf(),
                                use.asset().card().kind().word(),
                                use.version(),
                                use.following(),
                                use.behind(),
                                use.placements()))
                        .toList());
    }

    @Override
    void tell(Result result) {
        for (Line line : result.assets()) {
            output.line(
                    "%,8d × %-5s %-10s %s%s",
                    line.placements(),
                    line.version(),
                    line.following() ? "following" : "pinned",
                    line.shelf().isEmpty() ? line.name() : line.shelf() + "/" + line.name(),
                    line.behind() > 0 ? "  " + line.behind() + " behind" : "");
        }
        output.line(
                "%s uses %,d versions of assets", result.file(), result.assets().size());
    }
}
