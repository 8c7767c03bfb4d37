package pantry.catalogue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import pantry.library.SourceFiles;
import pantry.model.ShapeDescriptor;

/**
 * Finds the assets that were made of a file, by its bytes. Folders are looked through once, and again when their asset has
 * changed. Safe for use by several threads.
 */
public final class SameFiles {
    private final Map<Path, Known> known = new ConcurrentHashMap<>();

    private record Known(long changed, List<SourceFiles.Source> sources) {}

    /** Whether two files hold the same bytes; not where either cannot be read. */
    public static boolean areSame(Path one, Path other) {
        try {
            return Files.size(one) == Files.size(other) && Files.mismatch(one, other) == -1;
        } catch (IOException e) {
            return false;
        }
    }

    /** The first of some assets of which a version was made of such a file. */
    public Optional<IndexedAsset> find(Path file, List<IndexedAsset> items) {
        long bytes;
        try {
            bytes = Files.size(file);
        } catch (IOException e) {
            return Optional.empty();
        }
        return items.stream()
                .filter(item -> sources(item).stream()
                        .anyMatch(source -> source.bytes() == bytes && source.isMain() && areSame(source.file(), file)))
                .findFirst();
    }

    /**
     * What is like a file: first what was made of the very same, then what has its shape, the likest first.
     *
     * @param shape of what the file holds; empty where it has none of its own
     * @param least likeness, 0 to 1
     * @param most so many at the most
     */
    public List<Alike> alike(Path file, Optional<ShapeDescriptor> shape, Finder finder, double least, int most) {
        List<Alike> all = new ArrayList<>();
        find(file, finder.items()).ifPresent(item -> all.add(new Alike(item, 1, true)));
        shape.ifPresent(its -> finder.alike(its, least, most).stream()
                .filter(each -> all.stream().noneMatch(same -> same.item() == each.item()))
                .forEach(all::add));
        return all.subList(0, Math.min(most, all.size()));
    }

    private List<SourceFiles.Source> sources(IndexedAsset item) {
        Path folder = Path.of(item.library()).resolve(item.folder());
        return known.compute(
                        folder,
                        (same, before) -> before != null && before.changed == item.changed()
                                ? before
                                : new Known(item.changed(), SourceFiles.of(folder)))
                .sources();
    }
}
