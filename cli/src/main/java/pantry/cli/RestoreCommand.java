package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import pantry.library.LibraryException;
import pantry.library.TrashItem;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "restore", description = "Put things from the trash back where they stood.")
final class RestoreCommand extends LibraryCommand<RestoreCommand.Result> {
    @Parameters(
            arity = "1..*",
            paramLabel = "WHAT",
            description = "An asset's id or name, or the path that something had; the latest of that name.")
    private List<String> what = new ArrayList<>();

    record Result(List<String> restored) {}

    RestoreCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        List<String> restored = new ArrayList<>();
        for (String each : what) {
            TrashItem item = library().trash().items().stream()
                    .filter(lying -> lying.id().equals(each)
                            || lying.name().equalsIgnoreCase(each)
                            || lying.path().equals(each))
                    .findFirst()
                    .orElseThrow(() -> new LibraryException(
                            library().root(), "has nothing in its trash that is called \"" + each + "\""));
            restored.add(library().trash().restore(item).toString());
        }
        return new Result(restored);
    }

    @Override
    void tell(Result result) {
        result.restored().forEach(path -> output.line("%s is back", path));
    }
}
