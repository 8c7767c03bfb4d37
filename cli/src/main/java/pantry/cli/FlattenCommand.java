package pantry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import pantry.usd.Layer;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.Stage;
import pantry.usd.text.UsdaWriter;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "flatten", description = "Write a scene as one layer without references.")
final class FlattenCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    @Option(names = "--out", required = true, paramLabel = "F", description = "The new file; its name ends in .usda.")
    private Path out = Path.of("");

    @Option(names = "--expand", description = "Write out every instance instead of sharing its contents.")
    private boolean expand;

    private record Result(String file, int prims, int errors) {}

    FlattenCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        Stage stage = workbench.openScene(file).stage();
        Layer layer = Flattener.flatten(stage, expand ? Flattener.Instances.EXPANDED : Flattener.Instances.SHARED, out);
        UsdaWriter.write(layer, out);
        for (CompositionProblem problem : stage.problems()) {
            output.say("pantry flatten: " + problem.prim() + ": " + problem.message());
        }
        Result result = new Result(
                out.toString(), (int) stage.prims().count(), stage.problems().size());
        if (common.json) {
            output.json(result);
        } else {
            output.line("%s is %s flattened", result.file(), file);
        }
        return 0;
    }
}
