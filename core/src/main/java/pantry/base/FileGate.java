package pantry.base;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Predicate;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Decides which files may be read because another file names them. Every reader, writer and packer asks it before it
 * opens such a file: a path is admitted where it ends, links resolved, at a regular file below one of the folders that
 * were given. What is refused is neither opened nor asked for, and remembered, so that it can be told.
 *
 * <p>Safe for use by several threads. Judging a path and opening it are two steps: who may replace files within the
 * folders that were given meanwhile is trusted.
 */
public final class FileGate {
    /** Admits all regular files: for layers and images that are named by Pantry itself, and for tests. */
    public static final FileGate OPEN = new FileGate(List.of(), path -> true);

    private static final Pattern DRIVE = Pattern.compile("[A-Za-z]:.*", Pattern.DOTALL);

    /** Whatever has a scheme (RFC 3986, 3.1) other than that of files. */
    private static final Pattern REMOTE = Pattern.compile("(?!(?i)file:)[A-Za-z][A-Za-z0-9+.-]+://.*", Pattern.DOTALL);

    private static final boolean HAS_DRIVES =
            System.getProperty("os.name", "").toLowerCase(Locale.ROOT).startsWith("windows");

    private final List<Path> folders;
    private final Predicate<Path> besides;
    private final Map<String, Refusal> refusals = new LinkedHashMap<>();

    /** Why a file was not read. */
    public enum Reason {
        OUTSIDE("lies outside of the folders that may be read"),
        REMOTE("names another machine or drive, which is never opened"),
        SPECIAL("is not a regular file"),
        NOT_IMAGE("is not an image, whatever its name says"),
        NOT_MATERIALS("is not a material library, whatever its name says");

        private final String words;

        Reason(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }
    }

    /**
     * A file that was named and not read.
     *
     * @param written the path as it stands in the file
     * @param by the file that names it
     * @param file the place it leads to; absolute
     */
    public record Refusal(String written, Path by, Path file, Reason reason) {
        /** What was refused and why, in one line without control characters. */
        public String line() {
            return Printable.of(written) + " " + reason.words();
        }

        /** The folder that would have to be allowed; empty where nothing makes it readable. */
        public Optional<Path> folder() {
            return reason == Reason.OUTSIDE ? Optional.ofNullable(file.getParent()) : Optional.empty();
        }
    }

    private FileGate(Collection<Path> folders, Predicate<Path> besides) {
        this.folders = new CopyOnWriteArrayList<>(
                folders.stream().flatMap(FileGate::withEnd).toList());
        this.besides = besides;
    }

    /** A gate to some folders and all below them. */
    public static FileGate to(Collection<Path> folders) {
        return new FileGate(folders, path -> false);
    }

    /** A gate to the folder that a file stands in, and all below it. */
    public static FileGate beside(Path file) {
        Path folder = file.toAbsolutePath().normalize().getParent();
        return to(folder == null ? List.of() : List.of(folder));
    }

    /** This gate, to more folders. */
    public FileGate and(Collection<Path> more) {
        List<Path> all = new ArrayList<>(folders);
        all.addAll(more);
        return new FileGate(all, besides);
    }

    /** This gate, and to whatever else fulfils a condition; that is asked for paths whose links are resolved. */
    public FileGate orWhere(Predicate<Path> condition) {
        return new FileGate(folders, besides.or(condition));
    }

    /** The folders that may be read, absolute. */
    public List<Path> folders() {
        return List.copyOf(folders);
    }

    /** From now on, what lies below a folder may be read as well; what was refused there is forgotten. */
    public void allow(Path folder) {
        Path plain = folder.toAbsolutePath().normalize();
        withEnd(plain).forEach(folders::add);
        synchronized (refusals) {
            refusals.values().removeIf(refusal -> refusal.file().startsWith(plain));
        }
    }

    /** Whether a path as a file writes it leads to another machine, or to a drive where there are none. */
    public static boolean isRemote(String written) {
        String slashed = written.replace('\\', '/');
        return slashed.startsWith("//")
                || REMOTE.matcher(slashed).matches()
                || (!HAS_DRIVES && DRIVE.matcher(written).matches());
    }

    /**
     * The regular file at a place, where that may be read.
     *
     * @param file where the path leads
     * @param written the path as it stands in the file
     * @param by the file that names it
     * @return empty where there is nothing, and where it is refused
     */
    public Optional<Path> admit(Path file, String written, Path by) {
        Path plain = file.toAbsolutePath().normalize();
        if (isRemote(written)) {
            return refuse(written, by, plain, Reason.REMOTE);
        }
        if (!admits(plain)) {
            // Not even looked at.
            return refuse(written, by, plain, Reason.OUTSIDE);
        }
        Optional<Path> end = real(plain);
        if (end.isEmpty()) {
            return Optional.empty();
        }
        if (!admits(end.get())) {
            return refuse(written, by, end.get(), Reason.OUTSIDE);
        }
        if (!Files.isRegularFile(end.get())) {
            return Files.isDirectory(end.get()) ? Optional.empty() : refuse(written, by, end.get(), Reason.SPECIAL);
        }
        return Optional.of(plain);
    }

    /** As {@link #admit}, for what must be an image by its first bytes. */
    public Optional<Path> admitImage(Path file, String written, Path by) {
        return admit(file, written, by)
                .filter(found -> ImageSignature.isImage(found)
                        || refuse(written, by, found, Reason.NOT_IMAGE).isPresent());
    }

    /** Takes note of a file that was looked at and is not what it was named as. */
    public Optional<Path> refuse(String written, Path by, Path file, Reason reason) {
        synchronized (refusals) {
            refusals.putIfAbsent(reason + " " + written, new Refusal(written, by, file, reason));
        }
        return Optional.empty();
    }

    /** Forgets what was refused under a name, since something else was found that stands in for it. */
    public void forgive(String written) {
        synchronized (refusals) {
            refusals.values().removeIf(refusal -> refusal.written().equals(written));
        }
    }

    private boolean admits(Path path) {
        for (Path folder : folders) {
            if (path.startsWith(folder)) {
                return true;
            }
        }
        return besides.test(path);
    }

    /** What was refused so far, each once, in the order of asking. */
    public List<Refusal> refusals() {
        synchronized (refusals) {
            return List.copyOf(refusals.values());
        }
    }

    /** A folder as it is named, and where it ends if links lead elsewhere. */
    private static Stream<Path> withEnd(Path folder) {
        Path plain = folder.toAbsolutePath().normalize();
        return Stream.concat(Stream.of(plain), real(plain).stream()).distinct();
    }

    private static Optional<Path> real(Path path) {
        try {
            return Optional.of(path.toRealPath());
        } catch (IOException | InvalidPathException e) {
            return Optional.empty();
        }
    }
}
