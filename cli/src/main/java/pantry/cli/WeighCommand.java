package pantry.cli;

import java.nio.file.Path;
import pantry.model.Weight;
import pantry.scene.Scene;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "weigh", description = "Tell what a scene weighs: triangles stored and drawn, placements, textures.")
final class WeighCommand extends PantryCommand<Weight> {
    @Parameters(paramLabel = "SCENE", description = "A USD file.")
    private Path file = Path.of("");

    WeighCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Weight work() {
        Scene scene = workbench.openScene(file);
        return scene.weight(scene.model());
    }

    @Override
    void tell(Weight weight) {
        output.line("triangles stored %,14d", weight.trianglesStored());
        output.line("triangles drawn  %,14d", weight.trianglesDrawn());
        output.line("placements       %,14d", weight.placements());
        output.line("objects          %,14d", weight.objects());
        output.line("textures         %,14d bytes", weight.textureBytes());
        output.line("files            %,14d bytes", weight.fileBytes());
    }
}
