package pantry.testing.faults;

import java.io.IOException;
import java.net.URI;
import java.nio.channels.FileChannel;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessMode;
import java.nio.file.CopyOption;
import java.nio.file.DirectoryStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileStore;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.nio.file.StandardOpenOption;
import java.nio.file.WatchService;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.FileAttributeView;
import java.nio.file.attribute.UserPrincipalLookupService;
import java.nio.file.spi.FileSystemProvider;
import java.util.Iterator;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Passes everything on to the system's own, and counts the changes. */
final class FaultyFileSystem extends FileSystem {
    private static final FileSystem PLAIN = FileSystems.getDefault();

    private final Provider provider;

    FaultyFileSystem(Faults faults) {
        this.provider = new Provider(this, faults);
    }

    @Override
    public FileSystemProvider provider() {
        return provider;
    }

    @Override
    public void close() {}

    @Override
    public boolean isOpen() {
        return true;
    }

    @Override
    public boolean isReadOnly() {
        return false;
    }

    @Override
    public String getSeparator() {
        return PLAIN.getSeparator();
    }

    @Override
    public Iterable<Path> getRootDirectories() {
        return PLAIN.getRootDirectories();
    }

    @Override
    public Iterable<FileStore> getFileStores() {
        return PLAIN.getFileStores();
    }

    @Override
    public Set<String> supportedFileAttributeViews() {
        return PLAIN.supportedFileAttributeViews();
    }

    @Override
    public Path getPath(String first, String... more) {
        return new FaultyPath(this, PLAIN.getPath(first, more));
    }

    @Override
    public PathMatcher getPathMatcher(String pattern) {
        PathMatcher matcher = PLAIN.getPathMatcher(pattern);
        return path -> matcher.matches(FaultyPath.plain(path));
    }

    @Override
    public UserPrincipalLookupService getUserPrincipalLookupService() {
        return PLAIN.getUserPrincipalLookupService();
    }

    @Override
    public WatchService newWatchService() {
        throw new UnsupportedOperationException();
    }

    private static final class Provider extends FileSystemProvider {
        private final FaultyFileSystem system;
        private final Faults faults;

        Provider(FaultyFileSystem system, Faults faults) {
            this.system = system;
            this.faults = faults;
        }

        private static Path plain(Path path) {
            return FaultyPath.plain(path);
        }

        @Override
        public String getScheme() {
            return "faulty";
        }

        @Override
        public FileSystem newFileSystem(URI uri, Map<String, ?> environment) {
            throw new UnsupportedOperationException();
        }

        @Override
        public FileSystem getFileSystem(URI uri) {
            return system;
        }

        @Override
        public Path getPath(URI uri) {
            throw new UnsupportedOperationException();
        }

        @Override
        public SeekableByteChannel newByteChannel(
                Path path, Set<? extends OpenOption> options, FileAttribute<?>... attributes) throws IOException {
            return newFileChannel(path, options, attributes);
        }

        @Override
        public FileChannel newFileChannel(Path path, Set<? extends OpenOption> options, FileAttribute<?>... attributes)
                throws IOException {
            boolean makes = options.contains(StandardOpenOption.CREATE_NEW)
                    || options.contains(StandardOpenOption.TRUNCATE_EXISTING)
                    || options.contains(StandardOpenOption.CREATE) && !Files.exists(plain(path));
            if (makes) {
                faults.change(true);
            }
            return new FaultyChannel(faults, FileChannel.open(plain(path), options, attributes));
        }

        @Override
        public DirectoryStream<Path> newDirectoryStream(Path folder, DirectoryStream.Filter<? super Path> filter)
                throws IOException {
            DirectoryStream<Path> stream =
                    Files.newDirectoryStream(plain(folder), path -> filter.accept(new FaultyPath(system, path)));
            return new DirectoryStream<>() {
                @Override
                public Iterator<Path> iterator() {
                    Iterator<Path> paths = stream.iterator();
                    return new Iterator<>() {
                        @Override
                        public boolean hasNext() {
                            return paths.hasNext();
                        }

                        @Override
                        public Path next() {
                            return new FaultyPath(system, paths.next());
                        }
                    };
                }

                @Override
                public void close() throws IOException {
                    stream.close();
                }
            };
        }

        @Override
        public void createDirectory(Path folder, FileAttribute<?>... attributes) throws IOException {
            if (Files.isDirectory(plain(folder))) {
                throw new FileAlreadyExistsException(folder.toString());
            }
            faults.change(true);
            Files.createDirectory(plain(folder), attributes);
        }

        @Override
        public void createSymbolicLink(Path link, Path target, FileAttribute<?>... attributes) throws IOException {
            faults.change(true);
            Files.createSymbolicLink(plain(link), plain(target), attributes);
        }

        @Override
        public void createLink(Path link, Path existing) throws IOException {
            faults.change(true);
            Files.createLink(plain(link), plain(existing));
        }

        @Override
        public Path readSymbolicLink(Path link) throws IOException {
            return new FaultyPath(system, Files.readSymbolicLink(plain(link)));
        }

        @Override
        public void delete(Path path) throws IOException {
            faults.change(false);
            Files.delete(plain(path));
        }

        @Override
        public void copy(Path source, Path target, CopyOption... options) throws IOException {
            faults.change(true);
            Files.copy(plain(source), plain(target), options);
        }

        @Override
        public void move(Path source, Path target, CopyOption... options) throws IOException {
            faults.change(false);
            Files.move(plain(source), plain(target), options);
        }

        @Override
        public boolean isSameFile(Path one, Path other) throws IOException {
            return Files.isSameFile(plain(one), plain(other));
        }

        @Override
        public boolean isHidden(Path path) throws IOException {
            return Files.isHidden(plain(path));
        }

        @Override
        public FileStore getFileStore(Path path) throws IOException {
            return Files.getFileStore(plain(path));
        }

        @Override
        public void checkAccess(Path path, AccessMode... modes) throws IOException {
            plain(path).getFileSystem().provider().checkAccess(plain(path), modes);
        }

        @Override
        public <V extends FileAttributeView> @Nullable V getFileAttributeView(
                Path path, Class<V> type, LinkOption... options) {
            return Files.getFileAttributeView(plain(path), type, options);
        }

        @Override
        public <A extends BasicFileAttributes> A readAttributes(Path path, Class<A> type, LinkOption... options)
                throws IOException {
            return Files.readAttributes(plain(path), type, options);
        }

        @Override
        public Map<String, Object> readAttributes(Path path, String attributes, LinkOption... options)
                throws IOException {
            return Files.readAttributes(plain(path), attributes, options);
        }

        @Override
        public void setAttribute(Path path, String attribute, Object value, LinkOption... options) throws IOException {
            faults.change(false);
            Files.setAttribute(plain(path), attribute, value, options);
        }
    }
}
