package pantry.desktop.receive;

import java.nio.file.Path;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Publications;
import pantry.desktop.session.Session;
import pantry.desktop.session.UndoableWork;
import pantry.intake.Report;
import pantry.intake.Slip;
import pantry.library.Library;
import pantry.library.Shelf;
import pantry.usecase.ReceiveFiles;

/** Shelves what is ticked, takes it back, and reports both. */
public final class ArrivalShelving {
    private final Session session;
    private final ObservableList<Arrival> arrivals;
    private final SlipChoices choices;
    private final RoundKeeper round;
    private final ArrivalReader reader;
    private final Consumer<List<Arrival>> readFirst;
    private final ObservableList<Report.Line> report = FXCollections.observableArrayList();

    /** What is to be shelved once all of it was read and looked for on the shelves. */
    private Optional<List<Arrival>> asked = Optional.empty();

    /** @param readFirst begins to read arrivals that were not read yet, which ends with {@link #goOn} */
    ArrivalShelving(
            Session session,
            ObservableList<Arrival> arrivals,
            SlipChoices choices,
            RoundKeeper round,
            ArrivalReader reader,
            Consumer<List<Arrival>> readFirst) {
        this.session = session;
        this.arrivals = arrivals;
        this.choices = choices;
        this.round = round;
        this.reader = reader;
        this.readFirst = readFirst;
        arrivals.addListener((InvalidationListener) change -> goOn());
    }

    /** What was shelved and what was refused, the newest last. */
    public ObservableList<Report.Line> report() {
        return report;
    }

    /** The arrivals that {@link #shelve} would take; those not yet read are read first. */
    public List<Arrival> ready() {
        return arrivals.stream()
                .filter(arrival -> arrival.tickedProperty().get() && arrival.isOpen())
                .toList();
    }

    /** How many of {@link #ready} will be refused as they stand: they lack textures, and nobody has said that this may be. */
    public int lacking() {
        return (int) ready().stream()
                .filter(arrival -> !arrival.missing().isEmpty()
                        && !arrival.slipProperty().get().map(Slip::allowMissing).orElse(false))
                .count();
    }

    /**
     * Shelves every ticked arrival, several at once. What was not read yet is read first, and left out where the same
     * stands on a shelf already: all of them then make one round.
     */
    public void shelve() {
        List<Arrival> taken = ready();
        if (taken.isEmpty()) {
            session.told("no arrival is ticked that could be shelved");
            return;
        }
        List<Arrival> unknown =
                taken.stream().filter(arrival -> !arrival.isJudged()).toList();
        if (unknown.isEmpty()) {
            shelve(taken);
            return;
        }
        asked = Optional.of(taken);
        session.told(Names.counted(taken.size(), "arrival") + " will be shelved once all of them are read");
        List<Arrival> waiting = unknown.stream()
                .filter(arrival -> arrival.state() == Arrival.State.WAITING)
                .toList();
        if (!waiting.isEmpty()) {
            readFirst.accept(waiting);
        }
    }

    /** Shelves what was asked for, once all of it is known. */
    void goOn() {
        List<Arrival> taken = asked.orElse(List.of()).stream()
                .filter(arrival -> arrivals.contains(arrival) && arrival.isOpen())
                .toList();
        if (asked.isPresent() && taken.stream().allMatch(Arrival::isJudged)) {
            asked = Optional.empty();
            shelve(taken.stream()
                    .filter(arrival -> arrival.tickedProperty().get())
                    .toList());
        }
    }

    /** Forgets what was to be shelved, as where its reading was cancelled. */
    void giveUp() {
        asked = Optional.empty();
    }

    private void shelve(List<Arrival> taken) {
        Optional<Library> library = choices.target();
        if (library.isEmpty()) {
            session.wrong(new PantryException("no library is open that can be written; open or make one first"));
            return;
        }
        if (taken.isEmpty()) {
            return;
        }
        taken.forEach(arrival -> arrival.stateProperty().set(Arrival.State.SHELVING));
        List<ReceiveFiles.Entry> entries = taken.stream().map(this::entry).toList();
        String what =
                taken.size() == 1 ? "shelving " + taken.getFirst().name() : "shelving " + taken.size() + " arrivals";
        session.shelving()
                .change(
                        what,
                        Libraries.Touched.all(library.get()),
                        progress -> {
                            shelveAll(taken, entries, library.get(), progress);
                            return taken;
                        },
                        done -> {},
                        session::wrong);
    }

    /** Shelves on all cores, in the background; each is told on the interface's thread. */
    private void shelveAll(List<Arrival> taken, List<ReceiveFiles.Entry> entries, Library library, Progress progress) {
        Map<Path, Arrival> byFile = new LinkedHashMap<>();
        taken.forEach(arrival -> byFile.put(arrival.file(), arrival));
        Set<Arrival> left = ConcurrentHashMap.newKeySet();
        left.addAll(taken);
        List<Shelved> shelved = new CopyOnWriteArrayList<>();
        Set<String> shelves = new HashSet<>();
        try {
            shelves.addAll(library.shelves());
            new ReceiveFiles(session.workbench().intake(), session.workbench().archives())
                    .run(
                            entries,
                            library,
                            outcome -> {
                                Arrival arrival = byFile.get(outcome.entry().file());
                                left.remove(arrival);
                                Report.Line line = outcome.line();
                                session.onInterface(
                                        () -> over(arrival, outcome, line).ifPresent(shelved::add));
                            },
                            progress);
        } finally {
            // Whatever ends a round, nothing is left being shelved.
            session.onInterface(() -> {
                left.forEach(arrival -> arrival.move(Arrival.State.SHELVING, open(arrival)));
                tell(library, List.copyOf(shelved), shelves, taken.size() - left.size() - shelved.size());
            });
        }
    }

    /** What nobody has looked at before goes where new arrivals go. */
    private ReceiveFiles.Entry entry(Arrival arrival) {
        Optional<Slip> chosen = arrival.slipProperty().get();
        return new ReceiveFiles.Entry(arrival.file(), progress -> reader.load(arrival, progress), summary -> {
            Slip slip = chosen.orElseGet(() -> choices.suggested(summary));
            return slip.withShelf(Shelf.path(slip.shelf()));
        });
    }

    /** The state of an arrival that can be shelved. */
    private static Arrival.State open(Arrival arrival) {
        return arrival.surveyProperty().get().isPresent() ? Arrival.State.READY : Arrival.State.WAITING;
    }

    /** An arrival that stands on a shelf now, with its line of the report. */
    private record Shelved(Arrival arrival, ReceiveFiles.Received received, Report.Line line) {
        String text() {
            return line.name() + " on " + line.shelf() + (line.version().equals("v001") ? "" : " as " + line.version());
        }

        Publications.Part part(Library library, Set<String> shelves) {
            return received.slip().versionOf().isEmpty()
                    ? Publications.ofAsset(library, received.published().asset(), shelves)
                    : Publications.ofVersion(library, received.published());
        }
    }

    private Optional<Shelved> over(Arrival arrival, ReceiveFiles.Outcome outcome, Report.Line line) {
        switch (outcome) {
            case ReceiveFiles.Received received -> {
                Shelved shelved = new Shelved(arrival, received, line);
                stands(shelved);
                return Optional.of(shelved);
            }
            case ReceiveFiles.LeftOut leftOut ->
                throw new IllegalStateException("what is known was unticked before: " + leftOut.why());
            case ReceiveFiles.Refused refused -> {
                refuse(arrival, refused.problem());
                // It can be put right and tried again.
                arrival.stateProperty()
                        .set(arrival.surveyProperty().get().isPresent() ? Arrival.State.READY : Arrival.State.REFUSED);
                round.arrived(List.of(arrival));
                return Optional.empty();
            }
        }
    }

    private void stands(Shelved shelved) {
        Arrival arrival = shelved.arrival();
        arrival.messageProperty().set("shelved: " + shelved.text());
        arrival.tickedProperty().set(false);
        arrival.stateProperty().set(Arrival.State.SHELVED);
        report.add(shelved.line());
        round.over(arrival);
    }

    /**
     * One line for all that was shelved together.
     *
     * @param refused how many were refused beside them
     */
    private void tell(Library library, List<Shelved> shelved, Set<String> shelves, int refused) {
        if (shelved.isEmpty()) {
            return;
        }
        List<Publications.Part> parts =
                shelved.stream().map(each -> each.part(library, shelves)).toList();
        boolean one = shelved.size() == 1;
        String what = one ? shelved.getFirst().line().name() : shelved.size() + " arrivals";
        UndoableWork<List<Publications.Part>> work = new Publications(session)
                .together("shelving " + what, Libraries.Touched.all(library), parts)
                .after(same -> shelved.forEach(this::stands))
                .afterUndo(same -> shelved.forEach(this::waits));
        String others = refused == 0 ? "" : "; " + refused + (refused == 1 ? " was" : " were") + " refused";
        session.done(
                "shelved " + (one ? shelved.getFirst().text() : what) + others,
                one ? List.of() : shelved.stream().map(Shelved::text).toList(),
                work.done(session, parts));
    }

    /** It is off its shelf again, and waits as before. */
    private void waits(Shelved shelved) {
        Arrival arrival = shelved.arrival();
        arrival.messageProperty().set("");
        arrival.stateProperty().set(open(arrival));
        arrival.tickedProperty().set(true);
        report.remove(shelved.line());
        if (!arrivals.contains(arrival)) {
            arrivals.add(arrival);
        }
        round.arrived(List.of(arrival));
    }

    /** Says of an arrival that it cannot be taken, and why. */
    void refuse(Arrival arrival, PantryException problem) {
        arrival.messageProperty().set(problem.reason());
        arrival.stateProperty().set(Arrival.State.REFUSED);
        arrival.tickedProperty().set(false);
        report.add(Report.Line.refused(round.origin(arrival), problem.reason()));
        round.over(arrival);
        session.wrong(problem);
        goOn();
    }

    /** Writes the report of all that was shelved and refused, as CSV or HTML. */
    public void saveReport(Path file) {
        session.attempt(() -> {
            String name = choices.target().map(library -> library.info().name()).orElse("no library");
            new Report(name, session.workbench().clock().instant(), report).write(file);
            session.told("saved the report as " + file.getFileName());
        });
    }
}
