package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import pantry.library.Asset;
import pantry.library.TrashItem;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "trash",
        description = "Take assets off their shelves, into the trash; without one, tell what lies in it.")
final class TrashCommand extends LibraryCommand<TrashCommand.Result> {
    @Parameters(arity = "0..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(names = "--delete-for-good", description = "Delete all that lies in the trash. There is no way back.")
    private boolean delete;

    record Result(List<TrashItem> trash) {}

    TrashCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        for (Asset asset : assets(what)) {
            library().trash().discard(asset);
        }
        if (delete) {
            library().trash().delete(library().trash().items());
        }
        return new Result(library().trash().items());
    }

    @Override
    void tell(Result result) {
        for (TrashItem item : result.trash()) {
            output.line("%s  %-16s %s", item.when(), item.who(), item.path());
        }
        output.line("%d in the trash", result.trash().size());
    }
}
