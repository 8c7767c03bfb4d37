package pantry.cli;

import java.nio.file.Path;
import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "new-library", description = "Make an empty library in a folder of its own.")
final class NewLibraryCommand extends PantryCommand<NewLibraryCommand.Result> {
    @Parameters(paramLabel = "DIR", description = "The folder; made where it is missing, otherwise empty.")
    private Path folder = Path.of("");

    @Option(names = "--name", required = true, paramLabel = "N", description = "What people call the library.")
    private String name = "";

    record Result(String id, String name, String path) {}

    NewLibraryCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Library library = workbench.createLibrary(folder, name);
        return new Result(
                library.info().id(), library.info().name(), library.root().toString());
    }

    @Override
    void tell(Result result) {
        output.line("%s is a library now: %s", result.path(), result.name());
    }
}
