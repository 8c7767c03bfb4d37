package pantry.usecase;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.library.AssetMerge;
import pantry.library.Library;
import pantry.project.AssetTwins;
import pantry.project.ChangeRuns;
import pantry.project.Reach;
import pantry.usd.AssetPaths;

/**
 * Merges assets that are the same thing: first the files of projects place the one that is kept, then the other one goes to
 * the trash and leads there. Files that could not be changed, and those that nobody knows of, show the one that is kept as
 * well.
 */
public final class MergeAssets {
    private final Reach reach;
    private final ChangeRuns runs;

    /** @param reach of all open projects */
    public MergeAssets(Reach reach, ChangeRuns runs) {
        this.reach = reach;
        this.runs = runs;
    }

    /**
     * What was merged.
     *
     * @param files what was done to files
     * @param merged with the library that each is of
     */
    public record Result(ChangeRuns.Done files, List<InLibrary> merged) {
        public Result {
            merged = List.copyOf(merged);
        }
    }

    public record InLibrary(Library library, AssetMerge.Merged merged) {}

    /**
     * Merges pairs.
     *
     * @param paths how asset paths in a file are resolved
     * @param refused why a file must not be written now; empty where it may
     * @throws PantryException where one of them cannot be merged; all is as it was then
     * @throws java.util.concurrent.CancellationException when cancelled while files are changed; all is as it was then
     */
    public Result run(
            List<AssetTwins.Pair> pairs,
            Function<Path, AssetPaths> paths,
            Function<Path, String> refused,
            Progress progress) {
        for (AssetTwins.Pair pair : pairs) {
            pair.hindrance().ifPresent(why -> {
                throw new PantryException(pair.gone().folder(), "cannot be merged: it " + why);
            });
        }
        ChangeRuns.Done done =
                runs.run("Merged assets that are one", AssetTwins.edits(reach, pairs, paths), refused, progress);
        List<InLibrary> merged = new ArrayList<>();
        try {
            for (AssetTwins.Pair pair : pairs) {
                Library library = libraryOf(pair);
                merged.add(
                        new InLibrary(library, new AssetMerge(library).merge(pair.gone(), pair.kept(), pair.place())));
            }
        } catch (RuntimeException e) {
            takeBack(new Result(done, merged));
            throw e;
        }
        return new Result(done, merged);
    }

    private Library libraryOf(AssetTwins.Pair pair) {
        return reach.libraries().stream()
                .filter(library -> pair.gone().folder().startsWith(library.root()))
                .findFirst()
                .orElseThrow(() -> new PantryException(pair.gone().folder(), "is of no library that is open"));
    }

    /**
     * Takes a merging back: assets stand where they stood, and files are as they were unless they were changed since.
     *
     * @return what became of the files
     */
    public ChangeRuns.Undone takeBack(Result result) {
        result.merged().reversed().forEach(each -> new AssetMerge(each.library()).takeBack(each.merged()));
        return result.files().changed().isEmpty()
                ? new ChangeRuns.Undone(List.of(), List.of())
                : runs.undo(result.files().id());
    }
}
