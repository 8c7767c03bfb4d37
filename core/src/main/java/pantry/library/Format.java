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
    private static final String BEFORE = "before-upgrade";

    private Format() {}

    /** Every file that the upgrade writes is kept as it was, in {@code before-upgrade/}. */
    static void upgrade(AssetStore store, Progress progress) throws IOException {
        if (store.info().format() >= LibraryInfo.NEWEST) {
            throw new LibraryException(store.root(), "has the newest format already");
        }
        Path kept = Files.createDirectories(store.root().resolve(BEFORE));
        Path marker = store.root().resolve(LibraryLayout.MARKER);
        LibraryInfo info = store.info();
        Map<String, String> cards = new LinkedHashMap<>();
        List<Asset> assets = store.assets();
        for (Asset asset : assets) {
            cards.put(
                    store.root().relativize(asset.folder()).toString().replace('\\', '/'),
                    Files.readString(asset.folder().resolve(LibraryLayout.CARD)));
        }
        AtomicFiles.write(kept.resolve("cards.json"), Json.write(cards));
        AtomicFiles.write(kept.resolve(LibraryLayout.MARKER), Files.readString(marker));
        for (int i = 0; i < assets.size(); i++) {
            Asset asset = assets.get(i);
            progress.report("upgrading " + asset.card().name(), (double) i / assets.size());
            AtomicFiles.write(
                    asset.folder().resolve(LibraryLayout.CARD),
                    Json.write(asset.card().on(asset.shelf())));
        }
        // Only now: whoever is interrupted before this has a library of the old format, whose cards know more.
        AtomicFiles.write(
                marker,
                Json.write(new LibraryInfo(info.id(), info.name(), LibraryInfo.NEWEST, info.unit(), info.upAxis())));
    }

    /** Takes the upgrade back; what was changed on cards since stays, but for what the older format does not know. */
    static void downgrade(AssetStore store, Progress progress) throws IOException {
        Path kept = store.root().resolve(BEFORE);
        if (!Files.exists(kept.resolve(LibraryLayout.MARKER))) {
            throw new LibraryException(store.root(), "was not upgraded, so there is no way back");
        }
        List<Asset> assets = store.assets();
        for (int i = 0; i < assets.size(); i++) {
            Asset asset = assets.get(i);
            progress.report("bringing back " + asset.card().name(), (double) i / assets.size());
            AtomicFiles.write(
                    asset.folder().resolve(LibraryLayout.CARD),
                    Json.write(asset.card().on(null)));
        }
        AtomicFiles.write(
                store.root().resolve(LibraryLayout.MARKER), Files.readString(kept.resolve(LibraryLayout.MARKER)));
        AtomicFiles.deleteTree(kept);
    }
}
