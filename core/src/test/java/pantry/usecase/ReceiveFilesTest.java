package pantry.usecase;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.intake.Intake;
import pantry.intake.Neighbours;
import pantry.intake.Origin;
import pantry.intake.ProcessingOptions;
import pantry.intake.Report;
import pantry.intake.UnpackedArchives;
import pantry.library.Asset;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.testing.Workshop;

class ReceiveFilesTest {
    @TempDir
    private Path folder;

    private Workshop workshop;
    private ReceiveFiles receive;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder.resolve("shop"));
        receive = new ReceiveFiles(workshop.intake(), new UnpackedArchives(() -> folder.resolve("unpacked")));
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private ReceiveFiles.Entry entry(String name, Mesh mesh, double share) {
        Path file = folder.resolve(name + ".glb");
        ModelWriters.write(Workshop.model(name, mesh), file);
        return entry(file, share);
    }

    private ReceiveFiles.Entry entry(Path file, double share) {
        return new ReceiveFiles.Entry(
                file, progress -> workshop.intake().read(file, progress), summary -> Intake.suggested(
                                summary, "Things", Neighbours.NONE)
                        .withMaking(ProcessingOptions.USUAL.withShare(share)));
    }

    @Test
    void filesAreShelvedInTheirOrderAndTheRefusedDoNotStopTheOthers() throws Exception {
        Path broken = Files.writeString(folder.resolve("broken.glb"), "no model");
        List<ReceiveFiles.Entry> entries = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            entries.add(entry("Block " + i, Shapes.block(1, 1 + i, 1), 1));
        }
        entries.add(3, entry(broken, 1));
        List<ReceiveFiles.Outcome> told = Collections.synchronizedList(new ArrayList<>());
        List<ReceiveFiles.Outcome> outcomes = receive.run(entries, workshop.library(), told::add, Progress.NONE);
        assertThat(outcomes).extracting(ReceiveFiles.Outcome::entry).isEqualTo(entries);
        assertThat(told).containsExactlyInAnyOrderElementsOf(outcomes);
        assertThat(outcomes.get(3)).isInstanceOfSatisfying(ReceiveFiles.Refused.class, refused -> assertThat(
                        refused.problem().file())
                .contains(broken.toString()));
        assertThat(workshop.library().assets())
                .extracting(Asset::slug)
                .containsExactlyInAnyOrder("block-0", "block-1", "block-2", "block-3", "block-4", "block-5");
        assertThat(outcomes.stream().map(ReceiveFiles.Outcome::line).toList())
                .extracting(Report.Line::outcome)
                .filteredOn(Report.Outcome.REFUSED::equals)
                .hasSize(1);
    }

    /** The distance of what is left from the sphere is at most that of a chord, and told in metres. */
    @Test
    void theErrorOfLeavingTrianglesOutIsTold() {
        ReceiveFiles.Entry ball = entry("Ball", Shapes.sphere(1, 48, 24), 0.25);
        ReceiveFiles.Outcome outcome = receive.run(List.of(ball), workshop.library(), each -> {}, Progress.NONE)
                .getFirst();
        assertThat(outcome).isInstanceOfSatisfying(ReceiveFiles.Received.class, received -> {
            assertThat(received.error()).isGreaterThan(0).isLessThan(0.2);
            assertThat(received.origin()).isEqualTo(Origin.of(ball.file()));
            assertThat(received.published().asset().facts("v001").triangles())
                    .isCloseTo((long) (0.25 * Shapes.sphere(1, 48, 24).triangleCount()), within(20L));
        });
        assertThat(outcome.line().reason()).matches("reduced, error 0\\.\\d+ m");
    }

    @Test
    void cancellingBeginsNoMore() {
        List<ReceiveFiles.Entry> entries = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            entries.add(entry("Block " + i, Shapes.block(1, 1, 1), 1));
        }
        AtomicInteger over = new AtomicInteger();
        Progress cancelledAfterTwo = new Progress() {
            @Override
            public void report(String what, double fraction) {}

            @Override
            public boolean cancelled() {
                return over.get() >= 2;
            }
        };
        assertThatThrownBy(() ->
                        receive.run(entries, workshop.library(), each -> over.incrementAndGet(), cancelledAfterTwo))
                .isInstanceOf(CancellationException.class);
        assertThat(workshop.library().assets())
                .as("what was shelved by then stays")
                .hasSizeBetween(2, 2 + ReceiveFiles.AT_ONCE);
        assertThat(workshop.library().verify(Progress.NONE).ok()).isTrue();
    }
}
