package pantry.intake;

import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import pantry.base.IoProblems;
import pantry.base.Progress;
import pantry.exchange.Companions;
import pantry.exchange.FileKind;
import pantry.library.Library;

/**
 * What there is to be received in files and folders, told by the files' first bytes. Files that belong to another are
 * no arrivals of their own: material libraries, buffers, and images that stand in a folder with models. Libraries are
 * passed over: what is in them was received before.
 *
 * @param entries sorted, folder by folder
 * @param passedOver folders that were left out, since they are libraries
 */
public record Listing(List<Entry> entries, List<Path> passedOver) {
    private static final int DEEPEST = 32;

    /**
     * One thing to be received.
     *
     * @param root the folder that was named, or the file itself
     */
    public record Entry(Path file, FileKind kind, Path root) {}

    public Listing {
        entries = List.copyOf(entries);
        passedOver = List.copyOf(passedOver);
    }

    /**
     * @param filesAndFolders files that are named are listed whatever they are; they are refused when they are read
     * @throws IntakeException where a folder cannot be read
     */
    public static Listing of(List<Path> filesAndFolders, Progress progress) {
        List<Entry> entries = new ArrayList<>();
        List<Path> passedOver = new ArrayList<>();
        for (Path path : filesAndFolders) {
            if (!Files.isDirectory(path)) {
                entries.add(new Entry(path, FileKind.of(path), path));
                continue;
            }
            entries.addAll(within(path, passedOver, progress));
        }
        return new Listing(entries, passedOver);
    }

    private static List<Entry> within(Path root, List<Path> passedOver, Progress progress) {
        List<Path> files = new ArrayList<>();
        try {
            Files.walkFileTree(root, EnumSet.of(FileVisitOption.FOLLOW_LINKS), DEEPEST, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) {
                    progress.step("looking through " + folder.getFileName(), -1);
                    if (Library.isLibrary(folder)) {
                        passedOver.add(folder);
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
                    if (attributes.isRegularFile()
                            && !file.getFileName().toString().startsWith(".")) {
                        files.add(file);
                    }
                    return FileVisitResult.CONTINUE;
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
            throw new IntakeException(root, "cannot be read: " + IoProblems.describe(e), e);
        }
        files.sort(null);
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

    /** Layers that others are made of, and images beside models, come with what they belong to. */
    private static List<Entry> withoutCompanions(List<Entry> found) {
        Set<Path> companions = new HashSet<>();
        for (Entry entry : found) {
            if (entry.kind() == FileKind.USD) {
                companions.addAll(Companions.of(entry.file()));
            }
        }
        return found.stream()
                .filter(entry -> entry.kind() != FileKind.IMAGE && !companions.contains(entry.file()))
                .toList();
    }
}
