package pantry.project;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;
import pantry.library.Library;
import pantry.usd.AssetPaths;
import pantry.usd.file.LayerFiles;

/**
 * A folder with scenes anywhere below it, of any program that writes USD.
 *
 * @param folder absolute
 */
public record Project(Path folder, ProjectInfo info) {
    /** The file that a project may have; it also marks the folder as one whose files may name each other. */
    public static final String FILE = "pantry-project.json";

    /**
     * Opens a folder as a project.
     *
     * @throws PantryException where there is no such folder, or its file cannot be understood
     */
    public static Project open(Path folder) {
        Path root = folder.toAbsolutePath().normalize();
        if (!Files.isDirectory(root)) {
            throw new PantryException(root, "there is no such folder");
        }
        Path file = root.resolve(FILE);
        return new Project(root, Files.exists(file) ? Json.read(file, ProjectInfo.class) : ProjectInfo.NONE);
    }

    /** The nearest folder above a file that is marked as a project; empty where there is none. */
    public static Optional<Path> around(Path file) {
        for (Path at = file.getParent(); at != null; at = at.getParent()) {
            if (Files.isRegularFile(at.resolve(FILE))) {
                return Optional.of(at);
            }
        }
        return Optional.empty();
    }

    /**
     * Writes the project's file, which makes the folder a project for all who look.
     *
     * @throws PantryException where the project's file cannot be written
     */
    public Project with(ProjectInfo newInfo) {
        try {
            AtomicFiles.write(folder.resolve(FILE), Json.write(newInfo));
            return new Project(folder, newInfo);
        } catch (IOException e) {
            throw new PantryException(folder, "the project's file cannot be written: " + IoProblems.describe(e), e);
        }
    }

    /** For a person. */
    public String name() {
        return info.name().isBlank() ? String.valueOf(folder.getFileName()) : info.name();
    }

    /** How asset paths in the project's files are resolved. */
    public AssetPaths assetPaths() {
        return new AssetPaths(info.searchPaths().stream()
                .map(path -> folder.resolve(path).normalize())
                .toList());
    }

    /** How asset paths in a file are resolved, which is of one of some projects. */
    public static AssetPaths assetPaths(List<Project> projects, Path file) {
        return projects.stream()
                .filter(project -> file.startsWith(project.folder()))
                .findFirst()
                .map(Project::assetPaths)
                .orElse(AssetPaths.PLAIN);
    }

    /**
     * All layer files, sorted. Hidden folders, libraries that stand below the project, and what is left out are not
     * looked into; links to folders are not followed, so that no file is found twice and no circle walked.
     *
     * @throws PantryException where the folder cannot be looked through
     */
    public List<Path> files() {
        Set<Path> leftOut = new HashSet<>();
        info.leaveOut().forEach(path -> leftOut.add(folder.resolve(path).normalize()));
        List<Path> found = new ArrayList<>();
        try {
            Files.walkFileTree(folder, new SimpleFileVisitor<>() {
                @Override
                public FileVisitResult preVisitDirectory(Path at, BasicFileAttributes attributes) {
                    boolean own = !at.equals(folder)
                            && (leftOut.contains(at)
                                    || at.getFileName().toString().startsWith(".")
                                    || Library.isLibrary(at));
                    return own ? FileVisitResult.SKIP_SUBTREE : FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                    String name = file.getFileName().toString();
                    if (!attributes.isDirectory() && !name.startsWith(".") && LayerFiles.isLayer(name)) {
                        found.add(file);
                    }
                    return FileVisitResult.CONTINUE;
                }

                @Override
                public FileVisitResult visitFileFailed(Path file, IOException failure) {
                    // A folder that may not be read: the rest is a project all the same.
                    return FileVisitResult.CONTINUE;
                }
            });
        } catch (IOException e) {
            throw new PantryException(folder, "cannot be looked through: " + IoProblems.describe(e), e);
        }
        found.sort(Comparator.comparing(Path::toString, NaturalOrder.BY_NAME));
        return found;
    }
}
