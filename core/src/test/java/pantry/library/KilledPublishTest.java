package pantry.library;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.testing.JavaProcess;
import pantry.testing.Workshop;

/** Processes that publish are killed at random moments; the library holds whole versions only. */
class KilledPublishTest {
    private static final int KILLS = 50;

    @TempDir
    private Path folder;

    /** Publishes one version after another until it is killed; says when it starts. */
    static final class Publisher {
        private Publisher() {}

        public static void main(String[] arguments) {
            Library library = Library.open(Path.of(arguments[0]), "victim", Clock.systemUTC());
            Asset asset = library.find("Mast");
            System.out.println("publishing");
            byte[] bulk = new byte[200_000];
            while (true) {
                library.publish(
                        asset,
                        VersionStatus.READY,
                        (data, slug, version) -> {
                            try (Stream<Path> files = Files.list(asset.data("v001"))) {
                                for (Path file : files.toList()) {
                                    Files.copy(file, data.resolve(file.getFileName()));
                                }
                            }
                            for (int i = 0; i < 5; i++) {
                                Files.write(data.resolve("bulk-" + i), bulk);
                            }
                        },
                        java.util.Map.of(),
                        Progress.NONE);
            }
        }
    }

    @Test
    void everyKillLeavesWholeVersionsOnly() throws IOException, InterruptedException {
        try (Workshop workshop = new Workshop(folder)) {
            workshop.block("Mast", "Masts", 9);
            Path root = workshop.library().root();
            Random random = new Random(4711);
            int before = 1;
            boolean published = false;
            for (int kill = 0; kill < KILLS; kill++) {
                Process process = JavaProcess.start(Publisher.class, root.toString());
                assertThat(process.inputReader().readLine()).isEqualTo("publishing");
                // The moment is what the test is about: anywhere within the first few publications.
                boolean ended = process.waitFor(random.nextInt(700), TimeUnit.MILLISECONDS);
                assertThat(ended).as("it publishes until it is killed").isFalse();
                process.destroyForcibly().waitFor();
                Library library = Library.open(root, "survivor", Clock.systemUTC());
                Verification verification = library.verify(Progress.NONE);
                assertThat(verification.problems()).as("after kill " + kill).isEmpty();
                Asset asset = library.find("Mast");
                assertThat(asset.versions().size()).isGreaterThanOrEqualTo(before);
                assertThat(asset.entryLayer(asset.ready().orElseThrow())).exists();
                published |= asset.versions().size() > before;
                before = asset.versions().size();
            }
            assertThat(published).as("some publications were finished").isTrue();
            assertThat(root.resolve("incoming"))
                    .as("rubbish is cleared at the next start")
                    .isEmptyDirectory();
        }
    }
}
