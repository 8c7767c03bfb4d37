package pantry.desktop.app;

import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import pantry.base.Progress;
import pantry.demo.Demo;
import pantry.exchange.worker.WorkerLimits;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "demo", description = "Open the application with Skua Point, the demo library and project.")
final class DemoCommand implements Callable<Integer> {
    @Option(names = "--dir", paramLabel = "D", description = "Where the demo is kept; made where it is missing.")
    private Optional<Path> folder = Optional.empty();

    @Option(
            names = "--tour",
            paramLabel = "SHOTS",
            description = "Visit every main view, put a PNG of each into this folder, and exit.")
    private Optional<Path> tour = Optional.empty();

    @Option(names = "--make-only", description = "Make the demo and exit without opening the window.")
    private boolean makeOnly;

    @Option(
            names = {"-h", "--help"},
            usageHelp = true,
            description = "Show this help.")
    private boolean help;

    @Override
    public Integer call() {
        Path root = folder.orElseGet(Demo::usualFolder);
        try (Workbench workbench = new Workbench(
                "Skua Point workshop",
                Clock.systemUTC(),
                root.resolveSibling(root.getFileName() + "-index.sqlite"),
                WorkerLimits.USUAL)) {
            Demo demo = Demo.in(root, workbench, new Progress() {
                @Override
                public void report(String what, double fraction) {
                    System.err.printf("pantry demo: %s (%.0f %%)%n", what, 100 * fraction);
                }

                @Override
                public boolean cancelled() {
                    return false;
                }
            });
            if (!makeOnly) {
                PantryApp.show(new PantryApp.Opening(
                        Optional.of(workbench),
                        List.of(demo.library()),
                        List.of(demo.project(), demo.expedition()),
                        Optional.empty(),
                        List.of(demo.arrivals()),
                        tour,
                        false));
            }
        }
        return 0;
    }
}
