package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import pantry.base.Names;
import pantry.exchange.Imported;
import pantry.exchange.Model;
import pantry.exchange.ModelWriters;
import pantry.exchange.UsdModelWriter;
import pantry.intake.Intake;
import pantry.usd.compose.Flattener;
import pantry.usd.text.UsdaWriter;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "export", description = "Write a file or scene in another format, in metres.")
final class ExportCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(paramLabel = "FILE", description = "A USD file, or any file that can be received.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description = "The new file; its ending tells the format: glb, gltf, obj, ply, stl or usda.")
    private Path to = Path.of("");

    private record Result(String file, long trianglesStored, long trianglesDrawn) {}

    ExportCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        boolean usd = Names.ending(file.toString()).equals("usda");
        boolean toUsd = Names.ending(to.toString()).equals("usda");
        Model model;
        if (usd) {
            model = workbench.openScene(file).model();
        } else {
            Imported imported = workbench.intake().read(file, output.progress());
            model = Intake.prepared(imported, Intake.suggested(imported, "", List.of()));
        }
        if (usd && toUsd) {
            UsdaWriter.write(Flattener.flatten(workbench.openScene(file).stage(), Flattener.Instances.SHARED, to), to);
        } else if (toUsd) {
            UsdModelWriter.write(model, to);
        } else {
            ModelWriters.write(model, to);
        }
        Result result = new Result(to.toString(), model.trianglesStored(), model.trianglesDrawn());
        if (common.json) {
            output.json(result);
        } else {
            output.line("%s holds %,d triangles", result.file(), result.trianglesDrawn());
        }
        return 0;
    }
}
