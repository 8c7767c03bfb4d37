package pantry.cli;

import java.util.List;
import pantry.library.Asset;
import pantry.library.JournalEntry;
import pantry.library.VersionInfo;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "history", description = "Tell an asset's versions, the oldest first.")
final class HistoryCommand extends LibraryCommand<HistoryCommand.Result> {
    @Parameters(paramLabel = "ASSET", description = "The asset's id or Shelf/Name.")
    private String what = "";

    @Option(names = "--journal", description = "Also tell everything that happened to it.")
    private boolean journal;

    record Result(String asset, String name, List<VersionInfo> versions, List<JournalEntry> journal) {}

    HistoryCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Asset asset = asset(what);
        return new Result(
                asset.card().id(),
                asset.card().name(),
                library().history(asset),
                journal ? library().journal().entries(asset) : List.of());
    }

    @Override
    void tell(Result result) {
        for (VersionInfo version : result.versions()) {
            output.line(
                    "%-5s %-8s %-20s %-16s %s%s",
                    version.version(),
                    version.status().word(),
                    version.when(),
                    version.who(),
                    version.note(),
                    version.ready() ? "  (followed)" : "");
        }
        for (JournalEntry entry : result.journal()) {
            output.line(
                    "%s  %s  %s %s%s%s",
                    entry.when(),
                    entry.who(),
                    entry.what(),
                    entry.version(),
                    entry.from().isEmpty() ? "" : " from " + entry.from(),
                    entry.changes().isEmpty()
                            ? ""
                            : " " + String.join(", ", entry.changes().keySet()));
        }
    }
}
