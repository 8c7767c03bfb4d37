package pantry.desktop.app;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import pantry.base.PantryException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "open", description = "Open the application.")
final class OpenCommand implements Callable<Integer> {
    @Parameters(
            arity = "0..*",
            paramLabel = "LIBRARY|PROJECT|FILE",
            description = "A library, a project's folder, or files to take in.")
    private List<Path> what = new ArrayList<>();

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    private boolean help;

    @Override
    public Integer call() {
        Optional<Path> library = Optional.empty();
        Optional<Path> project = Optional.empty();
        List<Path> arrivals = new ArrayList<>();
        for (Path path : what) {
            if (!Files.exists(path)) {
                throw new PantryException(path, "there is no such file or folder");
            }
            if (Files.exists(path.resolve("pantry-library.json"))) {
                library = Optional.of(path);
            } else if (Files.isDirectory(path)) {
                project = Optional.of(path);
            } else {
                arrivals.add(path);
            }
        }
        PantryApp.show(new PantryApp.Opening(Optional.empty(), library, project, arrivals, Optional.empty()));
        return 0;
    }
}
