package pantry.library;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;

/**
 * Looks through a whole library for what is not as it should be. First the places and cards, then the contents of all
 * sealed files, on all cores at once whichever version they belong to.
 */
final class Verifier {
    private final Library library;
    private final List<Problem> problems = new ArrayList<>();

    Verifier(Library library) {
        this.library = library;
    }

    /** What one asset's folder holds. */
    private record Looked(
            Path folder, int versions, Optional<Asset> asset, List<Bag.Sealed> sealed, List<Problem> problems) {}

    Verification verify(Progress progress) {
        List<Path> folders = library.assetFolders();
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
        for (Path folder : library.places().cardless()) {
            problems.add(
                    new Problem(folder, Problem.Kind.CARDLESS, "holds versions, but its " + Library.CARD + " is gone"));
            for (String version : Library.versions(folder)) {
                sealed.addAll(Bag.sealed(folder.resolve(version), problems));
                versions++;
            }
        }
        problems.addAll(contents(sealed, progress.part(0.1, 1)));
        return new Verification(versions, problems.isEmpty(), problems);
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
        List<String> versions = Library.versions(folder);
        for (String version : versions) {
            sealed.addAll(Bag.sealed(folder.resolve(version), found));
        }
        Asset asset;
        try {
            asset = library.asset(folder);
        } catch (PantryException e) {
            found.add(new Problem(folder.resolve(Library.CARD), Problem.Kind.CARD, String.valueOf(e.getMessage())));
            return new Looked(folder, versions.size(), Optional.empty(), sealed, found);
        }
        if (asset.ready().isPresent() && !leadsTo(asset)) {
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
                    "has the same id as " + library.root().relativize(other)));
        } else if (card.shelf() != null && !card.shelf().equals(asset.shelf())) {
            problems.add(new Problem(
                    asset.folder(),
                    Problem.Kind.MOVED,
                    "was moved by hand; it belongs on " + (card.shelf().isEmpty() ? "no shelf" : card.shelf())));
        }
    }

    private static boolean leadsTo(Asset asset) {
        Path entry = asset.entryLayer(asset.ready().orElseThrow());
        try {
            return Files.exists(asset.readyLayer())
                    && Files.readString(asset.readyLayer())
                            .contains(asset.ready().get() + "/data/" + entry.getFileName());
        } catch (java.io.IOException e) {
            return false;
        }
    }
}
