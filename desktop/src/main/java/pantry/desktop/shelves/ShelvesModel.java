package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.catalogue.Finder;
import pantry.catalogue.Found;
import pantry.catalogue.IndexedAsset;
import pantry.catalogue.Order;
import pantry.catalogue.Search;
import pantry.catalogue.SearchText;
import pantry.desktop.session.Session;
import pantry.library.Asset;
import pantry.model.ShapeDescriptor;
import pantry.workbench.Personal;

/** What is found and what is chosen in the Shelves workplace. */
public final class ShelvesModel {
    private static final double ALIKE = 0.55;
    private static final Found NOTHING = new Found(0, List.of(), Map.of(), List.of());

    private final Session session;
    private final CardModel card;
    private final StringProperty words = new SimpleStringProperty("");
    private final ObjectProperty<Place> place = new SimpleObjectProperty<>(new Place.All());
    private final ObjectProperty<Order> order = new SimpleObjectProperty<>(Order.BEST);
    private final ReadOnlyObjectWrapper<Found> found = new ReadOnlyObjectWrapper<>(NOTHING);
    private final ReadOnlyObjectWrapper<Search> search = new ReadOnlyObjectWrapper<>(Search.ALL);
    private final ObservableList<IndexedAsset> items = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<IndexedAsset>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<List<IndexedAsset>> chosen = new ReadOnlyObjectWrapper<>(List.of());
    private final ObservableList<Personal.KeptSearch> kept = FXCollections.observableArrayList();
    private int question;
    private int answered;
    private boolean choosing;

    /** A shelf and how many assets stand on it or below it. */
    public record ShelfCount(Path library, String path, int count) {
        public String name() {
            return path.substring(path.lastIndexOf('/') + 1);
        }
    }

    public ShelvesModel(Session session) {
        this.session = session;
        this.card = new CardModel(session);
        words.addListener((property, before, now) -> search());
        place.addListener((property, before, now) -> search());
        order.addListener((property, before, now) -> search());
        session.shelving().contentsProperty().addListener((property, before, now) -> search());
        selected.addListener((property, before, now) -> {
            if (!choosing) {
                choose(now.stream().toList(), now);
            }
        });
        kept.setAll(personal().searches());
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

    /** What is looked for. */
    public StringProperty wordsProperty() {
        return words;
    }

    public ObjectProperty<Place> placeProperty() {
        return place;
    }

    public ObjectProperty<Order> orderProperty() {
        return order;
    }

    public ReadOnlyObjectProperty<Found> foundProperty() {
        return found.getReadOnlyProperty();
    }

    /** What was asked for what is shown. */
    public ReadOnlyObjectProperty<Search> searchProperty() {
        return search.getReadOnlyProperty();
    }

    /** What is shown, in order. */
    public ObservableList<IndexedAsset> items() {
        return items;
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

    /** The asset behind an item, as it stands on disk. */
    public Asset asset(IndexedAsset item) {
        return session.shelving().at(item.library()).current(Path.of(item.folder()), item.id());
    }

    /** All shelves of a library, with their counts, in order. */
    public List<ShelfCount> shelves(Path library) {
        TreeMap<String, Integer> counts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        session.shelving()
                .contentsProperty()
                .get()
                .shelves()
                .getOrDefault(library, List.of())
                .forEach(path -> counts.put(path, 0));
        String root = library.toString();
        for (IndexedAsset item : session.shelving().finder().items()) {
            if (item.library().equals(root)) {
                for (String path = item.shelf(); !path.isEmpty(); ) {
                    counts.merge(path, 1, Integer::sum);
                    int cut = path.lastIndexOf('/');
                    path = cut < 0 ? "" : path.substring(0, cut);
                }
            }
        }
        return counts.entrySet().stream()
                .map(entry -> new ShelfCount(library, entry.getKey(), entry.getValue()))
                .toList();
    }

    /** All tags with how many assets have them, the most frequent first. */
    public Map<String, Integer> tags() {
        return session.shelving().finder().counts("tag");
    }

    /** Whether what is found does not yet answer what is asked, or is of libraries that are still being read. */
    public boolean isLooking() {
        return answered != question
                || !session.shelving().contentsProperty().get().isRead();
    }

    private void search() {
        int asked = ++question;
        Finder finder = session.shelving().finder();
        String text = words.get();
        Place where = place.get();
        Order by = order.get();
        List<String> favourites = personal().favourites();
        List<String> recent = personal().recent();
        session.answer(
                "looking",
                progress -> {
                    Search wanted = SearchText.parse(text);
                    return Map.entry(wanted, find(finder, wanted, where, by, favourites, recent));
                },
                answer -> {
                    // A later question has been asked meanwhile: its answer counts.
                    if (asked == question) {
                        answered = asked;
                        search.set(answer.getKey());
                        show(answer.getValue());
                    }
                });
    }

    private static Found find(
            Finder finder, Search wanted, Place where, Order by, List<String> favourites, List<String> recent) {
        return switch (where) {
            case Place.All() -> finder.find(wanted, by);
            case Place.OnShelf(Path library, String path) ->
                within(
                        finder.find(wanted.onShelf(path), by),
                        item -> item.library().equals(library.toString())
                                && (item.shelf().equals(path) || item.shelf().startsWith(path + "/")));
            case Place.Whole(Path library, String name) ->
                within(finder.find(wanted, by), item -> item.library().equals(library.toString()));
            case Place.Favourites() -> {
                Set<String> ids = new LinkedHashSet<>(favourites);
                yield within(finder.find(wanted, by), item -> ids.contains(item.id()));
            }
            case Place.Recent() -> {
                Map<String, Integer> ranks = new HashMap<>();
                recent.forEach(id -> ranks.put(id, ranks.size()));
                Found all = within(finder.find(wanted, by), item -> ranks.containsKey(item.id()));
                yield listed(
                        all,
                        all.items().stream()
                                .sorted(java.util.Comparator.comparing(item -> ranks.get(item.id())))
                                .toList());
            }
            case Place.Alike(IndexedAsset like) -> {
                Found all = finder.find(wanted, by);
                Set<String> among = new LinkedHashSet<>();
                all.items().forEach(item -> among.add(item.folder()));
                List<IndexedAsset> alike = ShapeDescriptor.ofCode(like.shape()).stream()
                        .flatMap(shape -> finder.alike(shape, ALIKE, 200).stream())
                        .map(each -> each.item())
                        .filter(item -> among.contains(item.folder()))
                        .toList();
                yield listed(all, alike);
            }
        };
    }

    private static Found within(Found all, java.util.function.Predicate<IndexedAsset> wanted) {
        List<IndexedAsset> some = all.items().stream().filter(wanted).toList();
        return some.size() == all.count() ? all : listed(all, some);
    }

    private static Found listed(Found all, List<IndexedAsset> items) {
        return new Found(items.size(), items, all.facets(), all.complaints());
    }

    private void show(Found hits) {
        Set<String> before = new LinkedHashSet<>();
        chosen.get().forEach(item -> before.add(item.id()));
        Optional<String> lead = selected.get().map(IndexedAsset::id);
        items.setAll(hits.items());
        found.set(hits);
        if (before.isEmpty()) {
            return;
        }
        List<IndexedAsset> still =
                items.stream().filter(item -> before.contains(item.id())).toList();
        choose(
                still,
                still.stream()
                        .filter(item -> lead.filter(item.id()::equals).isPresent())
                        .findFirst());
    }

    /** Chooses assets; the lead's card is shown. */
    public void choose(List<IndexedAsset> some, Optional<IndexedAsset> lead) {
        choosing = true;
        try {
            chosen.set(List.copyOf(some));
            selected.set(lead.or(() -> some.stream().findFirst()));
        } finally {
            choosing = false;
        }
        card.show(selected.get());
        selected.get().ifPresent(item -> personal().lookedAt(item.id()));
    }

    /** Adds an asset to the chosen ones, or takes it from them. */
    public void toggle(IndexedAsset item) {
        List<IndexedAsset> more = new ArrayList<>(chosen.get());
        if (!more.remove(item)) {
            more.add(item);
        }
        choose(more, more.isEmpty() ? Optional.empty() : Optional.of(more.getLast()));
    }

    /** Chooses everything from the lead to an asset. */
    public void chooseTo(IndexedAsset item) {
        int from = selected.get().map(items::indexOf).orElse(0);
        int to = items.indexOf(item);
        if (from < 0 || to < 0) {
            choose(List.of(item), Optional.of(item));
            return;
        }
        choose(items.subList(Math.min(from, to), Math.max(from, to) + 1), selected.get());
    }

    public void chooseAll() {
        choose(items, selected.get());
    }

    private static String term(String key, String value) {
        return key + ":" + (value.contains(" ") || value.contains(",") ? "\"" + value + "\"" : value);
    }

    /** Adds a condition to what is looked for, or takes it away again. */
    public void narrow(String key, String value) {
        String term = term(key, value);
        String now = words.get().strip();
        words.set(
                narrowed(key, value)
                        ? (" " + now + " ").replace(" " + term + " ", " ").strip()
                        : (now + " " + term).strip());
    }

    /** Whether a condition is part of what is looked for. */
    public boolean narrowed(String key, String value) {
        return (" " + words.get().strip() + " ").contains(" " + term(key, value) + " ");
    }

    public boolean isFavourite(IndexedAsset item) {
        return personal().isFavourite(item.id());
    }

    /** Makes the chosen assets favourites; where all are, no longer. */
    public void toggleFavourites() {
        boolean all = chosen.get().stream().allMatch(this::isFavourite);
        chosen.get().forEach(item -> personal().favourite(item.id(), !all));
        search();
        card.favouritesChanged();
    }

    /** Keeps what is looked for under a name. */
    public void keepSearch(String name) {
        personal().keep(new Personal.KeptSearch(name.strip(), words.get().strip()));
        kept.setAll(personal().searches());
    }

    public void forget(Personal.KeptSearch search) {
        personal().forget(search);
        kept.setAll(personal().searches());
    }

    /** Shows what has nearly the shape of the lead. */
    public void showAlike() {
        selected.get().ifPresent(item -> {
            words.set("");
            place.set(new Place.Alike(item));
        });
    }
}
