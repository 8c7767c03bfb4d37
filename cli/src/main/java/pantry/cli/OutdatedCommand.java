package pantry.cli;

import java.util.List;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "outdated",
        description = "List the placements in projects that are pinned to a version older than the ready one.")
final class OutdatedCommand extends ReachCommand<OutdatedCommand.Result> {
    /**
     * A placement.
     *
     * @param path the prim, with the variants in which it refers to the asset
     * @param asset the asset's id
     */
    record Item(String file, String path, String asset, String name, String version, String ready, int behind) {}

    record Result(List<Item> items, List<Copy> copies, List<Broken> broken) {}

    /**
     * A copy of an asset, whose original has newer versions.
     *
     * @param versions how many
     */
    record Copy(String asset, String name, String original, int versions, long placements) {}

    /** A version that is used and is not as it was sealed. */
    record Broken(String asset, String name, String version, long placements, String path, String problem) {}

    @Option(
            names = "--check-seals",
            description =
                    "Check also whether the versions that are used are as they were sealed; reads all their files.")
    private boolean checkSeals;

    OutdatedCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Reach reach = reach();
        List<Copy> copies = reach.movedOn().stream()
                .map(each -> new Copy(
                        each.copy().card().id(),
                        each.copy().card().name(),
                        each.original().card().id(),
                        each.versions(),
                        each.placements()))
                .toList();
        List<Broken> broken = !checkSeals
                ? List.of()
                : reach.broken(output.progress()).stream()
                        .map(each -> new Broken(
                                each.asset().card().id(),
                                each.asset().card().name(),
                                each.version(),
                                each.placements(),
                                each.problem().path().toString(),
                                each.problem().message()))
                        .toList();
        List<Item> items = reach.outdated().stream()
                .map(item -> new Item(
                        item.file().toString(),
                        item.path(),
                        item.asset().card().id(),
                        item.asset().card().name(),
                        item.version(),
                        item.ready(),
                        item.behind()))
                .toList();
        return new Result(items, copies, broken);
    }

    @Override
    void tell(Result result) {
        for (Item item : result.items()) {
            output.line(
                    "%-28s %s, %s is ready: %d behind  %s  %s",
                    item.name(), item.version(), item.ready(), item.behind(), item.file(), item.path());
        }
        for (Copy copy : result.copies()) {
            output.line(
                    "%-28s is a copy, and its original has %d newer versions: %,d placements",
                    copy.name(), copy.versions(), copy.placements());
        }
        for (Broken each : result.broken()) {
            output.line(
                    "%-28s %s is not as it was sealed: %s %s; %,d placements",
                    each.name(), each.version(), each.path(), each.problem(), each.placements());
        }
        output.line(
                "%s behind in %s",
                Output.counted(result.items().size(), "placement"),
                Output.counted(
                        result.items().stream().map(Item::file).distinct().count(), "file"));
    }
}
