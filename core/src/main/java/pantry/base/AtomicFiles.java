package pantry.base;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Files that are either the old one or the new one, whenever the process or the machine stops.
 *
 * <p>Everything is written beside its target under a name starting with {@code .pantry-}, forced to disk and renamed
 * over the target in one step. Folders that are made as a whole ({@link #draft}) are forced as a whole.
 */
public final class AtomicFiles {
    private static final String TEMPORARY = ".pantry-";

    /** The folder that this thread fills, of which nothing is forced to disk before it is whole. */
    private static final ScopedValue<Path> DRAFT = ScopedValue.newInstance();

    /** Waiting for the disk in several threads lets the system write several files at once. */
    private static final int FORCED_AT_ONCE = 4;

    private AtomicFiles() {}

    /**
     * Fills a folder that nobody looks into yet, and forces all of it to disk at its end, several files at once; what is
     * written meanwhile does not wait for the disk file by file.
     *
     * @param folder which is there, and is published or removed as a whole
     * @param filling runs in this thread; what other threads write for it is forced as ever
     */
    public static <T> T draft(Path folder, ScopedValue.CallableOp<T, IOException> filling) throws IOException {
        T made = ScopedValue.where(DRAFT, folder.toAbsolutePath().normalize()).call(filling);
        forceTree(folder);
        return made;
    }

    /** As above, where nothing but the folder is made. */
    public static void draft(Path folder, FolderContent content) throws IOException {
        draft(folder, () -> {
            content.writeTo(folder);
            return folder;
        });
    }

    private static boolean isDraft(Path path) {
        return DRAFT.isBound() && path.toAbsolutePath().normalize().startsWith(DRAFT.get());
    }

    /** Forces all files and folders below one to disk. */
    private static void forceTree(Path root) throws IOException {
        List<Path> all;
        try (Stream<Path> found = Files.walk(root)) {
            all = found.filter(path -> !Files.isSymbolicLink(path)).toList();
        }
        try {
            Parallel.map(all, FORCED_AT_ONCE, path -> {
                try {
                    if (Files.isDirectory(path)) {
                        forceFolder(path);
                    } else {
                        force(path);
                    }
                    return path;
                } catch (IOException e) {
                    throw new UncheckedIOException(e);
                }
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    /** Replaces or makes {@code target} with the given text in UTF-8. */
    public static void write(Path target, String text) throws IOException {
        write(target, text.getBytes(StandardCharsets.UTF_8));
    }

    /** What is written to a new file. */
    @FunctionalInterface
    public interface Content {
        /** @param channel empty, at its start; may be written at any place */
        void writeTo(FileChannel channel) throws IOException;
    }

    /** Replaces or makes {@code target} with the given bytes. */
    public static void write(Path target, byte[] bytes) throws IOException {
        write(target, all(bytes));
    }

    private static Content all(byte[] bytes) {
        return channel -> {
            ByteBuffer buffer = ByteBuffer.wrap(bytes);
            while (buffer.hasRemaining()) {
                channel.write(buffer);
            }
        };
    }

    /** Replaces or makes {@code target} with what is written piece by piece. */
    public static void write(Path target, Content content) throws IOException {
        Path temporary = writeBeside(target, content);
        try {
            Files.move(temporary, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (IOException e) {
            deleteSuppressed(temporary, e);
            throw e;
        }
        forceFolder(target.toAbsolutePath().getParent());
    }

    /**
     * Makes {@code target}, which must not exist: of several callers, in any process, exactly one succeeds.
     *
     * @throws FileAlreadyExistsException where somebody else was first
     */
    public static void create(Path target, String text) throws IOException {
        Path temporary = writeBeside(target, all(text.getBytes(StandardCharsets.UTF_8)));
        try {
            Files.createLink(target, temporary);
        } catch (UnsupportedOperationException e) {
            Files.write(
                    target,
                    text.getBytes(StandardCharsets.UTF_8),
                    StandardOpenOption.CREATE_NEW,
                    StandardOpenOption.WRITE);
        } finally {
            Files.deleteIfExists(temporary);
        }
        forceFolder(target.toAbsolutePath().getParent());
    }

    /** What is written into a new folder. */
    @FunctionalInterface
    public interface FolderContent {
        /** @param folder empty */
        void writeTo(Path folder) throws IOException;
    }

    /**
     * Makes a folder with all that is to be in it: the whole of it, or nothing.
     *
     * @throws FileAlreadyExistsException where the target is already there
     */
    public static void createFolder(Path target, FolderContent content) throws IOException {
        Path temporary = Files.createDirectory(target.resolveSibling(TEMPORARY + UUID.randomUUID()));
        try {
            draft(temporary, content);
            publishFolder(temporary, target);
        } catch (IOException | RuntimeException e) {
            deleteSuppressed(temporary, e);
            throw e;
        }
    }

    /**
     * Renames a finished folder to {@code target} in one step.
     *
     * @throws FileAlreadyExistsException where the target is already there; the folder then stays where it was
     */
    public static void publishFolder(Path folder, Path target) throws IOException {
        try {
            Files.move(folder, target, StandardCopyOption.ATOMIC_MOVE);
        } catch (DirectoryNotEmptyException e) {
            throw existing(target, e);
        } catch (IOException e) {
            if (Files.exists(target)) {
                throw existing(target, e);
            }
            throw e;
        }
        forceFolder(target.toAbsolutePath().getParent());
    }

    private static FileAlreadyExistsException existing(Path target, IOException cause) {
        FileAlreadyExistsException exists = new FileAlreadyExistsException(target.toString());
        exists.initCause(cause);
        return exists;
    }

    /** Files in a folder that were being written, or still are. */
    public static List<Path> leftIn(Path folder) throws IOException {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.getFileName().toString().startsWith(TEMPORARY)
                            && Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS))
                    .toList();
        }
    }

    /** Forces a file's contents to the disk. */
    private static void force(Path file) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
            channel.force(true);
        }
    }

    /** Forces a folder's entries to the disk, where the system can (it cannot on Windows). */
    public static void forceFolder(@Nullable Path folder) {
        if (folder == null || isDraft(folder)) {
            return;
        }
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        } catch (IOException e) {
            // Opening a folder is refused on some systems; there the rename itself is already durable.
        }
    }

    /** Removes a file or a folder with everything in it; does not follow links; nothing where there is nothing. */
    public static void deleteTree(Path root) throws IOException {
        if (!Files.exists(root, LinkOption.NOFOLLOW_LINKS)) {
            return;
        }
        Files.walkFileTree(root, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
                Files.delete(file);
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult postVisitDirectory(Path folder, @Nullable IOException failure) throws IOException {
                if (failure != null) {
                    throw failure;
                }
                Files.delete(folder);
                return FileVisitResult.CONTINUE;
            }
        });
    }

    private static Path writeBeside(Path target, Content content) throws IOException {
        Path temporary = target.resolveSibling(TEMPORARY + UUID.randomUUID());
        try (FileChannel channel =
                FileChannel.open(temporary, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE)) {
            content.writeTo(channel);
            if (!isDraft(temporary)) {
                channel.force(true);
            }
        } catch (IOException | RuntimeException e) {
            deleteSuppressed(temporary, e);
            throw e;
        }
        return temporary;
    }

    private static void deleteSuppressed(Path left, Exception first) {
        try {
            deleteTree(left);
        } catch (IOException e) {
            first.addSuppressed(e);
        }
    }
}
