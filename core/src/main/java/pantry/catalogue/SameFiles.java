package pantry.catalogue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiPredicate;
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

    /** Whether a folder holds files of the same names and bytes. */
    public static boolean areBeside(List<Path> files, Path folder) {
        return files.stream().allMatch(file -> areSame(file, folder.resolve(file.getFileName())));
    }

    /** The first of some assets of which a version was made of such a file. */
    public Optional<IndexedAsset> find(Path file, List<IndexedAsset> items) {
        return find(file, items, (source, all) -> true);
    }

    /**
     * The first of some assets of which a version was made of such a file and what came with it, and of nothing else.
     *
     * @param companions the files that came with it
     */
    public Optional<IndexedAsset> find(Path file, List<Path> companions, List<IndexedAsset> items) {
        long files = 1 + companions.stream().map(Path::getFileName).distinct().count();
        return find(
                file,
                items,
                (source, all) -> all.stream()
                                        .filter(each -> each.version().equals(source.version()))
                                        .count()
                                == files
                        && areBeside(companions, source.file().getParent()));
    }

    /** @param also what has to hold of a source, among all of its asset */
    private Optional<IndexedAsset> find(
            Path file, List<IndexedAsset> items, BiPredicate<SourceFiles.Source, List<SourceFiles.Source>> also) {
        long bytes;
        try {
            bytes = Files.size(file);
        } catch (IOException e) {
            return Optional.empty();
        }
        return items.stream()
                .filter(item -> {
                    List<SourceFiles.Source> all = sources(item);
                    return all.stream()
                            .anyMatch(source -> source.bytes() == bytes
                                    && source.isMain()
                                    && areSame(source.file(), file)
                                    && also.test(source, all));
                })
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
