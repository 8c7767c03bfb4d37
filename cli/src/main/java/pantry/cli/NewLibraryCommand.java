package pantry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "new-library", description = "Make an empty library in a folder of its own.")
final class NewLibraryCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(paramLabel = "DIR", description = "The folder; made where it is missing, otherwise empty.")
    private Path folder = Path.of("");

    @Option(names = "--name", required = true, paramLabel = "N", description = "What people call the library.")
    private String name = "";

    private record Result(String id, String name, String path) {}

    NewLibraryCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        Library library = workbench.createLibrary(folder, name);
        Result result = new Result(
                library.info().id(), library.info().name(), library.root().toString());
        if (common.json) {
            output.json(result);
        } else {
            output.line("%s is a library now: %s", result.path(), result.name());
        }
        return 0;
    }
}
