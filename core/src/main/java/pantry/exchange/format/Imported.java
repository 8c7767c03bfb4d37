package pantry.exchange.format;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
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
 * @param series what is the same thing in other files; of them, {@code model} is the usual one
 */
public record Imported(
        Path file,
        Model model,
        Optional<Double> unit,
        Optional<Axis> up,
        List<Path> companions,
        Holds holds,
        Optional<FileStamp> stamp,
        List<FileGate.Refusal> refused,
        Optional<Series> series) {
    /**
     * The same thing in other states or at other levels of detail.
     *
     * @param set of variants that they become
     * @param title what all are called
     * @param own the name of the file's own variant
     * @param others the others by their names, in the file's unit and axes
     */
    public record Series(String set, String title, String own, Map<String, Model> others) {
        public Series {
            others = java.util.Collections.unmodifiableMap(new LinkedHashMap<>(others));
        }

        /** The same with the others changed. */
        public Series with(UnaryOperator<Model> change) {
            Map<String, Model> changed = new LinkedHashMap<>();
            others.forEach((name, model) -> changed.put(name, change.apply(model)));
            return new Series(set, title, own, changed);
        }

        /** All names, the file's own first. */
        public List<String> names() {
            return Stream.concat(Stream.of(own), others.keySet().stream()).toList();
        }
    }

    /** What a file is there for. */
    public enum Holds {
        MODEL,
        /** Materials without a surface; the model shows each on a ball. */
        MATERIALS,
        /** A graph of nodes for materials to use; the model shows it on a ball. */
        PART,
        /** Lights and cameras without a surface; the model shows each by a small body. */
        FIXTURES,
        /** Motions of a skeleton without a surface; the model shows its bones. */
        MOTIONS,
        /** A single image; the model is a board that shows it. */
        IMAGE;

        /** Whether the model has {@link Samples} of what has no surface of its own. */
        public boolean isShownBySamples() {
            return switch (this) {
                case MATERIALS, PART, FIXTURES, MOTIONS -> true;
                case MODEL, IMAGE -> false;
            };
        }
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
        this(file, model, unit, up, companions, holds, Optional.empty(), List.of(), Optional.empty());
    }

    /** The facts of the file, in its own unit. */
    public Facts facts() {
        Model counted = holds.isShownBySamples() ? SampleNodes.without(model) : model;
        return Facts.of(
                file.toString(),
                model,
                counted,
                unit.orElse(0.0),
                up.map(Axis::name).orElse(""));
    }

    /** The same file with its model changed. */
    public Imported with(Model changed) {
        return new Imported(file, changed, unit, up, companions, holds, stamp, refused, series);
    }

    /**
     * The same file with others that are the same thing.
     *
     * @param files theirs
     * @param refusals of what they name
     */
    public Imported with(Series others, List<Path> files, List<FileGate.Refusal> refusals) {
        List<Path> all = new ArrayList<>(companions);
        all.addAll(files);
        return new Imported(file, model, unit, up, all, holds, stamp, refusals, Optional.of(others));
    }

    /** The same file with its model changed, and with it the same thing in other files. */
    public Imported withEach(UnaryOperator<Model> change) {
        return new Imported(
                file,
                change.apply(model),
                unit,
                up,
                companions,
                holds,
                stamp,
                refused,
                series.map(others -> others.with(change)));
    }

    /** Whether it comes with its own levels of detail, so that none are made of it. */
    public boolean hasLevels() {
        return series.filter(others -> others.set().equals(FileSeries.DETAIL)).isPresent();
    }

    /** All that was read: the model, and the same thing in other files. */
    public List<Model> models() {
        return Stream.concat(Stream.of(model), series.stream().flatMap(others -> others.others().values().stream()))
                .toList();
    }

    public Imported stamped(FileStamp when, List<FileGate.Refusal> refusals) {
        return new Imported(file, model, unit, up, companions, holds, Optional.of(when), refusals, series);
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
