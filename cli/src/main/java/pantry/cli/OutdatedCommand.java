package pantry.cli;

import java.util.List;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;

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

    record Result(List<Item> items) {}

    OutdatedCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        return new Result(reach().outdated().stream()
                .map(item -> new Item(
                        item.file().toString(),
                        item.path(),
                        item.asset().card().id(),
                        item.asset().card().name(),
                        item.version(),
                        item.ready(),
                        item.behind()))
                .toList());
    }

    @Override
    void tell(Result result) {
        for (Item item : result.items()) {
            output.line(
                    "%-28s %s, %s is ready: %d behind  %s  %s",
                    item.name(), item.version(), item.ready(), item.behind(), item.file(), item.path());
        }
        output.line(
                "%,d placements are behind in %,d files",
                result.items().size(),
                result.items().stream().map(Item::file).distinct().count());
    }
}
