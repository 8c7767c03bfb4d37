package pantry.library;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.HeldFolder;
import pantry.base.IoProblems;
import pantry.base.Progress;

/**
 * Assets and versions that nobody needs now, in a library of their own: their ids, versions and seals stay what they are to the
 * byte, and signposts where they stood lead there, so that scenes which use them after all go on opening. Calling them back
 * is the same the other way.
 */
public final class Archive {
    /** What the journal says of an asset that went into an archive. */
    static final String ARCHIVED = "archived";

    /** What the journal says of an asset that went back from there. */
    static final String CALLED_BACK = "called back";

    /** What the journal says of a version that came from another library. */
    static final String RETURNED = "came back";

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

    /**
     * Takes one version to the archive, where its asset stands with those versions that were taken there; where it stood, its
     * layer leads to it.
     *
     * @return the asset as it stands in the archive
     * @throws LibraryException where it is the version that is ready or the newest one, somebody has reserved the asset, or
     *     the version's seal is broken
     */
    public Asset putVersion(Asset asset, String version, Progress progress) {
        Asset now = library.current(asset);
        if (now.ready().equals(Optional.of(version)) || now.newest().equals(Optional.of(version))) {
            throw new LibraryException(
                    now.folder().resolve(version), "is the ready version or the newest one, and stays");
        }
        return moveVersion(library, archive, now, version, ARCHIVED, progress);
    }

    /** Brings a version back to where it stood; see {@link #putVersion}. Where it was the last, its asset goes too. */
    public Asset callBackVersion(Asset asset, String version, Progress progress) {
        Asset there = archive.byId(asset.card().id())
                .orElseThrow(() -> new LibraryException(
                        archive.root(), "has no versions of " + asset.card().name()));
        return there.versions().equals(List.of(version))
                ? callBack(there, progress)
                : moveVersion(archive, library, there, version, CALLED_BACK, progress);
    }

    private static Asset moveVersion(
            Library from, Library to, Asset asset, String version, String word, Progress progress) {
        if (!asset.versions().contains(version)) {
            return takenUp(from, to, asset, version)
                    .orElseThrow(() -> new LibraryException(asset.folder(), "has no version " + version));
        }
        from.reservations().requireFree(asset);
        Asset there = with(from, to, asset, List.of(version), progress);
        requireWhole(List.of(version), there, progress);
        Path folder = asset.folder().resolve(version);
        from.store().changing(folder, "cannot be " + word, () -> {
            // Whoever is stopped after this leaves a version that is accounted for.
            from.journal().about(word, asset).version(version).write();
            from.store().writeCard(asset, asset.card().without(version));
            TrashItem item = from.trash().take(folder, "", asset.card().name() + " " + version);
            lead(from, asset, there, version);
            AtomicFiles.deleteTree(item.folder());
            return there;
        });
        return there;
    }

    /** A version that was taken away by somebody who was stopped before its layer led to it. */
    private static Optional<Asset> takenUp(Library from, Library to, Asset asset, String version) {
        Path folder = asset.folder().resolve(version);
        Optional<Asset> there = to.store().byId(asset.card().id()).filter(each -> each.versions()
                .contains(version));
        if (there.isPresent() && !Redirects.standsAt(folder)) {
            from.store().changing(folder, "cannot lead to where it is", () -> {
                lead(from, asset, there.get(), version);
                return folder;
            });
        }
        return there;
    }

    /** Lets what stood for a version lead to where it is now. */
    private static void lead(Library from, Asset asset, Asset there, String version) throws IOException {
        Redirects.leaveVersion(
                asset.folder().resolve(version),
                there.folder().resolve(version),
                there.entryLayer(version).getFileName().toString(),
                asset.card().id(),
                from.incoming());
    }

    private static Asset move(Library from, Library to, Asset asset, String word, Progress progress) {
        Asset now = from.current(asset);
        from.reservations().requireFree(now);
        boolean partly = to.store().byId(now.card().id()).isPresent();
        Asset with = with(from, to, now, now.versions(), progress);
        Asset there = partly && word.equals(ARCHIVED) ? to.store().changeCard(with, card -> whole(now, card)) : with;
        requireWhole(now.versions(), there, progress);
        from.store().changing(now.folder(), "cannot be " + word, () -> {
            List<Redirects.Elsewhere> elsewhere = Redirects.versionsElsewhere(now.folder(), now.folder());
            TrashItem item =
                    from.trash().take(now.folder(), now.card().id(), now.card().name());
            Redirects.leave(now.folder(), there);
            for (Redirects.Elsewhere each : elsewhere) {
                if (!there.versions().contains(each.version())) {
                    each.leadFrom(now.folder(), now.card().id(), from.incoming());
                    each.leadFrom(there.folder(), now.card().id(), to.incoming());
                }
            }
            AtomicFiles.deleteTree(item.folder());
            from.journal().about(word, now).write();
            return there;
        });
        return there;
    }

    /** An asset's card, with the versions of it that were taken away before. */
    private static Card whole(Asset asset, Card before) {
        Card card = asset.card();
        for (Map.Entry<String, VersionStatus> version : before.versions().entrySet()) {
            if (!card.versions().containsKey(version.getKey())) {
                card = card.knowing(version.getKey(), version.getValue());
            }
        }
        return card;
    }

    /** An asset in another library, with some versions besides those that it has there already. */
    private static Asset with(Library from, Library to, Asset asset, List<String> versions, Progress progress) {
        Optional<Asset> known = to.store().byId(asset.card().id());
        if (known.isEmpty()) {
            return copied(from, to, asset, versions, progress);
        }
        Asset there = known.get();
        for (String version : versions) {
            if (!there.versions().contains(version)) {
                there = bring(from, to, asset, there, version, progress);
            }
        }
        return there;
    }

    private static Asset bring(Library from, Library to, Asset asset, Asset there, String version, Progress progress) {
        try (HeldFolder scratch = to.incoming().newFolder()) {
            Path building = scratch.path().resolve(version);
            copy(asset.folder().resolve(version), building, List.of(), progress);
            to.store().changing(there.folder(), "cannot take in " + version, () -> {
                Path place = to.store().current(there).folder().resolve(version);
                if (Redirects.standsAt(place)) {
                    to.incoming().remove(place);
                }
                copyUses(from, to, asset, there.folder(), there.folder());
                AtomicFiles.publishFolder(building, place);
                to.journal().about(RETURNED, there).version(version).write();
                return place;
            });
        } catch (IOException e) {
            throw new LibraryException(there.folder(), "cannot take in " + version + ": " + IoProblems.describe(e), e);
        }
        return to.store().changeCard(there, card -> card.knowing(version, asset.status(version)));
    }

    private static void copyUses(Library from, Library to, Asset asset, Path building, Path standing)
            throws IOException {
        for (Uses.Use use : Uses.of(asset.folder())) {
            Optional<Asset> used = from.byId(use.id()).or(() -> to.byId(use.id()));
            if (used.isPresent()
                    && !Files.exists(
                            building.resolve(Uses.FOLDER).resolve(use.stub().getFileName()))) {
                Uses.copy(use, building, standing, used.get());
            }
        }
    }

    private static Asset copied(Library from, Library to, Asset asset, List<String> versions, Progress progress) {
        Path shelf = to.store().tree().folder(asset.shelf());
        try {
            to.places().takeDown(shelf.resolve(asset.slug()), asset.card().id());
        } catch (IOException e) {
            throw new LibraryException(shelf, "cannot be made room in: " + IoProblems.describe(e), e);
        }
        List<String> left = new ArrayList<>(asset.versions());
        left.removeAll(versions);
        Card card = asset.card();
        for (String version : left) {
            card = card.without(version);
        }
        Card there = left.isEmpty() ? card : card.following(null);
        NameClaim claim = to.claimName(asset.shelf(), asset.card().name());
        try {
            if (!claim.name().equals(asset.card().name())) {
                throw new LibraryException(shelf, "has another " + asset.card().name() + " already");
            }
            return to.publishing()
                    .place(there, asset.shelf(), (building, slug) -> {
                        if (!slug.equals(asset.slug())) {
                            throw new LibraryException(shelf.resolve(asset.slug()), "is taken by something else");
                        }
                        copy(asset.folder(), building, left, progress);
                        copyUses(from, to, asset, building, shelf.resolve(slug));
                        return there;
                    })
                    .asset();
        } finally {
            to.release(claim);
        }
    }

    /** @param left the versions that are not copied */
    private static void copy(Path folder, Path building, List<String> left, Progress progress) throws IOException {
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path at, BasicFileAttributes attributes) throws IOException {
                progress.step("copying " + at, -1);
                // What it uses is named from there.
                boolean stays = at.equals(folder.resolve(Uses.FOLDER))
                        || at.getParent().equals(folder)
                                && (left.contains(at.getFileName().toString()) || Redirects.standsAt(at));
                if (stays) {
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

    /** Before anything is removed: the versions are there, and their seals hold. */
    private static void requireWhole(List<String> versions, Asset there, Progress progress) {
        for (String version : versions) {
            progress.step("checking " + there.card().name() + " " + version, -1);
            List<Problem> problems = Bag.check(there.folder().resolve(version));
            if (!problems.isEmpty()) {
                Problem first = problems.getFirst();
                throw new LibraryException(first.path(), first.message() + "; the asset stays where it was");
            }
        }
    }
}
