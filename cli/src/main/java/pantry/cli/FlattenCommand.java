package pantry.cli;

import java.nio.file.Path;
import pantry.usd.Layer;
import pantry.usd.compose.CompositionProblem;
import pantry.usd.compose.Flattener;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "flatten", description = "Write a scene as one layer without references.")
final class FlattenCommand extends PantryCommand<FlattenCommand.Result> {
    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    @Option(
            names = "--out",
            required = true,
            paramLabel = "F",
            description = "The new file; its ending tells the format: usda, usdc or usdz.")
    private Path out = Path.of("");

    @Option(names = "--expand", description = "Write out every instance instead of sharing its contents.")
    private boolean expand;

    record Result(String file, int prims, int errors) {}

    FlattenCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Stage stage = workbench.openScene(file).stage();
        Layer layer = Flattener.flatten(stage, expand ? Flattener.Instances.EXPANDED : Flattener.Instances.SHARED, out);
        LayerFiles.write(layer, workbench.layers(file), out);
        for (CompositionProblem problem : stage.problems()) {
            output.say("pantry flatten: " + problem.prim() + ": " + problem.message());
        }
        return new Result(
                out.toString(), (int) stage.prims().count(), stage.problems().size());
    }

    @Override
    void tell(Result result) {
        output.line("%s is %s flattened", result.file(), file);
    }
}
