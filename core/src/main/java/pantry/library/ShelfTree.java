package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;

/** The folders below {@code assets/}: which of them are shelves, which are assets, and what else stands there. */
final class ShelfTree {
    /** In the folder of a shelf that was removed while signposts stand on it. */
    private static final String REMOVED = ".removed";

    private final Path assets;

    /** @param root the library's folder */
    ShelfTree(Path root) {
        this.assets = root.resolve(LibraryLayout.ASSETS);
    }

    /** The folder that all shelves are in. */
    Path folder() {
        return assets;
    }

    /** The path of the shelf that is in a folder. */
    String shelfOf(Path folder) {
        return assets.relativize(folder).toString().replace('\\', '/');
    }

    /** Marks a folder as a shelf that was removed; what stands in it is found all the same. */
    static void markRemoved(Path folder) throws IOException {
        AtomicFiles.write(folder.resolve(REMOVED), "");
    }

    static boolean isRemoved(Path folder) {
        return Files.exists(folder.resolve(REMOVED));
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
            if (Files.exists(folder.resolve(LibraryLayout.CARD))) {
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
    record Standing(List<Path> assets, List<Path> shelves, List<Path> links) {}

    Standing below(Path folder, boolean removed) {
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
            } else if (Files.exists(each.resolve(LibraryLayout.CARD))) {
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
                    inside.filter(each -> !Files.isSymbolicLink(each) && Files.exists(each.resolve(LibraryLayout.CARD)))
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
                .filter(folder -> LibraryLayout.versions(folder).stream()
                        .anyMatch(version ->
                                Files.isDirectory(folder.resolve(version).resolve("data"))))
                .toList();
    }

    /** The paths of all shelves, with those that nothing stands on, sorted. */
    List<String> shelves() {
        return below(assets, false).shelves().stream()
                .filter(folder -> !VersionName.matches(folder.getFileName().toString())
                        && !folder.getFileName().toString().equals("data")
                        && LibraryLayout.versions(folder).isEmpty())
                .map(this::shelfOf)
                .sorted()
                .toList();
    }

    /** Makes a shelf's folder ready to hold something, although it may have been removed before. */
    void prepare(Path folder) throws IOException {
        Files.createDirectories(folder);
        for (Path each = folder; !each.equals(assets) && each.startsWith(assets); each = each.getParent()) {
            Files.deleteIfExists(each.resolve(REMOVED));
        }
    }

    /** Deletes a shelf's folder, or only marks it where signposts stand in it. */
    static void takeAway(Path folder) throws IOException {
        boolean signposts;
        try (Stream<Path> all = Files.walk(folder)) {
            signposts = all.anyMatch(Redirects::standsAt);
        }
        if (signposts) {
            markRemoved(folder);
        } else {
            AtomicFiles.deleteTree(folder);
        }
    }

    Path existing(String shelf) {
        Path folder = folder(shelf);
        if (shelf.isEmpty() || !Files.isDirectory(folder) || Files.exists(folder.resolve(REMOVED))) {
            throw new LibraryException(folder, "there is no such shelf");
        }
        return folder;
    }
}
