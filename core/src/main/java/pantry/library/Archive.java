package pantry.library;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Progress;

/**
 * Assets that nobody needs now, as a whole in a library of their own: their ids, versions and seals stay what they are to the
 * byte, and signposts where they stood lead there, so that scenes which use them after all go on opening. Calling them back
 * is the same the other way.
 */
public final class Archive {
    /** What the journal says of an asset that went into an archive. */
    static final String ARCHIVED = "archived";

    /** What the journal says of an asset that went back from there. */
    static final String CALLED_BACK = "called back";

    private final Library library;
    private final Library archive;

    /** @throws LibraryException where both are the same library, or one is a copy of the other */
    public Archive(Library library, Library archive) {
        if (library.root().equals(archive.root())
                || library.info().id().equals(archive.info().id())) {
            throw new LibraryException(archive.root(), "is the library itself, or a copy of it");
        }
        this.library = library;
        this.archive = archive;
    }

    /**
     * Takes an asset to the archive. One that was stopped half way is taken up.
     *
     * @return the asset as it stands there
     * @throws LibraryException where somebody has reserved it, its seal is broken, or its place there is taken
     */
    public Asset put(Asset asset, Progress progress) {
        return move(library, archive, asset, ARCHIVED, progress);
    }

    /** Brings an asset back to where it stood; see {@link #put}. */
    public Asset callBack(Asset asset, Progress progress) {
        return move(archive, library, asset, CALLED_BACK, progress);
    }

    private static Asset move(Library from, Library to, Asset asset, String word, Progress progress) {
        Asset now = from.current(asset);
        from.reservations().requireFree(now);
        Optional<Asset> known = to.store().byId(now.card().id());
        Asset there = known.isPresent() ? known.get() : copied(from, to, now, progress);
        requireWhole(now, there, progress);
        from.store().changing(now.folder(), "cannot be " + word, () -> {
            TrashItem item =
                    from.trash().take(now.folder(), now.card().id(), now.card().name());
            Redirects.leave(now.folder(), there);
            AtomicFiles.deleteTree(item.folder());
            from.journal().about(word, now).write();
            return there;
        });
        return there;
    }

    private static Asset copied(Library from, Library to, Asset asset, Progress progress) {
        Path shelf = to.store().tree().folder(asset.shelf());
        try {
            to.places().takeDown(shelf.resolve(asset.slug()), asset.card().id());
        } catch (IOException e) {
            throw new LibraryException(shelf, "cannot be made room in: " + IoProblems.describe(e), e);
        }
        NameClaim claim = to.claimName(asset.shelf(), asset.card().name());
        try {
            if (!claim.name().equals(asset.card().name())) {
                throw new LibraryException(shelf, "has another " + asset.card().name() + " already");
            }
            return to.publishing()
                    .place(asset.card(), asset.shelf(), (building, slug) -> {
                        if (!slug.equals(asset.slug())) {
                            throw new LibraryException(shelf.resolve(asset.slug()), "is taken by something else");
                        }
                        copy(asset.folder(), building, progress);
                        for (Uses.Use use : Uses.of(asset.folder())) {
                            Optional<Asset> used = from.byId(use.id()).or(() -> to.byId(use.id()));
                            if (used.isPresent()) {
                                Uses.copy(use, building, shelf.resolve(slug), used.get());
                            }
                        }
                        return asset.card();
                    })
                    .asset();
        } finally {
            to.release(claim);
        }
    }

    private static void copy(Path folder, Path building, Progress progress) throws IOException {
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path at, BasicFileAttributes attributes) throws IOException {
                progress.step("copying " + at, -1);
                // What it uses is named from there.
                if (at.equals(folder.resolve(Uses.FOLDER))) {
                    return FileVisitResult.SKIP_SUBTREE;
                }
                Files.createDirectories(building.resolve(folder.relativize(at).toString()));
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                String name = folder.relativize(file).toString();
                if (!name.equals(LibraryLayout.CARD) && !name.equals(LibraryLayout.READY_LAYER)) {
                    Files.copy(file, building.resolve(name));
                }
                return FileVisitResult.CONTINUE;
            }
        });
    }

    /** Before anything is removed: all versions are there, and their seals hold. */
    private static void requireWhole(Asset asset, Asset there, Progress progress) {
        for (String version : asset.versions()) {
            progress.step("checking " + there.card().name() + " " + version, -1);
            List<Problem> problems = Bag.check(there.folder().resolve(version));
            if (!problems.isEmpty()) {
                Problem first = problems.getFirst();
                throw new LibraryException(first.path(), first.message() + "; the asset stays where it was");
            }
        }
    }
}
