package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.Sha256;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/**
 * What can be done about the problems that a check found. No repair destroys anything: what is in the way goes to the
 * trash, and what was changed in a sealed version is kept as a version of its own.
 */
public final class Repairs {
    private static final String MOVING = ".moving-";

    private final Library library;

    public Repairs(Library library) {
        this.library = library;
    }

    private interface Action {
        void run() throws IOException;
    }

    private Repair repair(Problem problem, String name, String words, Action action) {
        return new Repair(name, words, () -> library.store().changing(problem.path(), "cannot be put right", () -> {
            action.run();
            library.journal()
                    .about("repaired", library.store().tree().shelfOf(problem.path()))
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
            case READY -> List.of(ready(problem));
            case GONE_VERSION -> goneVersion(problem);
            case GONE_ASSET ->
                List.of(repair(
                        problem,
                        "accept",
                        "write into the journal that it is lost; its id and numbers are not used again",
                        () -> lost(path.getFileName().toString(), "")));
            case MISNUMBERED ->
                List.of(repair(
                        problem,
                        "renumber",
                        "give each version of the asset the number that it was sealed with",
                        () -> renumber(path.getParent())));
            case LINK ->
                List.of(repair(
                        problem,
                        "set-aside",
                        "put the link, not what it leads to, into the trash",
                        () -> setLinkAside(path)));
            case RESERVED_NAME ->
                List.of(repair(
                        problem,
                        "rename",
                        "rename the shelf to " + path.getFileName() + " shelf",
                        () -> library.places()
                                .move(path, library.store().tree().shelfOf(path) + " shelf", Progress.NONE)));
            case LEFT_OVER -> List.of(repair(problem, "remove", "remove it", () -> Files.deleteIfExists(path)));
            case RESERVATION ->
                List.of(repair(
                        problem,
                        "set-aside",
                        "put the reservation into the trash, which gives the asset free",
                        () -> library.trash().take(path, "", path.getFileName().toString())));
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
        for (String later : asset.versions()) {
            if (VersionName.ORDER.compare(later, name) > 0 && holdSame(version, version.resolveSibling(later))) {
                throw new LibraryException(
                        version, "is kept as " + later + " already; put it into the trash to be rid of what is wrong");
            }
        }
        library.publish(
                asset,
                VersionStatus.DRAFT,
                new Reissue(asset, name, asset.card().id()),
                Library.noted("what " + name + " was after it was changed by hand", Map.of()),
                Progress.NONE);
        library.store().changeCard(asset, card -> card.with(name, VersionStatus.RETIRED));
    }

    private void setAside(Path version) throws IOException {
        Path folder = version.getParent();
        String name = version.getFileName().toString();
        Asset asset = library.asset(folder);
        library.trash().take(version, "", folder.getFileName() + " " + name);
        library.store().changeCard(asset, card -> card.with(name, VersionStatus.RETIRED));
        library.journal().about(Journal.SET_ASIDE, asset).version(name).write();
    }

    /** A link's target is nothing of the library's: only the link itself is moved. */
    private void setLinkAside(Path link) throws IOException {
        library.trash().take(link, "", link.getFileName().toString());
    }

    private void lost(String id, String version) throws IOException {
        library.journal().about(Journal.LOST, id, "").version(version).write();
    }

    private Repair ready(Problem problem) {
        Asset asset = library.asset(problem.path().getParent());
        String followed = asset.card().ready();
        if (asset.ready().isPresent() || followed == null) {
            return repair(problem, "rewrite", "write it anew", () -> {
                if (Files.exists(problem.path())) {
                    library.trash()
                            .take(
                                    problem.path(),
                                    "",
                                    "ready layer of " + asset.card().name());
                }
                library.store().writeReadyLayer(asset);
            });
        }
        return repair(
                problem,
                "follow-newest",
                "lead to the newest version that is ready and there, and retire " + followed,
                () -> library.store().changeCard(asset, card -> withoutMissing(card, asset.versions())));
    }

    /** A card whose ready version is one that is there; none where none is. */
    private static Card withoutMissing(Card card, List<String> there) {
        Card changed = card;
        while (changed.ready() != null && !there.contains(changed.ready())) {
            changed = changed.with(changed.ready(), VersionStatus.RETIRED);
        }
        return changed;
    }

    private List<Repair> goneVersion(Problem problem) {
        Path version = problem.path();
        Asset asset = library.asset(version.getParent());
        String name = version.getFileName().toString();
        String stood = library.root().relativize(version).toString().replace('\\', '/');
        List<Repair> repairs = new ArrayList<>();
        if (!aside(asset.folder()).isEmpty()) {
            repairs.add(repair(
                    problem,
                    "renumber",
                    "end what was stopped while versions got back the numbers that they were sealed with",
                    () -> renumber(asset.folder())));
        }
        library.trash().items().stream()
                .filter(item -> item.path().equals(stood))
                .findFirst()
                .ifPresent(item ->
                        repairs.add(repair(problem, "restore", "bring it back from the trash", () -> library.trash()
                                .restore(item))));
        repairs.add(repair(
                problem,
                "accept",
                "retire it, and write into the journal that it is lost; its number is not used again",
                () -> {
                    library.store()
                            .changeCard(
                                    asset,
                                    card -> withoutMissing(card.with(name, VersionStatus.RETIRED), asset.versions()));
                    lost(asset.card().id(), name);
                }));
        return repairs;
    }

    /** Versions on their way to their numbers, with the places that they go to; left where that was stopped. */
    private static Map<Path, Path> aside(Path folder) {
        try (Stream<Path> inside = Files.list(folder)) {
            return inside.filter(each -> each.getFileName().toString().startsWith(MOVING))
                    .filter(each -> Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS))
                    .collect(Collectors.toMap(
                            each -> each,
                            each -> folder.resolve(each.getFileName().toString().substring(MOVING.length()))));
        } catch (IOException e) {
            throw new LibraryException(folder, "cannot be read: " + IoProblems.describe(e), e);
        }
    }

    /** Versions that change places with each other do so by way of a folder beside them. */
    private void renumber(Path folder) throws IOException {
        Map<Path, Path> moves = new LinkedHashMap<>(aside(folder));
        for (String version : LibraryLayout.versions(folder)) {
            Bag.sealedAs(folder.resolve(version))
                    .filter(as -> !as.equals(version))
                    .ifPresent(as -> moves.put(folder.resolve(version), folder.resolve(as)));
        }
        for (Path target : moves.values()) {
            if (Files.exists(target, LinkOption.NOFOLLOW_LINKS) && !moves.containsKey(target)) {
                throw new LibraryException(target, "is in the way: it was sealed under this number as well");
            }
        }
        if (Set.copyOf(moves.values()).size() < moves.size()) {
            throw new LibraryException(folder, "has several versions that were sealed under one number");
        }
        Map<Path, Path> waiting = new LinkedHashMap<>();
        for (Map.Entry<Path, Path> move : moves.entrySet()) {
            Path aside = folder.resolve(MOVING + move.getValue().getFileName());
            if (!move.getKey().equals(aside)) {
                AtomicFiles.publishFolder(move.getKey(), aside);
            }
            waiting.put(aside, move.getValue());
        }
        for (Map.Entry<Path, Path> move : waiting.entrySet()) {
            AtomicFiles.publishFolder(move.getKey(), move.getValue());
        }
    }

    /** Whether two versions hold the same, but for their entry layers, which tell their own numbers. */
    private static boolean holdSame(Path one, Path other) {
        try {
            return sums(one).equals(sums(other));
        } catch (IOException e) {
            throw new LibraryException(one, "cannot be compared: " + IoProblems.describe(e), e);
        }
    }

    private static Map<String, String> sums(Path version) throws IOException {
        Path data = version.resolve("data");
        Map<String, String> sums = new TreeMap<>();
        try (Stream<Path> files = Files.walk(data)) {
            for (Path file : files.filter(each -> Files.isRegularFile(each, LinkOption.NOFOLLOW_LINKS))
                    .toList()) {
                boolean entry = file.getParent().equals(data) && file.toString().endsWith(".usda");
                if (!entry) {
                    sums.put(data.relativize(file).toString(), Sha256.of(file));
                }
            }
        }
        return sums;
    }

    private void newCard(Path folder) throws IOException {
        List<String> versions = LibraryLayout.versions(folder);
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
        Card card =
                Card.fresh(id, Names.title(name), AssetKind.MODEL).withSource(seal.getOrDefault(Identity.SOURCE, ""));
        for (JournalEntry entry : library.journal().entries()) {
            if (entry.asset().equals(id)) {
                card = told(card, entry);
            }
        }
        if (card.versions().isEmpty() && !versions.isEmpty()) {
            card = card.with(versions.getLast(), VersionStatus.READY);
        }
        Asset asset = new Asset(folder, library.store().tree().shelfOf(folder.getParent()), card, versions);
        pantry.base.AtomicFiles.write(
                folder.resolve(LibraryLayout.CARD),
                pantry.base.Json.write(library.store().placed(card, asset.shelf())));
        library.store().writeReadyLayer(asset);
    }

    /** What a journal's entry says that a card was made. */
    private static Card told(Card card, JournalEntry entry) {
        if (entry.changes().isEmpty()) {
            return entry.what().equals(Publishing.SHELVED) && !entry.version().isEmpty()
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

    /** Signposts go where the asset stood when its versions were sealed; what leads through them is opened in the end. */
    private void takeOver(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        Path shelf = library.root()
                .resolve(LibraryLayout.ASSETS)
                .resolve(String.valueOf(asset.card().shelf()));
        Set<Path> stood = new LinkedHashSet<>();
        for (String version : asset.versions().reversed()) {
            Bag.sealedUnder(folder.resolve(version)).map(shelf::resolve).ifPresent(stood::add);
        }
        if (stood.isEmpty()) {
            stood.add(shelf.resolve(asset.slug()));
        }
        Asset settled = library.store().writeCard(asset, asset.card());
        Map<Path, Path> moved = new LinkedHashMap<>();
        for (Path place : stood) {
            if (!Files.exists(place) && place.normalize().startsWith(library.root())) {
                Redirects.leave(place, settled);
                moved.put(place, folder);
                requireOpens(place.resolve(LibraryLayout.READY_LAYER));
            }
        }
        Uses.mend(library.assetFolders(), moved);
    }

    /** Makes sure that what was put right can be opened. */
    private static void requireOpens(Path file) {
        if (!Files.exists(file)) {
            return;
        }
        LayerCache layers = new LayerCache();
        Stage.open(layers.open(file), layers).problems().stream()
                .filter(problem -> problem.kind().leavesOut())
                .findFirst()
                .ifPresent(problem -> {
                    throw new LibraryException(file, "still does not open: " + problem.message());
                });
    }

    private void putBack(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        Path shelf = library.store().tree().folder(String.valueOf(asset.card().shelf()));
        Files.createDirectories(shelf);
        Path place = shelf.resolve(Names.free(asset.slug(), "-", taken -> Files.exists(shelf.resolve(taken))));
        pantry.base.AtomicFiles.publishFolder(folder, place);
    }

    private void newId(Path folder) throws IOException {
        Asset asset = library.asset(folder);
        library.store().writeCard(asset, asset.card().copied(UUID.randomUUID().toString()));
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
                AssetStore.requireVersion(used.get(), use.get().version());
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
