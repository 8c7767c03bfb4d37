package pantry.base;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
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
    private final FileChannel channel;

    private HeldFolder(Path path, FileChannel channel) {
        this.path = path;
        this.channel = channel;
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
            FileChannel channel = FileChannel.open(lock, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
            try {
                // Whoever sweeps may have been quicker, and then holds the lock or has removed it.
                if (isLocked(channel) && Files.exists(lock)) {
                    return new HeldFolder(Files.createDirectory(folder, attributes), channel);
                }
            } catch (IOException e) {
                channel.close();
                throw e;
            }
            channel.close();
        }
    }

    /** True too in a place that has no locks: there nobody takes the folder for abandoned. */
    private static boolean isLocked(FileChannel channel) {
        try {
            return channel.tryLock() != null;
        } catch (IOException e) {
            return true;
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
        try (FileChannel channel = FileChannel.open(lock, StandardOpenOption.WRITE);
                FileLock held = channel.tryLock()) {
            if (held == null) {
                return;
            }
            last.with(folder);
            AtomicFiles.deleteTree(folder);
            Files.deleteIfExists(lock);
        } catch (OverlappingFileLockException e) {
            // Held by this process.
            return;
        } catch (java.nio.file.NoSuchFileException e) {
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
        channel.close();
    }

    /** Removes the folder with everything in it. */
    @Override
    public void close() throws IOException {
        try {
            AtomicFiles.deleteTree(path);
        } finally {
            channel.close();
        }
        Files.deleteIfExists(lockOf(path));
    }
}
