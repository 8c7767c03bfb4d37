package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.scene.PlacedMotions;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "motion",
        description = "Tell what placements of a scene do over time, or let them do another motion, later or faster.")
final class MotionCommand extends ArrangeCommand {
    @Parameters(
            index = "1..*",
            arity = "0..*",
            paramLabel = "OBJECT",
            description = "Paths or names; all that can move, where not said.")
    private List<String> what = List.of();

    @Option(names = "--do", paramLabel = "NAME", description = "The motion that they do.")
    private Optional<String> motion = Optional.empty();

    @Option(
            names = "--of",
            paramLabel = "ASSET",
            description = "Of the library: an asset whose motion they do, its first one or that of --do.")
    private Optional<String> of = Optional.empty();

    @Option(names = "--rest", description = "Let them stand at rest.")
    private boolean rest;

    @Option(names = "--from", paramLabel = "S", description = "Seconds of the scene at which it begins.")
    private Optional<Double> start = Optional.empty();

    @Option(names = "--speed", paramLabel = "X", description = "Times as fast as it is by itself.")
    private Optional<Double> speed = Optional.empty();

    MotionCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Done change(Scene scene) {
        if (rest && (motion.isPresent() || of.isPresent())) {
            throw wrongCall("--do, --of and --rest do not go together.");
        }
        PlacedMotions motions = scene.motions();
        List<SdfPath> paths = what.isEmpty()
                ? scene.placements().all().stream()
                        .map(placement -> placement.path())
                        .filter(path -> motions.of(path).isPresent())
                        .toList()
                : paths(scene, what);
        boolean changes = rest || of.isPresent() || motion.isPresent() || start.isPresent() || speed.isPresent();
        if (changes && what.isEmpty()) {
            throw wrongCall("Say which objects are to move otherwise.");
        }
        List<String> told = new ArrayList<>();
        if (of.isPresent()) {
            told.addAll(motions.borrow(paths, asset(of.get()), motion));
        } else if (rest || motion.isPresent()) {
            motions.bind(paths, motion);
        }
        if (start.isPresent() || speed.isPresent()) {
            motions.time(paths, start, speed);
        }
        paths.forEach(path -> motions.of(path).ifPresent(playing -> told.add(line(path, playing))));
        return new Done(List.of(), told);
    }

    private static String line(SdfPath path, PlacedMotions.Playing playing) {
        String does = playing.bound()
                .map(bound -> String.format(
                        Locale.ROOT,
                        "%s, %.3g s from %.3g s at × %.3g",
                        bound.name(),
                        bound.seconds(),
                        playing.start(),
                        playing.speed()))
                .orElse("at rest");
        List<String> others = playing.motions().stream()
                .filter(motion -> !playing.bound().equals(Optional.of(motion)))
                .map(PlacedMotions.Motion::name)
                .toList();
        return path + ": " + does + (others.isEmpty() ? "" : "; could " + String.join(", ", others));
    }
}
