package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.model.Weight;
import pantry.prep.tools.Instances;
import pantry.prep.tools.TwinSets;
import pantry.twins.TwinOptions;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "twins", description = "Find objects of one shape, and let them share it.")
final class TwinsCommand extends PrepCommand<TwinsCommand.Result> {
    @Parameters(paramLabel = "FILE|ASSET", description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @Option(
            names = "--tolerance",
            paramLabel = "T",
            description = "Metres that a vertex may be off; usually a ten-thousandth of each object.")
    private double tolerance;

    @Option(names = "--no-mirrored", description = "Left and right hands are no twins.")
    private boolean noMirrored;

    @Option(names = "--no-scaled", description = "Large and small ones are no twins.")
    private boolean noScaled;

    @Option(names = "--apply", paramLabel = "OUT", description = "Make instances, and save as this file.")
    private Optional<java.nio.file.Path> apply = Optional.empty();

    @Option(
            names = "--break-out",
            paramLabel = "PATH",
            description = "Give this instance a shape of its own again, and save (--out or --publish).")
    private List<String> breakOut = List.of();

    @Mixin
    private Target target = new Target();

    record Group(
            List<String> members, int trianglesEach, double deviation, boolean mirrored, double scale, int materials) {}

    record Shared(String shape, List<String> instances) {}

    record Result(List<Group> groups, long trianglesNow, long trianglesAfter, List<Shared> shared, Saved saved) {}

    TwinsCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (!(tolerance >= 0) || Double.isInfinite(tolerance)) {
            throw wrongCall("--tolerance is a length in metres, not " + tolerance + ".");
        }
        Workpiece piece = workpiece(what);
        Saved saved = Saved.NOTHING;
        if (!breakOut.isEmpty()) {
            requireTarget(target, piece);
            List<SdfPath> paths =
                    breakOut.stream().map(named -> path(piece, named)).toList();
            Instances.breakOut(piece, paths);
            saved = save(piece, target, "broken out");
        }
        List<TwinSets.Set> sets =
                TwinSets.find(piece, new TwinOptions(tolerance, !noMirrored, !noScaled), output.progress());
        Weight now = piece.weight();
        long after = now.trianglesStored()
                - sets.stream().mapToLong(TwinSets.Set::saved).sum();
        if (breakOut.isEmpty() && (apply.isPresent() || target.isGiven())) {
            Instances.make(piece, sets);
            after = piece.weight().trianglesStored();
            if (apply.isPresent()) {
                saved = saved(piece, apply.get());
            } else {
                requireTarget(target, piece);
                saved = save(piece, target, "instances of " + sets.size() + " shapes");
            }
        }
        List<Group> groups = sets.stream()
                .map(set -> new Group(
                        set.paths().stream().map(SdfPath::toString).toList(),
                        set.triangles(),
                        set.deviation(),
                        set.mirrored(),
                        set.scale(),
                        set.materials()))
                .toList();
        List<Shared> shared = new ArrayList<>();
        Instances.shared(piece)
                .forEach((shape, paths) -> shared.add(new Shared(
                        shape.toString(), paths.stream().map(SdfPath::toString).toList())));
        return new Result(groups, now.trianglesStored(), after, shared, saved);
    }

    @Override
    void tell(Result result) {
        for (Group group : result.groups()) {
            output.line(
                    "%,6d × %,d triangles, at most %.3g m off%s%s%s",
                    group.members().size(),
                    group.trianglesEach(),
                    group.deviation(),
                    group.mirrored() ? ", some mirrored" : "",
                    Math.abs(group.scale() - 1) > 1e-3 ? ", some larger or smaller" : "",
                    group.materials() > 1 ? ", of " + group.materials() + " materials" : "");
            output.line(
                    "         %s",
                    String.join(
                            " ",
                            group.members()
                                    .subList(0, Math.min(4, group.members().size()))));
        }
        output.line("triangles stored %,14d → %,d", result.trianglesNow(), result.trianglesAfter());
        tell(result.saved());
    }
}
