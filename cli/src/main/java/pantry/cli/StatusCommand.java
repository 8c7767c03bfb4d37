package pantry.cli;

import java.util.List;
import java.util.Optional;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Uses;
import pantry.library.VersionStatus;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Says how far a version may be relied on. */
abstract class StatusCommand extends LibraryCommand<StatusCommand.Result> {
    private final VersionStatus status;

    @Parameters(index = "0", paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(index = "1", arity = "0..1", paramLabel = "V", description = "The version; the newest if not given.")
    private Optional<String> version = Optional.empty();

    /** @param usedBy assets that use it, which is worth a warning where it is retired */
    record Result(String asset, String name, String version, String status, String ready, List<String> usedBy) {}

    StatusCommand(VersionStatus status, Workbench workbench, Output output) {
        super(workbench, output);
        this.status = status;
    }

    @Override
    Result work() {
        Asset asset = asset(what);
        String named = version.or(asset::newest).orElseThrow();
        Asset changed = library().setStatus(asset, named, status);
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
                usedBy);
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
        output.line(
                "%s %s is %s; %s",
                result.name(),
                result.version(),
                result.status(),
                result.ready().isEmpty() ? "no version is ready" : "scenes that follow get " + result.ready());
    }

    @Command(name = "ready", description = "Make a version the one that scenes which follow the asset get.")
    static final class Ready extends StatusCommand {
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
