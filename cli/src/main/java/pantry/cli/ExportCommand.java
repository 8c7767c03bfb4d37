package pantry.cli;

import java.nio.file.Path;
import java.util.Set;
import pantry.exchange.Imported;
import pantry.exchange.Model;
import pantry.exchange.ModelWriters;
import pantry.intake.Carried;
import pantry.intake.CollisionShape;
import pantry.intake.Intake;
import pantry.intake.Making;
import pantry.intake.Neighbours;
import pantry.intake.Pivot;
import pantry.intake.Slip;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "export", description = "Write a file or scene in another format, in metres.")
final class ExportCommand extends PantryCommand<ExportCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "A USD file, or any file that can be received.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description =
                    "The new file; its ending tells the format: glb, gltf, obj, ply, stl," + " usda, usdc or usdz.")
    private Path to = Path.of("");

    record Result(String file, long trianglesStored, long trianglesDrawn) {}

    ExportCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Model model;
        if (LayerFiles.isLayer(file.toString())) {
            model = workbench.handOut().write(file, to);
        } else {
            Imported imported = workbench.intake().read(file, output.progress());
            // Everything stays where it is and as it is; only the unit and the upward axis change.
            Making whole = new Making(Set.of(Carried.Kind.values()), CollisionShape.NONE, 1, false);
            Slip slip = Intake.suggested(imported, "", Neighbours.NONE)
                    .withPivot(Pivot.KEEP)
                    .withMaking(whole);
            model = Intake.prepared(imported, slip);
            ModelWriters.write(model, to);
        }
        return new Result(to.toString(), model.trianglesStored(), model.trianglesDrawn());
    }

    @Override
    void tell(Result result) {
        output.line("%s holds %,d triangles", result.file(), result.trianglesDrawn());
    }
}
