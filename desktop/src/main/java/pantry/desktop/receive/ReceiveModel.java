package pantry.desktop.receive;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CancellationException;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.beans.Observable;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Failures;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.ArrivalSource;
import pantry.desktop.session.Session;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.FileSeries;
import pantry.exchange.format.TextureSet;
import pantry.intake.Listing;
import pantry.intake.Origin;
import pantry.intake.Report;
import pantry.intake.Slip;
import pantry.intake.Survey;
import pantry.library.Library;
import pantry.workpiece.Workpiece;

/** The state and commands of the Receive workplace. */
public final class ReceiveModel implements ArrivalSource {
    /** Of what came by itself, how many are named. */
    private static final int MOST_TOLD = 3;

    /** Of what is still missing, how much is listed. */
    private static final int MOST_LISTED = 8;

    private final Session session;

    private final ObservableList<Arrival> arrivals = FXCollections.observableArrayList(
            arrival -> new Observable[] {arrival.stateProperty(), arrival.tickedProperty(), arrival.slipProperty()});
    private final ObservableList<Arrival> selection = FXCollections.observableArrayList();
    private final ObjectProperty<Optional<Arrival>> selected = new SimpleObjectProperty<>(Optional.empty());
    private final RoundKeeper round;
    private final ArrivalReader reader;
    private final SlipChoices choices;
    private final ArrivalShelving shelving;
    private final KnownArrivals known;
    private final DropFolderWatch watch;

    public ReceiveModel(Session session) {
        this.session = session;
        this.round = new RoundKeeper(session);
        this.reader = new ArrivalReader(session.workbench());
        this.choices = new SlipChoices(session, arrivals, round, this::target);
        this.shelving = new ArrivalShelving(session, arrivals, choices, round, reader, this::read);
        this.known = new KnownArrivals(session, arrivals, choices, shelving::goOn);
        this.watch = new DropFolderWatch(session, this::addWatched);
        session.shelving().contentsProperty().addListener(change -> known.lookAgain());
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

    /** What is suggested for arrivals, and what is chosen instead. */
    public SlipChoices choices() {
        return choices;
    }

    /** Shelving what is ticked, and the report of it. */
    public ArrivalShelving shelving() {
        return shelving;
    }

    /** The folder that is watched for arrivals. */
    public DropFolderWatch watch() {
        return watch;
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

    @Override
    public Optional<Workpiece.Reading> reading(Path file) {
        return arrivals.stream()
                .filter(arrival -> arrival.file().equals(file))
                .findFirst()
                .flatMap(arrival -> arrival.slipProperty().get())
                .map(slip -> new Workpiece.Reading(slip.factor(), slip.up()));
    }

    /** The library that things go into. */
    @Override
    public Optional<Library> target() {
        return session.shelving().target();
    }

    /** The shelves that things may go onto. */
    public List<String> shelves() {
        return session.shelving().shelves();
    }

    // What comes in

    /** Takes note of files and of the files in folders and archives, chooses the first, and begins to read them. */
    public void add(List<Path> filesAndFolders) {
        add(filesAndFolders, fresh -> select(List.of(fresh.getFirst())));
    }

    /** Takes note of what came by itself: what is chosen stays so, for somebody may be at it. */
    private void addWatched(List<Path> files) {
        add(files, fresh -> {
            if (selection.isEmpty()) {
                select(List.of(fresh.getFirst()));
            }
            session.told(Names.counted(fresh.size(), "file") + " arrived: "
                    + fresh.stream().limit(MOST_TOLD).map(Arrival::name).collect(Collectors.joining(", "))
                    + (fresh.size() > MOST_TOLD ? " …" : ""));
        });
    }

    /** @param then is done with those that were not on the list before */
    private void add(List<Path> filesAndFolders, Consumer<List<Arrival>> then) {
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
                addFiles(plain, filesAndFolders, then);
            }
            archives.forEach(archive -> unpack(archive, then));
        });
    }

    private void unpack(Listing.Entry archive, Consumer<List<Arrival>> then) {
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
                            List.of(file),
                            then);
                },
                problem -> {
                    shelving.report().add(Report.Line.refused(Origin.of(file), problem.reason()));
                    session.wrong(problem);
                });
    }

    private void addFiles(List<Listing.Entry> entries, List<Path> named, Consumer<List<Arrival>> then) {
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
        addFresh(fresh, named, then);
    }

    /** Takes the images of a material, or the files that are one thing, each for itself; the picture of a sky as an image. */
    public void takeApart(Arrival whole) {
        session.run(
                "taking apart " + whole.name(),
                progress -> TextureSet.around(whole.file())
                        .map(TextureSet::files)
                        .or(() -> FileSeries.around(whole.file()).map(FileSeries::files))
                        .orElseGet(() -> List.of(whole.file())),
                files -> {
                    takeOff(List.of(whole));
                    List<Arrival> each = files.stream()
                            .map(file -> Arrival.ofFileAlone(file, whole.root()))
                            .toList();
                    addFresh(each, files, fresh -> select(List.of(fresh.getFirst())));
                });
    }

    private void addFresh(List<Arrival> fresh, List<Path> named, Consumer<List<Arrival>> then) {
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
        then.accept(fresh);
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
        session.onInterface(() -> arrival.move(Arrival.State.WAITING, Arrival.State.READING));
        try {
            ArrivalReader.Found found = reader.survey(arrival, progress);
            session.onInterface(() -> surveyed(arrival, found));
        } catch (CancellationException e) {
            session.onInterface(() -> {
                arrival.move(Arrival.State.READING, Arrival.State.WAITING);
                shelving.giveUp();
            });
            throw e;
        } catch (RuntimeException | Error e) {
            PantryException problem = Failures.of(arrival.file(), e);
            session.onInterface(() -> shelving.refuse(arrival, problem));
        }
    }

    private void surveyed(Arrival arrival, ArrivalReader.Found found) {
        Survey survey = found.survey();
        arrival.setPicture(found.picture());
        boolean first = arrival.surveyProperty().get().isEmpty();
        boolean lacked = !arrival.missing().isEmpty();
        arrival.surveyProperty().set(Optional.of(survey));
        if (lacked && arrival.missing().isEmpty()) {
            arrival.putRight();
        }
        if (first && arrival.slipProperty().get().isEmpty()) {
            arrival.slipProperty().set(Optional.of(choices.suggested(survey.outline())));
        }
        if (arrival.state() == Arrival.State.WAITING || arrival.state() == Arrival.State.READING) {
            arrival.stateProperty().set(Arrival.State.READY);
        }
        known.look(arrival);
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
        known.look(arrival);
    }

    /** Changes the slip of all that are chosen in the list. */
    public void changeChosen(UnaryOperator<Slip> change) {
        List.copyOf(selection).forEach(arrival -> choices.change(arrival, change));
    }

    // Textures

    /** Looks in a folder for the textures that arrivals lack. */
    public void findTextures(Path folder) {
        List<Arrival> lacking = arrivals.stream()
                .filter(arrival -> arrival.isOpen() && !arrival.missing().isEmpty())
                .toList();
        long before =
                lacking.stream().mapToLong(arrival -> arrival.missing().size()).sum();
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
                count -> told(lacking, before, folder));
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
                count -> session.told("files may name others in " + folder));
    }

    /** @param before how many images were missing */
    private void told(List<Arrival> lacking, long before, Path folder) {
        List<String> still = lacking.stream()
                .flatMap(arrival -> arrival.missing().stream().map(image -> image + " (" + arrival.name() + ")"))
                .toList();
        String found = "found " + (before - still.size()) + " of " + Names.counted(before, "texture");
        if (still.isEmpty()) {
            session.told(found + " in " + folder.getFileName());
        } else {
            session.wrong(new PantryException(
                    folder,
                    found + "; still missing: "
                            + still.stream().limit(MOST_LISTED).collect(Collectors.joining(", "))
                            + (still.size() > MOST_LISTED ? " and " + (still.size() - MOST_LISTED) + " more" : "")));
        }
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

    // The round

    /** The files of a round that was interrupted, and that nobody has taken up yet. */
    public List<Origin> interrupted() {
        return arrivals.isEmpty() ? List.copyOf(round.waitingProperty().get().keySet()) : List.of();
    }

    /** What of the round waits to be finished, with the choices made so far. */
    ReadOnlyObjectProperty<Map<Origin, Optional<Slip>>> unfinished() {
        return round.waitingProperty();
    }

    /** Takes up the round that was interrupted, with the choices made then. */
    public void goOn() {
        Map<Origin, Optional<Slip>> left = round.waitingProperty().get();
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
}
