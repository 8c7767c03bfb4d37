package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.AtomicFiles;
import pantry.base.Json;
import pantry.base.Progress;

/**
 * The formats of libraries, and the ways between them. Format 1 is that of the first Pantry; in format 2, cards also
 * say on which shelf they belong, so that a move by hand is noticed.
 */
final class Format {
    static final int NOW = 2;
    static final int WITH_SHELF = 2;
    private static final String BEFORE = "before-upgrade";

    private Format() {}

    /** Every file that the upgrade writes is kept as it was, in {@code before-upgrade/}. */
    static void upgrade(Library library, Progress progress) throws IOException {
        if (!library.isOlder()) {
            throw new LibraryException(library.root(), "has the newest format already");
        }
        Path kept = Files.createDirectories(library.root().resolve(BEFORE));
        Path marker = library.root().resolve(Library.MARKER);
        Library.Info info = library.info();
        Map<String, String> cards = new LinkedHashMap<>();
        List<Asset> assets = library.assets();
        for (Asset asset : assets) {
            cards.put(
                    library.root().relativize(asset.folder()).toString().replace('\\', '/'),
                    Files.readString(asset.folder().resolve(Library.CARD)));
        }
        AtomicFiles.write(kept.resolve("cards.json"), Json.write(cards));
        AtomicFiles.write(kept.resolve(Library.MARKER), Files.readString(marker));
        for (int i = 0; i < assets.size(); i++) {
            Asset asset = assets.get(i);
            progress.report("upgrading " + asset.card().name(), (double) i / assets.size());
            AtomicFiles.write(
                    asset.folder().resolve(Library.CARD),
                    Json.write(asset.card().on(asset.shelf())));
        }
        // Only now: whoever is interrupted before this has a library of the old format, whose cards know more.
        AtomicFiles.write(
                marker, Json.write(new Library.Info(info.id(), info.name(), NOW, info.unit(), info.upAxis())));
    }

    /** Takes the upgrade back; what was changed on cards since stays, but for what the older format does not know. */
    static void downgrade(Library library, Progress progress) throws IOException {
        Path kept = library.root().resolve(BEFORE);
        if (!Files.exists(kept.resolve(Library.MARKER))) {
            throw new LibraryException(library.root(), "was not upgraded, so there is no way back");
        }
        List<Asset> assets = library.assets();
        for (int i = 0; i < assets.size(); i++) {
            Asset asset = assets.get(i);
            progress.report("bringing back " + asset.card().name(), (double) i / assets.size());
            AtomicFiles.write(
                    asset.folder().resolve(Library.CARD),
                    Json.write(asset.card().on(null)));
        }
        AtomicFiles.write(library.root().resolve(Library.MARKER), Files.readString(kept.resolve(Library.MARKER)));
        AtomicFiles.deleteTree(kept);
    }
}
