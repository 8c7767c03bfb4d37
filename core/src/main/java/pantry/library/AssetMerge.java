package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.Failures;
import pantry.base.math.Matrix4;
import pantry.usd.file.LayerFiles;

/**
 * Makes one of two assets that are the same thing: one stays, the other goes to the trash, and where that stood, its
 * layers lead to the one that stays. Other assets that were made of it are made of that one.
 */
public final class AssetMerge {
    /** What the journal says of an asset in whose place another one is used. */
    static final String MERGED = "merged";

    private final Library library;

    public AssetMerge(Library library) {
        this.library = library;
    }

    /**
     * An asset in whose place another one is used.
     *
     * @param kept the other one
     * @param gone where it lies in the trash
     * @param uses of other assets that led to it, as they were
     */
    public record Merged(Asset kept, TrashItem gone, List<Uses.Use> uses) {
        public Merged {
            uses = List.copyOf(uses);
        }
    }

    /**
     * Uses an asset's ready version in place of all versions of another.
     *
     * @param gone the asset that goes to the trash
     * @param kept the one that stays
     * @param place from the space of the one that stays to that of the other: where the same surfaces are; exactly the
     *     identity where both have them at the same place
     * @throws LibraryException where somebody else has reserved the one that goes, the other has no ready version, or
     *     assets are made of it and its place is not the same
     */
    public Merged merge(Asset gone, Asset kept, Matrix4 place) {
        AssetStore store = library.store();
        return store.changing(gone.folder(), "cannot be merged", () -> {
            Asset now = library.current(gone);
            Asset stays = library.current(kept);
            if (now.card().id().equals(stays.card().id())) {
                throw new LibraryException(now.folder(), "cannot be merged with itself");
            }
            library.reservations().requireFree(now);
            String version = stays.ready()
                    .orElseThrow(() -> new LibraryException(
                            stays.folder(),
                            "has no ready version that could be used in place of "
                                    + now.card().name()));
            List<Uses.Use> uses = usesOf(now);
            if (!uses.isEmpty() && !place.equals(Matrix4.IDENTITY)) {
                throw new LibraryException(
                        uses.getFirst().stub().getParent().getParent(),
                        "is made of " + now.card().name() + ", which stands otherwise in its own space than "
                                + stays.card().name() + " does; swap it there first");
            }
            Map<Path, String> layers = layers(now);
            // Whoever is stopped between two of these steps leaves a library in which all is whole.
            for (Uses.Use use : uses) {
                String pinned = use.version().isEmpty() ? "" : version;
                Uses.relink(new Uses.Use(use.stub(), stays.card().id(), pinned, use.target()), stays);
            }
            TrashItem item = library.trash()
                    .take(now.folder(), now.card().id(), now.card().name());
            try {
                Redirects.leaveInstead(now.folder(), now.card().id(), layers, stays, place);
            } catch (IOException | RuntimeException e) {
                Failures.cleanUp(e, () -> takeBack(new Merged(stays, item, uses)));
                throw e;
            }
            library.journal()
                    .about(Trash.DISCARDED, now)
                    .version(now.newest().orElse(""))
                    .write();
            library.journal()
                    .about(MERGED, now)
                    .note("with " + stays.card().name())
                    .write();
            return new Merged(stays, item, uses);
        });
    }

    /**
     * Takes a merging back: the asset stands again where it stood, and what was made of it is.
     *
     * @throws LibraryException where it no longer lies in the trash
     */
    public Asset takeBack(Merged merged) {
        Path folder = library.trash().restore(merged.gone());
        Asset asset = library.store().asset(folder);
        library.store().changing(folder, "cannot be used again", () -> {
            merged.uses().stream().filter(use -> Files.exists(use.stub())).forEach(use -> Uses.relink(use, asset));
            return asset;
        });
        return asset;
    }

    private List<Uses.Use> usesOf(Asset asset) {
        List<Uses.Use> uses = new ArrayList<>();
        for (Path folder : library.store().tree().assetFolders()) {
            Uses.of(folder).stream()
                    .filter(use -> use.id().equals(asset.card().id()))
                    .forEach(uses::add);
        }
        return uses;
    }

    /** What others may name of an asset, with the names of the root prims. */
    private static Map<Path, String> layers(Asset asset) {
        List<Path> files = new ArrayList<>();
        asset.versions().forEach(version -> files.add(asset.entryLayer(version)));
        files.add(asset.readyLayer());
        Map<Path, String> layers = new LinkedHashMap<>();
        for (Path file : files) {
            if (Files.exists(file)) {
                LayerFiles.read(file).defaultPrim().ifPresent(root -> layers.put(file, root));
            }
        }
        return layers;
    }
}
