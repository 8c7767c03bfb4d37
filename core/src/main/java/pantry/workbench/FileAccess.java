package pantry.workbench;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import pantry.base.FileGate;
import pantry.intake.UnpackedArchives;
import pantry.library.Library;
import pantry.project.Project;

/**
 * What files may name: what stands below their own folder, their project, the archive they came in, folders that the
 * user gave, and in libraries, which are there to be named. Safe for use by several threads.
 */
public final class FileAccess {
    private final UnpackedArchives archives;
    private final Set<Path> given = ConcurrentHashMap.newKeySet();

    FileAccess(UnpackedArchives archives) {
        this.archives = archives;
    }

    /** Lets files that are read from now on name others in a folder and all below it. */
    public void allow(Path folder) {
        given.add(folder.toAbsolutePath().normalize());
    }

    /** The gate that a file's references go through. */
    public FileGate gate(Path file) {
        Path own = file.toAbsolutePath().normalize();
        List<Path> folders = new ArrayList<>(given);
        Project.around(own).ifPresent(folders::add);
        folders.addAll(archives.foldersAround(own));
        return FileGate.beside(own).and(folders).orWhere(Library::isWithin);
    }
}
