package pantry.library;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;

/**
 * Looks through a whole library for what is not as it should be. First the places and cards, then the contents of all
 * sealed files, on all cores at once whichever version they belong to.
 */
final class Verifier {
    private final AssetStore store;
    private final ShelfTree tree;
    private final Incoming incoming;
    private final Journal journal;
    private final Reservations reservations;
    private final Trash trash;
    private final List<Problem> problems = new ArrayList<>();

    Verifier(AssetStore store, Incoming incoming, Journal journal, Reservations reservations, Trash trash) {
        this.store = store;
        this.tree = store.tree();
        this.incoming = incoming;
        this.journal = journal;
        this.reservations = reservations;
        this.trash = trash;
    }

    /** What one asset's folder holds. */
    private record Looked(
            Path folder, int versions, Optional<Asset> asset, List<Bag.Sealed> sealed, List<Problem> problems) {}

    Verification verify(Progress progress) {
        List<Path> folders = tree.assetFolders();
        AtomicInteger looked = new AtomicInteger();
        List<Looked> all = Parallel.map(folders, folder -> {
            progress.step("looking at " + folder.getFileName(), 0.1 * looked.incrementAndGet() / folders.size());
            return look(folder);
        });
        List<Bag.Sealed> sealed = new ArrayList<>();
        int versions = 0;
        Map<String, Path> byId = new HashMap<>();
        for (Looked each : all) {
            versions += each.versions();
            sealed.addAll(each.sealed());
            problems.addAll(each.problems());
            each.asset().ifPresent(asset -> place(asset, byId));
        }
        for (Path folder : tree.cardless()) {
            problems.add(new Problem(
                    folder, Problem.Kind.CARDLESS, "holds versions, but its " + LibraryLayout.CARD + " is gone"));
            for (String version : LibraryLayout.versions(folder)) {
                sealed.addAll(Bag.sealed(folder.resolve(version), problems));
                versions++;
            }
        }
        gone(all);
        around(folders);
        problems.addAll(contents(sealed, progress.part(0.1, 1)));
        return new Verification(versions, problems.isEmpty(), problems);
    }

    /** What the cards and the journal know and the disk does not hold. */
    private void gone(List<Looked> all) {
        Map<String, JournalEntry> last = new HashMap<>();
        Map<String, Set<String>> told = new HashMap<>();
        Set<String> accounted = new HashSet<>();
        Set<String> ended = new HashSet<>();
        // Clocks of several machines may tell another order than that in which things happened: counts do not.
        Map<String, Integer> away = new HashMap<>();
        for (JournalEntry entry : journal.entries()) {
            if (entry.asset().isEmpty()) {
                continue;
            }
            last.put(entry.asset(), entry);
            switch (entry.what()) {
                case Trash.DISCARDED -> away.merge(entry.asset(), 1, Integer::sum);
                case Trash.RESTORED -> away.merge(entry.asset(), -1, Integer::sum);
                case Journal.ARCHIVED, Journal.CALLED_BACK -> {
                    if (entry.version().isEmpty()) {
                        ended.add(entry.asset());
                    }
                }
                case Trash.DELETED -> ended.add(entry.asset());
                // It may have come back.
                case Publishing.SHELVED -> ended.remove(entry.asset());
                default -> {
                    if (entry.what().equals(Journal.LOST) && entry.version().isEmpty()) {
                        ended.add(entry.asset());
                    }
                }
            }
            if (entry.what().equals(Journal.SET_ASIDE)
                    || entry.what().equals(Journal.LOST)
                    || entry.what().equals(Journal.ARCHIVED)
                    || entry.what().equals(Journal.CALLED_BACK)) {
                accounted.add(entry.asset() + " " + entry.version());
            } else if (entry.what().equals(Journal.RETURNED)) {
                accounted.remove(entry.asset() + " " + entry.version());
            } else if (!entry.version().isEmpty()) {
                told.computeIfAbsent(entry.asset(), id -> new TreeSet<>()).add(entry.version());
            }
        }
        for (Looked each : all) {
            each.asset().ifPresent(asset -> {
                String id = asset.card().id();
                last.remove(id);
                Set<String> known = new TreeSet<>(asset.card().versions().keySet());
                known.addAll(told.getOrDefault(id, Set.of()));
                asset.versions().forEach(known::remove);
                for (String version : known) {
                    if (VersionName.matches(version) && !accounted.contains(id + " " + version)) {
                        problems.add(new Problem(
                                asset.folder().resolve(version),
                                Problem.Kind.GONE_VERSION,
                                "is known to the card or the journal, and is not there"));
                    }
                }
            });
        }
        // Of folders whose cards cannot be read, the seals tell which asset they hold.
        Stream.concat(all.stream().filter(each -> each.asset().isEmpty()).map(Looked::folder), tree.cardless().stream())
                .flatMap(folder -> LibraryLayout.versions(folder).stream().map(folder::resolve))
                .forEach(version -> Bag.label(version, "External-Identifier").ifPresent(last::remove));
        trash.items().forEach(item -> last.remove(item.id()));
        last.values().stream()
                .filter(entry -> !ended.contains(entry.asset()) && away.getOrDefault(entry.asset(), 0) <= 0)
                .forEach(entry -> problems.add(new Problem(
                        store.root()
                                .resolve(LibraryLayout.ASSETS)
                                .resolve(entry.shelf())
                                .resolve(entry.asset()),
                        Problem.Kind.GONE_ASSET,
                        "the journal tells of " + entry.name() + " on "
                                + (entry.shelf().isEmpty() ? "no shelf" : entry.shelf())
                                + ", which is neither there nor in the trash")));
    }

    /** What stands where it should not: links, shelves under reserved names, files that were being written. */
    private void around(List<Path> folders) {
        for (Path link : tree.links()) {
            problems.add(new Problem(link, Problem.Kind.LINK, "is a link, and is not followed"));
        }
        for (Path folder : tree.misnamed()) {
            problems.add(new Problem(
                    folder,
                    Problem.Kind.RESERVED_NAME,
                    "has a name that a library keeps for its own, and assets below it"));
        }
        for (Reservation held : reservations.all()) {
            if (!held.isReadable()) {
                problems.add(new Problem(
                        reservations.file(held.asset()),
                        Problem.Kind.RESERVATION,
                        "cannot be read, and holds its asset"));
            }
        }
        try {
            for (Path folder : folders) {
                for (Path left : AtomicFiles.leftIn(folder)) {
                    if (incoming.isLeft(left)) {
                        problems.add(
                                new Problem(left, Problem.Kind.LEFT_OVER, "was being written when its process ended"));
                    }
                }
            }
        } catch (IOException e) {
            problems.add(new Problem(store.root(), Problem.Kind.UNREADABLE, IoProblems.describe(e)));
        }
    }

    private static List<Problem> contents(List<Bag.Sealed> sealed, Progress progress) {
        AtomicInteger checked = new AtomicInteger();
        return Parallel.map(sealed, file -> {
                    int now = checked.incrementAndGet();
                    progress.step("checking " + file.file().getFileName(), (double) now / sealed.size());
                    return file.check();
                })
                .stream()
                .flatMap(Optional::stream)
                .toList();
    }

    private Looked look(Path folder) {
        List<Problem> found = new ArrayList<>();
        List<Bag.Sealed> sealed = new ArrayList<>();
        List<String> versions = LibraryLayout.versions(folder);
        for (String version : versions) {
            sealed.addAll(Bag.sealed(folder.resolve(version), found));
            Bag.sealedAs(folder.resolve(version))
                    .filter(as -> !as.equals(version))
                    .ifPresent(as -> found.add(
                            new Problem(folder.resolve(version), Problem.Kind.MISNUMBERED, "was sealed as " + as)));
        }
        try (Stream<Path> inside = Files.list(folder)) {
            inside.filter(Files::isSymbolicLink)
                    .forEach(link -> found.add(new Problem(link, Problem.Kind.LINK, "is a link, and is not followed")));
        } catch (IOException e) {
            found.add(new Problem(folder, Problem.Kind.UNREADABLE, IoProblems.describe(e)));
        }
        Asset asset;
        try {
            asset = store.asset(folder);
        } catch (PantryException e) {
            found.add(new Problem(folder.resolve(LibraryLayout.CARD), Problem.Kind.CARD, e.reason()));
            return new Looked(folder, versions.size(), Optional.empty(), sealed, found);
        }
        String followed = asset.card().ready();
        if (followed != null && asset.ready().isEmpty()) {
            found.add(new Problem(
                    asset.readyLayer(),
                    Problem.Kind.READY,
                    "cannot lead to the ready version: there is no " + followed));
        } else if (asset.ready().isPresent() && !store.leadsToReady(asset)) {
            found.add(new Problem(
                    asset.readyLayer(),
                    Problem.Kind.READY,
                    "does not lead to the ready version, " + asset.ready().get()));
        }
        for (Uses.Use use : Uses.of(folder)) {
            if (!use.found()) {
                found.add(new Problem(use.stub(), Problem.Kind.USE, "leads nowhere: there is no " + use.target()));
            }
        }
        return new Looked(folder, versions.size(), Optional.of(asset), sealed, found);
    }

    /** Whether an asset is the only one with its id, and stands where it belongs. */
    private void place(Asset asset, Map<String, Path> byId) {
        Card card = asset.card();
        Path other = byId.putIfAbsent(card.id(), asset.folder());
        if (other != null) {
            problems.add(new Problem(
                    asset.folder(),
                    Problem.Kind.SAME_ID,
                    "has the same id as " + store.root().relativize(other)));
        } else if (card.shelf() != null && !card.shelf().equals(asset.shelf())) {
            problems.add(new Problem(
                    asset.folder(),
                    Problem.Kind.MOVED,
                    "was moved by hand; it belongs on " + (card.shelf().isEmpty() ? "no shelf" : card.shelf())));
        }
    }
}
