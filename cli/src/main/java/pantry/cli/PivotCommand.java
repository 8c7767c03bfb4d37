package pantry.cli;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.prep.tools.Pivots;
import pantry.prep.tools.RingCopies;
import pantry.usd.SdfPath;
import pantry.usd.schema.Xforms;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "pivot",
        description = "Set pivots without moving anything; make an asset stand; group it; copy a part around a ring.")
final class PivotCommand extends PrepCommand<PivotCommand.Result> {
    @Parameters(
            index = "0",
            paramLabel = "FILE|ASSET",
            description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @Parameters(index = "1..*", arity = "0..*", paramLabel = "OBJECT", description = "Objects' paths or names.")
    private List<String> objects = List.of();

    @Option(
            names = "--to",
            paramLabel = "P",
            description = "Pivot to base, centre or corner, to a point X,Y,Z in metres, or along an axis: y=0.5.")
    private Optional<String> to = Optional.empty();

    @Option(names = "--stand", paramLabel = "S", description = "Make the whole stand: ground, centre or align.")
    private List<Pivots.Stand> stand = List.of();

    @Option(names = "--group", paramLabel = "N", description = "Gather all objects at the top under one root.")
    private Optional<String> group = Optional.empty();

    @Option(names = "--ring", paramLabel = "COUNT,DEGREES", description = "Copy the object around the upright axis.")
    private Optional<String> ring = Optional.empty();

    @Option(names = "--around", paramLabel = "X,Z", defaultValue = "0,0", description = "Where the ring's axis stands.")
    private String around = "0,0";

    @Option(
            names = "--vary",
            paramLabel = "TURN,SIZE,LEAN",
            defaultValue = "0,0,0",
            description = "How much copies may differ: degrees, part of the size, degrees.")
    private String vary = "0,0,0";

    @Option(names = "--seed", paramLabel = "N", defaultValue = "1", description = "Gives the same differences again.")
    private long seed;

    @Mixin
    private Target target = new Target();

    record Held(String path, double[] pivot) {}

    record Result(List<Held> pivots, double[] min, double[] max, Saved saved) {}

    PivotCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Workpiece piece = workpiece(what);
        List<SdfPath> paths = objects.stream().map(named -> path(piece, named)).toList();
        boolean changes = to.isPresent() || !stand.isEmpty() || group.isPresent() || ring.isPresent();
        if (changes) {
            requireTarget(target, piece);
        }
        group.ifPresent(name -> Pivots.group(piece, name));
        stand.forEach(how -> Pivots.stand(piece, how));
        to.ifPresent(place -> setPivots(piece, paths, place));
        ring.ifPresent(text -> copyAround(piece, paths, text));
        Saved saved = changes ? save(piece, target, "pivots") : Saved.NOTHING;
        Box3 box = piece.model().bounds();
        return new Result(
                paths.stream()
                        .flatMap(path -> piece.editor().stage().prim(path).stream())
                        .map(prim -> new Held(
                                prim.path().toString(),
                                numbers(piece.inMetres(Xforms.world(prim)).translationPart())))
                        .toList(),
                numbers(box.min()),
                numbers(box.max()),
                saved);
    }

    private static double[] numbers(Vec3 v) {
        return new double[] {v.x(), v.y(), v.z()};
    }

    private void setPivots(Workpiece piece, List<SdfPath> paths, String place) {
        if (paths.isEmpty()) {
            throw wrongCall("Say whose pivot is to be set: a path such as /Mast/Arm, or a name.");
        }
        for (Pivots.Place known : Pivots.Place.values()) {
            if (known.word().equals(place.toLowerCase(Locale.ROOT))) {
                Pivots.set(piece, paths, known);
                return;
            }
        }
        if (place.matches("(?i)[xyz]=.*")) {
            int axis = "xyz".indexOf(Character.toLowerCase(place.charAt(0)));
            double part = number("--to", place.substring(2));
            paths.forEach(path -> Pivots.set(piece, path, axis, part));
            return;
        }
        double[] n = numbers("--to", place, 3);
        paths.forEach(path -> Pivots.set(piece, path, new Vec3(n[0], n[1], n[2])));
    }

    private void copyAround(Workpiece piece, List<SdfPath> paths, String text) {
        if (paths.size() != 1) {
            throw wrongCall("A ring is made of one object; say which.");
        }
        double[] n = numbers("--ring", text, 2);
        double[] centre = numbers("--around", around, 2);
        double[] limits = numbers("--vary", vary, 3);
        new RingCopies(
                        (int) n[0],
                        n[1],
                        new Vec3(centre[0], 0, centre[1]),
                        new RingCopies.Variation(limits[0], limits[1], limits[2]),
                        seed)
                .make(piece, paths.getFirst());
    }

    @Override
    void tell(Result result) {
        for (Held held : result.pivots()) {
            output.line(
                    "%s  held at %.4g, %.4g, %.4g m", held.path(), held.pivot()[0], held.pivot()[1], held.pivot()[2]);
        }
        output.line(
                "from %.4g, %.4g, %.4g to %.4g, %.4g, %.4g m",
                result.min()[0], result.min()[1], result.min()[2], result.max()[0], result.max()[1], result.max()[2]);
        tell(result.saved());
    }
}
