package pantry.testing.faults;

import java.io.File;
import java.io.IOException;
import java.net.URI;
import java.nio.file.FileSystem;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.WatchEvent;
import java.nio.file.WatchKey;
import java.nio.file.WatchService;
import org.jspecify.annotations.Nullable;

/** A path of the system's own file system, which leads to the one that fails. */
final class FaultyPath implements Path {
    private final FaultyFileSystem system;
    private final Path plain;

    FaultyPath(FaultyFileSystem system, Path plain) {
        this.system = system;
        this.plain = plain;
    }

    static Path plain(Path path) {
        return path instanceof FaultyPath faulty ? faulty.plain : path;
    }

    private Path faulty(Path path) {
        return new FaultyPath(system, path);
    }

    private @Nullable Path faultyOrNull(@Nullable Path path) {
        return path == null ? null : faulty(path);
    }

    @Override
    public FileSystem getFileSystem() {
        return system;
    }

    @Override
    public boolean isAbsolute() {
        return plain.isAbsolute();
    }

    @Override
    public @Nullable Path getRoot() {
        return faultyOrNull(plain.getRoot());
    }

    @Override
    public @Nullable Path getFileName() {
        return faultyOrNull(plain.getFileName());
    }

    @Override
    public @Nullable Path getParent() {
        return faultyOrNull(plain.getParent());
    }

    @Override
    public int getNameCount() {
        return plain.getNameCount();
    }

    @Override
    public Path getName(int index) {
        return faulty(plain.getName(index));
    }

    @Override
    public Path subpath(int begin, int end) {
        return faulty(plain.subpath(begin, end));
    }

    @Override
    public boolean startsWith(Path other) {
        return plain.startsWith(plain(other));
    }

    @Override
    public boolean endsWith(Path other) {
        return plain.endsWith(plain(other));
    }

    @Override
    public Path normalize() {
        return faulty(plain.normalize());
    }

    @Override
    public Path resolve(Path other) {
        return faulty(plain.resolve(plain(other)));
    }

    @Override
    public Path relativize(Path other) {
        return faulty(plain.relativize(plain(other)));
    }

    @Override
    public URI toUri() {
        return plain.toUri();
    }

    @Override
    public Path toAbsolutePath() {
        return faulty(plain.toAbsolutePath());
    }

    @Override
    public Path toRealPath(LinkOption... options) throws IOException {
        return faulty(plain.toRealPath(options));
    }

    @Override
    public File toFile() {
        return plain.toFile();
    }

    @Override
    public WatchKey register(WatchService watcher, WatchEvent.Kind<?>[] events, WatchEvent.Modifier... modifiers) {
        throw new UnsupportedOperationException();
    }

    @Override
    public int compareTo(Path other) {
        return plain.compareTo(plain(other));
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof FaultyPath path && path.plain.equals(plain);
    }

    @Override
    public int hashCode() {
        return plain.hashCode();
    }

    @Override
    public String toString() {
        return plain.toString();
    }
}
