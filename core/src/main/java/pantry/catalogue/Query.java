package pantry.catalogue;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.library.AssetKind;

/**
 * What is looked for.
 *
 * @param words every word must begin some word of the asset's name, tags, notes, materials or shelf; empty for all
 * @param shelf only this shelf and those below it; empty for all
 * @param tags all of these
 * @param limit at most so many, in order
 */
public record Query(
        List<Path> libraries, String words, Optional<AssetKind> kind, String shelf, List<String> tags, int limit) {
    public Query {
        libraries = List.copyOf(libraries);
        tags = List.copyOf(tags);
        if (limit < 1) {
            throw new IllegalArgumentException("the limit must be at least 1, not " + limit);
        }
    }

    /** Everything in some libraries whose text matches. */
    public static Query words(List<Path> libraries, String words) {
        return new Query(libraries, words, Optional.empty(), "", List.of(), 10_000);
    }

    public Query onShelf(String path) {
        return new Query(libraries, words, kind, path, tags, limit);
    }
}
