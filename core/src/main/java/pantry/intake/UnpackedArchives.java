package pantry.intake;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;

/**
 * The archives that were unpacked, each once, and which file came from where in which of them. Safe for use by several
 * threads.
 */
public final class UnpackedArchives {
    private final Supplier<Path> scratch;
    private final Map<Path, Path> folders = new HashMap<>();

    /** @param scratch makes a new, empty folder that lasts as long as this */
    public UnpackedArchives(Supplier<Path> scratch) {
        this.scratch = scratch;
    }

    /**
     * The files to be received in an archive, which is unpacked where it is not yet.
     *
     * @throws IntakeException where the archive cannot be read or is refused
     */
    public List<Path> filesIn(Path archive, Progress progress) {
        return Intake.files(List.of(unpack(archive, progress))).stream()
                .filter(inside -> !Archives.isArchive(inside))
                .toList();
    }

    private Path unpack(Path file, Progress progress) {
        Path archive = file.toAbsolutePath().normalize();
        Optional<Path> known = folder(archive);
        if (known.isPresent()) {
            return known.get();
        }
        Path folder = scratch.get().resolve(Names.stem(archive.getFileName().toString()));
        new Archives(Archives.Limits.USUAL).unpack(archive, folder, progress);
        synchronized (folders) {
            folders.put(archive, folder);
        }
        return folder;
    }

    /** The folder that an archive was unpacked into. */
    public Optional<Path> folder(Path archive) {
        synchronized (folders) {
            return Optional.ofNullable(folders.get(archive.toAbsolutePath().normalize()));
        }
    }

    /** The folders of archives that a file lies in. */
    public List<Path> foldersAround(Path file) {
        synchronized (folders) {
            return new ArrayList<>(
                    folders.values().stream().filter(file::startsWith).toList());
        }
    }

    /** Where a file comes from. */
    public Origin origin(Path file) {
        synchronized (folders) {
            for (Map.Entry<Path, Path> each : folders.entrySet()) {
                if (file.startsWith(each.getValue())) {
                    String inside = each.getValue().relativize(file).toString().replace('\\', '/');
                    return new Origin(each.getKey(), Optional.of(inside));
                }
            }
        }
        return Origin.of(file);
    }

    /**
     * The file that an origin tells of; its archive is unpacked where that is needed.
     *
     * @throws IntakeException where the archive cannot be read or is refused
     */
    public Path locate(Origin origin, Progress progress) {
        return origin.inside()
                .map(inside -> unpack(origin.file(), progress).resolve(inside))
                .orElse(origin.file());
    }

    /** A failure that names the archive a file came from, where it names an unpacked one. */
    public PantryException told(PantryException problem) {
        Optional<String> file = problem.file()
                .map(name -> origin(Path.of(name)).toString())
                .filter(name -> !name.equals(problem.file().get()));
        return file.isEmpty()
                ? problem
                : new PantryException(
                        file.get(), problem.place().orElse(null), String.valueOf(problem.getMessage()), problem);
    }
}
