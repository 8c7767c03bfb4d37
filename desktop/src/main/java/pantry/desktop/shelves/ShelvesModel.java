package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyIntegerProperty;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ListChangeListener;
import javafx.collections.ObservableList;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.AssetSearch;
import pantry.desktop.session.Reversal;
import pantry.desktop.session.SearchScope;
import pantry.desktop.session.Session;
import pantry.workbench.Personal;

/** What is found and what is chosen in the Shelves workplace. */
public final class ShelvesModel {
    private final Session session;
    private final AssetSearch search;
    private final CardModel card;
    private final ObjectProperty<Optional<IndexedAsset>> selected;
    private final ReadOnlyObjectWrapper<List<IndexedAsset>> chosen = new ReadOnlyObjectWrapper<>(List.of());

    /** What was chosen by somebody last. */
    private Choice wanted = Choice.NONE;

    private final ObservableList<Personal.KeptSearch> kept = FXCollections.observableArrayList();
    private final ReadOnlyIntegerWrapper recentCount = new ReadOnlyIntegerWrapper();
    private boolean choosing;

    /** A shelf and how many assets stand on it or below it. */
    public record ShelfCount(Path library, String path, int count) {
        public String name() {
            return path.substring(path.lastIndexOf('/') + 1);
        }
    }

    /**
     * What is chosen.
     *
     * @param ids of the assets
     * @param shown the id of the one whose card is shown
     */
    private record Choice(Set<String> ids, Optional<String> shown) {
        static final Choice NONE = new Choice(Set.of(), Optional.empty());
    }

    public ShelvesModel(Session session, AssetSearch search) {
        this.session = session;
        this.search = search;
        this.selected = session.chosenAssetProperty();
        this.card = new CardModel(session);
        search.items().addListener((ListChangeListener<IndexedAsset>) change -> chooseStillFound());
        selected.addListener((property, before, now) -> {
            if (!choosing) {
                choose(now.stream().toList(), now);
            }
        });
        kept.setAll(personal().searches());
        recentCount.set(personal().recent().size());
    }

    public Session session() {
        return session;
    }

    /** The chosen asset's card. */
    public CardModel card() {
        return card;
    }

    private Personal personal() {
        return session.workbench().personal();
    }

    /** What is asked, and what was found. */
    public AssetSearch search() {
        return search;
    }

    /** The asset whose card is shown; the last chosen of several. */
    public ObjectProperty<Optional<IndexedAsset>> selectedProperty() {
        return selected;
    }

    /** All that are chosen, in the order shown. */
    public ReadOnlyObjectProperty<List<IndexedAsset>> chosenProperty() {
        return chosen.getReadOnlyProperty();
    }

    public ObservableList<Personal.KeptSearch> keptSearches() {
        return kept;
    }

    /** How many assets were looked at last, as far as it is remembered. */
    public ReadOnlyIntegerProperty recentCountProperty() {
        return recentCount.getReadOnlyProperty();
    }

    /** All shelves of a library, with their counts, in order. */
    public List<ShelfCount> shelves(Path library) {
        Map<String, Integer> standing = new HashMap<>();
        String root = library.toString();
        for (IndexedAsset item : session.shelving().finder().items()) {
            if (item.library().equals(root)) {
                standing.merge(item.shelf(), 1, Integer::sum);
            }
        }
        TreeMap<String, Integer> counts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        session.shelving()
                .contentsProperty()
                .get()
                .shelves()
                .getOrDefault(library, List.of())
                .forEach(path -> counts.put(path, 0));
        standing.forEach((shelf, count) -> {
            for (String path = shelf; !path.isEmpty(); ) {
                counts.merge(path, count, Integer::sum);
                int cut = path.lastIndexOf('/');
                path = cut < 0 ? "" : path.substring(0, cut);
            }
        });
        return counts.entrySet().stream()
                .map(entry -> new ShelfCount(library, entry.getKey(), entry.getValue()))
                .toList();
    }

    /** All tags with how many assets have them, the most frequent first. */
    public Map<String, Integer> tags() {
        return session.shelving().finder().counts("tag");
    }

    /**
     * What was chosen stays chosen where it is found again. What other words hide, or a library that is away, is chosen again
     * once it is found, if nothing else was chosen by then.
     */
    private void chooseStillFound() {
        if (wanted.equals(Choice.NONE)) {
            return;
        }
        List<IndexedAsset> still = search.items().stream()
                .filter(item -> wanted.ids().contains(item.id()))
                .toList();
        show(
                still,
                still.stream()
                        .filter(item -> wanted.shown().filter(item.id()::equals).isPresent())
                        .findFirst());
    }

    /** Chooses assets; the card of {@code first} is shown. */
    public void choose(List<IndexedAsset> some, Optional<IndexedAsset> first) {
        wanted = new Choice(
                some.stream().map(IndexedAsset::id).collect(Collectors.toSet()),
                first.or(() -> some.stream().findFirst()).map(IndexedAsset::id));
        show(some, first);
    }

    private void show(List<IndexedAsset> some, Optional<IndexedAsset> first) {
        choosing = true;
        try {
            chosen.set(List.copyOf(some));
            selected.set(first.or(() -> some.stream().findFirst()));
        } finally {
            choosing = false;
        }
        card.show(selected.get());
        if (some.size() > 1) {
            card.weigh(chosen.get());
        }
        selected.get()
                .ifPresent(item -> session.answer(
                        "remembering what was looked at",
                        progress -> {
                            personal().lookedAt(item.id());
                            return personal().recent().size();
                        },
                        recentCount::set));
    }

    /** Adds an asset to the chosen ones, or takes it from them. */
    public void toggle(IndexedAsset item) {
        List<IndexedAsset> more = new ArrayList<>(chosen.get());
        if (!more.remove(item)) {
            more.add(item);
        }
        choose(more, more.isEmpty() ? Optional.empty() : Optional.of(more.getLast()));
    }

    /**
     * Chooses everything from the asset whose card is shown to another.
     *
     * @param order all that are found, as they are laid out
     */
    public void chooseTo(IndexedAsset item, List<IndexedAsset> order) {
        int from = selected.get().map(order::indexOf).orElse(0);
        int to = order.indexOf(item);
        if (from < 0 || to < 0) {
            choose(List.of(item), Optional.of(item));
            return;
        }
        choose(order.subList(Math.min(from, to), Math.max(from, to) + 1), selected.get());
    }

    public void chooseAll() {
        choose(search.items(), selected.get());
    }

    public boolean isFavourite(IndexedAsset item) {
        return personal().isFavourite(item.id());
    }

    /** Makes the chosen assets favourites; where all are, no longer. */
    public void toggleFavourites() {
        List<IndexedAsset> items =
                chosen.get().stream().filter(item -> !isFavourite(item)).toList();
        boolean wanted = !items.isEmpty();
        List<IndexedAsset> changed = wanted ? items : List.copyOf(chosen.get());
        if (changed.isEmpty()) {
            return;
        }
        favourites(changed, wanted);
        boolean one = changed.size() == 1;
        String what = one ? changed.getFirst().name() : changed.size() + " assets";
        session.done(
                wanted
                        ? "made " + what + (one ? " a favourite" : " favourites")
                        : "took " + what + " from the favourites",
                Reversal.atOnce(() -> favourites(changed, !wanted), () -> favourites(changed, wanted)));
    }

    private void favourites(List<IndexedAsset> items, boolean wanted) {
        items.forEach(item -> personal().favourite(item.id(), wanted));
        search.ask();
        card.favouritesChanged();
    }

    /** Keeps what is looked for under a name. */
    public void keepSearch(String name) {
        Personal.KeptSearch search = new Personal.KeptSearch(
                name.strip(), this.search.wordsProperty().get().strip());
        keep(search);
        session.done("kept the search " + search.name(), Reversal.atOnce(() -> drop(search), () -> keep(search)));
    }

    /** Keeps a search no longer. */
    public void forget(Personal.KeptSearch search) {
        drop(search);
        session.done("deleted the search " + search.name(), Reversal.atOnce(() -> keep(search), () -> drop(search)));
    }

    private void keep(Personal.KeptSearch search) {
        personal().keep(search);
        kept.setAll(personal().searches());
    }

    private void drop(Personal.KeptSearch search) {
        personal().forget(search);
        kept.setAll(personal().searches());
    }

    /** Shows what has nearly the shape of the asset whose card is shown. */
    public void showAlike() {
        selected.get().ifPresent(item -> {
            search.wordsProperty().set("");
            search.scopeProperty().set(new SearchScope.Alike(item));
        });
    }
}
