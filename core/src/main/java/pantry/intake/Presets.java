package pantry.intake;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.Names;
import pantry.library.Library;

/**
 * Kept choices on disk: a user's own, each a JSON file in a folder; a shelf's usual ones in {@code shelf.json} in the
 * shelf's folder of the library, for everybody.
 */
public final class Presets {
    private static final String SHELF_FILE = "shelf.json";

    private final Path folder;

    /** @param folder the user's own; made when first needed */
    public Presets(Path folder) {
        this.folder = folder;
    }

    /** A preset with the name that the user gave it. */
    public record Named(String name, SlipPreset preset) {}

    /**
     * All of the user's own, by name; files that are no presets are left out.
     *
     * @throws IntakeException where they cannot be read
     */
    public List<Named> all() {
        if (!Files.isDirectory(folder)) {
            return List.of();
        }
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.toString().endsWith(".json"))
                    .flatMap(file -> read(file).stream())
                    .sorted(java.util.Comparator.comparing(Named::name))
                    .toList();
        } catch (IOException e) {
            throw new IntakeException(folder, "the presets cannot be read: " + IoProblems.describe(e), e);
        }
    }

    private static Optional<Named> read(Path file) {
        try {
            Named named = Json.read(file, Named.class);
            return Optional.of(named).filter(n -> n.name() != null && n.preset() != null);
        } catch (pantry.base.PantryException e) {
            return Optional.empty();
        }
    }

    /**
     * Keeps choices under a name; those kept under it before are gone.
     *
     * @throws IntakeException where it cannot be written
     */
    public void keep(String name, SlipPreset preset) {
        try {
            Files.createDirectories(folder);
            AtomicFiles.write(
                    folder.resolve(Names.slug(name) + ".json"), Json.write(new Named(Names.title(name), preset)));
        } catch (IOException e) {
            throw new IntakeException(folder, "the preset cannot be kept: " + IoProblems.describe(e), e);
        }
    }

    /** @throws IntakeException where there is none of that name */
    public SlipPreset get(String name) {
        return all().stream()
                .filter(named -> named.name().equalsIgnoreCase(Names.title(name)))
                .findFirst()
                .map(Named::preset)
                .orElseThrow(() -> new IntakeException(
                        folder,
                        "has no preset \"" + name + "\"; there are: "
                                + String.join(
                                        ", ", all().stream().map(Named::name).toList()),
                        null));
    }

    public void remove(String name) {
        try {
            Files.deleteIfExists(folder.resolve(Names.slug(name) + ".json"));
        } catch (IOException e) {
            throw new IntakeException(folder, "the preset cannot be removed: " + IoProblems.describe(e), e);
        }
    }

    /** The usual choices of a shelf, or of the nearest one above it that has some. */
    public static Optional<SlipPreset> usualOf(Library library, String shelf) {
        String at = shelf;
        while (true) {
            Path file = library.shelfFolder(at).resolve(SHELF_FILE);
            if (Files.isRegularFile(file)) {
                return Optional.of(Json.read(file, SlipPreset.class));
            }
            if (at.isEmpty()) {
                return Optional.empty();
            }
            at = at.contains("/") ? at.substring(0, at.lastIndexOf('/')) : "";
        }
    }

    /**
     * Makes a slip's choices the usual ones of its shelf.
     *
     * @throws IntakeException where it cannot be written
     */
    public static void makeUsual(Library library, Slip slip) {
        Path file = library.shelfFolder(slip.shelf()).resolve(SHELF_FILE);
        try {
            Files.createDirectories(file.getParent());
            AtomicFiles.write(file, Json.write(SlipPreset.of(slip).forShelf()));
        } catch (IOException e) {
            throw new IntakeException(file, "the shelf's usual choices cannot be kept: " + IoProblems.describe(e), e);
        }
    }
}
