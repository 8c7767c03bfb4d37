package pantry.usecase;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.catalogue.Finder;
import pantry.catalogue.SameFiles;
import pantry.exchange.format.Imported;

/**
 * Which files of a batch need not be taken in: an asset was made of the very same, with the same files beside it, or the same
 * stands earlier in the batch. Safe for use by several threads.
 */
public final class KnownFiles {
    private final SameFiles shelved;
    private final Finder finder;

    /** For files with their like before them in the batch, the first of those. */
    private final Map<Path, Path> twins = new HashMap<>();

    /** @param finder answers about the libraries that are looked through */
    public KnownFiles(List<Path> batch, SameFiles shelved, Finder finder) {
        this.shelved = shelved;
        this.finder = finder;
        Map<Long, List<Path>> bySize = new HashMap<>();
        for (Path file : batch) {
            List<Path> before = bySize.computeIfAbsent(size(file), size -> new ArrayList<>());
            before.stream()
                    .filter(other -> SameFiles.areSame(file, other))
                    .findFirst()
                    .ifPresentOrElse(first -> twins.put(file, first), () -> before.add(file));
        }
    }

    private static long size(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            // It is refused when it is read.
            return -1;
        }
    }

    /** Where such a file is, for a person; empty where it is new. */
    public Optional<String> place(Imported arrival) {
        return shelved.find(arrival.file(), arrival.companions(), finder.items())
                .map(item -> "was shelved before, on " + item.shelf() + " as " + item.name())
                .or(() -> Optional.ofNullable(twins.get(arrival.file()))
                        .filter(first -> SameFiles.areBeside(arrival.companions(), first.getParent()))
                        .map(first -> "is the same as " + first.getFileName()));
    }
}
