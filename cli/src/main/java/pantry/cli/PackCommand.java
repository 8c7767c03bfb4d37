package pantry.cli;

import java.nio.file.Path;
import pantry.usd.Layer;
import pantry.usd.compose.LayerCache;
import pantry.usd.file.UsdPackager;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "pack",
        description = "Copy a scene with every file that it names into a new folder or one package, to be handed on.")
final class PackCommand extends PantryCommand<PackCommand.Result> {
    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    @Option(
            names = "--out",
            required = true,
            paramLabel = "DIR|F.usdz",
            description = "A folder that is not there yet; or a package.")
    private Path out = Path.of("");

    record Result(String out, int files) {}

    PackCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        LayerCache layers = workbench.layers(file);
        Layer layer = layers.open(file);
        int files = out.toString().endsWith(".usdz")
                ? UsdPackager.write(layer, layers, out)
                : UsdPackager.writeFolder(layer, layers, out);
        return new Result(out.toString(), files);
    }

    @Override
    void tell(Result result) {
        output.line("%s holds %s with all that it names: %,d files", result.out(), file, result.files());
    }
}
