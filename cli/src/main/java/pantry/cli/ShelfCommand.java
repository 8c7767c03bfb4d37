package pantry.cli;

import java.util.List;
import java.util.Optional;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "shelf", description = "Tell the shelves of a library; make, move, rename or remove one.")
final class ShelfCommand extends LibraryCommand<ShelfCommand.Result> {
    @Option(names = "--make", paramLabel = "S", description = "Make a shelf, and those above it.")
    private Optional<String> make = Optional.empty();

    @Option(names = "--move", paramLabel = "S", description = "The shelf to move or rename, with all on it.")
    private Optional<String> move = Optional.empty();

    @Option(names = "--to", paramLabel = "S", description = "Its new path.")
    private Optional<String> to = Optional.empty();

    @Option(names = "--remove", paramLabel = "S", description = "Remove a shelf on which nothing stands.")
    private Optional<String> remove = Optional.empty();

    record Result(List<String> shelves) {}

    ShelfCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (move.isPresent() != to.isPresent()) {
            throw wrongCall("--move and --to belong together.");
        }
        make.ifPresent(library().places()::make);
        move.ifPresent(shelf -> library().places().move(shelf, to.orElseThrow(), output.progress()));
        remove.ifPresent(library().places()::remove);
        return new Result(library().shelves());
    }

    @Override
    void tell(Result result) {
        result.shelves().forEach(shelf -> output.line("%s", shelf));
    }
}
