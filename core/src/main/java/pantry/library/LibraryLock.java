package pantry.library;

import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;

/**
 * Lets one at a time change a library's cards and places, over all threads and processes.
 *
 * <p>The lock between processes is the operating system's. On a network share that has none, two people changing the
 * same card in the same instant may lose one of the changes, but never a version, and never leave a broken file.
 */
final class LibraryLock {
    private static final String FILE = ".pantry-lock";

    /** One for each library: the operating system's locks do not hold between threads of one process. */
    private static final Map<Path, ReentrantLock> OWN = new ConcurrentHashMap<>();

    private final Path root;
    private final ReentrantLock own;

    LibraryLock(Path root) {
        this.root = root;
        this.own = OWN.computeIfAbsent(real(root), path -> new ReentrantLock());
    }

    /** The same for a library that is opened through a link. */
    private static Path real(Path root) {
        try {
            return root.toRealPath();
        } catch (IOException e) {
            return root;
        }
    }

    /** What is done meanwhile. */
    @FunctionalInterface
    interface Action<T> {
        T run() throws IOException;
    }

    /** Does something while nobody else changes the library; may be called within itself. */
    <T> T holding(Action<T> action) throws IOException {
        own.lock();
        try {
            if (own.getHoldCount() > 1) {
                return action.run();
            }
            try (FileChannel channel =
                            FileChannel.open(root.resolve(FILE), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
                    FileLock lock = channel.lock()) {
                return action.run();
            }
        } finally {
            own.unlock();
        }
    }
}
