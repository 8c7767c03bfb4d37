package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
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

    @Option(names = "--allow-missing", description = "Go on without files that are not there or may not be read.")
    private boolean allowMissing;

    /** @param missing what the copy names and does not have, with the reason */
    record Result(String out, int files, List<String> missing) {}

    PackCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        LayerCache layers = workbench.layers(file);
        Layer layer = layers.open(file);
        List<String> missing = new ArrayList<>();
        Optional<Consumer<String>> taken = allowMissing ? Optional.of(missing::add) : Optional.empty();
        int files = out.toString().endsWith(".usdz")
                ? UsdPackager.write(layer, layers, out, taken)
                : UsdPackager.writeFolder(layer, layers, out, taken);
        return new Result(out.toString(), files, missing);
    }

    @Override
    void tell(Result result) {
        result.missing().forEach(each -> output.say("pantry pack: left out " + each));
        output.line(
                "%s holds %s with all that it names: %s", result.out(), file, Output.counted(result.files(), "file"));
    }
}
