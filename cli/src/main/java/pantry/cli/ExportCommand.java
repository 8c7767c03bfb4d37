package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.Names;
import pantry.exchange.ModelWriters;
import pantry.intake.LengthUnit;
import pantry.usecase.HandOut;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "export", description = "Write a file or scene in another format. Nothing changes its size.")
final class ExportCommand extends PantryCommand<ExportCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "A USD file, or any file that can be received.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description = "The new file; its ending tells the format: glb, gltf, obj, ply, stl,"
                    + " usda, usdc, usdz or mtlx (materials alone).")
    private Path to = Path.of("");

    @Option(
            names = "--unit",
            paramLabel = "U",
            description = "What the numbers of obj, ply and stl are written in: mm, cm, m (usual), in or ft.")
    private Optional<String> unit = Optional.empty();

    @Option(
            names = "--from-unit",
            paramLabel = "U",
            description = "What the numbers of FILE are in where it does not say so: mm, cm, m (usual), in or ft.")
    private Optional<String> fromUnit = Optional.empty();

    /**
     * What was written.
     *
     * @param unit of the new file's numbers, metres
     * @param left what the format cannot hold, and what was missing
     */
    record Result(String file, long trianglesStored, long trianglesDrawn, double unit, List<String> left) {}

    ExportCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Optional<LengthUnit> target = unit.map(written -> unit("--unit", written));
        String ending = Names.ending(to.getFileName().toString());
        if (target.isPresent() && !ModelWriters.isUnitless(ending)) {
            throw wrongCall("--unit is for obj, ply and stl; ." + ending + " says its unit itself, and is in metres");
        }
        HandOut.Units units = new HandOut.Units(
                fromUnit.map(written -> unit("--from-unit", written).metres()),
                target.map(LengthUnit::metres).orElse(1.0),
                target.map(LengthUnit::word).orElse(HandOut.Units.METRES.targetName()));
        HandOut.HandedOut written = new HandOut(workbench).write(file, to, units, output.progress());
        return new Result(
                to.toString(),
                written.model().trianglesStored(),
                written.model().trianglesDrawn(),
                units.target(),
                written.left());
    }

    private LengthUnit unit(String option, String written) {
        return LengthUnit.of(written)
                .orElseThrow(() -> wrongCall(option + " " + written + " is not one of mm, cm, m, in, ft."));
    }

    @Override
    void tell(Result result) {
        String told = unit.flatMap(LengthUnit::of).map(LengthUnit::word).orElse("metres");
        output.line("%s holds %,d triangles, in %s", result.file(), result.trianglesDrawn(), told);
        result.left().forEach(line -> output.line("  %s", line));
    }
}
