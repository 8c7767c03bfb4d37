package pantry.scene;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.FileStamp;
import pantry.base.IoProblems;
import pantry.base.Names;

/**
 * What lies beside a scene's file so that nothing is lost: what was not saved yet, and the last states that were saved
 * over. Both are scenes by themselves, with names that begin with a point.
 */
public final class Safekeeping {
    /** So many saved states are kept. */
    public static final int LAST = 5;

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

    /** What a crash left: an autosave that is later than the scene's file. */
    public static Optional<Path> left(Path scene) {
        Path kept = autosaved(scene);
        try {
            boolean later = Files.isRegularFile(kept)
                    && Files.isRegularFile(scene)
                    && Files.getLastModifiedTime(kept).compareTo(Files.getLastModifiedTime(scene)) >= 0;
            return later ? Optional.of(kept) : Optional.empty();
        } catch (IOException e) {
            throw new SceneException(kept, "cannot be looked at: " + IoProblems.describe(e));
        }
    }

    /** Lets what was not saved go. */
    public static void forget(Path scene) {
        try {
            Files.deleteIfExists(autosaved(scene));
        } catch (IOException e) {
            throw new SceneException(autosaved(scene), "cannot be removed: " + IoProblems.describe(e));
        }
    }

    /** The states that were saved over, the latest first. */
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

    /** Keeps a copy of a file that is about to be saved over; of more than {@link #LAST} the earliest goes. */
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
            for (Path old : all.subList(Math.min(LAST, all.size()), all.size())) {
                Files.delete(old);
            }
        } catch (IOException e) {
            throw new SceneException(scene, "could not be kept before it is saved over: " + IoProblems.describe(e));
        }
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
