package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.prep.tools.PlanDrawing;
import pantry.prep.tools.PlanSymbol;
import pantry.usd.file.LayerFiles;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "plan",
        description = "Draw a plan symbol: the outline from above, as SVG, DXF, or curves in the asset.")
final class PlanCommand extends PrepCommand<PlanCommand.Result> {
    @Parameters(paramLabel = "FILE|ASSET", description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @Option(names = "--out", paramLabel = "F", description = "A .svg or .dxf file; a USD file gets it as guide curves.")
    private Optional<Path> out = Optional.empty();

    @Option(names = "--publish", description = "Publish the asset with the symbol as its next version.")
    private boolean publish;

    @Option(names = "--scale", paramLabel = "N", defaultValue = "50", description = "Drawn at 1:N; usually 50.")
    private double scale;

    @Option(names = "--tolerance", paramLabel = "M", description = "Metres that a line may be off.")
    private Optional<Double> tolerance = Optional.empty();

    @Option(names = "--edges", description = "Also the edges of parts that are seen from above.")
    private boolean edges;

    @Option(names = "--wider", paramLabel = "F", defaultValue = "1", description = "So many times as wide.")
    private double wider;

    @Option(names = "--deeper", paramLabel = "F", defaultValue = "1", description = "So many times as deep.")
    private double deeper;

    record Result(double area, double width, double depth, int lines, Saved saved) {}

    PlanCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (!(wider > 0) || !(deeper > 0)) {
            throw wrongCall("--wider and --deeper are above 0.");
        }
        Workpiece piece = workpiece(what);
        var model = piece.model();
        PlanSymbol plan = PlanSymbol.of(
                model, tolerance.orElseGet(() -> PlanSymbol.usualTolerance(model)), edges, output.progress());
        PlanSymbol grown = wider == 1 && deeper == 1 ? plan : plan.grown(wider, deeper);
        Saved saved = Saved.NOTHING;
        if (out.isPresent() && !LayerFiles.isLayer(out.get().getFileName().toString())) {
            new PlanDrawing(grown, scale).write(out.get());
            saved = new Saved(out.get().toString(), "", List.of());
        } else if (out.isPresent() || publish) {
            PlanSymbol.write(piece, grown);
            Target target = Target.of(out, publish);
            requireTarget(target, piece);
            saved = save(piece, target, "plan symbol");
        }
        return new Result(
                grown.area(),
                grown.width(),
                grown.depth(),
                grown.rings().size() + grown.edges().size(),
                saved);
    }

    @Override
    void tell(Result result) {
        output.line("%.4g × %.4g m, %.4g m², %d lines", result.width(), result.depth(), result.area(), result.lines());
        tell(result.saved());
    }
}
