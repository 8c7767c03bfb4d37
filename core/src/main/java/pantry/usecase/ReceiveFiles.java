package pantry.usecase;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Function;
import pantry.base.Failures;
import pantry.base.PantryException;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.intake.ArrivalSummary;
import pantry.intake.Intake;
import pantry.intake.Origin;
import pantry.intake.Report;
import pantry.intake.Slip;
import pantry.intake.UnpackedArchives;
import pantry.library.Library;
import pantry.library.Published;

/**
 * Receives a batch of files into a library: each is read, and shelved as its slip says. Several are worked on at once; a
 * file that fails is refused, and the others go on.
 */
public final class ReceiveFiles {
    /** How many files are worked on at once: more than there are cores, since sealing waits for the disk. */
    public static final int AT_ONCE = 2 * Runtime.getRuntime().availableProcessors();

    private final Intake intake;
    private final UnpackedArchives archives;

    /** @param archives tells where unpacked files come from */
    public ReceiveFiles(Intake intake, UnpackedArchives archives) {
        this.intake = intake;
        this.archives = archives;
    }

    /**
     * A file of the batch.
     *
     * @param read reads it, or gives what was read of it before
     * @param slip the choices for what was read
     * @param known why what was read need not be taken in, for a person; empty where it is to be
     */
    public record Entry(
            Path file,
            Function<Progress, Imported> read,
            Function<ArrivalSummary, Slip> slip,
            Function<Imported, Optional<String>> known) {
        /** A file that is taken in whether it is known or not. */
        public Entry(Path file, Function<Progress, Imported> read, Function<ArrivalSummary, Slip> slip) {
            this(file, read, slip, arrival -> Optional.empty());
        }
    }

    /** What became of a file. */
    public sealed interface Outcome {
        Entry entry();

        Origin origin();

        /** For the report of the batch. */
        Report.Line line();
    }

    /**
     * A file that stands on a shelf now.
     *
     * @param error how far surfaces were moved by leaving triangles out, at most, metres
     * @param lost what the slip's choices cost a file that has more than surfaces
     */
    public record Received(
            Entry entry, Origin origin, Slip slip, Published published, double error, Optional<String> lost)
            implements Outcome {
        @Override
        public Report.Line line() {
            List<String> notes = new ArrayList<>();
            if (slip.versionOf().isPresent()) {
                notes.add("as its next version");
            }
            if (error > 0) {
                notes.add(String.format(Locale.ROOT, "reduced, error %.3g m", error));
            }
            lost.ifPresent(notes::add);
            return Report.Line.shelved(origin, published, slip.factor(), String.join("; ", notes));
        }
    }

    /**
     * A file that was left out, since it is known.
     *
     * @param why for a person
     */
    public record LeftOut(Entry entry, Origin origin, String why) implements Outcome {
        @Override
        public Report.Line line() {
            return Report.Line.leftOut(origin, why);
        }
    }

    /** A file that could not be taken in. */
    public record Refused(Entry entry, Origin origin, PantryException problem) implements Outcome {
        @Override
        public Report.Line line() {
            return Report.Line.refused(origin, problem.reason());
        }
    }

    /** Told of each file once it is over, on the thread that worked on it. */
    @FunctionalInterface
    public interface Listener {
        void over(Outcome outcome);
    }

    /**
     * Receives files, on all cores.
     *
     * @param progress whose cancelling lets those that are being worked on end, and begins no more
     * @return what became of each, in the order of the files
     * @throws CancellationException where it was cancelled; what is shelved by then stays
     */
    public List<Outcome> run(List<Entry> files, Library library, Listener listener, Progress progress) {
        AtomicInteger over = new AtomicInteger();
        return Parallel.map(files, AT_ONCE, entry -> {
            progress.check();
            Outcome outcome = one(entry, library, progress);
            listener.over(outcome);
            int number = over.incrementAndGet();
            progress.step(
                    number + " of " + files.size() + ", " + entry.file().getFileName(), (double) number / files.size());
            return outcome;
        });
    }

    private Outcome one(Entry entry, Library library, Progress progress) {
        Progress silent = progress.withoutSteps();
        try {
            Imported read = entry.read().apply(silent);
            Optional<String> known = entry.known().apply(read);
            if (known.isPresent()) {
                return new LeftOut(entry, archives.origin(entry.file()), known.get());
            }
            ArrivalSummary summary = ArrivalSummary.of(read);
            Slip slip = entry.slip().apply(summary);
            Optional<String> lost = Intake.lostStructure(summary, slip);
            Intake.Shelved shelved = intake.shelve(read, slip, library, silent);
            return new Received(entry, archives.origin(entry.file()), slip, shelved.published(), shelved.error(), lost);
        } catch (CancellationException e) {
            throw e;
        } catch (RuntimeException | Error e) {
            return new Refused(entry, archives.origin(entry.file()), archives.told(Failures.of(entry.file(), e)));
        }
    }
}
