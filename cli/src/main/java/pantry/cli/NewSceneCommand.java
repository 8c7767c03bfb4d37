package pantry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import pantry.scene.Scene;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "new-scene", description = "Make an empty scene.")
final class NewSceneCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(paramLabel = "FILE", description = "The new file; its name ends in .usda.")
    private Path file = Path.of("");

    private record Result(String file, String root) {}

    NewSceneCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        Scene scene = workbench.createScene(file);
        Result result = new Result(scene.file().toString(), scene.root().toString());
        if (common.json) {
            output.json(result);
        } else {
            output.line("%s is an empty scene; its root is %s", result.file(), result.root());
        }
        return 0;
    }
}
