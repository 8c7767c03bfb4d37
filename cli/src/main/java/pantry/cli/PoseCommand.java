package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.usecase.PoseOut;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "pose",
        description = "Write how a thing or a scene stands at a moment of its motion, or pictures of all of it.")
final class PoseCommand extends PantryCommand<PoseCommand.Result> {
    @Parameters(paramLabel = "FILE", description = "A file that can be received, a version's layer, or a scene.")
    private Path file = Path.of("");

    @Option(
            names = "--to",
            required = true,
            paramLabel = "F",
            description =
                    "The new file: a picture (png), or a model by its ending: glb, gltf, obj, ply, stl, usda, usdc"
                            + " or usdz.")
    private Path to = Path.of("");

    @Option(names = "--motion", paramLabel = "NAME", description = "Which motion; the first one where it is not told.")
    private Optional<String> motion = Optional.empty();

    @Option(
            names = "--of",
            paramLabel = "F",
            description = "A file with motions, or a version's layer, whose motions the thing does instead of its own.")
    private Optional<Path> mover = Optional.empty();

    @Option(names = "--at", paramLabel = "S", description = "Seconds from its start; 0 where it is not told.")
    private double at;

    @Option(
            names = "--per-second",
            paramLabel = "N",
            description = "Write so many pictures for each second of the motion, numbered, instead of one moment.")
    private Optional<Double> perSecond = Optional.empty();

    /**
     * What was written.
     *
     * @param seconds how long the motion is
     * @param left what does not fit, what the format cannot hold, and what was missing
     */
    record Result(String motion, double seconds, List<String> files, List<String> left) {}

    PoseCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        if (!Double.isFinite(at) || at < 0) {
            throw wrongCall("--at is a number of seconds, 0 or more");
        }
        if (perSecond.isPresent() && !(perSecond.get() > 0 && perSecond.get() <= 240)) {
            throw wrongCall("--per-second is a number above 0, and at most 240");
        }
        PoseOut out = new PoseOut(workbench, file, mover, motion, output.progress());
        List<String> left = perSecond.isPresent() ? List.of() : out.write(at, to);
        List<String> files = perSecond
                .map(each -> out.pictures(each, to, output.progress()).stream()
                        .map(Path::toString)
                        .toList())
                .orElse(List.of(to.toString()));
        List<String> told = new ArrayList<>(out.misfits());
        told.addAll(left);
        return new Result(out.name(), out.seconds(), files, told);
    }

    @Override
    void tell(Result result) {
        String what = result.files().size() == 1
                ? result.files().getFirst()
                : result.files().size() + " pictures, " + result.files().getFirst() + " to "
                        + result.files().getLast();
        output.line("%s: %s, %.3g s long", what, result.motion(), result.seconds());
        result.left().forEach(line -> output.line("  %s", line));
    }
}
