package pantry.prep.inspect;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.base.AtomicFiles;
import pantry.base.IoProblems;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.workpiece.PrepException;

/**
 * Results of inspections, kept in a folder of the user's cache: nothing is computed twice for the same contents, card
 * and rules. A file that cannot be read counts as not there.
 */
public final class KeptInspections {
    private final Path folder;

    /** What was found, in a few words. */
    public record Result(List<Brief> findings, List<String> unanswered) {
        public Result {
            findings = List.copyOf(findings);
            unanswered = List.copyOf(unanswered);
        }
    }

    public KeptInspections(Path folder) {
        this.folder = folder;
    }

    private Path file(String key) {
        return folder.resolve(key.substring(0, 2)).resolve(key + ".json");
    }

    /** @param key hexadecimal, of what the result depends on */
    Optional<Result> find(String key) {
        Path file = file(key);
        if (!Files.exists(file)) {
            return Optional.empty();
        }
        try {
            return Optional.of(Json.read(file, Result.class));
        } catch (PantryException e) {
            // Somebody's cache is damaged: it is found anew.
            return Optional.empty();
        }
    }

    void keep(String key, Result result) {
        Path file = file(key);
        try {
            Files.createDirectories(file.getParent());
            AtomicFiles.write(file, Json.line(result));
        } catch (IOException e) {
            throw new PrepException(file, null, "the result cannot be kept: " + IoProblems.describe(e), e);
        }
    }
}
