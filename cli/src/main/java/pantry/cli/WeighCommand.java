package pantry.cli;

import java.nio.file.Path;
import java.util.concurrent.Callable;
import pantry.scene.Scene;
import pantry.scene.Weight;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "weigh", description = "Tell what a scene weighs: triangles stored and drawn, placements, textures.")
final class WeighCommand implements Callable<Integer> {
    private final Workbench workbench;
    private final Output output;

    @Mixin
    private CommonOptions common = new CommonOptions();

    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    WeighCommand(Workbench workbench, Output output) {
        this.workbench = workbench;
        this.output = output;
    }

    @Override
    public Integer call() {
        Scene scene = workbench.openScene(file);
        Weight weight = Weight.of(scene, scene.model());
        if (common.json) {
            output.json(weight);
        } else {
            output.line("triangles stored %,14d", weight.trianglesStored());
            output.line("triangles drawn  %,14d", weight.trianglesDrawn());
            output.line("placements       %,14d", weight.placements());
            output.line("objects          %,14d", weight.objects());
            output.line("textures         %,14d bytes", weight.textureBytes());
            output.line("files            %,14d bytes", weight.fileBytes());
        }
        return 0;
    }
}
