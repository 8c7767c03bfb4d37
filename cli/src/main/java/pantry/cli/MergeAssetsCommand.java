package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.library.Asset;
import pantry.project.AssetTwins;
import pantry.project.Project;
import pantry.project.Reach;
import pantry.usecase.MergeAssets;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "merge-assets",
        description = {
            "Find assets that are the same thing twice, of one shape and one size; and merge them.",
            "With an asset, or --all, the one goes to the trash and the other takes its place, in the files of projects and"
                    + " in all others, every vertex where it was. --all passes over those that look different."
        })
final class MergeAssetsCommand extends ReachCommand<MergeAssetsCommand.Result> {
    @Parameters(arity = "0..1", paramLabel = "ASSET", description = "The asset that goes; of a pair that is found.")
    private Optional<String> named = Optional.empty();

    @Option(names = "--all", description = "Merge all pairs that look alike.")
    private boolean all;

    @Option(names = "--dry-run", description = "Only tell what would be merged.")
    private boolean dryRun;

    /**
     * @param kept the id of the asset that takes the other's place
     * @param gone the id of the other
     * @param deviation the farthest that a vertex is from its like, metres
     * @param merged whether it is, or would be
     * @param why it cannot be; empty where it can
     */
    record Pair(
            String kept,
            String keptName,
            String gone,
            String goneName,
            long placements,
            double deviation,
            boolean sameMaterials,
            boolean merged,
            String why) {
        static Pair of(AssetTwins.Pair pair, boolean merged) {
            return new Pair(
                    pair.kept().card().id(),
                    pair.kept().card().name(),
                    pair.gone().card().id(),
                    pair.gone().card().name(),
                    pair.placements(),
                    pair.deviation(),
                    pair.sameLook(),
                    merged,
                    pair.hindrance().orElse(""));
        }
    }

    /** @param id by which the changes of files are undone; empty where none were changed */
    record Result(List<Pair> pairs, String id, List<ChangeCommand.Failed> failed) {}

    MergeAssetsCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        workbench.changeRuns().recover();
        Reach reach = reach();
        List<AssetTwins.Pair> pairs = AssetTwins.find(reach, output.progress());
        List<AssetTwins.Pair> wanted = wanted(pairs);
        MergeAssets.@Nullable Result result = null;
        if (!dryRun && !wanted.isEmpty()) {
            List<Project> projects = projects();
            result = new MergeAssets(reach, workbench.changeRuns())
                    .run(wanted, file -> Project.assetPaths(projects, file), file -> "", output.progress());
        }
        List<Pair> lines = new ArrayList<>();
        pairs.forEach(pair -> lines.add(Pair.of(pair, wanted.contains(pair))));
        return result == null
                ? new Result(lines, "", List.of())
                : new Result(
                        lines,
                        result.files().changed().isEmpty() ? "" : result.files().id(),
                        ChangeCommand.Failed.of(result.files()));
    }

    private List<AssetTwins.Pair> wanted(List<AssetTwins.Pair> pairs) {
        if (all && named.isPresent()) {
            throw new PantryException("--all and an asset exclude each other");
        }
        if (named.isEmpty()) {
            return pairs.stream()
                    .filter(pair -> all && pair.sameLook() && pair.hindrance().isEmpty())
                    .toList();
        }
        Asset asset = asset(named.get());
        List<AssetTwins.Pair> its =
                pairs.stream().filter(pair -> pair.gone().equals(asset)).toList();
        if (its.isEmpty()) {
            throw new PantryException(
                    asset.folder(), "is not the same thing as another asset that is placed more; nothing was merged");
        }
        return its;
    }

    @Override
    void tell(Result result) {
        for (Pair pair : result.pairs()) {
            String done = !pair.merged() ? "is the same thing as" : dryRun ? "would become" : "is now";
            output.line(
                    "%s %s %s: %,d placements, off by at most %g m%s%s",
                    pair.goneName(),
                    done,
                    pair.keptName(),
                    pair.placements(),
                    pair.deviation(),
                    pair.sameMaterials() ? "" : ", in other materials",
                    pair.why().isEmpty() ? "" : "; it " + pair.why());
        }
        output.line("%s", Output.counted(result.pairs().size(), "pair"));
        result.failed().forEach(each -> output.say("pantry: " + each.file() + ": " + each.reason()));
        if (!result.id().isEmpty()) {
            output.line(
                    "pantry changes --undo %s takes back what was changed in files, pantry restore the assets",
                    result.id());
        }
    }

    @Override
    boolean done(Result result) {
        return result.failed().isEmpty();
    }
}
