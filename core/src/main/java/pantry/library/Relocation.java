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
 * Takes assets and versions from one library to another, sealed as they are. Whoever is stopped half way can begin again:
 * nothing is removed before what was copied is whole.
 *
 * @param word what the journal says of what was moved
 */
record Relocation(Library from, Library to, String word) {
    /** Moves one version; where it stood, its layer leads to it. */
    Asset moveVersion(Asset asset, String version, Progress progress) {
        if (!asset.versions().contains(version)) {
            return takenUp(asset, version)
                    .orElseThrow(() -> new LibraryException(asset.folder(), "has no version " + version));
        }
        from.reservations().requireFree(asset);
        Asset there = with(asset, List.of(version), progress);
        requireWhole(List.of(version), there, progress);
        Path folder = asset.folder().resolve(version);
        from.store().changing(folder, "cannot be " + word, () -> {
            // Whoever is stopped after this leaves a version that is accounted for.
            from.journal().about(word, asset).version(version).write();
            from.store().writeCard(asset, asset.card().without(version));
            TrashItem item = from.trash().take(folder, "", asset.card().name() + " " + version);
            lead(asset, there, version);
            AtomicFiles.deleteTree(item.folder());
            return there;
        });
        return there;
    }

    /** A version that was taken away by somebody who was stopped before its layer led to it. */
    private Optional<Asset> takenUp(Asset asset, String version) {
        Path folder = asset.folder().resolve(version);
        Optional<Asset> there = to.store().byId(asset.card().id()).filter(each -> each.versions()
                .contains(version));
        if (there.isPresent() && !Redirects.standsAt(folder)) {
            from.store().changing(folder, "cannot lead to where it is", () -> {
                lead(asset, there.get(), version);
                return folder;
            });
        }
        return there;
    }

    /** Lets what stood for a version lead to where it is now. */
    private void lead(Asset asset, Asset there, String version) throws IOException {
        Redirects.leaveVersion(
                asset.folder().resolve(version),
                there.folder().resolve(version),
                there.entryLayer(version).getFileName().toString(),
                asset.card().id(),
                from.incoming());
    }

    /** Moves an asset with all its versions; where it stood, a signpost leads to it. */
    Asset move(Asset asset, Progress progress) {
        Asset now = from.current(asset);
        from.reservations().requireFree(now);
        boolean partly = to.store().byId(now.card().id()).isPresent();
        Asset with = with(now, now.versions(), progress);
        Asset there =
                partly && word.equals(Journal.ARCHIVED) ? to.store().changeCard(with, card -> whole(now, card)) : with;
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
    private Asset with(Asset asset, List<String> versions, Progress progress) {
        Optional<Asset> known = to.store().byId(asset.card().id());
        if (known.isEmpty()) {
            return copied(asset, versions, progress);
        }
        Asset there = known.get();
        for (String version : versions) {
            if (!there.versions().contains(version)) {
                there = bring(asset, there, version, progress);
            }
        }
        return there;
    }

    private Asset bring(Asset asset, Asset there, String version, Progress progress) {
        try (HeldFolder scratch = to.incoming().newFolder()) {
            Path building = scratch.path().resolve(version);
            copy(asset.folder().resolve(version), building, List.of(), progress);
            to.store().changing(there.folder(), "cannot take in " + version, () -> {
                Path place = to.store().current(there).folder().resolve(version);
                if (Redirects.standsAt(place)) {
                    to.incoming().remove(place);
                }
                copyUses(asset, there.folder(), there.folder());
                AtomicFiles.publishFolder(building, place);
                to.journal().about(Journal.RETURNED, there).version(version).write();
                return place;
            });
        } catch (IOException e) {
            throw new LibraryException(there.folder(), "cannot take in " + version + ": " + IoProblems.describe(e), e);
        }
        return to.store().changeCard(there, card -> card.knowing(version, asset.status(version)));
    }

    private void copyUses(Asset asset, Path building, Path standing) throws IOException {
        for (Uses.Use use : Uses.of(asset.folder())) {
            Optional<Asset> used = from.byId(use.id()).or(() -> to.byId(use.id()));
            if (used.isPresent()
                    && !Files.exists(
                            building.resolve(Uses.FOLDER).resolve(use.stub().getFileName()))) {
                Uses.copy(use, building, standing, used.get());
            }
        }
    }

    private Asset copied(Asset asset, List<String> versions, Progress progress) {
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
                        copyUses(asset, building, shelf.resolve(slug));
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
