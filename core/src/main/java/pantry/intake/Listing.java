package pantry.intake;

import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import pantry.base.FileGate;
import pantry.base.IoProblems;
import pantry.base.NaturalOrder;
import pantry.base.Progress;
import pantry.exchange.format.Companions;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.FileSeries;
import pantry.exchange.format.SkyImages;
import pantry.exchange.format.TextureSet;
import pantry.library.Library;

/**
 * What there is to be received in files and folders, told by the files' first bytes. Files that belong to another are
 * no arrivals of their own: material libraries, buffers, and images other than skies that stand in a folder with models. Libraries are
 * passed over: what is in them was received before.
 *
 * @param entries sorted, folder by folder
 * @param passedOver what was left out, such as libraries and links that lead out of their folder
 */
public record Listing(List<Entry> entries, List<PassedOver> passedOver) {
    private static final int DEEPEST = 32;

    /**
     * One thing to be received.
     *
     * @param root the folder that was named, or the file itself
     */
    public record Entry(Path file, FileKind kind, Path root) {}

    /**
     * A file or folder that was left out.
     *
     * @param why for a person, after its name
     */
    public record PassedOver(Path path, String why) {}

    public Listing {
        entries = List.copyOf(entries);
        passedOver = List.copyOf(passedOver);
    }

    /**
     * @param filesAndFolders files that are named are listed whatever they are; they are refused when they are read
     * @throws IntakeException where a folder cannot be read
     */
    public static Listing of(List<Path> filesAndFolders, Progress progress) {
        return of(filesAndFolders, true, progress);
    }

    /**
     * As above.
     *
     * @param together whether images that make one material, and files that are one thing, are taken as one
     */
    public static Listing of(List<Path> filesAndFolders, boolean together, Progress progress) {
        List<Entry> entries = new ArrayList<>();
        List<PassedOver> passedOver = new ArrayList<>();
        for (Path path : filesAndFolders) {
            if (!Files.isDirectory(path)) {
                entries.add(new Entry(path, FileKind.of(path), path));
                continue;
            }
            entries.addAll(within(path, passedOver, progress));
        }
        return new Listing(together ? withoutFollowers(entries) : entries, passedOver);
    }

    /** Of images that make one material, and of files that are one thing, the one that stands for all. */
    private static List<Entry> withoutFollowers(List<Entry> entries) {
        // A link is read as itself alone, and must not be left out for one that would not read it.
        List<Entry> files = entries.stream()
                .filter(entry -> Files.isRegularFile(entry.file(), LinkOption.NOFOLLOW_LINKS))
                .toList();
        List<Path> images = files.stream()
                .filter(entry -> entry.kind() == FileKind.IMAGE)
                .map(Entry::file)
                .toList();
        Set<Path> followers = new HashSet<>();
        List<Path> models = files.stream()
                .filter(entry ->
                        entry.kind().hasModel() && entry.kind() != FileKind.USD && entry.kind() != FileKind.MATERIALX)
                .map(Entry::file)
                .toList();
        for (FileSeries series : FileSeries.among(models)) {
            followers.addAll(series.files());
            followers.remove(series.leader());
        }
        for (TextureSet set : TextureSet.among(images)) {
            followers.addAll(set.files());
            followers.remove(set.leader());
        }
        return entries.stream()
                .filter(entry -> !followers.contains(entry.file()))
                .toList();
    }

    private static List<Entry> within(Path named, List<PassedOver> passedOver, Progress progress) {
        List<Path> files = new ArrayList<>();
        Path root;
        try {
            root = start(named);
            FileGate gate = FileGate.to(List.of(root));
            Files.walkFileTree(root, EnumSet.noneOf(FileVisitOption.class), DEEPEST, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) {
                    progress.step("looking through " + folder.getFileName(), -1);
                    if (Library.isLibrary(folder)) {
                        passedOver.add(new PassedOver(folder, "is a library and was passed over"));
                        return FileVisitResult.SKIP_SUBTREE;
                    }
                    Path name = folder.getFileName();
                    boolean hidden = !folder.equals(root)
                            && name != null
                            && name.toString().startsWith(".");
                    return hidden ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    if (file.getFileName().toString().startsWith(".")) {
                        return FileVisitResult.CONTINUE;
                    }
                    if (attributes.isSymbolicLink()) {
                        link(file);
                    } else if (attributes.isRegularFile()) {
                        files.add(file);
                    } else if (attributes.isOther()) {
                        passedOver.add(new PassedOver(file, "is not a regular file and was passed over"));
                    }
                    return FileVisitResult.CONTINUE;
                }

                /** A link counts as what it leads to, where that stands in the same folder; linked folders do not. */
                private void link(Path file) {
                    if (gate.admit(file, file.toString(), root).isPresent()) {
                        files.add(file);
                    } else {
                        passedOver.add(new PassedOver(
                                file, "is a link that does not lead to a file of this folder, and was not followed"));
                    }
                }

                @Override
                public FileVisitResult visitFileFailed(Path file, IOException failure) throws IOException {
                    if (file.equals(root)) {
                        throw failure;
                    }
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw new IntakeException(named, "cannot be read: " + IoProblems.describe(e), e);
        }
        files.sort(Comparator.comparing(Path::toString, NaturalOrder.BY_NAME));
        List<Entry> found = new ArrayList<>();
        boolean models = false;
        for (int i = 0; i < files.size(); i++) {
            if (i % 50 == 0) {
                progress.step("looking at " + files.get(i).getFileName(), (double) i / files.size());
            }
            FileKind kind = FileKind.of(files.get(i));
            if (kind.hasModel() || kind == FileKind.ARCHIVE || kind == FileKind.IMAGE) {
                found.add(new Entry(files.get(i), kind, root));
                models |= kind.hasModel();
            }
        }
        return models ? withoutCompanions(found) : found;
    }

    /** The folder that was named, which may itself be a link. */
    private static Path start(Path root) throws IOException {
        return Files.isSymbolicLink(root) ? root.toRealPath() : root;
    }

    /** Layers that others are made of, and images beside models but for skies, come with what they belong to. */
    private static List<Entry> withoutCompanions(List<Entry> found) {
        Set<Path> companions = new HashSet<>();
        for (Entry entry : found) {
            if (entry.kind() == FileKind.USD) {
                companions.addAll(Companions.of(entry.file(), FileGate.beside(entry.file())));
            }
        }
        return found.stream()
                .filter(entry -> !companions.contains(entry.file())
                        && (entry.kind() != FileKind.IMAGE || SkyImages.isSky(entry.file())))
                .toList();
    }
}
