package pantry.cli;

import java.util.List;
import pantry.project.ChangeRuns;
import pantry.project.Reach;
import pantry.project.Strays;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "strays",
        description = {
            "Find copies of assets that stand in the files of projects as meshes of their own.",
            "They are known by their shape, however they were turned, scaled or put together. With --place they become"
                    + " placements of the asset, every vertex where it was."
        })
final class StraysCommand extends ReachCommand<StraysCommand.Result> {
    @Option(names = "--place", description = "Let the copies be placements of the assets.")
    private boolean place;

    /**
     * @param path the prim that the copy stands below
     * @param materials what it is shown with where the asset has others
     */
    record Copy(String file, String path, double deviation, List<String> materials) {}

    /**
     * @param asset the asset's id
     * @param deviation the farthest that a vertex of any copy is from its like
     */
    record Group(String asset, String name, String version, List<Copy> copies, double deviation) {
        static Group of(Strays.Group group) {
            return new Group(
                    group.asset().card().id(),
                    group.asset().card().name(),
                    group.version(),
                    group.copies().stream()
                            .map(copy -> new Copy(
                                    copy.file().toString(),
                                    copy.path().toString(),
                                    copy.deviation(),
                                    copy.materials().equals(group.materials())
                                            ? List.of()
                                            : List.copyOf(copy.materials())))
                            .toList(),
                    group.deviation());
        }
    }

    /** Something that stands there several times without being an asset. */
    record Recurring(long triangles, List<Copy> copies) {
        static Recurring of(Strays.Recurring recurring) {
            return new Recurring(
                    recurring.triangles(),
                    recurring.copies().stream()
                            .map(copy -> new Copy(
                                    copy.file().toString(),
                                    copy.path().toString(),
                                    copy.deviation(),
                                    List.copyOf(copy.materials())))
                            .toList());
        }
    }

    /** @param id by which the placing is undone; empty where nothing was placed */
    record Result(List<Group> groups, List<Recurring> recurring, String id, List<ChangeCommand.Failed> failed) {}

    StraysCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Reach reach = reach();
        List<Strays.Group> groups = Strays.find(reach, output.progress());
        List<Strays.Recurring> recurring = place ? List.of() : Strays.recurring(reach, groups, output.progress());
        List<ChangeCommand.Failed> failed = List.of();
        String id = "";
        if (place && !groups.isEmpty()) {
            ChangeRuns.Done done = workbench
                    .changeRuns()
                    .run("Placed copies of assets", Strays.placing(groups), file -> "", output.progress());
            failed = ChangeCommand.Failed.of(done);
            id = done.changed().isEmpty() ? "" : done.id();
        }
        return new Result(
                groups.stream().map(Group::of).toList(),
                recurring.stream().map(Recurring::of).toList(),
                id,
                failed);
    }

    @Override
    void tell(Result result) {
        for (Group group : result.groups()) {
            output.line(
                    "%s %s: %,d copies, off by at most %g",
                    group.name(), group.version(), group.copies().size(), group.deviation());
            group.copies()
                    .forEach(copy -> output.line(
                            "    %s  %s%s",
                            copy.file(),
                            copy.path(),
                            copy.materials().isEmpty() ? "" : "  in " + String.join(", ", copy.materials())));
        }
        for (Recurring recurring : result.recurring()) {
            output.line("%,d × %,d triangles, of no asset:", recurring.copies().size(), recurring.triangles());
            recurring.copies().forEach(copy -> output.line("    %s  %s", copy.file(), copy.path()));
        }
        result.failed().forEach(each -> output.say("pantry: " + each.file() + ": " + each.reason()));
        if (!result.id().isEmpty()) {
            output.line("they are placements now; pantry changes --undo %s takes that back", result.id());
        }
    }

    @Override
    boolean done(Result result) {
        return result.failed().isEmpty();
    }
}
