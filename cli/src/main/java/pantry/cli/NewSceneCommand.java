package pantry.cli;

import java.nio.file.Path;
import java.util.Optional;
import pantry.scene.Scene;
import pantry.usecase.NewFromPattern;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "new-scene", description = "Make a scene, empty or after a pattern.")
final class NewSceneCommand extends PantryCommand<NewSceneCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "The new file; its name ends in .usda.")
    private Path file = Path.of("");

    @Option(
            names = "--like",
            paramLabel = "SCENE",
            description = "Begin with what this one has besides its placements: lights, cameras, drawers, focuses.")
    private Optional<Path> pattern = Optional.empty();

    record Result(String file, String root) {}

    NewSceneCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Scene scene = pattern.map(like -> workbench.openScene(new NewFromPattern(workbench).run(like, file)))
                .orElseGet(() -> workbench.createScene(file));
        return new Result(scene.file().toString(), scene.root().toString());
    }

    @Override
    void tell(Result result) {
        output.line(
                "%s is %s scene; its root is %s",
                result.file(), pattern.isPresent() ? "a new" : "an empty", result.root());
    }
}
