package pantry.intake;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;

/**
 * A round of receiving, written down as it goes, so that it can go on after an interruption. One line of JSON is added
 * for each step; a line that was cut off by the interruption does not count. The file goes when the round is over.
 *
 * <p>Safe for use by several threads.
 */
public final class Round {
    private final Path file;
    private final Map<Origin, @Nullable Slip> waiting = new LinkedHashMap<>();

    /** A line of the file: what arrived, with its choices once there are some; or, with {@code done}, what is over. */
    private record Step(String arrival, @Nullable Slip slip, boolean done) {}

    private Round(Path file) {
        this.file = file;
    }

    /**
     * Opens a round that was interrupted, or begins one.
     *
     * @param file where it is written down
     * @throws IntakeException where the file cannot be read
     */
    public static Round open(Path file) {
        Round round = new Round(file);
        if (Files.exists(file)) {
            try {
                for (String line : Files.readAllLines(file, StandardCharsets.UTF_8)) {
                    round.replay(line);
                }
            } catch (IOException e) {
                throw new IntakeException(file, "the interrupted round cannot be read: " + IoProblems.describe(e), e);
            }
        }
        return round;
    }

    private void replay(String line) {
        try {
            Step step = Json.read(line, file.toString(), Step.class);
            if (step.done()) {
                waiting.remove(Origin.parse(step.arrival()));
            } else {
                waiting.put(Origin.parse(step.arrival()), step.slip());
            }
        } catch (PantryException | java.nio.file.InvalidPathException e) {
            // The line that was being written when everything stopped.
        }
    }

    /** What was not finished, in the order of arrival, with the choices made so far. */
    public synchronized Map<Origin, Optional<Slip>> waiting() {
        Map<Origin, Optional<Slip>> copy = new LinkedHashMap<>();
        waiting.forEach((arrival, slip) -> copy.put(arrival, Optional.ofNullable(slip)));
        return copy;
    }

    /** Something arrived. */
    public synchronized void arrived(List<Origin> arrivals) {
        List<Step> steps = new ArrayList<>();
        for (Origin arrival : arrivals) {
            if (!waiting.containsKey(arrival)) {
                waiting.put(arrival, null);
                steps.add(new Step(arrival.toString(), null, false));
            }
        }
        append(steps);
    }

    /** Choices were made for an arrival. */
    public synchronized void chosen(Origin arrival, Slip slip) {
        if (waiting.containsKey(arrival) && !slip.equals(waiting.get(arrival))) {
            waiting.put(arrival, slip);
            append(List.of(new Step(arrival.toString(), slip, false)));
        }
    }

    /**
     * An arrival was shelved, refused, or taken off the list.
     *
     * @throws IntakeException where the finished round cannot be removed
     */
    public synchronized void over(Origin arrival) {
        if (!waiting.containsKey(arrival)) {
            return;
        }
        waiting.remove(arrival);
        if (!waiting.isEmpty()) {
            append(List.of(new Step(arrival.toString(), null, true)));
            return;
        }
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw new IntakeException(file, "the finished round cannot be removed: " + IoProblems.describe(e), e);
        }
    }

    private void append(List<Step> steps) {
        StringBuilder lines = new StringBuilder();
        steps.forEach(step -> lines.append(Json.line(step)).append('\n'));
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            Files.writeString(file, lines, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
        } catch (IOException e) {
            throw new IntakeException(file, "the round cannot be written down: " + IoProblems.describe(e), e);
        }
    }
}
