package pantry.cli;

import java.nio.file.Path;
import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Option;

/**
 * A command that works in one library.
 *
 * @param <R> the result, whose fields' names scripts rely on
 */
abstract class LibraryCommand<R> extends PantryCommand<R> {
    @Option(names = "--library", required = true, paramLabel = "L", description = "The library's folder.")
    private Path folder = Path.of("");

    private @Nullable Library opened;

    /** An asset, as results name it. */
    record AssetLine(String id, String name, String shelf, String ready, String path) {
        static AssetLine of(Asset asset) {
            return new AssetLine(
                    asset.card().id(),
                    asset.card().name(),
                    asset.shelf(),
                    asset.ready().orElse(""),
                    asset.folder().toString());
        }
    }

    LibraryCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    Library library() {
        Library known = opened;
        if (known == null) {
            known = workbench.openLibrary(folder);
            opened = known;
        }
        return known;
    }

    /** The asset that a person names by id, shelf and name, or name alone. */
    Asset asset(String named) {
        return library().find(named);
    }

    List<Asset> assets(List<String> named) {
        return named.stream().map(this::asset).toList();
    }
}
