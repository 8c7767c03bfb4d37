package pantry.base;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.NoSuchFileException;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;

/**
 * A folder that somebody works in, which is told by a lock on a file beside it. The lock ends with its process however
 * that ends, and means the same on every machine that shares the folder: neither names, process numbers nor clocks
 * decide whether the folder is abandoned.
 *
 * <p>The lock is there before the folder and goes after it, so that at no moment there is a folder of which nobody knows
 * whose it is.
 */
public final class HeldFolder implements AutoCloseable {
    private static final String LOCK = ".held";

    private final Path path;
    private final Hold hold;

    private HeldFolder(Path path, Hold hold) {
        this.path = path;
        this.hold = hold;
    }

    /**
     * A lock of this process. POSIX lets go of a lock as soon as the process closes any channel of its file (fcntl(2)), so
     * no file whose lock this process has is opened a second time.
     */
    private record Hold(Path file, FileChannel channel) {
        /** Those of this process; guards opening and closing them too. */
        private static final Set<Path> ALL = new HashSet<>();

        /** Makes a file and locks it; empty where another process was quicker with the lock. */
        static Optional<Hold> make(Path lock) throws IOException {
            return of(lock, true, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        }

        /** Locks a file that is there; empty where this process or another one has it. */
        static Optional<Hold> take(Path lock) throws IOException {
            return of(lock, false, StandardOpenOption.WRITE);
        }

        /** @param withoutLocks whether the file counts as locked in a place that has no locks */
        private static Optional<Hold> of(Path lock, boolean withoutLocks, OpenOption... options) throws IOException {
            Path file = lock.toAbsolutePath().getParent().toRealPath().resolve(lock.getFileName());
            synchronized (ALL) {
                if (ALL.contains(file)) {
                    return Optional.empty();
                }
                FileChannel channel = FileChannel.open(lock, options);
                if (!isLocked(channel, withoutLocks)) {
                    channel.close();
                    return Optional.empty();
                }
                ALL.add(file);
                return Optional.of(new Hold(file, channel));
            }
        }

        private static boolean isLocked(FileChannel channel, boolean withoutLocks) {
            try {
                return channel.tryLock() != null;
            } catch (IOException e) {
                return withoutLocks;
            }
        }

        void release() throws IOException {
            synchronized (ALL) {
                ALL.remove(file);
                channel.close();
            }
        }
    }

    /**
     * Makes a folder and holds it.
     *
     * @param names gives a new place each time it is asked
     */
    public static HeldFolder create(Supplier<Path> names, FileAttribute<?>... attributes) throws IOException {
        while (true) {
            Path folder = names.get();
            Path lock = lockOf(folder);
            Optional<Hold> hold = Hold.make(lock);
            if (hold.isEmpty()) {
                continue;
            }
            try {
                // Whoever sweeps may have been quicker, and has removed it.
                if (Files.exists(lock)) {
                    return new HeldFolder(Files.createDirectory(folder, attributes), hold.get());
                }
            } catch (IOException e) {
                Failures.cleanUp(e, hold.get()::release);
                throw e;
            }
            hold.get().release();
        }
    }

    private static Path lockOf(Path folder) {
        return folder.resolveSibling(folder.getFileName() + LOCK);
    }

    public Path path() {
        return path;
    }

    /** What is done with an abandoned folder before it is removed. */
    @FunctionalInterface
    public interface Last {
        /** @param folder need not be there */
        void with(Path folder) throws IOException;
    }

    /** Removes the folders within another whose holders are gone, each after something is done with it. */
    public static void sweep(Path parent, Last last) throws IOException {
        try (DirectoryStream<Path> locks = Files.newDirectoryStream(parent, "*" + LOCK)) {
            for (Path lock : locks) {
                String name = lock.getFileName().toString();
                sweepOne(lock, parent.resolve(name.substring(0, name.length() - LOCK.length())), last);
            }
        }
    }

    private static void sweepOne(Path lock, Path folder, Last last) throws IOException {
        if (!Files.isRegularFile(lock, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        try {
            Optional<Hold> hold = Hold.take(lock);
            if (hold.isEmpty()) {
                return;
            }
            try {
                last.with(folder);
                AtomicFiles.deleteTree(folder);
                Files.deleteIfExists(lock);
            } finally {
                hold.get().release();
            }
        } catch (NoSuchFileException e) {
            // Removed in this moment.
            return;
        }
    }

    /** Whether a folder has a holder, or had one. */
    public static boolean isHeldOnce(Path folder) {
        return Files.exists(lockOf(folder));
    }

    /** Whether a file is such a lock. */
    public static boolean isLock(Path file) {
        return file.getFileName().toString().endsWith(LOCK);
    }

    /** Lets go of the folder and leaves it as it is: whoever sweeps next finds it abandoned. */
    public void abandon() throws IOException {
        hold.release();
    }

    /** Removes the folder with everything in it. */
    @Override
    public void close() throws IOException {
        try {
            AtomicFiles.deleteTree(path);
        } finally {
            hold.release();
        }
        Files.deleteIfExists(lockOf(path));
    }
}
