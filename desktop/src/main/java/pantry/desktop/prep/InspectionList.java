package pantry.desktop.prep;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.prep.inspect.KeptInspections;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;

/** What can be inspected, and what is known of each: arrivals, files, scenes, assets. */
public final class InspectionList {
    private final Session session;
    private final ArrivalSource arrivals;
    private final ObservableList<InspectionItem> items = FXCollections.observableArrayList();
    private final List<InspectionItem> files = new ArrayList<>();
    private final Set<Path> inspectedLibraries = new LinkedHashSet<>();
    private boolean visited;

    InspectionList(Session session, ArrivalSource arrivals) {
        this.session = session;
        this.arrivals = arrivals;
        session.shelving().contentsProperty().addListener(change -> listAgain());
        session.scenes().addListener((ListChangeListener<Path>) change -> listAgain());
    }

    /** What can be inspected: arrivals, files, scenes, assets. */
    public ObservableList<InspectionItem> items() {
        return items;
    }

    /** What is listed is kept in line once somebody has looked at it. */
    private void listAgain() {
        // Asked for, so that the next change is told as well.
        session.shelving().contentsProperty().get();
        if (visited) {
            list();
        }
    }

    /** How many things are known to have findings that somebody ought to look at. */
    public long waiting() {
        return items.stream()
                .filter(subject -> subject.tallyProperty()
                        .get()
                        .filter(tally -> tally.serious() > 0)
                        .isPresent())
                .count();
    }

    /** Brings the list in line with what there is now, and inspects libraries that were not. */
    public void refresh() {
        visited = true;
        list();
        for (Library library : session.shelving().present()) {
            if (inspectedLibraries.add(library.root())) {
                inspect(library);
            }
        }
    }

    /** Lists what there is by what is known of it; reads nothing. */
    private void list() {
        List<InspectionItem> now = new ArrayList<>();
        arrivals.waitingFiles().forEach(file -> now.add(InspectionItem.of(InspectionItem.From.ARRIVAL, file)));
        now.addAll(files);
        session.scenes().forEach(scene -> now.add(InspectionItem.of(InspectionItem.From.SCENE, scene)));
        Map<String, Library> present = new HashMap<>();
        session.shelving()
                .present()
                .forEach(library -> present.put(library.root().toString(), library));
        for (IndexedAsset item : session.shelving().finder().items()) {
            Library library = present.get(item.library());
            if (library != null && !item.version().isEmpty()) {
                now.add(InspectionItem.of(InspectionItem.AssetVersion.of(library, item)));
            }
        }
        show(now);
    }

    /** Shows a list; what was in it before keeps what is known of it. */
    private void show(List<InspectionItem> now) {
        Map<InspectionItem.Key, InspectionItem> known = new HashMap<>();
        items.forEach(item -> known.put(item.key(), item));
        now.replaceAll(item -> known.getOrDefault(item.key(), item));
        if (!now.equals(items)) {
            items.setAll(now);
        }
    }

    /** Inspects everything in a library in the background; what was inspected before is known at once. */
    public void inspect(Library library) {
        session.run(
                "Inspecting " + library.info().name(),
                progress -> {
                    RuleSet rules = RuleSet.of(library);
                    ShelfInspection inspection = session.workbench().shelfInspection(library, rules);
                    inspection.all((asset, result) -> session.onInterface(() -> tell(asset, result)), progress);
                    return library;
                },
                done -> changedTallies());
    }

    private void tell(Asset asset, KeptInspections.Result result) {
        String id = asset.card().id();
        items.stream()
                .filter(item ->
                        item.asset().filter(version -> version.id().equals(id)).isPresent())
                .forEach(item -> {
                    item.tallyProperty().set(Optional.of(InspectionItem.Tally.of(result.findings())));
                    item.problemProperty().set(result.unanswered().stream().findFirst());
                });
    }

    /** Lets those who count know that counts have changed. */
    void changedTallies() {
        if (!items.isEmpty()) {
            items.set(0, items.getFirst());
        }
    }

    /**
     * Adds files to what can be inspected.
     *
     * @return the first of them; empty where there are none
     */
    Optional<InspectionItem> add(List<Path> some) {
        Optional<InspectionItem> first = Optional.empty();
        for (Path file : some) {
            InspectionItem subject = InspectionItem.of(
                    InspectionItem.From.FILE, file.toAbsolutePath().normalize());
            InspectionItem known = files.stream()
                    .filter(item -> item.key().equals(subject.key()))
                    .findFirst()
                    .orElse(subject);
            if (known == subject) {
                files.add(subject);
            }
            first = first.or(() -> Optional.of(known));
        }
        refresh();
        return first;
    }

    /** What is listed as one would be, or the one itself, which is listed from now on. */
    InspectionItem listed(InspectionItem wanted) {
        Optional<InspectionItem> known =
                items.stream().filter(item -> item.key().equals(wanted.key())).findFirst();
        if (known.isEmpty()) {
            items.add(wanted);
        }
        return known.orElse(wanted);
    }

    /** The arrival that is read from a file. */
    Optional<InspectionItem> arrival(Path file) {
        return items.stream()
                .filter(subject -> subject.from() == InspectionItem.From.ARRIVAL
                        && subject.file().filter(file::equals).isPresent())
                .findFirst();
    }
}
