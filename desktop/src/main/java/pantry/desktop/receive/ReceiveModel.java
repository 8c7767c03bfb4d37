package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.beans.Observable;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.PantryException;
import pantry.desktop.session.Session;
import pantry.exchange.Facts;
import pantry.exchange.Imported;
import pantry.intake.Archives;
import pantry.intake.Intake;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;
import pantry.library.Library;
import pantry.library.Published;
import pantry.library.Shelf;

/** The state and commands of the Receive workplace. */
public final class ReceiveModel {
    private static final String FIRST_SHELF = "New arrivals";

    private final Session session;
    private final ObservableList<Arrival> arrivals = FXCollections.observableArrayList(
            arrival -> new Observable[] {arrival.stateProperty(), arrival.tickedProperty(), arrival.slipProperty()});
    private final ObjectProperty<Optional<Arrival>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ObservableList<String> report = FXCollections.observableArrayList();
    private final Map<String, List<Double>> neighbours = new HashMap<>();

    public ReceiveModel(Session session) {
        this.session = session;
        session.catalogueEditionProperty().addListener((property, before, now) -> neighbours.clear());
    }

    public ObservableList<Arrival> arrivals() {
        return arrivals;
    }

    public ObjectProperty<Optional<Arrival>> selectedProperty() {
        return selected;
    }

    /** What was shelved and what was refused, the newest last. */
    public ObservableList<String> report() {
        return report;
    }

    /** How many still wait for somebody. */
    public long waiting() {
        return arrivals.stream()
                .filter(arrival -> switch (arrival.stateProperty().get()) {
                    case WAITING, READING, READY -> true;
                    case SHELVING, SHELVED, REFUSED -> false;
                })
                .count();
    }

    /** The library that things go into. */
    public Optional<Library> target() {
        return session.libraries().stream().filter(Library::writable).findFirst();
    }

    /** The shelves that things may go onto. */
    public List<String> shelves() {
        return target().map(Library::shelves).orElse(List.of());
    }

    /** Takes note of files and of the files in folders and archives, and begins to read them. */
    public void add(List<Path> filesAndFolders) {
        session.attempt(() -> {
            Map<Boolean, List<Path>> byArchive =
                    Intake.files(filesAndFolders).stream().collect(Collectors.partitioningBy(Archives::isArchive));
            List<Path> archives = byArchive.get(true);
            List<Path> plain = byArchive.get(false);
            if (archives.isEmpty() || !plain.isEmpty()) {
                addFiles(plain, filesAndFolders);
            }
            for (Path archive : archives) {
                session.run(
                        "unpacking " + archive.getFileName(),
                        progress -> session.workbench().unpacked(archive, progress),
                        unpacked -> addFiles(unpacked, List.of(archive)));
            }
        });
    }

    private void addFiles(List<Path> files, List<Path> filesAndFolders) {
        session.attempt(() -> {
            List<Arrival> fresh = new ArrayList<>();
            for (Path file : files) {
                boolean known = arrivals.stream()
                        .anyMatch(arrival -> arrival.file().equals(file)
                                && arrival.stateProperty().get() != Arrival.State.SHELVED);
                if (!known) {
                    fresh.add(new Arrival(file));
                }
            }
            if (fresh.isEmpty()) {
                throw new PantryException(
                        filesAndFolders.isEmpty()
                                ? null
                                : filesAndFolders.getFirst().toString(),
                        null,
                        "brings nothing new: there is no file of a known kind that is not on the list already",
                        null);
            }
            arrivals.addAll(fresh);
            selected.set(Optional.of(fresh.getFirst()));
            fresh.forEach(this::read);
        });
    }

    private void read(Arrival arrival) {
        arrival.stateProperty().set(Arrival.State.READING);
        record Read(Imported imported, Facts facts) {}
        session.run(
                "reading " + arrival.name(),
                progress -> {
                    Imported imported = session.workbench().intake().read(arrival.file(), progress);
                    return new Read(imported, Facts.of(imported));
                },
                read -> {
                    arrival.setFacts(read.facts());
                    String shelf = FIRST_SHELF;
                    arrival.slipProperty()
                            .set(Optional.of(Intake.suggested(read.imported(), shelf, neighbours(shelf))));
                    arrival.contentsProperty().set(Optional.of(read.imported()));
                    arrival.stateProperty().set(Arrival.State.READY);
                },
                problem -> refuse(arrival, problem));
    }

    private void refuse(Arrival arrival, PantryException problem) {
        arrival.messageProperty().set(String.valueOf(problem.getMessage()));
        arrival.stateProperty().set(Arrival.State.REFUSED);
        arrival.tickedProperty().set(false);
        report.add("Refused: " + arrival.name() + ": " + problem.getMessage());
        session.wrong(problem);
    }

    /** Heights of what stands on a shelf already, metres. */
    private List<Double> neighbours(String shelf) {
        return neighbours.computeIfAbsent(shelf, s -> target().map(library -> Intake.neighbours(library, s))
                .orElse(List.of()));
    }

    /** How an arrival's figures may be understood. */
    public List<ScaleCandidate> candidates(Arrival arrival) {
        if (arrival.contentsProperty().get().isEmpty()
                || arrival.slipProperty().get().isEmpty()) {
            return List.of();
        }
        Slip slip = arrival.slipProperty().get().get();
        return Intake.candidates(arrival.contentsProperty().get().get(), slip.up(), neighbours(slip.shelf()));
    }

    /** A warning where the chosen size is out of the ordinary for its shelf. */
    public Optional<String> sizeWarning(Arrival arrival) {
        return arrival.slipProperty().get().flatMap(slip -> candidates(arrival).stream()
                .filter(candidate -> Math.abs(candidate.factor() - slip.factor()) < slip.factor() * 1e-6)
                .filter(candidate -> candidate.unusual(neighbours(slip.shelf())))
                .findFirst()
                .map(ScaleCandidate::reason));
    }

    /** Changes the slip of an arrival. */
    public void change(Arrival arrival, UnaryOperator<Slip> change) {
        arrival.slipProperty()
                .get()
                .ifPresent(slip -> session.attempt(() -> {
                    try {
                        arrival.slipProperty().set(Optional.of(change.apply(slip)));
                    } catch (IllegalArgumentException e) {
                        throw new PantryException(arrival.file(), String.valueOf(e.getMessage()), e);
                    }
                }));
    }

    /** The arrivals that {@link #shelve} would take. */
    public List<Arrival> ready() {
        return arrivals.stream()
                .filter(arrival -> arrival.tickedProperty().get()
                        && arrival.stateProperty().get() == Arrival.State.READY)
                .toList();
    }

    /** Shelves every ticked arrival that is ready. */
    public void shelve() {
        Optional<Library> library = target();
        if (library.isEmpty()) {
            session.wrong(new PantryException("no library is open that can be written; open or make one first"));
            return;
        }
        ready().forEach(arrival -> shelve(arrival, library.get()));
    }

    private void shelve(Arrival arrival, Library library) {
        Imported imported = arrival.contentsProperty().get().orElseThrow();
        Slip slip = arrival.slipProperty().get().orElseThrow();
        arrival.stateProperty().set(Arrival.State.SHELVING);
        session.run(
                "shelving " + slip.name(),
                progress -> {
                    Slip checked = slip.withShelf(Shelf.path(slip.shelf()));
                    Published published = session.workbench().intake().shelve(imported, checked, library, progress);
                    session.workbench().catalogue().refresh(library, progress);
                    return published;
                },
                published -> shelved(arrival, published, library),
                problem -> {
                    refuse(arrival, problem);
                    // It can be put right and tried again.
                    arrival.stateProperty().set(Arrival.State.READY);
                });
    }

    private void shelved(Arrival arrival, Published published, Library library) {
        String line = published.asset().card().name() + " stands on "
                + published.asset().shelf();
        arrival.messageProperty().set(line);
        arrival.tickedProperty().set(false);
        arrival.stateProperty().set(Arrival.State.SHELVED);
        report.add("Shelved: " + arrival.name() + " as " + line);
        session.done("shelved " + line, Optional.empty());
        session.refreshCatalogue(library);
    }

    /** Takes what is done or refused off the list. */
    public void clearFinished() {
        arrivals.removeIf(arrival -> switch (arrival.stateProperty().get()) {
            case SHELVED, REFUSED -> true;
            case WAITING, READING, READY, SHELVING -> false;
        });
        selected.set(arrivals.stream().findFirst());
    }
}
