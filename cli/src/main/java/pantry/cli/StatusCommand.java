package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.library.VersionStatus;
import pantry.project.CarryOver;
import pantry.project.ChangeRuns;
import pantry.project.FileEdit;
import pantry.project.Lost;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.project.WhatIf;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Says how far a version may be relied on. */
abstract class StatusCommand extends LibraryCommand<StatusCommand.Result> {
    private final VersionStatus status;

    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(index = "1", arity = "0..1", paramLabel = "V", description = "The version; the newest if not given.")
    private Optional<String> version = Optional.empty();

    /** @param usedBy assets that use it, which is worth a warning where it is retired */
    record Result(
            String asset,
            String name,
            String version,
            String status,
            String ready,
            List<String> usedBy,
            List<String> carriedOver) {}

    StatusCommand(VersionStatus status, Workbench workbench, Output output) {
        super(workbench, output);
        this.status = status;
    }

    @Override
    Result work() {
        Asset asset = asset(what);
        String named = version.or(asset::newest).orElseThrow();
        List<Lost> lost = lost(asset, named);
        Asset changed = library().setStatus(asset, named, status);
        List<String> carried = carryOver(changed, lost);
        List<String> usedBy = status == VersionStatus.RETIRED ? usedBy(library(), changed, named) : List.of();
        for (String user : usedBy) {
            output.say("pantry: " + user + " still uses " + asset.card().name() + " " + named);
        }
        return new Result(
                changed.card().id(),
                changed.card().name(),
                named,
                status.word(),
                changed.ready().orElse(""),
                usedBy,
                carried);
    }

    /** What files of projects would lose, where that is to be carried over. */
    List<Lost> lost(Asset asset, String version) {
        return List.of();
    }

    private List<String> carryOver(Asset asset, List<Lost> lost) {
        List<FileEdit> edits = CarryOver.edits(lost);
        if (edits.isEmpty()) {
            return List.of();
        }
        String title = "Carried overrides over to " + asset.card().name();
        ChangeRuns.Done done = workbench.changeRuns().run(title, edits, file -> "", output.progress());
        done.failed().forEach((file, why) -> output.say("pantry: " + file + ": " + why));
        return done.changed().stream().map(Path::toString).toList();
    }

    private static List<String> usedBy(Library library, Asset asset, String version) {
        boolean followed = asset.ready().isEmpty();
        return library.assets().stream()
                .filter(other -> Uses.of(other.folder()).stream()
                        .anyMatch(use -> use.id().equals(asset.card().id())
                                && (use.version().equals(version)
                                        || followed && use.version().isEmpty())))
                .map(Asset::address)
                .toList();
    }

    @Override
    void tell(Result result) {
        result.carriedOver().forEach(file -> output.line("carried overrides over in %s", file));
        output.line(
                "%s %s is %s; %s",
                result.name(),
                result.version(),
                result.status(),
                result.ready().isEmpty() ? "no version is ready" : "scenes that follow get " + result.ready());
    }

    @Command(name = "ready", description = "Make a version the one that scenes which follow the asset get.")
    static final class Ready extends StatusCommand {
        @Option(
                names = "--project",
                paramLabel = "P",
                description = "With --carry-over: a project whose files follow; may be given again.")
        private List<Path> projects = new ArrayList<>();

        @Option(
                names = "--carry-over",
                description =
                        "Let overrides that would lose their target be about what is likely the same; see what-if.")
        private boolean carryOver;

        @Override
        List<Lost> lost(Asset asset, String version) {
            if (!carryOver || projects.isEmpty()) {
                return List.of();
            }
            Reach reach = ReachCommand.reach(
                    workbench,
                    List.of(library()),
                    projects.stream().map(Project::open).toList(),
                    output);
            return WhatIf.ready(reach, asset, version, output.progress()).effects().stream()
                    .flatMap(effect -> effect.lost().stream())
                    .toList();
        }

        Ready(Workbench workbench, Output output) {
            super(VersionStatus.READY, workbench, output);
        }
    }

    @Command(name = "retire", description = "Say that a version is not to be used any more; nothing is removed.")
    static final class Retire extends StatusCommand {
        Retire(Workbench workbench, Output output) {
            super(VersionStatus.RETIRED, workbench, output);
        }
    }

    @Command(name = "draft", description = "Say that a version is not finished; scenes that follow do not get it.")
    static final class Draft extends StatusCommand {
        Draft(Workbench workbench, Output output) {
            super(VersionStatus.DRAFT, workbench, output);
        }
    }
}
