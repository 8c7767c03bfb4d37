package pantry.intake;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import pantry.base.FileStamp;
import pantry.base.Progress;

/**
 * A folder that is looked at now and then for new arrivals. A file has arrived when it was the same on two looks: what
 * is still being copied grows. What lay there at the first look is told as well.
 */
public final class DropFolder {
    private final Path folder;
    private final Set<Path> told = new HashSet<>();
    private Map<Path, FileStamp> before = Map.of();

    public DropFolder(Path folder) {
        this.folder = folder;
    }

    public Path folder() {
        return folder;
    }

    /**
     * Looks.
     *
     * @return what has arrived since, sorted; nothing is told twice unless it was changed or removed meanwhile
     * @throws IntakeException where the folder cannot be read
     */
    public List<Path> look() {
        Map<Path, FileStamp> now = new HashMap<>();
        List<Path> arrived = new ArrayList<>();
        // Each by itself: what belongs to a file that was told before would be told of nowhere.
        for (Listing.Entry entry :
                Listing.of(List.of(folder), false, Progress.NONE).entries()) {
            FileStamp stamp;
            try {
                stamp = FileStamp.of(entry.file());
            } catch (IOException e) {
                // It went away between the listing and the look.
                continue;
            }
            now.put(entry.file(), stamp);
            if (!stamp.equals(before.get(entry.file()))) {
                told.remove(entry.file());
            } else if (told.add(entry.file())) {
                arrived.add(entry.file());
            }
        }
        told.retainAll(now.keySet());
        before = now;
        return arrived;
    }
}
