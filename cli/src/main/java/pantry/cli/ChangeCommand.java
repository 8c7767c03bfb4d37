package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import pantry.library.Asset;
import pantry.project.Change;
import pantry.project.ChangePlan;
import pantry.project.ChangeRuns;
import pantry.project.FileEdit;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.usd.AssetPaths;
import pantry.workbench.Workbench;
import picocli.CommandLine.Option;

/**
 * A command that changes what the files of projects refer to: it plans first, then changes file by file.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class ChangeCommand<R extends ChangeCommand.Changed> extends ReachCommand<R> {
    @Option(names = "--dry-run", description = "Only tell what would be changed.")
    private boolean dryRun;

    /**
     * @param path the prim or property; empty for a sublayer
     * @param says what that means
     */
    record Line(String file, String path, String before, String after, String says) {
        static Line of(Change change) {
            return new Line(
                    change.file().toString(),
                    change.place(),
                    change.before().toString(),
                    change.after().toString(),
                    change.says());
        }
    }

    /** A file that stays as it was. */
    record Failed(String file, String reason) {
        static List<Failed> of(ChangeRuns.Done done) {
            return done.failed().entrySet().stream()
                    .map(entry -> new Failed(entry.getKey().toString(), entry.getValue()))
                    .toList();
        }
    }

    /** What came of a plan. */
    interface Changed {
        /** By which it is undone; empty where nothing was changed. */
        String id();

        /** What is changed, or would be. */
        List<Line> changes();

        List<Failed> failed();
    }

    /** The result of a command that tells no more than that. */
    record Result(String id, List<Line> changes, List<Failed> failed) implements Changed {}

    ChangeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    /** Makes the changes, unless they are only to be told. */
    Result carryOut(ChangePlan plan) {
        List<Project> projects = projects();
        return carryOut(plan, () -> workbench
                .changeRuns()
                .run(plan, file -> Project.assetPaths(projects, file), file -> "", output.progress()));
    }

    /** As above, where files are changed otherwise than by what they name. */
    Result carryOut(ChangePlan plan, Function<Function<Path, AssetPaths>, List<FileEdit>> edits) {
        List<Project> projects = projects();
        return carryOut(plan, () -> workbench
                .changeRuns()
                .run(
                        plan.title(),
                        edits.apply(file -> Project.assetPaths(projects, file)),
                        file -> "",
                        output.progress()));
    }

    private Result carryOut(ChangePlan plan, Supplier<ChangeRuns.Done> run) {
        List<Line> lines = plan.changes().stream().map(Line::of).toList();
        return dryRun || lines.isEmpty() ? new Result("", lines, List.of()) : told(plan, run.get());
    }

    private static Result told(ChangePlan plan, ChangeRuns.Done done) {
        return new Result(
                done.changed().isEmpty() ? "" : done.id(),
                plan.changes().stream()
                        .filter(change -> done.changed().contains(change.file()))
                        .map(Line::of)
                        .toList(),
                Failed.of(done));
    }

    List<Asset> assets(List<String> named) {
        return named.stream().map(this::asset).toList();
    }

    /** A plan over what the index knows; the runs that were stopped are taken back before it is asked. */
    @Override
    Reach reach() {
        for (Path restored : workbench.changeRuns().recover()) {
            output.say("pantry: a stopped change of " + restored + " was taken back");
        }
        return super.reach();
    }

    @Override
    void tell(R result) {
        result.changes()
                .forEach(line -> output.line("%s  %s  %s → %s", line.file(), line.path(), line.before(), line.after()));
        tellCount(result);
    }

    /** Tells how much is changed, and what is not. */
    void tellCount(R result) {
        result.failed().forEach(each -> output.say("pantry: " + each.file() + ": " + each.reason()));
        long files = result.changes().stream().map(Line::file).distinct().count();
        output.line(
                "%s in %s %s%s",
                Output.counted(result.changes().size(), "place"),
                Output.counted(files, "file"),
                dryRun ? "would be changed" : result.changes().size() == 1 ? "was changed" : "were changed",
                result.id().isEmpty() ? "" : "; pantry changes --undo " + result.id() + " takes that back");
    }

    @Override
    boolean done(R result) {
        return result.failed().isEmpty();
    }
}
