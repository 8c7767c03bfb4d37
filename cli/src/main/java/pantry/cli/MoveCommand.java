package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Transfers;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "move", description = "Move or copy assets to another shelf, also of another library.")
final class MoveCommand extends LibraryCommand<MoveCommand.Result> {
    @Parameters(arity = "1..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(names = "--to", required = true, paramLabel = "S", description = "The shelf; made where it is missing.")
    private String shelf = "";

    @Option(names = "--to-library", paramLabel = "L", description = "The library it is in, where that is another.")
    private Optional<Path> other = Optional.empty();

    @Option(names = "--copy", description = "Copy instead; copies have ids of their own.")
    private boolean copy;

    record Result(List<AssetLine> moved) {}

    MoveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Library target = other.map(workbench::openLibrary).orElse(library());
        Transfers transfers = new Transfers(library(), target);
        List<AssetLine> moved = new ArrayList<>();
        for (Asset asset : assets(what)) {
            Asset now = copy
                    ? transfers.copy(asset, shelf, output.progress())
                    : transfers.move(asset, shelf, output.progress());
            moved.add(AssetLine.of(now));
        }
        return new Result(moved);
    }

    @Override
    void tell(Result result) {
        result.moved().forEach(line -> output.line("moved %s to %s", line.name(), line.shelf()));
    }
}
