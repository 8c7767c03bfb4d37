package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(
        name = "uses",
        description = {
            "Tell which files of projects use an asset, in which version, how often and how far behind.",
            "Placements are counted as they compose: nested ones, each point of an instancer, the variants that are"
                    + " chosen; inactive ones are left out."
        })
final class UsesCommand extends ReachCommand<UsesCommand.Result> {
    @Parameters(
            paramLabel = "ASSET[@V]",
            description = "An asset's id, Shelf/Name or name, with @v002 behind it for one version; or a file.")
    private String named = "";

    /** A file and its uses of the asset. */
    record SceneLine(String file, long placements, String version, boolean following, int behind) {
        static SceneLine of(Reach.SceneUse use) {
            return new SceneLine(use.file().toString(), use.placements(), use.version(), use.following(), use.behind());
        }
    }

    /**
     * @param asset the asset's id; of a file, its path
     * @param version empty where all were asked for
     * @param composites the assets made with it, by their entry layers
     */
    record Result(String asset, String name, String version, List<SceneLine> scenes, List<SceneLine> composites) {}

    UsesCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Path file = Path.of(named).toAbsolutePath().normalize();
        if (Files.isRegularFile(file)) {
            List<SceneLine> scenes = reach().usesOfFile(file).entrySet().stream()
                    .map(entry -> new SceneLine(entry.getKey().toString(), entry.getValue(), "", false, 0))
                    .toList();
            return new Result(file.toString(), String.valueOf(file.getFileName()), "", scenes, List.of());
        }
        Named asked = named(named);
        Reach reach = reach();
        return new Result(
                asked.asset().card().id(),
                asked.asset().card().name(),
                asked.version().orElse(""),
                reach.uses(asked.asset(), asked.version()).stream()
                        .map(SceneLine::of)
                        .toList(),
                reach.composites(asked.asset(), asked.version()).stream()
                        .map(SceneLine::of)
                        .toList());
    }

    @Override
    void tell(Result result) {
        result.composites().forEach(use -> line("within", use));
        result.scenes().forEach(use -> line("", use));
        long placements =
                result.scenes().stream().mapToLong(SceneLine::placements).sum();
        long files = result.scenes().stream().map(SceneLine::file).distinct().count();
        output.line(
                "%s is used %s in %s",
                result.name(), Output.counted(placements, "time"), Output.counted(files, "file"));
    }

    private void line(String how, SceneLine use) {
        output.line(
                "%,8d × %-5s %-10s %s%s%s",
                use.placements(),
                use.version(),
                use.following() ? "following" : use.version().isEmpty() ? "" : "pinned",
                use.behind() > 0 ? use.behind() + " behind  " : "",
                how.isEmpty() ? "" : how + " ",
                use.file());
    }
}
