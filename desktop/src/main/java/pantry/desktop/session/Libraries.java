package pantry.desktop.session;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.ObservableSet;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.CardSuggestions;
import pantry.catalogue.Finder;
import pantry.catalogue.IndexedAsset;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.LibraryWatch;
import pantry.workbench.Settings;
import pantry.workbench.Workbench;

/**
 * The libraries that are open: which are switched on, which are away, and what stands in them. Changes on the
 * interface's thread only.
 */
public final class Libraries {
    /** How often others' changes are looked for. */
    private static final Duration LOOK = Duration.ofSeconds(1);

    /** How often changes by hand are looked for, which no journal tells. */
    private static final Duration SWEEP = Duration.ofMinutes(1);

    private final Workbench workbench;
    private final BackgroundWork background;
    private final Ledger ledger;
    /** The folders of libraries in the order in which they were first asked for. */
    private final List<Path> places = new ArrayList<>();

    private final ObservableList<Library> open = FXCollections.observableArrayList();
    private final ObservableSet<Path> off = FXCollections.observableSet();
    private final ObservableSet<Path> away = FXCollections.observableSet();
    private final Map<Path, LibraryWatch> watches = new HashMap<>();
    private final ReadOnlyObjectWrapper<Contents> contents = new ReadOnlyObjectWrapper<>(Contents.NOTHING);
    private boolean watching;
    private int asked;

    /**
     * What stands in the libraries that are on.
     *
     * @param shelves the paths of all shelves, those with nothing on them too, by the library's folder
     * @param versions differs whenever some asset shows another version, or stands elsewhere
     */
    public record Contents(Finder finder, Map<Path, List<String>> shelves, long versions) {
        static final Contents NOTHING = new Contents(new Finder(List.of()), Map.of(), 0);

        /** Whether this was read off libraries, and is not what stands here until the first of them was. */
        public boolean isRead() {
            return this != NOTHING;
        }

        static Contents of(Finder finder, Map<Path, List<String>> shelves) {
            long versions = 1;
            for (IndexedAsset item : finder.items()) {
                // A version that was taken back may be followed by another one of the same name.
                int state = 31 * (31 * item.folder().hashCode() + item.version().hashCode())
                        + Long.hashCode(item.triangles());
                versions = 31 * versions + 31L * state + Arrays.hashCode(item.size());
            }
            return new Contents(finder, Map.copyOf(shelves), versions);
        }
    }

    Libraries(Workbench workbench, BackgroundWork background, Ledger ledger) {
        this.workbench = workbench;
        this.background = background;
        this.ledger = ledger;
    }

    public ObservableList<Library> open() {
        return open;
    }

    /** The folders of those that are switched off. */
    public ObservableSet<Path> off() {
        return off;
    }

    /** The folders of those that cannot be reached now. */
    public ObservableSet<Path> away() {
        return away;
    }

    /** Those that are on and cannot be reached now. */
    public List<Library> missed() {
        return open.stream()
                .filter(library -> !off.contains(library.root()) && away.contains(library.root()))
                .toList();
    }

    /** Those that are on and can be reached. */
    public List<Library> present() {
        return open.stream()
                .filter(library -> !off.contains(library.root()) && !away.contains(library.root()))
                .toList();
    }

    /** Those of them that things can be put into. */
    public List<Library> writable() {
        return present().stream().filter(Library::writable).toList();
    }

    /** The library that things are put into: the one that was chosen for that, otherwise the first that can be written. */
    public Optional<Library> target() {
        String chosen = workbench.settings().target();
        List<Library> writable = writable();
        return writable.stream()
                .filter(library -> library.root().toString().equals(chosen))
                .findFirst()
                .or(() -> writable.stream().findFirst());
    }

    /** From now on, things are put into this library; those who listen to the contents are told. */
    public void putInto(Library library) {
        String folder = library.root().toString();
        if (!target().map(Library::root).equals(Optional.of(library.root()))) {
            changeSettings(settings -> settings.withTarget(folder), () -> collect(Set.of()));
        }
    }

    /** What stands in those that are on; changes whenever searches may be answered differently. */
    public ReadOnlyObjectProperty<Contents> contentsProperty() {
        return contents.getReadOnlyProperty();
    }

    public Finder finder() {
        return contents.get().finder();
    }

    /** The paths of the shelves that things may be put on: those of the library that they go into. */
    public List<String> shelves() {
        return target().map(library -> contents.get().shelves().getOrDefault(library.root(), List.of()))
                .orElse(List.of());
    }

    /** Paths of shelves that may be meant by what was typed of one, in the library that things are put into. */
    public List<String> shelvesLike(String begun) {
        String typed = begun.toLowerCase(Locale.ROOT);
        return shelves().stream()
                .filter(path -> path.toLowerCase(Locale.ROOT).contains(typed))
                .toList();
    }

    /** What is suggested while something is written on a card. */
    public CardSuggestions suggestions() {
        return new CardSuggestions(finder());
    }

    /** From now on, what others change is noticed. */
    public void watch() {
        watching = true;
        open.forEach(this::watch);
    }

    /** What others change is no longer looked for. */
    public void stopWatching() {
        watching = false;
        watches.values().forEach(LibraryWatch::close);
        watches.clear();
    }

    private void watch(Library library) {
        if (watching) {
            watches.computeIfAbsent(library.root(), root -> new LibraryWatch(
                            library, LOOK, SWEEP, seen -> background.onInterface(() -> saw(library, seen)))
                    .start());
        }
    }

    private void saw(Library library, LibraryWatch.Seen seen) {
        if (!open.contains(library)) {
            return;
        }
        if (seen.away()) {
            away.add(library.root());
            ledger.wrong(new LibraryException(
                    library.root(),
                    library.info().name()
                            + " is away: its folder is not there now; what stands in it is shown again once it"
                            + " is back"));
            collect(Set.of());
            return;
        }
        if (away.remove(library.root())) {
            ledger.told(library.info().name() + " is back");
        }
        background.quietly(
                "looking at what changed in " + library.info().name(),
                progress -> {
                    if (seen.sweep()) {
                        workbench.catalogue().refresh(library, progress);
                    } else {
                        workbench.catalogue().refresh(library, seen.entries(), progress);
                    }
                    return library;
                },
                same -> collect(seen.sweep() ? Set.of(library.root()) : touched(library, seen)));
    }

    private static Set<Path> touched(Library library, LibraryWatch.Seen seen) {
        return seen.entries().stream().anyMatch(entry -> entry.asset().isEmpty()) ? Set.of(library.root()) : Set.of();
    }

    /** Opens a library: shows what the index knows of it, and brings that up to date in the background. */
    public void open(Path folder) {
        Path place = folder.toAbsolutePath().normalize();
        if (!places.contains(place)) {
            places.add(place);
        }
        background.run(
                "opening " + folder.getFileName(),
                progress -> {
                    Library library = workbench.openLibrary(folder);
                    requireOwnId(library);
                    return library;
                },
                library -> {
                    open.removeIf(known -> known.root().equals(library.root()));
                    open.add(placeOf(library), library);
                    rememberOpen();
                    watch(library);
                    // What the index knows is seen before the folders are looked through.
                    collect(Set.of(), false, () -> background.onceShown(() -> refresh(library)));
                    if (library.isOlder()) {
                        ledger.told(
                                library.info().name() + " has an older format; Check the library offers to upgrade it");
                    }
                });
    }

    /** Libraries stand in the order in which they were asked for, whichever of them is read first. */
    private int placeOf(Library library) {
        int turn = places.indexOf(library.root());
        int place = open.size();
        while (turn >= 0 && place > 0 && places.indexOf(open.get(place - 1).root()) > turn) {
            place--;
        }
        return place;
    }

    /** Opens the libraries that were open when Pantry was used last; those that are gone are passed over. */
    public void openLast() {
        workbench.settings().libraries().stream()
                .map(Path::of)
                .filter(Library::isLibrary)
                .forEach(this::open);
    }

    private void rememberOpen() {
        List<String> folders = open.stream().map(each -> each.root().toString()).toList();
        changeSettings(settings -> settings.withLibraries(folders));
    }

    void changeSettings(UnaryOperator<Settings> change) {
        changeSettings(change, () -> {});
    }

    private void changeSettings(UnaryOperator<Settings> change, Runnable then) {
        background.answer(
                "keeping the settings",
                progress -> {
                    workbench.changeSettings(change);
                    return workbench.settings();
                },
                done -> then.run());
    }

    /** A copy of a library's folder, with the same id, cannot be told from it. */
    private void requireOwnId(Library library) {
        List.copyOf(open).stream()
                .filter(other -> other.info().id().equals(library.info().id())
                        && !other.root().equals(library.root()))
                .findFirst()
                .ifPresent(other -> {
                    throw new LibraryException(
                            library.root(),
                            "is a copy of " + other.root() + " and has the same id; close that one first");
                });
    }

    /** Makes a library and opens it. */
    public void create(Path folder, String name) {
        background.run("making " + name, progress -> workbench.createLibrary(folder, name), library -> {
            ledger.told("made the library " + name);
            open(library.root());
        });
    }

    /** No longer shows a library; nothing happens to it. */
    public void close(Library library) {
        letGo(library);
        Path folder = library.root();
        ledger.done(
                "closed the library " + library.info().name(), Reversal.atOnce(() -> open(folder), () -> open.stream()
                        .filter(each -> each.root().equals(folder))
                        .findFirst()
                        .ifPresent(this::letGo)));
    }

    private void letGo(Library library) {
        open.removeIf(known -> known.root().equals(library.root()));
        rememberOpen();
        off.remove(library.root());
        away.remove(library.root());
        LibraryWatch watch = watches.remove(library.root());
        if (watch != null) {
            watch.close();
        }
        collect(Set.of());
    }

    /** Shows what stands in a library, or not. */
    public void switchOn(Library library, boolean on) {
        if (on ? off.remove(library.root()) : off.add(library.root())) {
            collect(Set.of());
        }
    }

    /** The open library in a folder. */
    public Library at(String root) {
        return open.stream()
                .filter(library -> library.root().toString().equals(root))
                .findFirst()
                .orElseThrow(() -> new LibraryException(Path.of(root), "is no longer open"));
    }

    /** The asset behind an item, as it stands on disk. */
    public Asset asset(IndexedAsset item) {
        return at(item.library()).current(Path.of(item.folder()), item.id());
    }

    /** What is read of an asset; empty where it went to the trash or elsewhere meanwhile: nothing went wrong then. */
    public <T> Optional<T> unlessRemoved(IndexedAsset item, Function<Asset, T> reading) {
        try {
            return Optional.of(reading.apply(asset(item)));
        } catch (PantryException e) {
            Library library = at(item.library());
            boolean removed = library.trash().items().stream()
                            .anyMatch(trashed -> trashed.id().equals(item.id()))
                    && library.located(Path.of(item.folder()), item.id()).isEmpty();
            if (removed) {
                return Optional.empty();
            }
            throw e;
        }
    }

    /** Brings what is shown in line with a library's folders. */
    public void refresh(Library library) {
        background.run(
                "indexing " + library.info().name(),
                progress -> {
                    workbench.catalogue().refresh(library, progress);
                    return library;
                },
                same -> collect(Set.of(library.root())));
    }

    /**
     * What of a library a change touches.
     *
     * @param shelves empty for all, and where shelves themselves change
     */
    public record Touched(Library library, Set<String> shelves) {
        /** What stands on one shelf. */
        public static Touched shelf(Library library, String shelf) {
            return new Touched(library, Set.of(shelf));
        }

        /** Whatever stands there, and the shelves. */
        public static Touched all(Library library) {
            return new Touched(library, Set.of());
        }
    }

    /**
     * Changes a library in the background, and shows the change.
     *
     * @param touched what is shown anew then
     */
    public <T> void change(
            String what, Touched touched, Work<T> change, Consumer<T> then, Consumer<PantryException> failed) {
        Library library = touched.library();
        Set<String> shelves = touched.shelves();
        // Also what failed or was stopped half way has changed something.
        Runnable show = () -> collect(shelves.isEmpty() ? Set.of(library.root()) : Set.of());
        Work<T> indexed = progress -> {
            try {
                return change.run(progress);
            } finally {
                if (library.present()) {
                    if (shelves.isEmpty()) {
                        workbench.catalogue().refresh(library, Progress.NONE);
                    } else {
                        workbench.catalogue().refresh(library, shelves);
                    }
                }
            }
        };
        background.run(
                what,
                background.whenCancelled(indexed, show),
                result -> {
                    show.run();
                    then.accept(result);
                },
                problem -> {
                    show.run();
                    failed.accept(problem);
                });
    }

    /** How work that changes shelves is run, for work that can be taken back. */
    public WorkRunner changing(Touched touched) {
        return new WorkRunner() {
            @Override
            public <R> void run(String what, Work<R> work, Consumer<R> then, Consumer<PantryException> failed) {
                change(what, touched, work, then, failed);
            }
        };
    }

    private static Contents prepared(Contents collected) {
        collected.finder().prepare();
        return collected;
    }

    /**
     * Makes what searches go over anew.
     *
     * @param walked libraries whose shelves are listed anew
     */
    private void collect(Set<Path> walked) {
        collect(walked, true, () -> {});
    }

    /**
     * As above.
     *
     * @param walk whether the shelves of libraries are listed that were not before
     * @param then what is done once it is shown
     */
    private void collect(Set<Path> walked, boolean walk, Runnable then) {
        int number = ++asked;
        List<Library> libraries = present();
        Map<Path, List<String>> known = contents.get().shelves();
        background.quietly(
                "reading the index",
                progress -> {
                    Map<Path, List<String>> shelves = new HashMap<>();
                    for (Library library : libraries) {
                        boolean list = walked.contains(library.root()) || walk && !known.containsKey(library.root());
                        shelves.put(
                                library.root(),
                                list ? library.shelves() : known.getOrDefault(library.root(), List.of()));
                    }
                    return Contents.of(workbench.catalogue().finder(libraries), shelves);
                },
                collected -> {
                    // What was asked for later knows more.
                    if (number == asked) {
                        contents.set(collected);
                    }
                    // What the first search needs is worked out while the shelves are looked at.
                    background.onceShown(() ->
                            background.answer("preparing to search", progress -> prepared(collected), done -> {}));
                    then.run();
                });
    }
}
