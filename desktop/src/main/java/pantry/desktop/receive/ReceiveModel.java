package pantry.desktop.receive;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import javafx.beans.Observable;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Failures;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.catalogue.Finder;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Session;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.intake.ArrivalSummary;
import pantry.intake.DropFolder;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.Neighbours;
import pantry.intake.Origin;
import pantry.intake.Presets;
import pantry.intake.Report;
import pantry.intake.ScaleCandidate;
import pantry.intake.Slip;
import pantry.intake.SlipPreset;
import pantry.intake.Survey;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.library.Shelf;
import pantry.model.ShapeDescriptor;
import pantry.usecase.ReceiveFiles;

/** The state and commands of the Receive workplace. */
public final class ReceiveModel implements ArrivalSource {
    private static final String FIRST_SHELF = "New arrivals";

    /** Likeness from which on an asset is shown as looking like an arrival. */
    private static final double ALIKE = 0.85;

    private static final int MOST_ALIKE = 4;

    private final Session session;
    private final ObservableList<Arrival> arrivals = FXCollections.observableArrayList(
            arrival -> new Observable[] {arrival.stateProperty(), arrival.tickedProperty(), arrival.slipProperty()});
    private final ObservableList<Arrival> selection = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<Arrival>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final ObservableList<Report.Line> report = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<DropFolder>> dropFolder = new SimpleObjectProperty<>(Optional.empty());
    private final RoundKeeper round;
    private final ArrivalReader reader;
    private boolean looking;

    public ReceiveModel(Session session) {
        this.session = session;
        this.round = new RoundKeeper(session);
        this.reader = new ArrivalReader(session.workbench());
        session.shelving().contentsProperty().addListener((property, before, now) -> {
            if (inTarget(before.finder()).findAny().isEmpty()) {
                suggestAnew();
            }
            selected.get().ifPresent(this::lookForAlike);
        });
        selected.addListener((property, before, now) -> now.ifPresent(this::attend));
    }

    public ObservableList<Arrival> arrivals() {
        return arrivals;
    }

    /** The one that is shown. */
    public ObjectProperty<Optional<Arrival>> selectedProperty() {
        return selected;
    }

    /** All that are chosen in the list; what is changed in the slip is changed for each of them. */
    public ObservableList<Arrival> selection() {
        return selection;
    }

    /** What was shelved and what was refused, the newest last. */
    public ObservableList<Report.Line> report() {
        return report;
    }

    /** How many still wait for somebody. */
    public long waiting() {
        return arrivals.stream().filter(Arrival::isOpen).count();
    }

    Session session() {
        return session;
    }

    @Override
    public List<Path> waitingFiles() {
        return arrivals.stream().filter(Arrival::isOpen).map(Arrival::file).toList();
    }

    /** The library that things go into. */
    @Override
    public Optional<Library> target() {
        return session.libraries().stream().filter(Library::writable).findFirst();
    }

    /** The shelves that things may go onto. */
    public List<String> shelves() {
        Map<Path, List<String>> known =
                session.shelving().contentsProperty().get().shelves();
        return target().map(library -> known.getOrDefault(library.root(), List.of()))
                .orElse(List.of());
    }

    // What comes in

    /** Takes note of files and of the files in folders and archives, and begins to read them. */
    public void add(List<Path> filesAndFolders) {
        filesAndFolders.stream()
                .filter(Files::isDirectory)
                .forEach(session.workbench().access()::allow);
        session.run("looking for files", progress -> Listing.of(filesAndFolders, progress), listing -> {
            listing.passedOver().forEach(left -> session.wrong(new PantryException(left.path(), left.why())));
            List<Listing.Entry> plain = new ArrayList<>();
            List<Listing.Entry> archives = new ArrayList<>();
            for (Listing.Entry entry : listing.entries()) {
                (entry.kind() == FileKind.ARCHIVE ? archives : plain).add(entry);
            }
            if (archives.isEmpty() || !plain.isEmpty()) {
                addFiles(plain, filesAndFolders);
            }
            archives.forEach(this::unpack);
        });
    }

    private void unpack(Listing.Entry archive) {
        Path file = archive.file();
        session.run(
                "unpacking " + file.getFileName(),
                progress -> session.workbench().archives().filesIn(file, progress),
                unpacked -> {
                    Path root = session.workbench().archives().folder(file).orElse(file);
                    addFiles(
                            unpacked.stream()
                                    .map(each -> new Listing.Entry(each, FileKind.of(each), root))
                                    .toList(),
                            List.of(file));
                },
                problem -> {
                    report.add(Report.Line.refused(Origin.of(file), String.valueOf(problem.getMessage())));
                    session.wrong(problem);
                });
    }

    private void addFiles(List<Listing.Entry> entries, List<Path> named) {
        Set<Path> known = new HashSet<>();
        for (Arrival arrival : arrivals) {
            if (arrival.state() != Arrival.State.SHELVED) {
                known.add(arrival.file());
            }
        }
        List<Arrival> fresh = entries.stream()
                .filter(entry -> known.add(entry.file()))
                .map(entry -> new Arrival(entry.file(), entry.root()))
                .toList();
        if (fresh.isEmpty()) {
            session.wrong(new PantryException(
                    named.isEmpty() ? null : named.getFirst().toString(),
                    null,
                    "brings nothing new: there is no file of a known kind that is not on the list already",
                    null));
            return;
        }
        round.arrived(fresh);
        arrivals.addAll(fresh);
        select(List.of(fresh.getFirst()));
        read(fresh);
    }

    /** Chooses arrivals; the last of them is shown. */
    public void select(List<Arrival> chosen) {
        selection.setAll(chosen);
        selected.set(chosen.isEmpty() ? Optional.empty() : Optional.of(chosen.getLast()));
    }

    // Reading, in the background

    /** Reads arrivals one after another, as one job; nobody has to wait for it. */
    private void read(List<Arrival> fresh) {
        String what = fresh.size() == 1 ? "reading " + fresh.getFirst().name() : "reading " + fresh.size() + " files";
        session.run(
                what,
                progress -> {
                    for (int i = 0; i < fresh.size(); i++) {
                        Arrival arrival = fresh.get(i);
                        progress.step(
                                "reading " + arrival.name() + " (" + (i + 1) + " of " + fresh.size() + ")",
                                (double) i / fresh.size());
                        readOne(arrival, progress);
                    }
                    return fresh.size();
                },
                count -> {});
    }

    /** On a background thread; what was found is told on the interface's. */
    private void readOne(Arrival arrival, Progress progress) {
        if (arrival.state() != Arrival.State.WAITING) {
            return;
        }
        session.onInterface(() -> move(arrival, Arrival.State.WAITING, Arrival.State.READING));
        try {
            ArrivalReader.Found found = reader.survey(arrival, progress);
            session.onInterface(() -> surveyed(arrival, found));
        } catch (CancellationException e) {
            session.onInterface(() -> move(arrival, Arrival.State.READING, Arrival.State.WAITING));
            throw e;
        } catch (RuntimeException | Error e) {
            PantryException problem = Failures.of(arrival.file(), e);
            session.onInterface(() -> refuse(arrival, problem));
        }
    }

    private static void move(Arrival arrival, Arrival.State from, Arrival.State to) {
        if (arrival.state() == from) {
            arrival.stateProperty().set(to);
        }
    }

    private void surveyed(Arrival arrival, ArrivalReader.Found found) {
        Survey survey = found.survey();
        arrival.setPicture(found.picture());
        boolean first = arrival.surveyProperty().get().isEmpty();
        arrival.surveyProperty().set(Optional.of(survey));
        if (first && arrival.slipProperty().get().isEmpty()) {
            arrival.slipProperty().set(Optional.of(suggested(survey.outline(), neighbours(FIRST_SHELF))));
        }
        if (arrival.state() == Arrival.State.WAITING || arrival.state() == Arrival.State.READING) {
            arrival.stateProperty().set(Arrival.State.READY);
        }
        if (selected.get().filter(arrival::equals).isPresent()) {
            lookForAlike(arrival);
        }
    }

    /** What was suggested before it was known what stands on the shelves; what somebody chose meanwhile stays. */
    private void suggestAnew() {
        for (Arrival arrival : arrivals) {
            arrival.surveyProperty()
                    .get()
                    .filter(survey -> arrival.isOpen())
                    .map(Survey::outline)
                    .filter(outline -> arrival.slipProperty()
                            .get()
                            .filter(suggested(outline, Neighbours.NONE)::equals)
                            .isPresent())
                    .ifPresent(outline ->
                            arrival.slipProperty().set(Optional.of(suggested(outline, neighbours(FIRST_SHELF)))));
        }
    }

    /** A slip for where new arrivals go. */
    private Slip suggested(ArrivalSummary summary, Neighbours among) {
        Slip slip = Intake.suggested(summary, FIRST_SHELF, among);
        return usual(FIRST_SHELF).map(preset -> preset.on(slip)).orElse(slip);
    }

    private Optional<SlipPreset> usual(String shelf) {
        try {
            return target().flatMap(library -> Presets.usualOf(library, Shelf.path(shelf)));
        } catch (PantryException e) {
            session.onInterface(() -> session.wrong(e));
            return Optional.empty();
        }
    }

    /** What is shown comes first: it is read now, or again if it was let go meanwhile. */
    private void attend(Arrival arrival) {
        if (arrival.state() == Arrival.State.REFUSED || arrival.state() == Arrival.State.SHELVING) {
            return;
        }
        if (arrival.state() == Arrival.State.WAITING) {
            if (arrivals.size() > 1) {
                read(List.of(arrival));
            }
            return;
        }
        if (arrival.contents().isEmpty() && arrival.state() != Arrival.State.READING) {
            session.quietly(
                    "reading " + arrival.name(),
                    progress -> reader.load(arrival, progress),
                    read -> arrival.surveyProperty().set(Optional.of(Survey.of(read))));
        }
        lookForAlike(arrival);
    }

    private void lookForAlike(Arrival arrival) {
        Optional<ShapeDescriptor> shape = arrival.surveyProperty()
                .get()
                .filter(survey -> survey.outline().holds() == Imported.Holds.MODEL)
                .flatMap(survey -> ShapeDescriptor.ofCode(survey.facts().shape()));
        shape.ifPresent(described -> session.quietly(
                "looking for similar shapes",
                progress -> session.shelving().finder().alike(described, ALIKE, MOST_ALIKE),
                arrival.alikeProperty()::set));
    }

    private void refuse(Arrival arrival, PantryException problem) {
        arrival.messageProperty().set(String.valueOf(problem.getMessage()));
        arrival.stateProperty().set(Arrival.State.REFUSED);
        arrival.tickedProperty().set(false);
        report.add(Report.Line.refused(round.origin(arrival), String.valueOf(problem.getMessage())));
        round.over(arrival);
        session.wrong(problem);
    }

    // Choices

    /** What stands on a shelf already, as the index knows it. */
    private Neighbours neighbours(String shelf) {
        return Neighbours.on(shelf, inTarget(session.shelving().finder()), IndexedAsset::shelf, item -> item.size()[1]);
    }

    private Stream<IndexedAsset> inTarget(Finder finder) {
        return target().map(library -> library.root().toString()).stream().flatMap(root -> finder.items().stream()
                .filter(item -> item.library().equals(root)));
    }

    /** How an arrival's figures may be understood. */
    public List<ScaleCandidate> candidates(Arrival arrival) {
        Optional<Survey> survey = arrival.surveyProperty().get();
        Optional<Slip> slip = arrival.slipProperty().get();
        return survey.isEmpty() || slip.isEmpty()
                ? List.of()
                : Intake.candidates(
                        survey.get().outline(),
                        slip.get().up(),
                        neighbours(slip.get().shelf()));
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
                .filter(slip -> arrival.isOpen())
                .ifPresent(slip -> session.attempt(() -> {
                    try {
                        Slip changed = change.apply(slip);
                        if (!changed.equals(slip)) {
                            arrival.slipProperty().set(Optional.of(changed));
                            round.chosen(arrival, changed);
                        }
                    } catch (IllegalArgumentException e) {
                        throw new PantryException(arrival.file(), String.valueOf(e.getMessage()), e);
                    }
                }));
    }

    /** Changes the slip of all that are chosen in the list. */
    public void changeChosen(UnaryOperator<Slip> change) {
        List.copyOf(selection).forEach(arrival -> change(arrival, change));
    }

    /** The user's own kept choices. */
    public List<Presets.Named> presets() {
        return session.workbench().presets().all();
    }

    /** Keeps the shown arrival's choices under a name. */
    public void keepPreset(String name) {
        selected.get()
                .flatMap(arrival -> arrival.slipProperty().get())
                .ifPresent(slip -> session.attempt(() -> {
                    session.workbench().presets().keep(name, SlipPreset.of(slip));
                    session.done("kept the choices as " + name, Optional.empty());
                }));
    }

    /** Makes the shown arrival's choices the usual ones of its shelf, for everybody. */
    public void makeUsual() {
        Optional<Slip> slip =
                selected.get().flatMap(arrival -> arrival.slipProperty().get());
        if (slip.isPresent() && target().isPresent()) {
            session.attempt(() -> {
                String shelf = Shelf.path(slip.get().shelf());
                Presets.makeUsual(target().get(), slip.get().withShelf(shelf));
                session.done("these choices are the usual ones of " + shelf + " now", Optional.empty());
            });
        }
    }

    /** Makes the chosen arrivals the next version of an asset; with none, assets of their own again. */
    public void takeAsVersionOf(Arrival arrival, Optional<String> asset) {
        change(arrival, slip -> slip.withVersionOf(asset));
    }

    // Textures

    /** Looks in a folder for the textures that arrivals lack. */
    public void findTextures(Path folder) {
        List<Arrival> lacking = arrivals.stream()
                .filter(arrival -> arrival.isOpen() && !arrival.missing().isEmpty())
                .toList();
        session.run(
                "looking for textures",
                progress -> {
                    reader.lookIn(folder, progress);
                    for (Arrival arrival : lacking) {
                        ArrivalReader.Found found = reader.survey(arrival, progress);
                        session.onInterface(() -> surveyed(arrival, found));
                    }
                    return lacking.size();
                },
                count -> told(lacking, folder));
    }

    /** Lets files name others in a folder that none of them came with, and reads those anew that lack something. */
    public void allow(Path folder) {
        session.workbench().access().allow(folder);
        List<Arrival> lacking = arrivals.stream()
                .filter(arrival -> arrival.isOpen() && !arrival.missing().isEmpty())
                .toList();
        session.run(
                "reading what lies in " + folder.getFileName(),
                progress -> {
                    for (Arrival arrival : lacking) {
                        arrival.forgetContents();
                        ArrivalReader.Found found = reader.survey(arrival, progress);
                        session.onInterface(() -> surveyed(arrival, found));
                    }
                    return lacking.size();
                },
                count -> session.done("files may name others in " + folder, Optional.empty()));
    }

    private void told(List<Arrival> lacking, Path folder) {
        long still =
                lacking.stream().filter(arrival -> !arrival.missing().isEmpty()).count();
        if (still > 0) {
            session.wrong(new PantryException(
                    folder,
                    "does not have all textures: " + still + (still == 1 ? " file lacks" : " files lack") + " some"));
        } else {
            session.done("found the missing textures in " + folder.getFileName(), Optional.empty());
        }
    }

    // Shelving

    /** The arrivals that {@link #shelve} would take; those not yet read are read first. */
    public List<Arrival> ready() {
        return arrivals.stream()
                .filter(arrival -> arrival.tickedProperty().get() && arrival.isOpen())
                .toList();
    }

    /** Shelves every ticked arrival, several at once; what is not read yet is read then. */
    public void shelve() {
        Optional<Library> library = target();
        if (library.isEmpty()) {
            session.wrong(new PantryException("no library is open that can be written; open or make one first"));
            return;
        }
        List<Arrival> taken = ready();
        if (taken.isEmpty()) {
            return;
        }
        taken.forEach(arrival -> arrival.stateProperty().set(Arrival.State.SHELVING));
        List<ReceiveFiles.Entry> entries = taken.stream().map(this::entry).toList();
        String what =
                taken.size() == 1 ? "shelving " + taken.getFirst().name() : "shelving " + taken.size() + " arrivals";
        session.run(
                what,
                progress -> {
                    shelveAll(taken, entries, library.get(), progress);
                    return taken;
                },
                done -> session.refreshCatalogue(library.get()));
    }

    /** Shelves on all cores, in the background; each is told on the interface's thread. */
    private void shelveAll(List<Arrival> taken, List<ReceiveFiles.Entry> entries, Library library, Progress progress) {
        Map<Path, Arrival> byFile = new LinkedHashMap<>();
        taken.forEach(arrival -> byFile.put(arrival.file(), arrival));
        Set<Arrival> left = ConcurrentHashMap.newKeySet();
        left.addAll(taken);
        try {
            new ReceiveFiles(session.workbench().intake(), session.workbench().archives())
                    .run(
                            entries,
                            library,
                            outcome -> {
                                Arrival arrival = byFile.get(outcome.entry().file());
                                left.remove(arrival);
                                Report.Line line = outcome.line();
                                session.onInterface(() -> over(arrival, outcome, line, library));
                            },
                            progress);
        } finally {
            // Whatever ends a round, nothing is left being shelved.
            session.onInterface(() -> left.forEach(arrival -> move(
                    arrival,
                    Arrival.State.SHELVING,
                    arrival.surveyProperty().get().isPresent() ? Arrival.State.READY : Arrival.State.WAITING)));
        }
    }

    /** What nobody has looked at before goes where new arrivals go. */
    private ReceiveFiles.Entry entry(Arrival arrival) {
        Optional<Slip> chosen = arrival.slipProperty().get();
        Neighbours among = neighbours(FIRST_SHELF);
        return new ReceiveFiles.Entry(arrival.file(), progress -> reader.load(arrival, progress), summary -> {
            Slip slip = chosen.orElseGet(() -> suggested(summary, among));
            return slip.withShelf(Shelf.path(slip.shelf()));
        });
    }

    private void over(Arrival arrival, ReceiveFiles.Outcome outcome, Report.Line line, Library library) {
        switch (outcome) {
            case ReceiveFiles.Received received -> {
                boolean fresh = received.slip().versionOf().isEmpty();
                shelved(
                        arrival,
                        line,
                        fresh
                                ? Optional.of(() ->
                                        takeBack(arrival, received.published().asset(), library, line))
                                : Optional.empty());
            }
            case ReceiveFiles.Refused refused -> {
                refuse(arrival, refused.problem());
                // It can be put right and tried again.
                arrival.stateProperty()
                        .set(arrival.surveyProperty().get().isPresent() ? Arrival.State.READY : Arrival.State.REFUSED);
                round.arrived(List.of(arrival));
            }
        }
    }

    /** Takes an asset off its shelf again; its arrival waits as before. */
    private void takeBack(Arrival arrival, Asset asset, Library library, Report.Line line) {
        session.run(
                "taking back " + asset.card().name(),
                progress -> library.trash().discard(asset),
                trash -> {
                    arrival.messageProperty().set("");
                    arrival.stateProperty()
                            .set(
                                    arrival.surveyProperty().get().isPresent()
                                            ? Arrival.State.READY
                                            : Arrival.State.WAITING);
                    report.remove(line);
                    if (!arrivals.contains(arrival)) {
                        arrivals.add(arrival);
                    }
                    round.arrived(List.of(arrival));
                    session.done("took " + asset.card().name() + " off " + asset.shelf() + " again", Optional.empty());
                    session.refreshCatalogue(library);
                });
    }

    private void shelved(Arrival arrival, Report.Line line, Optional<Runnable> undo) {
        String place = line.name() + " stands on " + line.shelf()
                + (line.version().equals("v001") ? "" : " as " + line.version());
        arrival.messageProperty().set(place);
        arrival.tickedProperty().set(false);
        arrival.stateProperty().set(Arrival.State.SHELVED);
        report.add(line);
        round.over(arrival);
        session.done("shelved " + place, undo);
    }

    /** Writes the report of all that was shelved and refused, as CSV or HTML. */
    public void saveReport(Path file) {
        session.attempt(() -> {
            String name = target().map(library -> library.info().name()).orElse("no library");
            new Report(name, session.workbench().clock().instant(), report).write(file);
            session.done("saved the report as " + file.getFileName(), Optional.empty());
        });
    }

    /** Takes what is done or refused off the list. */
    public void clearFinished() {
        arrivals.removeIf(
                arrival -> arrival.state() == Arrival.State.SHELVED || arrival.state() == Arrival.State.REFUSED);
        select(arrivals.isEmpty() ? List.of() : List.of(arrivals.getFirst()));
    }

    /** Takes arrivals off the list, whatever they are. */
    public void takeOff(List<Arrival> unwanted) {
        List<Arrival> open = unwanted.stream()
                .filter(arrival -> arrival.state() != Arrival.State.SHELVING)
                .toList();
        open.forEach(round::over);
        arrivals.removeAll(open);
        select(arrivals.isEmpty() ? List.of() : List.of(arrivals.getFirst()));
    }

    // The round, and the drop folder

    /** The files of a round that was interrupted, and that nobody has taken up yet. */
    public List<Origin> interrupted() {
        if (!arrivals.isEmpty()) {
            return List.of();
        }
        return List.copyOf(round.waiting().keySet());
    }

    /** Takes up the round that was interrupted, with the choices made then. */
    public void goOn() {
        Map<Origin, Optional<Slip>> left = round.waiting();
        session.run(
                "looking for what was not finished",
                progress -> {
                    List<Arrival> found = new ArrayList<>();
                    left.forEach((origin, slip) -> {
                        Arrival arrival = round.located(origin, progress);
                        arrival.slipProperty().set(slip);
                        found.add(arrival);
                    });
                    return found;
                },
                fresh -> {
                    arrivals.addAll(fresh);
                    select(fresh.isEmpty() ? List.of() : List.of(fresh.getFirst()));
                    read(fresh);
                });
    }

    /** Forgets the round that was interrupted. */
    public void forgetInterrupted() {
        round.forget();
    }

    /** The folder that is watched. */
    public ObjectProperty<Optional<DropFolder>> dropFolderProperty() {
        return dropFolder;
    }

    /** Watches a folder from now on, instead of the one before; with none, no longer. */
    public void watch(Optional<Path> folder) {
        dropFolder.set(folder.map(DropFolder::new));
        session.done(
                folder.map(f -> "watching " + f.getFileName() + " for arrivals")
                        .orElse("no folder is watched any more"),
                Optional.empty());
    }

    /** Looks whether something has arrived in the watched folder; to be called now and then. */
    public void lookAtDropFolder() {
        Optional<DropFolder> watched = dropFolder.get();
        if (watched.isEmpty() || looking) {
            return;
        }
        looking = true;
        session.quietly(
                "looking into " + watched.get().folder().getFileName(),
                progress -> {
                    try {
                        return watched.get().look();
                    } finally {
                        session.onInterface(() -> looking = false);
                    }
                },
                arrived -> {
                    if (!arrived.isEmpty()) {
                        add(arrived);
                    }
                });
    }
}
