package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import pantry.library.Library;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;

@Command(
        name = "unused",
        description = {
            "List what of libraries neither the projects nor other assets use, and what it weighs.",
            "Give all projects that use a library: only what is given is looked at."
        })
final class UnusedCommand extends ReachCommand<UnusedCommand.Result> {
    record AssetLine(String id, String name, String shelf, String path, long bytes) {}

    /** @param asset the asset's id */
    record VersionLine(String asset, String name, String version, long bytes) {}

    record Result(List<AssetLine> assets, List<VersionLine> versions) {}

    UnusedCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Reach reach = reach();
        List<AssetLine> assets = new ArrayList<>();
        List<VersionLine> versions = new ArrayList<>();
        for (Library library : libraries()) {
            Reach.Unused unused = reach.unused(library);
            unused.assets()
                    .forEach(each -> assets.add(new AssetLine(
                            each.asset().card().id(),
                            each.asset().card().name(),
                            each.asset().shelf(),
                            each.asset().folder().toString(),
                            each.bytes())));
            unused.versions()
                    .forEach(each -> versions.add(new VersionLine(
                            each.asset().card().id(), each.asset().card().name(), each.version(), each.bytes())));
        }
        return new Result(assets, versions);
    }

    @Override
    void tell(Result result) {
        result.assets()
                .forEach(line -> output.line(
                        "%,14d bytes  %s",
                        line.bytes(), line.shelf().isEmpty() ? line.name() : line.shelf() + "/" + line.name()));
        result.versions().forEach(line -> output.line("%,14d bytes  %s %s", line.bytes(), line.name(), line.version()));
        output.line(
                "%s and %s of others are not used",
                Output.counted(result.assets().size(), "asset"),
                Output.counted(result.versions().size(), "version"));
    }
}
