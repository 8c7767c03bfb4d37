package pantry.library;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.Json;
import pantry.model.Facts;

/**
 * An asset where it stands.
 *
 * @param folder its own folder
 * @param shelf the shelf's path with slashes, such as {@code Instruments/Masts}
 * @param versions the names of its versions that are on disk, oldest first
 */
public record Asset(Path folder, String shelf, Card card, List<String> versions) {
    public Asset {
        versions = List.copyOf(versions);
    }

    /** The name of its folder and files. */
    public String slug() {
        return folder.getFileName().toString();
    }

    /** The newest version; empty only where somebody removed them all by hand. */
    public Optional<String> newest() {
        return versions.isEmpty() ? Optional.empty() : Optional.of(versions.getLast());
    }

    /** The version that followers get. */
    public Optional<String> ready() {
        return Optional.ofNullable(card.ready()).filter(versions::contains);
    }

    /** The ready version, or else the newest. */
    public Optional<String> shown() {
        return ready().or(this::newest);
    }

    public VersionStatus status(String version) {
        return card.versions().getOrDefault(version, VersionStatus.DRAFT);
    }

    public Path data(String version) {
        return folder.resolve(version).resolve(LibraryLayout.DATA);
    }

    /** The layer that scenes pinned to a version reference. */
    public Path entryLayer(String version) {
        return LibraryLayout.entryLayer(folder, version);
    }

    /** The layer that scenes which follow the asset reference. */
    public Path readyLayer() {
        return folder.resolve(LibraryLayout.READY_LAYER);
    }

    public Path preview(String version) {
        return data(version).resolve("preview.png");
    }

    /** What was measured of a version when it was sealed. */
    public Facts facts(String version) {
        return Json.read(data(version).resolve("facts.json"), Facts.class);
    }

    /** Shelf and name, as the command line takes it. */
    public String address() {
        return shelf.isEmpty() ? card.name() : shelf + "/" + card.name();
    }
}
