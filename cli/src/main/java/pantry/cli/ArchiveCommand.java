package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.library.Archive;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "archive",
        description = {
            "Take assets as a whole, or single versions, to a library that is an archive, or call them back.",
            "Their ids, versions and seals stay what they are; where they stood, signposts lead to them."
        })
final class ArchiveCommand extends LibraryCommand<ArchiveCommand.Result> {
    @Parameters(arity = "0..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(names = "--to-library", required = true, paramLabel = "A", description = "The archive.")
    private Path folder = Path.of("");

    @Option(
            names = "--unused",
            description = "All that neither the projects nor other assets use; give all projects that use the library.")
    private boolean unused;

    @Option(names = "--project", paramLabel = "P", description = "With --unused: a project; may be given again.")
    private List<Path> projects = new ArrayList<>();

    @Option(
            names = "--version",
            paramLabel = "V",
            description = "Only this version of the assets, which is neither ready nor the newest; may be given again.")
    private List<String> versions = new ArrayList<>();

    @Option(names = "--call-back", description = "Bring assets of the archive back to where they stood.")
    private boolean callBack;

    @Option(names = "--dry-run", description = "Only tell what would be moved.")
    private boolean dryRun;

    record Result(List<AssetLine> moved) {}

    ArchiveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Library other = workbench.openLibrary(folder);
        Archive archive = new Archive(library(), other);
        List<AssetLine> moved = new ArrayList<>();
        for (Asset asset : meant(other)) {
            moved.add(AssetLine.of(dryRun ? asset : moved(archive, asset)));
        }
        return new Result(moved);
    }

    private Asset moved(Archive archive, Asset asset) {
        if (versions.isEmpty()) {
            return callBack ? archive.callBack(asset, output.progress()) : archive.put(asset, output.progress());
        }
        Asset now = asset;
        for (String version : versions) {
            now = callBack
                    ? archive.callBackVersion(asset, version, output.progress())
                    : archive.putVersion(asset, version, output.progress());
        }
        return now;
    }

    private List<Asset> meant(Library other) {
        if (unused) {
            if (projects.isEmpty() || callBack || !what.isEmpty() || !versions.isEmpty()) {
                throw new LibraryException(
                        library().root(),
                        "--unused goes with --project, and neither with assets nor with --version or --call-back");
            }
            Reach reach = ReachCommand.reach(
                    workbench,
                    List.of(library()),
                    projects.stream().map(Project::open).toList(),
                    output);
            return reach.unused(library()).assets().stream()
                    .map(Reach.UnusedAsset::asset)
                    .toList();
        }
        return callBack ? what.stream().map(other::find).toList() : assets(what);
    }

    @Override
    void tell(Result result) {
        String done = dryRun ? "would be " : "is ";
        result.moved()
                .forEach(line -> output.line(
                        "%s%s %s%s",
                        line.name(),
                        versions.isEmpty() ? "" : " " + String.join(", ", versions),
                        done,
                        callBack ? "back on " + line.shelf() : "in the archive"));
        output.line("%s", Output.counted(result.moved().size(), "asset"));
    }
}
