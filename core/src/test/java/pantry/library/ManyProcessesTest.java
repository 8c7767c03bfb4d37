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
    private static final int PROCESSES = 8;

    /** Rounds of each; {@code -Dpantry.rounds=400} makes about two minutes of it. */
    private static final int ROUNDS = Integer.getInteger("pantry.rounds", 6);

    @TempDir
    private Path folder;

    /** Publishes, tags, moves, shelves and reads. */
    static final class Colleague {
        private Colleague() {}

        public static void main(String[] arguments) {
            String who = arguments[1];
            int rounds = Integer.parseInt(arguments[2]);
            Library library = Library.open(Path.of(arguments[0]), who, Clock.systemUTC());
            Asset shared = library.find("Shared");
            Asset wandering = library.find("Wandering");
            VersionContents contents = (data, slug, version) -> {
                Files.writeString(data.resolve("made-by.txt"), who);
                Files.writeString(
                        data.resolve(slug + ".usda"),
                        "#usda 1.0\n( defaultPrim = \"Shared\" )\ndef Xform \"Shared\" {}\n");
            };
            for (int i = 0; i < rounds; i++) {
                String tag = who + "-" + i;
                library.publish(shared, VersionStatus.READY, contents, Map.of(), Progress.NONE);
                library.edit(List.of(shared, wandering), card -> card.tagged(tag), Progress.NONE);
                library.places().move(wandering, "Ways/" + (i + who.hashCode() & 3));
                library.publish(wandering, VersionStatus.DRAFT, contents, Map.of(), Progress.NONE);
                if (i < 6) {
                    Card card = Card.fresh(tag, "Same name", AssetKind.MODEL);
                    library.shelve(card, "Crowded", contents, Map.of(), Progress.NONE);
                }
                for (Asset asset : library.assets()) {
                    asset.newest().ifPresent(asset::entryLayer);
                }
            }
        }
    }

    @Test
    void allThatWasDoneIsThere() throws IOException, InterruptedException {
        try (Workshop workshop = new Workshop(folder)) {
            workshop.block("Shared", "Masts", 9);
            workshop.block("Wandering", "Ways/0", 9);
            Path root = workshop.library().root();
            List<Process> processes = new ArrayList<>();
            for (int i = 0; i < PROCESSES; i++) {
                processes.add(
                        JavaProcess.start(Colleague.class, root.toString(), "colleague-" + i, String.valueOf(ROUNDS)));
            }
            for (Process process : processes) {
                assertThat(process.waitFor()).isZero();
            }
            Library library = Library.open(root, "tester", Clock.systemUTC());
            for (String name : List.of("Shared", "Wandering")) {
                Asset asset = library.find(name);
                assertThat(asset.versions()).as(name).hasSize(1 + PROCESSES * ROUNDS);
                assertThat(asset.card().versions()).as("no status is lost").hasSize(1 + PROCESSES * ROUNDS);
                assertThat(asset.card().tags()).as("no tag is lost").hasSize(PROCESSES * ROUNDS);
                assertThat(library.journal().entries(asset))
                        .filteredOn(entry -> entry.what().equals("published"))
                        .as("all of it is in the journal")
                        .hasSize(PROCESSES * ROUNDS);
            }
            List<Asset> crowded = library.assets().stream()
                    .filter(asset -> asset.shelf().equals("Crowded"))
                    .toList();
            assertThat(crowded).hasSize(PROCESSES * Math.min(6, ROUNDS));
            assertThat(crowded).extracting(asset -> asset.card().id()).doesNotHaveDuplicates();
            assertThat(library.verify(Progress.NONE).problems()).isEmpty();
            assertThat(root.resolve("incoming")).isEmptyDirectory();
        }
    }
}
