package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.Names;
import pantry.base.Progress;

/**
 * Shelves, and where assets stand. Moving keeps ids, and leaves signposts at the old places, so that scenes which
 * reference an asset there go on opening, in Pantry and in every other program.
 */
public final class Places {
    private final AssetStore store;
    private final ShelfTree tree;
    private final Incoming incoming;
    private final Journal journal;
    private final Reservations reservations;

    Places(AssetStore store, Incoming incoming, Journal journal, Reservations reservations) {
        this.store = store;
        this.tree = store.tree();
        this.incoming = incoming;
        this.journal = journal;
        this.reservations = reservations;
    }

    /** The paths of all shelves, with those that nothing stands on, sorted. */
    public List<String> shelves() {
        return tree.shelves();
    }

    /**
     * Makes a shelf, and those that it stands on; nothing where it is there already.
     *
     * @throws LibraryException where the name is empty
     */
    public String make(String written) {
        String shelf = Shelf.path(written);
        if (shelf.isEmpty()) {
            throw new LibraryException(store.root(), "a shelf needs a name");
        }
        return store.changing(tree.folder(), "the shelf cannot be made", () -> {
            Path folder = tree.folder(shelf);
            boolean fresh = !Files.isDirectory(folder) || ShelfTree.isRemoved(folder);
            tree.prepare(folder);
            if (fresh) {
                journal.about("made a shelf", shelf).write();
            }
            return shelf;
        });
    }

    /**
     * Removes a shelf, and those above it, as far as they are new and nothing stands on them: for what made them in
     * passing and is taken back.
     *
     * @param before the shelves that there were before
     */
    public void removeNew(String written, Set<String> before) {
        String shelf = Shelf.path(written);
        while (!shelf.isEmpty() && !before.contains(shelf) && isEmpty(shelf)) {
            remove(shelf);
            shelf = shelf.substring(0, Math.max(0, shelf.lastIndexOf('/')));
        }
    }

    private boolean isEmpty(String shelf) {
        try {
            ShelfTree.Standing standing = tree.below(tree.existing(shelf), false);
            return standing.assets().isEmpty() && standing.shelves().isEmpty();
        } catch (LibraryException gone) {
            return false;
        }
    }

    /**
     * Removes a shelf on which nothing stands.
     *
     * @throws LibraryException where something does
     */
    public void remove(String written) {
        String shelf = Shelf.path(written);
        store.changing(tree.folder(), "the shelf cannot be removed", () -> {
            Path folder = tree.existing(shelf);
            ShelfTree.Standing standing = tree.below(folder, false);
            if (!standing.assets().isEmpty() || !standing.shelves().isEmpty()) {
                throw new LibraryException(
                        folder,
                        standing.assets().isEmpty()
                                ? "has shelves below it; remove or move them first"
                                : "has assets on it; move them first");
            }
            ShelfTree.takeAway(folder);
            journal.about("removed a shelf", shelf).write();
            return shelf;
        });
    }

    /**
     * Moves or renames a shelf with all that stands on it.
     *
     * @param to its new path
     */
    public String move(String written, String to, Progress progress) {
        return move(tree.existing(Shelf.path(written)), Shelf.path(to), progress);
    }

    /** As above, of a shelf's folder, whose name need not be one that a shelf may have. */
    String move(Path old, String target, Progress progress) {
        String from = tree.shelfOf(old);
        return store.changing(tree.folder(), "the shelf cannot be moved", () -> {
            if (!Files.isDirectory(old)) {
                throw new LibraryException(old, "there is no such shelf");
            }
            Path place = tree.folder(target);
            if (place.startsWith(old)) {
                throw new LibraryException(old, "cannot be moved into itself");
            }
            if (Files.exists(place)) {
                clearFor(place, target);
            }
            tree.prepare(place.getParent());
            incoming.intendingMove(old, place, () -> {
                AtomicFiles.publishFolder(old, place);
                settle(old, place, progress);
                return place;
            });
            journal.about("moved a shelf", target).from(from).write();
            return target;
        });
    }

    /**
     * Brings cards, signposts and uses in line with where an asset, or a shelf with all on it, was moved; once more does
     * no harm.
     */
    void settle(Path old, Path place, Progress progress) throws IOException {
        boolean single = Files.exists(place.resolve(LibraryLayout.CARD));
        List<Path> folders = single ? List.of(place) : tree.below(place, false).assets();
        for (int i = 0; i < folders.size(); i++) {
            progress.report("moving " + folders.get(i).getFileName(), (double) i / folders.size());
            Asset asset = store.asset(folders.get(i));
            store.writeCard(asset, asset.card());
            Path stood = old.resolve(place.relativize(asset.folder()).toString());
            List<Redirects.Elsewhere> elsewhere = Redirects.versionsElsewhere(asset.folder(), stood);
            if (!Files.exists(stood.resolve(LibraryLayout.CARD))) {
                Redirects.leave(stood, asset);
            }
            for (Redirects.Elsewhere each : elsewhere) {
                each.leadFrom(asset.folder(), asset.card().id(), incoming);
                each.leadFrom(stood, asset.card().id(), incoming);
            }
        }
        if (Files.isDirectory(old) && !Redirects.standsAt(old)) {
            ShelfTree.markRemoved(old);
        }
        Uses.mend(tree.assetFolders(), Map.of(old, place));
    }

    /** Makes room where only signposts of what was there before stand. */
    private void clearFor(Path place, String target) throws IOException {
        boolean removed = ShelfTree.isRemoved(place);
        ShelfTree.Standing standing = tree.below(place, removed);
        if (!removed || !standing.assets().isEmpty() || !standing.shelves().isEmpty()) {
            throw new LibraryException(place, "there is a shelf \"" + target + "\" already");
        }
        incoming.remove(place);
    }

    /** Removes the signpost of an asset that comes back to its old place. */
    void takeDown(Path folder, String id) throws IOException {
        if (Redirects.isOf(folder, id)) {
            incoming.remove(folder);
        }
    }

    /**
     * Moves an asset to another shelf, which is made where it is missing; its id, versions and card stay.
     *
     * @return the asset where it is now
     */
    public Asset move(Asset asset, String written) {
        String shelf = Shelf.path(written);
        return store.changing(asset.folder(), "the asset cannot be moved", () -> {
            Asset before = store.current(asset);
            if (before.shelf().equals(shelf)) {
                return before;
            }
            reservations.requireFree(before);
            Path target = tree.folder(shelf);
            tree.prepare(target);
            takeDown(target.resolve(before.slug()), before.card().id());
            Path place = target.resolve(Names.free(before.slug(), "-", taken -> Files.exists(target.resolve(taken))));
            incoming.intendingMove(before.folder(), place, () -> {
                AtomicFiles.publishFolder(before.folder(), place);
                settle(before.folder(), place, Progress.NONE);
                return place;
            });
            Asset moved = store.asset(place);
            journal.about("moved", moved).from(before.shelf()).write();
            return moved;
        });
    }

    /** Finishes what a process that no longer runs intended. */
    void finish(Incoming.Intent intent) {
        Path root = store.root();
        Path from = root.resolve(intent.from()).normalize();
        Path to = root.resolve(intent.to()).normalize();
        boolean within = from.startsWith(root) && to.startsWith(root);
        if (!within || !Files.exists(to)) {
            // Of other folders than the library's no note can speak; and where nothing stands at the new place, nothing
            // was moved, and all is as it was before.
            return;
        }
        store.changing(to, "what was interrupted cannot be finished", () -> {
            if (!intent.from().isEmpty()) {
                settle(from, to, Progress.NONE);
            } else if (Files.exists(to.resolve(LibraryLayout.CARD))) {
                for (Path left : AtomicFiles.leftIn(to)) {
                    Files.deleteIfExists(left);
                }
                store.writeReadyLayer(store.asset(to));
            }
            return to;
        });
    }
}
