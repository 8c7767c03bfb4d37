package pantry.cli;

import java.nio.file.Path;
import pantry.scene.Scene;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "new-scene", description = "Make an empty scene.")
final class NewSceneCommand extends PantryCommand<NewSceneCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "The new file; its name ends in .usda.")
    private Path file = Path.of("");

    record Result(String file, String root) {}

    NewSceneCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Scene scene = workbench.createScene(file);
        return new Result(scene.file().toString(), scene.root().toString());
    }

    @Override
    void tell(Result result) {
        output.line("%s is an empty scene; its root is %s", result.file(), result.root());
    }
}
