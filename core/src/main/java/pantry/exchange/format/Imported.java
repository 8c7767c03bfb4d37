package pantry.exchange.format;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.FileGate;
import pantry.base.FileStamp;
import pantry.base.IoProblems;
import pantry.model.Axis;
import pantry.model.Facts;
import pantry.model.Model;

/**
 * A file as it was read, in its own unit and axes.
 *
 * @param unit metres per unit, where the file or its format says so
 * @param up the upward axis, where the file or its format says so
 * @param companions other files that belong to it, such as material libraries; textures are not among them
 * @param holds what it is there for
 * @param stamp of the file when it was read; empty where that is not known
 * @param refused other files that it names and that were not read, and why not
 */
public record Imported(
        Path file,
        Model model,
        Optional<Double> unit,
        Optional<Axis> up,
        List<Path> companions,
        Holds holds,
        Optional<FileStamp> stamp,
        List<FileGate.Refusal> refused) {
    /** What a file is there for. */
    public enum Holds {
        MODEL,
        /** Materials without a surface; the model shows each on a ball. */
        MATERIALS,
        /** A single image; the model is a board that shows it. */
        IMAGE
    }

    /** The deepest nesting of objects that is read; sealed layers and the worker's lists hold a few more than twice that. */
    public static final int DEEPEST = 240;

    public Imported {
        companions = List.copyOf(companions);
        refused = List.copyOf(refused);
    }

    public Imported(Path file, Model model, Optional<Double> unit, Optional<Axis> up, List<Path> companions) {
        this(file, model, unit, up, companions, Holds.MODEL);
    }

    public Imported(
            Path file, Model model, Optional<Double> unit, Optional<Axis> up, List<Path> companions, Holds holds) {
        this(file, model, unit, up, companions, holds, Optional.empty(), List.of());
    }

    /** The facts of the file, in its own unit. */
    public Facts facts() {
        return Facts.of(
                file.toString(), model, unit.orElse(0.0), up.map(Axis::name).orElse(""));
    }

    /** The same file with its model changed. */
    public Imported with(Model changed) {
        return new Imported(file, changed, unit, up, companions, holds, stamp, refused);
    }

    public Imported stamped(FileStamp when, List<FileGate.Refusal> refusals) {
        return new Imported(file, model, unit, up, companions, holds, Optional.of(when), refusals);
    }

    /**
     * Makes sure that the file is still the one that was read.
     *
     * @throws ExchangeException where it was changed or removed since
     */
    public void requireUnchanged() {
        try {
            if (stamp.isPresent() && !FileStamp.of(file).equals(stamp.get())) {
                throw new ExchangeException(file, "was changed since it was read; take it in again");
            }
        } catch (IOException e) {
            throw new ExchangeException(file, "is no longer there: " + IoProblems.describe(e), e);
        }
    }
}
