package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.testing.JavaProcess;
import pantry.testing.Workshop;

/** Several processes publish and shelve in one library at once: nothing is lost, nothing is there twice. */
class ManyProcessesTest {
    private static final int PROCESSES = 3;
    private static final int EACH = 6;

    @TempDir
    private Path folder;

    /** Publishes some versions of one asset and shelves some assets of one name. */
    static final class Colleague {
        private Colleague() {}

        public static void main(String[] arguments) {
            Library library = Library.open(Path.of(arguments[0]), arguments[1], Clock.systemUTC());
            Asset asset = library.find("Shared");
            Contents contents = (data, slug, version) -> {
                Files.copy(asset.data("v001").resolve("facts.json"), data.resolve("facts.json"));
                Files.writeString(
                        data.resolve(slug + ".usda"),
                        "#usda 1.0\n( defaultPrim = \"Shared\" )\ndef Xform \"Shared\" {}\n");
            };
            for (int i = 0; i < EACH; i++) {
                library.publish(asset, VersionStatus.READY, contents, Map.of(), Progress.NONE);
                Card card = Card.fresh(arguments[1] + "-" + i, "Same name", AssetKind.MODEL);
                library.shelve(card, "Crowded", contents, Map.of(), Progress.NONE);
            }
        }
    }

    @Test
    void allThatWasDoneIsThere() throws IOException, InterruptedException {
        try (Workshop workshop = new Workshop(folder)) {
            workshop.block("Shared", "Masts", 9);
            Path root = workshop.library().root();
            List<Process> processes = new ArrayList<>();
            for (int i = 0; i < PROCESSES; i++) {
                processes.add(JavaProcess.start(Colleague.class, root.toString(), "colleague-" + i));
            }
            for (Process process : processes) {
                assertThat(process.waitFor()).isZero();
            }
            Library library = Library.open(root, "tester", Clock.systemUTC());
            Asset shared = library.find("Shared");
            assertThat(shared.versions()).hasSize(1 + PROCESSES * EACH);
            assertThat(shared.card().versions()).as("no status is lost").hasSize(1 + PROCESSES * EACH);
            List<Asset> crowded = library.assets().stream()
                    .filter(asset -> asset.shelf().equals("Crowded"))
                    .toList();
            assertThat(crowded).hasSize(PROCESSES * EACH);
            assertThat(crowded).extracting(asset -> asset.card().id()).doesNotHaveDuplicates();
            assertThat(library.verify(Progress.NONE).problems()).isEmpty();
            assertThat(root.resolve("incoming")).isEmptyDirectory();
        }
    }
}
