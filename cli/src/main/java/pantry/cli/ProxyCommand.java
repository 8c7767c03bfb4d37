package pantry.cli;

import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import pantry.intake.CollisionShape;
import pantry.prep.tools.LevelsAndCollision;
import pantry.prep.tools.Proxy;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "proxy",
        description = "Make a light stand-in that is shown while working; levels of detail; shapes for collision.")
final class ProxyCommand extends PrepCommand<ProxyCommand.Result> {
    @Parameters(paramLabel = "FILE|ASSET", description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @ArgGroup(exclusive = true)
    private Kind kind = new Kind();

    static final class Kind {
        @Option(names = "--boxes", paramLabel = "N", description = "Of so many boxes, 1 to 12; usually 6.")
        private Optional<Integer> boxes = Optional.empty();

        @Option(names = "--triangles", paramLabel = "N", description = "The surface with at most so many triangles.")
        private Optional<Integer> triangles = Optional.empty();

        @Option(names = "--within", paramLabel = "M", description = "The surface, at most so many metres off.")
        private Optional<Double> within = Optional.empty();

        @Option(names = "--no-proxy", description = "No proxy; only what the other options make.")
        private boolean none;
    }

    @Option(names = "--levels", description = "Also write coarser levels of detail as variants.")
    private boolean levels;

    @Option(
            names = "--collision",
            paramLabel = "C",
            description = "Also write shapes for collision: box, hull, or a number for so many hulls.")
    private Optional<String> collision = Optional.empty();

    @Mixin
    private Target target = new Target();

    /**
     * What was made.
     *
     * @param made boxes, surface, coarse or hull
     * @param overlap of the outlines, 0 to 1, for each direction
     * @param tried the mean overlap, measured coarsely, of each way in which boxes were fitted
     */
    record Result(
            int triangles,
            String made,
            int boxes,
            Map<String, Double> overlap,
            double mean,
            Map<String, Double> tried,
            int collision,
            Saved saved) {}

    ProxyCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Workpiece piece = workpiece(what);
        Optional<Proxy> proxy = kind.none ? Optional.empty() : Optional.of(made(piece));
        proxy.ifPresent(made -> Proxy.write(piece, made));
        int shapes = collision.map(wanted -> collide(piece, wanted)).orElse(0);
        if (levels) {
            LevelsAndCollision.levels(piece);
        }
        // Without a target the figures are the result: how well so many boxes would do.
        Saved saved = target.isGiven() ? saved(piece) : Saved.NOTHING;
        return new Result(
                proxy.map(made -> made.mesh().triangleCount()).orElse(0),
                proxy.map(made -> made.made().name().toLowerCase(Locale.ROOT)).orElse(""),
                proxy.map(Proxy::boxes).orElse(0),
                proxy.map(Proxy::overlap).orElse(Map.of()),
                proxy.map(Proxy::mean).orElse(0.0),
                proxy.map(Proxy::tried).orElse(Map.of()),
                shapes,
                saved);
    }

    private Saved saved(Workpiece piece) {
        requireTarget(target, piece);
        return save(piece, target, "proxy");
    }

    private Proxy made(Workpiece piece) {
        if (kind.triangles.isPresent()) {
            return Proxy.simplified(piece.model(), kind.triangles.get(), output.progress());
        }
        if (kind.within.isPresent()) {
            return Proxy.within(piece.model(), kind.within.get(), output.progress());
        }
        return Proxy.boxes(piece.model(), kind.boxes.orElse(6), output.progress());
    }

    private int collide(Workpiece piece, String wanted) {
        return switch (wanted) {
            case "box" -> LevelsAndCollision.collision(piece, CollisionShape.BOX, 1, output.progress());
            case "hull" -> LevelsAndCollision.collision(piece, CollisionShape.HULL, 1, output.progress());
            default -> {
                double hulls = number("--collision", wanted);
                if (hulls < 1 || hulls > Proxy.MOST_BOXES || hulls != Math.rint(hulls)) {
                    throw wrongCall("--collision takes box, hull, or a number from 1 to " + Proxy.MOST_BOXES + ".");
                }
                yield LevelsAndCollision.collision(piece, CollisionShape.HULL, (int) hulls, output.progress());
            }
        };
    }

    @Override
    void tell(Result result) {
        if (result.triangles() > 0) {
            output.line(
                    "%,d triangles, %s, outlines overlap by %.1f %%",
                    result.triangles(),
                    Proxy.Made.valueOf(result.made().toUpperCase(Locale.ROOT)).words(result.boxes()),
                    100 * result.mean());
            result.overlap().forEach((direction, overlap) -> output.line("  %-12s %5.1f %%", direction, 100 * overlap));
            result.tried().forEach((way, overlap) -> output.line("  tried: %s, about %.0f %%", way, 100 * overlap));
        }
        if (result.collision() > 0) {
            output.line("%s for collision", Output.counted(result.collision(), "shape"));
        }
        tell(result.saved());
    }
}
