package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.Progress;

/**
 * Shelves, and where assets stand. Moving keeps ids, and leaves signposts at the old places, so that scenes which
 * reference an asset there go on opening, in Pantry and in every other program.
 */
public final class Places {
    /** In the folder of a shelf that was removed while signposts stand on it. */
    private static final String REMOVED = ".removed";

    private final Library library;
    private final Path assets;

    Places(Library library) {
        this.library = library;
        this.assets = library.root().resolve(Library.ASSETS);
    }

    /**
     * A shelf's folder, which need not be there.
     *
     * @throws LibraryException where an asset stands on the way
     */
    Path folder(String shelf) {
        Path folder = assets;
        for (String name : shelf.split("/")) {
            folder = folder.resolve(name);
            if (Files.isSymbolicLink(folder)) {
                throw new LibraryException(folder, "is a link; shelves are folders of the library itself");
            }
            if (Files.exists(folder.resolve(Library.CARD))) {
                throw new LibraryException(folder, "is an asset and cannot hold others");
            }
        }
        return folder;
    }

    /**
     * What stands below a folder.
     *
     * @param assets folders that hold a card, sorted
     * @param shelves folders of shelves that were not removed, sorted
     * @param links symbolic links, which are never followed
     */
    private record Standing(List<Path> assets, List<Path> shelves, List<Path> links) {}

    private Standing below(Path folder, boolean removed) {
        Standing standing = new Standing(new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
        walk(folder, removed, standing);
        return standing;
    }

    /** @param removed whether the shelf was removed, or one above it; assets that stand there all the same are found */
    private void walk(Path folder, boolean removed, Standing found) {
        List<Path> inside;
        try (Stream<Path> files = Files.list(folder)) {
            inside = files.filter(file -> !file.getFileName().toString().startsWith("."))
                    .sorted()
                    .toList();
        } catch (java.nio.file.NoSuchFileException e) {
            // Moved in this moment; whoever moved it tells so in the journal.
            return;
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
        for (Path each : inside) {
            if (Files.isSymbolicLink(each)) {
                found.links().add(each);
            } else if (Files.exists(each.resolve(Library.CARD))) {
                found.assets().add(each);
            } else if (!Redirects.standsAt(each) && Files.isDirectory(each)) {
                boolean gone = removed || Files.exists(each.resolve(REMOVED));
                if (!gone) {
                    found.shelves().add(each);
                }
                walk(each, gone, found);
            }
        }
    }

    /** Every folder that holds a card, sorted. */
    List<Path> assetFolders() {
        return below(assets, false).assets();
    }

    /** The folders that hold a card and stand directly on some shelves. */
    List<Path> assetFolders(Set<String> shelves) {
        List<Path> folders = new ArrayList<>();
        for (String shelf : shelves) {
            Path folder = assets.resolve(shelf);
            if (Files.isDirectory(folder)) {
                try (Stream<Path> inside = Files.list(folder)) {
                    inside.filter(each -> !Files.isSymbolicLink(each) && Files.exists(each.resolve(Library.CARD)))
                            .sorted()
                            .forEach(folders::add);
                } catch (IOException e) {
                    throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
                }
            }
        }
        return folders;
    }

    /** Symbolic links where shelves and assets stand. Nothing of Pantry makes any, and none is followed. */
    List<Path> links() {
        return below(assets, false).links();
    }

    /** Shelves whose names a library keeps for its own, which hide what stands on them from other programs. */
    List<Path> misnamed() {
        return below(assets, false).shelves().stream()
                .filter(folder -> Names.isKeptByLibraries(folder.getFileName().toString()))
                .filter(folder -> !below(folder, false).assets().isEmpty())
                .toList();
    }

    /** Folders that hold versions but no card. */
    List<Path> cardless() {
        return below(assets, false).shelves().stream()
                .filter(folder -> Library.versions(folder).stream()
                        .anyMatch(version ->
                                Files.isDirectory(folder.resolve(version).resolve("data"))))
                .toList();
    }

    /** The paths of all shelves, with those that nothing stands on, sorted. */
    public List<String> shelves() {
        return below(assets, false).shelves().stream()
                .filter(folder -> !VersionName.matches(folder.getFileName().toString())
                        && !folder.getFileName().toString().equals("data")
                        && Library.versions(folder).isEmpty())
                .map(library::shelfOf)
                .sorted()
                .toList();
    }

    /** Makes a shelf, and those that it stands on; nothing where it is there already. */
    public String make(String written) {
        String shelf = Shelf.path(written);
        if (shelf.isEmpty()) {
            throw new LibraryException(library.root(), "a shelf needs a name");
        }
        return library.changing(assets, "the shelf cannot be made", () -> {
            Path folder = folder(shelf);
            boolean fresh = !Files.isDirectory(folder) || Files.exists(folder.resolve(REMOVED));
            prepare(folder);
            if (fresh) {
                library.journal().about("made a shelf", shelf).write();
            }
            return shelf;
        });
    }

    /** Makes a shelf's folder ready to hold something, although it may have been removed before. */
    void prepare(Path folder) throws IOException {
        Files.createDirectories(folder);
        for (Path each = folder; !each.equals(assets) && each.startsWith(assets); each = each.getParent()) {
            Files.deleteIfExists(each.resolve(REMOVED));
        }
    }

    /**
     * Removes a shelf on which nothing stands.
     *
     * @throws LibraryException where something does
     */
    public void remove(String written) {
        String shelf = Shelf.path(written);
        library.changing(assets, "the shelf cannot be removed", () -> {
            Path folder = existing(shelf);
            Standing standing = below(folder, false);
            if (!standing.assets().isEmpty() || !standing.shelves().isEmpty()) {
                throw new LibraryException(
                        folder,
                        standing.assets().isEmpty()
                                ? "has shelves below it; remove or move them first"
                                : "has assets on it; move them first");
            }
            takeAway(folder);
            library.journal().about("removed a shelf", shelf).write();
            return shelf;
        });
    }

    /** Deletes a shelf's folder, or only marks it where signposts stand in it. */
    private static void takeAway(Path folder) throws IOException {
        boolean signposts;
        try (Stream<Path> all = Files.walk(folder)) {
            signposts = all.anyMatch(Redirects::standsAt);
        }
        if (signposts) {
            AtomicFiles.write(folder.resolve(REMOVED), "");
        } else {
            AtomicFiles.deleteTree(folder);
        }
    }

    private Path existing(String shelf) {
        Path folder = folder(shelf);
        if (shelf.isEmpty() || !Files.isDirectory(folder) || Files.exists(folder.resolve(REMOVED))) {
            throw new LibraryException(folder, "there is no such shelf");
        }
        return folder;
    }

    /**
     * Moves or renames a shelf with all that stands on it.
     *
     * @param to its new path
     */
    public String move(String written, String to, Progress progress) {
        return move(existing(Shelf.path(written)), Shelf.path(to), progress);
    }

    /** As above, of a shelf's folder, whose name need not be one that a shelf may have. */
    String move(Path old, String target, Progress progress) {
        String from = library.shelfOf(old);
        return library.changing(assets, "the shelf cannot be moved", () -> {
            if (!Files.isDirectory(old)) {
                throw new LibraryException(old, "there is no such shelf");
            }
            Path place = folder(target);
            if (place.startsWith(old)) {
                throw new LibraryException(old, "cannot be moved into itself");
            }
            if (Files.exists(place)) {
                clearFor(place, target);
            }
            prepare(place.getParent());
            library.publishing().intendingMove(old, place, () -> {
                AtomicFiles.publishFolder(old, place);
                settle(old, place, progress);
                return place;
            });
            library.journal().about("moved a shelf", target).from(from).write();
            return target;
        });
    }

    /**
     * Brings cards, signposts and uses in line with where an asset, or a shelf with all on it, was moved; once more does
     * no harm.
     */
    void settle(Path old, Path place, Progress progress) throws IOException {
        boolean single = Files.exists(place.resolve(Library.CARD));
        List<Path> folders = single ? List.of(place) : below(place, false).assets();
        for (int i = 0; i < folders.size(); i++) {
            progress.report("moving " + folders.get(i).getFileName(), (double) i / folders.size());
            Asset asset = library.asset(folders.get(i));
            library.writeCard(asset, asset.card());
            Path stood = old.resolve(place.relativize(asset.folder()).toString());
            if (!Files.exists(stood.resolve(Library.CARD))) {
                Redirects.leave(stood, asset);
            }
        }
        if (Files.isDirectory(old) && !Redirects.standsAt(old)) {
            AtomicFiles.write(old.resolve(REMOVED), "");
        }
        Uses.mend(assetFolders(), Map.of(old, place));
    }

    /** Makes room where only signposts of what was there before stand. */
    private void clearFor(Path place, String target) throws IOException {
        boolean removed = Files.exists(place.resolve(REMOVED));
        Standing standing = below(place, removed);
        if (!removed || !standing.assets().isEmpty() || !standing.shelves().isEmpty()) {
            throw new LibraryException(place, "there is a shelf \"" + target + "\" already");
        }
        library.publishing().remove(place);
    }

    /** Removes the signpost of an asset that comes back to its old place. */
    void takeDown(Path folder, String id) throws IOException {
        if (Redirects.isOf(folder, id)) {
            library.publishing().remove(folder);
        }
    }

    /**
     * Moves an asset to another shelf, which is made where it is missing; its id, versions and card stay.
     *
     * @return the asset where it is now
     */
    public Asset move(Asset asset, String written) {
        String shelf = Shelf.path(written);
        return library.changing(asset.folder(), "the asset cannot be moved", () -> {
            Asset before = library.current(asset);
            if (before.shelf().equals(shelf)) {
                return before;
            }
            library.reservations().requireFree(before);
            Path target = folder(shelf);
            prepare(target);
            takeDown(target.resolve(before.slug()), before.card().id());
            Path place = target.resolve(Names.free(before.slug(), "-", taken -> Files.exists(target.resolve(taken))));
            library.publishing().intendingMove(before.folder(), place, () -> {
                AtomicFiles.publishFolder(before.folder(), place);
                settle(before.folder(), place, Progress.NONE);
                return place;
            });
            Asset moved = library.asset(place);
            library.journal().about("moved", moved).from(before.shelf()).write();
            return moved;
        });
    }
}
