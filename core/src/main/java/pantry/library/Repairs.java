package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;

/**
 * What can be done about the problems that a check found. No repair destroys anything: what is in the way goes to the
 * trash, and what was changed in a sealed version is kept as a version of its own.
 */
public final class Repairs {
    private final Library library;

    public Repairs(Library library) {
        this.library = library;
    }

    private interface Action {
        void run() throws IOException;
    }

    private Repair repair(Problem problem, String name, String words, Action action) {
        return new Repair(
                name,
                words,
                () -> library.changing(problem.path(), "cannot be put right", () -> {
                    action.run();
                    library.journal()
                            .about("repaired", library.shelfOf(problem.path()))
                            .note(problem.kind().word() + ": " + words)
                            .write();
                    return true;
                }));
    }

    /** The ways to put a problem right, the best first; empty where only a person can. */
    public List<Repair> of(Problem problem) {
        Path path = problem.path();
        return switch (problem.kind()) {
            case CHANGED, MISSING -> contents(problem);
            case EXTRA ->
                List.of(repair(problem, "set-aside", "put the added file into the trash", () -> library.trash()
                        .take(path, "", path.getFileName().toString())));
            case UNSEALED ->
                List.of(
                        repair(
                                problem,
                                "keep-as-new",
                                "seal what is there as the next version, a draft",
                                () -> keepAsNew(path)),
                        repair(problem, "set-aside", "put the version into the trash", () -> setAside(path)));
            case CARD ->
                List.of(repair(
                        problem,
                        "new-card",
                        "write a new card of what seals and journal tell, and keep the old one in the trash",
                        () -> {
                            library.trash()
                                    .take(
                                            path,
                                            "",
                                            "card of " + path.getParent().getFileName());
                            newCard(path.getParent());
                        }));
            case CARDLESS ->
                List.of(repair(
                        problem, "new-card", "write a new card of what seals and journal tell", () -> newCard(path)));
            case MOVED ->
                List.of(
                        repair(
                                problem,
                                "take-over",
                                "let it stand there, with a signpost at its old place",
                                () -> takeOver(path)),
                        repair(problem, "put-back", "move it back to its shelf", () -> putBack(path)));
            case SAME_ID ->
                List.of(repair(
                        problem,
                        "new-id",
                        "give this one an id of its own, as a copy of the other",
                        () -> newId(path)));
            case READY ->
                List.of(repair(
                        problem,
                        "rewrite",
                        "write it anew",
                        () -> library.writeReadyLayer(library.asset(path.getParent()))));
            case USE -> use(problem);
            case UNREADABLE -> List.of();
        };
    }

    /** The version's folder that a file is in. */
    private static Path versionOf(Path file) {
        Path at = file;
        while (!VersionName.matches(at.getFileName().toString())) {
            at = at.getParent();
        }
        return at;
    }

    private List<Repair> contents(Problem problem) {
        List<Repair> repairs = new ArrayList<>();
        Path file = problem.path();
        Path version = versionOf(file);
        original(file, version)
                .ifPresent(original -> repairs.add(repair(
                        problem,
                        "restore",
                        "bring back what was sealed, of which there is another copy in the library",
                        () -> {
                            if (Files.exists(file)) {
                                library.trash()
                                        .take(file, "", file.getFileName().toString());
                            }
                            Files.createDirectories(file.getParent());
                            Files.copy(original, file);
                        })));
        if (problem.kind() == Problem.Kind.CHANGED) {
            repairs.add(repair(
                    problem,
                    "keep-as-new",
                    "keep what is there as the next version, a draft, and retire this one",
                    () -> keepAsNew(version)));
        }
        repairs.add(repair(problem, "set-aside", "put the version into the trash", () -> setAside(version)));
        return repairs;
    }

    /** A file elsewhere in the library with the contents that were sealed. */
    private Optional<Path> original(Path file, Path version) {
        Optional<Bag.Sealed> sealed = Bag.sealed(version, new ArrayList<>()).stream()
                .filter(each -> each.file().equals(file))
                .findFirst();
        if (sealed.isEmpty()) {
            return Optional.empty();
        }
        List<Path> folders = new ArrayList<>(library.assetFolders());
        folders.addAll(library.trash().items().stream().map(TrashItem::folder).toList());
        for (Path folder : folders) {
            try (Stream<Path> files = Files.walk(folder)) {
                Optional<Path> found = files.filter(each -> !each.equals(file) && Files.isRegularFile(each))
                        .filter(each -> each.getFileName().equals(file.getFileName())
                                || Names.ending(each.toString()).equals(Names.ending(file.toString())))
                        .filter(each ->
                                new Bag.Sealed(each, sealed.get().sum()).check().isEmpty())
                        .findFirst();
                if (found.isPresent()) {
                    return found;
                }
            } catch (IOException e) {
                // What cannot be read cannot be restored from.
            }
        }
        return Optional.empty();
    }

    private void keepAsNew(Path version) {
        Asset asset = library.asset(version.getParent());
        String name = version.getFileName().toString();
        library.publish(
                asset,
                VersionStatus.DRAFT,
                new Reissue(asset, name, asset.card().id()),
                Library.noted("what " + name + " was after it was changed by hand", Map.of()),
                Progress.NONE);
        library.changeCard(asset, card -> card.with(name, VersionStatus.RETIRED));
    }

    private void setAside(Path version) throws IOException {
        Path folder = version.getParent();
        String name = version.getFileName().toString();
        library.trash().take(version, "", folder.getFileName() + " " + name);
        library.changeCard(library.asset(folder), card -> card.with(name, VersionStatus.RETIRED));
    }

    private void newCard(Path folder) throws IOException {
        List<String> versions = Library.versions(folder);
        Map<String, String> seal = new LinkedHashMap<>();
        for (String version : versions) {
            try {
                seal.putAll(Bag.info(folder.resolve(version)));
            } catch (IOException e) {
                // The others may tell.
            }
        }
        String id = seal.getOrDefault("External-Identifier", UUID.randomUUID().toString());
        String name = seal.getOrDefault(
                "External-Description", folder.getFileName().toString().replace('-', ' '));
        Card card = Card.fresh(id, Names.title(name), AssetKind.MODEL).withSource(seal.getOrDefault("Source-File", ""));
        for (JournalEntry entry : library.journal().entries()) {
            if (entry.asset().equals(id)) {
                card = told(card, entry);
            }
        }
        if (card.versions().isEmpty() && !versions.isEmpty()) {
            card = card.with(versions.getLast(), VersionStatus.READY);
        }
        Asset asset = new Asset(folder, library.shelfOf(folder.getParent()), card, versions);
        pantry.base.AtomicFiles.write(
                folder.resolve(Library.CARD), pantry.base.Json.write(library.placed(card, asset.shelf())));
        library.writeReadyLayer(asset);
    }

    /** What a journal's entry says that a card was made. */
    private static Card told(Card card, JournalEntry entry) {
        if (entry.changes().isEmpty()) {
            return entry.what().equals("shelved") && !entry.version().isEmpty()
                    ? card.with(entry.version(), VersionStatus.READY)
                    : card;
        }
        Map<String, Object> fields = new LinkedHashMap<>(pantry.base.Json.asMap(card));
        entry.changes().forEach((field, change) -> fields.put(field, change.after()));
        try {
            return pantry.base.Json.ofMap(fields, Card.class);
        } catch (RuntimeException e) {
            // An entry that makes no card tells nothing.
            return card;
        }
    }

    private void takeOver(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        Path belonged = library.root()
                .resolve("assets")
                .resolve(String.valueOf(asset.card().shelf()))
                .resolve(asset.slug());
        Asset settled = library.writeCard(asset, asset.card());
        if (!Files.exists(belonged)) {
            Signposts.leave(belonged, settled);
        }
        Uses.mend(library.assetFolders(), Map.of(belonged, folder));
    }

    private void putBack(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        Path shelf = library.places().folder(String.valueOf(asset.card().shelf()));
        Files.createDirectories(shelf);
        Path place = shelf.resolve(Names.free(asset.slug(), "-", taken -> Files.exists(shelf.resolve(taken))));
        pantry.base.AtomicFiles.publishFolder(folder, place);
    }

    private void newId(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        library.writeCard(asset, asset.card().copied(UUID.randomUUID().toString()));
    }

    private List<Repair> use(Problem problem) {
        Optional<Uses.Use> use = Uses.of(problem.path().getParent().getParent()).stream()
                .filter(each -> each.stub().equals(problem.path()))
                .findFirst();
        Optional<Asset> used = use.flatMap(each -> library.byId(each.id()));
        if (used.isEmpty()) {
            return List.of();
        }
        return List.of(repair(problem, "relink", "lead it to " + used.get().address(), () -> {
            if (!use.get().version().isEmpty()) {
                Library.requireVersion(used.get(), use.get().version());
            }
            Uses.relink(use.get(), used.get());
        }));
    }

    /** Puts right what can be, each by the first way. */
    public List<Problem> repairAll(List<Problem> problems, Progress progress) {
        List<Problem> left = new ArrayList<>();
        for (int i = 0; i < problems.size(); i++) {
            Problem problem = problems.get(i);
            progress.step("putting right " + problem.path().getFileName(), (double) i / problems.size());
            try {
                of(problem).stream()
                        .findFirst()
                        .ifPresentOrElse(repair -> repair.action().run(), () -> left.add(problem));
            } catch (PantryException e) {
                left.add(new Problem(problem.path(), problem.kind(), e.line()));
            }
        }
        return left;
    }
}
