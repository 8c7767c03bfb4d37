package pantry.desktop.shelves;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.catalogue.Hits;
import pantry.catalogue.Item;
import pantry.catalogue.Query;
import pantry.desktop.session.Session;
import pantry.exchange.Facts;
import pantry.exchange.FileReaders;
import pantry.exchange.Model;
import pantry.library.Asset;
import pantry.library.Library;

/** The state and commands of the Shelves workplace. */
public final class ShelvesModel {
    private final Session session;
    private final StringProperty words = new SimpleStringProperty("");
    private final StringProperty shelf = new SimpleStringProperty("");
    private final ObservableList<Item> items = FXCollections.observableArrayList();
    private final ObservableList<ShelfCount> shelves = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<Item>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ReadOnlyObjectWrapper<Optional<Details>> details = new ReadOnlyObjectWrapper<>(Optional.empty());
    private int question;

    /** A shelf and how many assets stand on it or below it. */
    public record ShelfCount(String path, int count) {
        public String name() {
            return path.substring(path.lastIndexOf('/') + 1);
        }

        public int depth() {
            return (int) path.chars().filter(c -> c == '/').count();
        }
    }

    /** What the card shows of an asset. */
    public record Details(Asset asset, String version, Facts facts, Model model, List<VersionLine> versions) {}

    /** A version on the dated strip. */
    public record VersionLine(String version, String status, String date, String who) {}

    public ShelvesModel(Session session) {
        this.session = session;
        words.addListener((property, before, now) -> search());
        shelf.addListener((property, before, now) -> search());
        session.catalogueEditionProperty().addListener((property, before, now) -> {
            countShelves();
            search();
        });
        selected.addListener((property, before, now) -> show(now));
    }

    /** What is looked for. */
    public StringProperty wordsProperty() {
        return words;
    }

    /** The shelf that is looked at; empty for all. */
    public StringProperty shelfProperty() {
        return shelf;
    }

    public ObservableList<Item> items() {
        return items;
    }

    public ObservableList<ShelfCount> shelves() {
        return shelves;
    }

    public ObjectProperty<Optional<Item>> selectedProperty() {
        return selected;
    }

    /** The selected asset's card; empty until it is read. */
    public ReadOnlyObjectProperty<Optional<Details>> detailsProperty() {
        return details.getReadOnlyProperty();
    }

    private void search() {
        int asked = ++question;
        Query query = Query.words(session.libraryFolders(), words.get()).onShelf(shelf.get());
        session.quietly("looking", progress -> session.workbench().catalogue().find(query), hits -> {
            // A later question has been asked meanwhile: its answer counts.
            if (asked == question) {
                show(hits);
            }
        });
    }

    private void show(Hits hits) {
        Optional<String> id = selected.get().map(Item::folder);
        items.setAll(hits.items());
        selected.set(items.stream()
                .filter(item -> id.filter(item.folder()::equals).isPresent())
                .findFirst());
    }

    private void countShelves() {
        Query all = Query.words(session.libraryFolders(), "");
        session.quietly("counting", progress -> session.workbench().catalogue().find(all), hits -> {
            TreeMap<String, Integer> counts = new TreeMap<>();
            for (Item item : hits.items()) {
                for (String path = item.shelf(); !path.isEmpty(); ) {
                    counts.merge(path, 1, Integer::sum);
                    int cut = path.lastIndexOf('/');
                    path = cut < 0 ? "" : path.substring(0, cut);
                }
            }
            shelves.setAll(counts.entrySet().stream()
                    .map(entry -> new ShelfCount(entry.getKey(), entry.getValue()))
                    .toList());
        });
    }

    private void show(Optional<Item> item) {
        details.set(Optional.empty());
        item.ifPresent(chosen -> session.quietly("opening the card", progress -> read(chosen), read -> {
            if (selected.get().equals(item)) {
                details.set(Optional.of(read));
            }
        }));
    }

    private Details read(Item item) {
        Library library = library(item);
        Asset asset = library.asset(Path.of(item.folder()));
        FileReaders readers = session.workbench().readers();
        Model model = readers.read(asset.entryLayer(item.version()), pantry.base.Progress.NONE)
                .model();
        List<VersionLine> versions = asset.versions().stream()
                .map(version -> {
                    var seal = library.seal(asset, version);
                    return new VersionLine(
                            version,
                            asset.status(version).word(),
                            seal.getOrDefault("Bagging-Date", ""),
                            seal.getOrDefault("Contact-Name", ""));
                })
                .toList();
        return new Details(asset, item.version(), asset.facts(item.version()), model, versions);
    }

    private Library library(Item item) {
        return session.libraries().stream()
                .filter(library -> library.root().toString().equals(item.library()))
                .findFirst()
                .orElseThrow(() -> new pantry.library.LibraryException(Path.of(item.library()), "is no longer open"));
    }

    /** The asset behind an item. */
    public Asset asset(Item item) {
        return library(item).asset(Path.of(item.folder()));
    }
}
