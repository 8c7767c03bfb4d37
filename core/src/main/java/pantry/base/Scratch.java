package pantry.base;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Where everything temporary goes: folders that only this user may enter, below the user's own cache. Each process has
 * one, holds a lock in it while it runs, and removes it at its end; what a killed process left is removed when the next
 * one begins.
 *
 * <p>The system's own folder for temporary files is used by nothing: others may make the names there that one expects.
 */
public final class Scratch {
    private static final boolean POSIX =
            FileSystems.getDefault().supportedFileAttributeViews().contains("posix");
    private static final Set<PosixFilePermission> OWNER_ONLY = PosixFilePermissions.fromString("rwx------");

    private static @Nullable Scratch process;

    private final HeldFolder held;

    private Scratch(HeldFolder held) {
        this.held = held;
    }

    /** A new empty folder, gone at the end of the process. */
    public static Path folder(String name) throws IOException {
        return Files.createTempDirectory(ofProcess(), name + "-");
    }

    /** A new empty file, gone at the end of the process. */
    public static Path file(String name, String ending) throws IOException {
        return Files.createTempFile(ofProcess(), name + "-", ending);
    }

    /** Whether a path leads into this process's folder. */
    public static synchronized boolean holds(Path path) {
        Scratch open = process;
        return open != null && path.startsWith(open.path());
    }

    /**
     * Sends what libraries unpack (native code above all) into folders of the user alone. To be called before any of
     * them is used.
     */
    public static void claim() {
        try {
            System.setProperty("java.io.tmpdir", ofProcess().toString());
            String natives = ownedFolder(UserFolders.cache().resolve("native")).toString();
            System.setProperty("org.lwjgl.system.SharedLibraryExtractPath", natives);
            System.setProperty("org.sqlite.tmpdir", ofProcess().toString());
            System.setProperty("jna.tmpdir", ofProcess().toString());
        } catch (IOException e) {
            throw new UncheckedIOException("no private folder for temporary files can be made", e);
        }
    }

    /** This process's folder. */
    private static synchronized Path ofProcess() throws IOException {
        Scratch open = process;
        if (open == null) {
            open = open(UserFolders.cache().resolve("scratch"));
            process = open;
            Scratch ending = open;
            Runtime.getRuntime().addShutdownHook(new Thread(ending::close, "scratch"));
        }
        return open.path();
    }

    /**
     * A folder for one process below another, after what ended processes left there is removed.
     *
     * @param parent made where missing; where it belongs to somebody else, a fresh one is made elsewhere
     */
    static Scratch open(Path parent) throws IOException {
        Path owned = ownedFolder(parent);
        HeldFolder.sweep(owned, folder -> {});
        return new Scratch(
                HeldFolder.create(() -> owned.resolve(UUID.randomUUID().toString()), ownerOnly()));
    }

    Path path() {
        return held.path();
    }

    /** Removes the folder with everything in it. */
    void close() {
        try {
            held.close();
        } catch (IOException e) {
            // The next process removes it.
            return;
        }
    }

    /**
     * A folder that belongs to this user and that nobody else may enter.
     *
     * @param wanted made where missing
     * @return the wanted one; a fresh one where that is a link, a file, or somebody else's
     */
    static Path ownedFolder(Path wanted) throws IOException {
        try {
            Files.createDirectories(wanted.toAbsolutePath().getParent());
            try {
                Files.createDirectory(wanted, ownerOnly());
            } catch (FileAlreadyExistsException e) {
                // It is looked at below.
            }
            if (Files.isDirectory(wanted, LinkOption.NOFOLLOW_LINKS) && isOwn(wanted)) {
                if (POSIX) {
                    Files.setPosixFilePermissions(wanted, OWNER_ONLY);
                }
                return wanted;
            }
        } catch (IOException e) {
            return Files.createTempDirectory("pantry-");
        }
        return Files.createTempDirectory("pantry-");
    }

    /** Who can make files in a folder need not own it: a file that is made there tells who this user is. */
    private static boolean isOwn(Path folder) throws IOException {
        Path probe = Files.createTempFile(folder, "owner-", "");
        try {
            return Files.getOwner(probe).equals(Files.getOwner(folder, LinkOption.NOFOLLOW_LINKS));
        } finally {
            Files.deleteIfExists(probe);
        }
    }

    private static FileAttribute<?>[] ownerOnly() {
        return POSIX
                ? new FileAttribute<?>[] {PosixFilePermissions.asFileAttribute(OWNER_ONLY)}
                : new FileAttribute<?>[0];
    }
}
