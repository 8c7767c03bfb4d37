package pantry.project;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What shall be changed over many files; nothing has been yet.
 *
 * @param title for a person, such as the line in the ledger
 */
public record ChangePlan(String title, List<Change> changes) {
    public ChangePlan {
        changes = List.copyOf(changes);
    }

    /** Without some of its changes. */
    public ChangePlan without(Set<Change> unwanted) {
        return new ChangePlan(
                title,
                changes.stream().filter(change -> !unwanted.contains(change)).toList());
    }

    /** The changes by their files, in the order in which the files come first. */
    public Map<Path, List<Change>> byFile() {
        Map<Path, List<Change>> byFile = new LinkedHashMap<>();
        changes.forEach(change -> byFile.computeIfAbsent(change.file(), file -> new java.util.ArrayList<>())
                .add(change));
        return byFile;
    }
}
