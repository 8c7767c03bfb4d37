package pantry.desktop.session;

import java.nio.file.Path;
import pantry.catalogue.IndexedAsset;

/** What the middle of the workplace shows, before words narrow it. */
public sealed interface SearchScope {
    /** Everything in the libraries that are on. */
    record All() implements SearchScope {}

    /** What stands in one library. */
    record Whole(Path library, String name) implements SearchScope {}

    /** What stands on a shelf and below it. */
    record OnShelf(Path library, String path) implements SearchScope {}

    /** The user's favourites. */
    record Favourites() implements SearchScope {}

    /** What the user looked at last. */
    record Recent() implements SearchScope {}

    /** What has nearly the shape of an asset. */
    record Alike(IndexedAsset item) implements SearchScope {}

    /** As a heading. */
    default String title() {
        return switch (this) {
            case All() -> "All shelves";
            case Whole(Path library, String name) -> name;
            case OnShelf(Path library, String path) -> path.replace("/", " / ");
            case Favourites() -> "Favourites";
            case Recent() -> "Looked at last";
            case Alike(IndexedAsset item) -> "Like " + item.name();
        };
    }
}
