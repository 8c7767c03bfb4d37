package pantry.prep.inspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CancellationException;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.prep.Made;
import pantry.testing.Cancelled;
import pantry.testing.WithWorkshop;

@DisplayName("What stands on the shelves is inspected once for each version, and asked anew of its neighbours")
class ShelfInspectionTest extends WithWorkshop {
    private ShelfInspection inspection() {
        return new ShelfInspection(
                library, RuleSet.of(library), new KeptInspections(folder.resolve("kept")), Made.sources(workshop));
    }

    private Map<String, KeptInspections.Result> all(Progress progress) {
        Map<String, KeptInspections.Result> found = new LinkedHashMap<>();
        inspection().all((asset, result) -> found.put(asset.card().name(), result), progress);
        return found;
    }

    private List<Path> kept() throws Exception {
        try (var files = Files.walk(folder.resolve("kept"))) {
            return files.filter(Files::isRegularFile).toList();
        }
    }

    @Test
    @DisplayName("each asset is told of, and what was found is kept and found again")
    void once() throws Exception {
        workshop.block("Mast", "Masts", 9);
        workshop.block("Drum", "Power", 1);
        Map<String, KeptInspections.Result> first = all(Progress.NONE);
        assertThat(first).containsOnlyKeys("Mast", "Drum");
        assertThat(kept()).hasSize(2);
        assertThat(all(Progress.NONE)).isEqualTo(first);
        assertThat(kept()).as("nothing was inspected again").hasSize(2);
    }

    @Test
    @DisplayName("a version that cannot be read is told, and the others are inspected")
    void unreadable() throws Exception {
        Asset mast = workshop.block("Mast", "Masts", 9);
        workshop.block("Drum", "Power", 1);
        Files.writeString(mast.entryLayer("v001"), "#usda 1.0\ndef {");
        Map<String, KeptInspections.Result> found = all(Progress.NONE);
        assertThat(found).containsOnlyKeys("Mast", "Drum");
        assertThat(found.get("Mast").findings()).isEmpty();
        assertThat(found.get("Mast").unanswered()).singleElement().asString().contains("mast.usda");
        assertThat(found.get("Drum").unanswered()).isEmpty();
    }

    @Test
    @DisplayName("what another asset is nearly like is found as soon as that one stands there")
    void neighbours() {
        Asset one = workshop.block("Mast", "Masts", 9);
        List<String> alone = rules(inspection().of(one, Progress.NONE));
        workshop.block("Mast again", "Masts", 9);
        List<String> beside = rules(inspection().of(one, Progress.NONE));
        assertThat(beside).containsAll(alone).hasSizeGreaterThan(alone.size());
    }

    private static List<String> rules(KeptInspections.Result result) {
        return result.findings().stream().map(Brief::rule).toList();
    }

    @Test
    @DisplayName("it stops where it is no longer wanted")
    void stops() {
        workshop.block("Mast", "Masts", 9);
        Progress cancelled = new Cancelled();
        assertThatThrownBy(() -> all(cancelled)).isInstanceOf(CancellationException.class);
    }
}
