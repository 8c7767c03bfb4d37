package pantry.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import pantry.usd.UsdException;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "convert",
        description = "Write a USD layer in another format or folder, as it is. What it names is named from there;"
                + " a package takes it along.")
final class ConvertCommand extends PantryCommand<ConvertCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "A USD file.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description = "The new file; its ending tells the format: usda, usdc or usdz.")
    private Path to = Path.of("");

    record Result(String file, long bytes) {}

    ConvertCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        LayerFiles.convert(file.toAbsolutePath().normalize(), workbench.layers(file), to);
        try {
            return new Result(to.toString(), Files.size(to));
        } catch (IOException e) {
            throw new UsdException(to, "is gone again", e);
        }
    }

    @Override
    void tell(Result result) {
        output.line("%s holds %,d bytes", result.file(), result.bytes());
    }
}
