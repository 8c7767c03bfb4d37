package pantry.library;

import java.io.IOException;
import java.net.InetAddress;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.function.Consumer;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.Failures;
import pantry.base.HeldFolder;
import pantry.base.Json;
import pantry.base.Names;
import pantry.base.PantryException;

/**
 * The folder {@code incoming/}, where what is being made is made until it is whole, and where those who need more than
 * one step write down what they intend.
 */
final class Incoming {
    private static final Duration STALE = Duration.ofDays(1);

    /** No small file takes as long to be written. */
    private static final Duration WRITTEN_WITHIN = Duration.ofHours(1);

    private final Path root;
    private final Path incoming;
    private final Consumer<Intent> finisher;

    /**
     * @param root the library's folder
     * @param finisher finishes what somebody who was stopped intended
     */
    Incoming(Path root, Consumer<Intent> finisher) {
        this.root = root;
        this.incoming = root.resolve("incoming");
        this.finisher = finisher;
    }

    /** The folder itself. */
    Path folder() {
        return incoming;
    }

    static String host() {
        try {
            return Names.slug(InetAddress.getLocalHost().getHostName());
        } catch (java.net.UnknownHostException e) {
            return "unknown";
        }
    }

    /** Deletes a folder, of which nothing is left in its place at once. */
    void remove(Path folder) throws IOException {
        try (HeldFolder scratch = newFolder()) {
            AtomicFiles.publishFolder(folder, scratch.path().resolve("removed"));
        }
    }

    /** In a folder in {@code incoming/}: what is being done, so that the next start can finish it. */
    private static final String INTENT = "intent.json";

    /**
     * What is being done.
     *
     * @param from where an asset or shelf stood that is being moved; empty where a card and its ready layer are written
     * @param to where it will stand, or where the card is
     */
    record Intent(String from, String to) {}

    /** Writes an asset's card and ready layer; whoever is stopped between the two leaves a note. */
    void intending(Path asset, LibraryLock.Action<?> action) throws IOException {
        noting(new Intent("", relative(asset)), action);
    }

    /** Moves an asset or a shelf; whoever is stopped in the middle leaves a note. */
    void intendingMove(Path from, Path to, LibraryLock.Action<?> action) throws IOException {
        noting(new Intent(relative(from), relative(to)), action);
    }

    private String relative(Path path) {
        return root.relativize(path).toString().replace('\\', '/');
    }

    private void noting(Intent intent, LibraryLock.Action<?> action) throws IOException {
        HeldFolder.sweep(incoming, this::finishQuietly);
        HeldFolder note = newFolder();
        try {
            AtomicFiles.write(note.path().resolve(INTENT), Json.write(intent));
            action.run();
        } catch (IOException | RuntimeException | Error e) {
            // What fails stays noted, and is finished by whoever changes, checks or opens the library next.
            Failures.cleanUp(e, note::abandon);
            throw e;
        }
        note.close();
    }

    /**
     * Removes what processes that no longer run, or that nobody knows for a day, were building, and finishes what they
     * intended.
     */
    void clear() {
        try {
            HeldFolder.sweep(incoming, this::finishQuietly);
            for (Path folder : unheld()) {
                finishQuietly(folder);
                AtomicFiles.deleteTree(folder);
            }
            for (Path each : List.of(incoming, root.resolve("journal"), root.resolve("reservations"))) {
                for (Path left : AtomicFiles.leftIn(each)) {
                    if (isLeft(left)) {
                        Files.deleteIfExists(left);
                    }
                }
            }
        } catch (IOException e) {
            // A library that cannot be written keeps its rubbish; it can be read all the same.
            return;
        }
    }

    private void finishQuietly(Path folder) throws IOException {
        try {
            Path note = folder.resolve(INTENT);
            if (Files.exists(note)) {
                finisher.accept(Json.read(note, Intent.class));
            }
        } catch (PantryException e) {
            // What cannot be finished is found, and said, by the library's check.
            return;
        }
    }

    /** Folders without a lock, made by an older Pantry, that nobody touched for a day. */
    private List<Path> unheld() throws IOException {
        List<Path> unheld = new ArrayList<>();
        try (Stream<Path> inside = Files.list(incoming)) {
            for (Path each : inside.toList()) {
                if (Files.isDirectory(each, LinkOption.NOFOLLOW_LINKS)
                        && !HeldFolder.isHeldOnce(each)
                        && isOlder(each, STALE)) {
                    unheld.add(each);
                }
            }
        }
        return unheld;
    }

    /** Whether a file that was being written was so long ago that nobody can be writing it any more. */
    boolean isLeft(Path file) throws IOException {
        return isOlder(file, WRITTEN_WITHIN);
    }

    /** By the clock of the machine that keeps the files, whatever the one here says. */
    private boolean isOlder(Path file, Duration age) throws IOException {
        Path probe = Files.createTempFile(incoming, ".now-", "");
        try {
            return Files.getLastModifiedTime(file, LinkOption.NOFOLLOW_LINKS)
                    .toInstant()
                    .isBefore(Files.getLastModifiedTime(probe).toInstant().minus(age));
        } catch (NoSuchFileException e) {
            return false;
        } finally {
            Files.delete(probe);
        }
    }

    /** A new folder in it, which goes with its process. */
    HeldFolder newFolder() throws IOException {
        Files.createDirectories(incoming);
        return HeldFolder.create(
                () -> incoming.resolve(host() + "~" + ProcessHandle.current().pid() + "~" + UUID.randomUUID()));
    }
}
