package pantry.cli;

import java.nio.file.Path;
import pantry.shading.NetworkBaker;
import pantry.usecase.BakeOut;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "bake",
        description = "Make images of materials that are made of nodes, for programs that show images only.")
final class BakeCommand extends PantryCommand<BakeOut.Result> {
    @Parameters(paramLabel = "FILE", description = "A file that can be received, or a version's layer.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description = "The new file, in the format of its ending, with the images beside it: usda, usdc, usdz, glb,"
                    + " gltf, obj or mtlx.")
    private Path to = Path.of("");

    @Option(
            names = "--size",
            paramLabel = "N",
            description = "As wide and high as the images are made, pixels; 1024 where it is not told, 8192 at most.")
    private int size = NetworkBaker.USUAL_SIZE;

    BakeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    BakeOut.Result work() {
        if (size < 1 || size > NetworkBaker.LARGEST) {
            throw wrongCall("--size is a number of pixels, 1 to " + NetworkBaker.LARGEST);
        }
        return BakeOut.bake(workbench, file, size, to, output.progress());
    }

    @Override
    void tell(BakeOut.Result result) {
        output.line(
                "%s: %d %s of %s",
                to, result.images(), result.images() == 1 ? "image" : "images", String.join(", ", result.materials()));
        result.left().forEach(line -> output.line("  %s", line));
    }
}
