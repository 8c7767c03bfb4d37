package pantry.scene;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.FileStamp;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;

/**
 * What lies beside a scene's file so that nothing is lost: what was not saved yet, and the last states that were saved
 * over. Both are scenes by themselves, with names that begin with a point.
 */
public final class Safekeeping {
    /** So many saved states are kept, whenever they were. */
    static final int LAST = 5;

    /** Of what was saved since so long, all states are kept. */
    private static final Duration RECENT = Duration.ofMinutes(15);

    private static final Duration HOURLY = Duration.ofDays(1);
    private static final Duration DAILY = Duration.ofDays(30);

    /** However quickly they follow each other, no more. */
    private static final int MOST = 60;

    private static final int MOST_TOLD = 20;

    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmssSSS'Z'").withZone(ZoneOffset.UTC);

    private Safekeeping() {}

    /** The file that holds what was not saved; it need not be there. */
    public static Path autosaved(Path scene) {
        return scene.resolveSibling("." + stem(scene) + ".unsaved.usda");
    }

    private static String stem(Path scene) {
        return Names.stem(scene.getFileName().toString());
    }

    /**
     * What was not saved.
     *
     * @param file the scene as it was then
     * @param when it was written
     * @param actions what was done since the scene had been saved, the last first; for a person
     */
    public record Unsaved(Path file, Instant when, List<String> actions) {
        public Unsaved {
            actions = List.copyOf(actions);
        }
    }

    private record Told(List<String> actions) {}

    /** Beside what was not saved, what it holds. */
    private static Path told(Path scene) {
        return scene.resolveSibling("." + stem(scene) + ".unsaved.json");
    }

    static void tell(Path scene, List<String> actions) {
        try {
            AtomicFiles.write(
                    told(scene),
                    Json.write(new Told(actions.stream().limit(MOST_TOLD).toList())));
        } catch (IOException e) {
            throw new SceneException(told(scene), "cannot be written: " + IoProblems.describe(e));
        }
    }

    /**
     * What a crash left: an autosave that is later than the scene's file.
     *
     * @throws SceneException where the files cannot be looked at
     */
    public static Optional<Unsaved> left(Path scene) {
        Path kept = autosaved(scene);
        try {
            boolean later = Files.isRegularFile(kept)
                    && Files.isRegularFile(scene)
                    && Files.getLastModifiedTime(kept).compareTo(Files.getLastModifiedTime(scene)) >= 0;
            return later
                    ? Optional.of(
                            new Unsaved(kept, Files.getLastModifiedTime(kept).toInstant(), actions(scene)))
                    : Optional.empty();
        } catch (IOException e) {
            throw new SceneException(kept, "cannot be looked at: " + IoProblems.describe(e));
        }
    }

    private static List<String> actions(Path scene) {
        try {
            return Files.exists(told(scene))
                    ? Json.read(told(scene), Told.class).actions()
                    : List.of();
        } catch (PantryException e) {
            // What is not saved counts, not what is said of it.
            return List.of();
        }
    }

    /**
     * Lets what was not saved go.
     *
     * @throws SceneException where it cannot be removed
     */
    public static void forget(Path scene) {
        try {
            Files.deleteIfExists(autosaved(scene));
            Files.deleteIfExists(told(scene));
        } catch (IOException e) {
            throw new SceneException(autosaved(scene), "cannot be removed: " + IoProblems.describe(e));
        }
    }

    /**
     * The states that were saved over, the latest first.
     *
     * @throws SceneException where the folder cannot be listed
     */
    public static List<Path> before(Path scene) {
        String begin = "." + stem(scene) + ".before-";
        Path folder = Optional.ofNullable(scene.toAbsolutePath().getParent()).orElseThrow();
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.getFileName().toString().startsWith(begin))
                    .sorted(Comparator.reverseOrder())
                    .toList();
        } catch (IOException e) {
            throw new SceneException(folder, "cannot be listed: " + IoProblems.describe(e));
        }
    }

    /** Keeps a copy of a file that is about to be saved over, and removes those that {@link #superfluous} tells. */
    static void keepBefore(Path scene) {
        if (!Files.isRegularFile(scene)) {
            return;
        }
        String name = scene.getFileName().toString();
        try {
            String time = TIME.format(Files.getLastModifiedTime(scene).toInstant());
            Path kept = scene.resolveSibling("." + stem(scene) + ".before-" + time + "." + Names.ending(name));
            Files.deleteIfExists(kept);
            Files.copy(scene, kept);
            List<Path> all = before(scene);
            List<Instant> times = new ArrayList<>();
            for (Path each : all) {
                times.add(time(scene, each));
            }
            for (int old : superfluous(times, Instant.now())) {
                Files.delete(all.get(old));
            }
        } catch (IOException e) {
            throw new SceneException(scene, "could not be kept before it is saved over: " + IoProblems.describe(e));
        }
    }

    private static Instant time(Path scene, Path kept) {
        String name = Names.stem(kept.getFileName().toString());
        try {
            return TIME.parse(name.substring(("." + stem(scene) + ".before-").length()), Instant::from);
        } catch (DateTimeException | StringIndexOutOfBoundsException e) {
            return Instant.EPOCH;
        }
    }

    /**
     * Which of the states that were saved over need not be kept. Of the last quarter of an hour all are kept, of the last day
     * the first of each hour, of the last month the first of each day; and the last five in any case.
     *
     * @param times of the states, the latest first
     * @return their numbers
     */
    static List<Integer> superfluous(List<Instant> times, Instant now) {
        List<Integer> superfluous = new ArrayList<>();
        for (int i = LAST; i < times.size(); i++) {
            Duration age = Duration.between(times.get(i), now);
            boolean kept;
            if (age.compareTo(RECENT) <= 0) {
                kept = i < MOST;
            } else if (age.compareTo(HOURLY) <= 0) {
                kept = isFirst(times, i, ChronoUnit.HOURS);
            } else {
                kept = age.compareTo(DAILY) <= 0 && isFirst(times, i, ChronoUnit.DAYS);
            }
            if (!kept) {
                superfluous.add(i);
            }
        }
        return superfluous;
    }

    /** Whether the one before a state is of another hour or day. */
    private static boolean isFirst(List<Instant> times, int at, ChronoUnit unit) {
        return at + 1 == times.size()
                || !times.get(at + 1).truncatedTo(unit).equals(times.get(at).truncatedTo(unit));
    }

    /** What tells a file from another of its name; empty where there is none. */
    static Optional<FileStamp> stamp(Path scene) {
        try {
            return Optional.of(FileStamp.of(scene));
        } catch (NoSuchFileException e) {
            return Optional.empty();
        } catch (IOException e) {
            throw new SceneException(scene, "cannot be looked at: " + IoProblems.describe(e));
        }
    }
}
