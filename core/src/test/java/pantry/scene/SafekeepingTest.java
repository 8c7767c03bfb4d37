package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

@DisplayName("Keeping a scene safe")
class SafekeepingTest extends WithYard {
    private SdfPath put(double x) {
        return scene.placements()
                .place(
                        block,
                        Optional.empty(),
                        "Block",
                        TransformComponents.ORIGIN.withMove(new Vec3(x, 0, 0)),
                        Optional.empty());
    }

    private void written(Path file, int second) throws Exception {
        Files.setLastModifiedTime(file, FileTime.from(Instant.parse("2031-02-03T04:05:%02dZ".formatted(second))));
    }

    @Test
    @DisplayName("what was not saved before a crash is offered, and taken up as one change that can be undone")
    void autosave() throws Exception {
        put(1);
        scene.save();
        assertThat(Safekeeping.left(scene.file())).isEmpty();
        put(2);
        put(3);
        scene.autosave();
        assertThat(Files.readString(scene.file())).doesNotContain("Block_2");

        // The program ends here without saving.
        Scene after = workshop.openScene(scene.file());
        assertThat(after.placements().all()).hasSize(1);
        assertThat(Safekeeping.left(after.file())).isPresent();
        after.recover();
        assertThat(after.placements().all()).hasSize(3);
        assertThat(after.model().trianglesDrawn()).isEqualTo(scene.model().trianglesDrawn());
        assertThat(after.changed()).isTrue();
        after.undo();
        assertThat(after.placements().all()).hasSize(1);
        assertThat(after.changed()).isFalse();
        after.redo();
        after.save();
        assertThat(Safekeeping.left(after.file())).isEmpty();
        assertThat(workshop.openScene(after.file()).placements().all()).hasSize(3);
    }

    @Test
    @DisplayName("nothing is autosaved of what was not changed")
    void unchanged() {
        scene.autosave();
        assertThat(Safekeeping.autosaved(scene.file())).doesNotExist();
    }

    @Test
    @DisplayName(
            "the states that were saved over stay beside the file, each a scene that opens, however quickly they came")
    void before() throws Exception {
        int states = 12;
        Files.setLastModifiedTime(scene.file(), FileTime.from(Instant.now().minusSeconds(60)));
        scene = workshop.openScene(scene.file());
        for (int i = 0; i <= states; i++) {
            put(i);
            scene.save();
            Files.setLastModifiedTime(scene.file(), FileTime.from(Instant.now().minusMillis(1000L * (states - i))));
            scene = workshop.openScene(scene.file());
        }
        List<Path> kept = Safekeeping.before(scene.file());
        assertThat(kept)
                .as("twelve within a quarter of a minute, and the empty one")
                .hasSize(states + 1);
        for (int i = 0; i < kept.size(); i++) {
            assertThat(workshop.openScene(kept.get(i)).placements().all()).hasSize(states - i);
        }
    }

    @Test
    @DisplayName("of the last day the first state of each hour is kept, of the last month the first of each day")
    void thinnedOut() {
        Instant now = Instant.parse("2026-11-29T12:30:00Z");
        List<Instant> times = new ArrayList<>();
        for (int minutes = 0; minutes < 60 * 24 * 40; minutes += 10) {
            times.add(now.minus(Duration.ofMinutes(minutes)));
        }
        List<Instant> left = new ArrayList<>(times);
        Safekeeping.superfluous(times, now).reversed().forEach(number -> left.remove((int) number));
        assertThat(left.subList(0, Safekeeping.LAST)).isEqualTo(times.subList(0, Safekeeping.LAST));
        List<Instant> today = left.stream()
                .filter(time -> time.isAfter(now.minus(Duration.ofHours(24))))
                .toList();
        assertThat(today.subList(Safekeeping.LAST, today.size()))
                .as("one of each hour, the first")
                .hasSizeBetween(22, 24)
                .allMatch(time -> time.equals(time.truncatedTo(ChronoUnit.HOURS)));
        List<Instant> older = left.stream()
                .filter(time -> time.isBefore(now.minus(Duration.ofHours(25))))
                .toList();
        assertThat(older).hasSizeBetween(28, 30).allMatch(time -> time.equals(time.truncatedTo(ChronoUnit.DAYS)));
        assertThat(left.getLast()).isAfter(now.minus(Duration.ofDays(31)));
        List<Instant> burst = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            burst.add(now.minusSeconds(i));
        }
        assertThat(Safekeeping.superfluous(burst, now)).as("a machine at work").hasSize(140);
    }

    @Test
    @DisplayName("what was not saved tells when it was and what it holds, and so does what was only taken back")
    void whatItHolds() {
        put(1);
        SdfPath second = put(2);
        scene.structure().remove(List.of(second));
        scene.autosave();
        Safekeeping.Unsaved left = Safekeeping.left(scene.file()).orElseThrow();
        assertThat(left.file()).isEqualTo(Safekeeping.autosaved(scene.file()));
        assertThat(left.when()).isAfter(Instant.now().minusSeconds(60));
        assertThat(left.actions()).hasSize(3).first().asString().startsWith("removed");
        scene.save();
        assertThat(Safekeeping.left(scene.file())).isEmpty();
        assertThat(scene.unsavedActions()).isEmpty();
        scene.undo();
        assertThat(scene.unsavedActions()).singleElement().asString().startsWith("took back: removed");
        scene.redo();
        assertThat(scene.unsavedActions()).isEmpty();
    }

    @Test
    @DisplayName("a file that another has changed is not saved over unseen; what differs is told")
    void changedByAnother() throws Exception {
        SdfPath mine = put(1);
        scene.save();
        Scene another = workshop.openScene(scene.file());
        SdfPath theirs = another.placements()
                .place(block, Optional.empty(), "Theirs", TransformComponents.ORIGIN, Optional.empty());
        another.structure().remove(List.of(mine));
        another.save();
        written(scene.file(), 59);

        SdfPath second = put(2);
        assertThat(scene.changedOnDisk()).isTrue();
        assertThatThrownBy(scene::save).hasMessageContaining("changed by another");
        assertThat(scene.differences())
                .containsExactlyInAnyOrder(
                        new Difference(mine, Difference.Kind.ADDED),
                        new Difference(second, Difference.Kind.ADDED),
                        new Difference(theirs, Difference.Kind.REMOVED));
        Files.createDirectories(folder.resolve("project/other"));
        Path elsewhere = scene.saveElsewhere(folder.resolve("project/other/yard-mine.usda"));
        assertThat(workshop.openScene(elsewhere).model().trianglesDrawn())
                .isEqualTo(scene.model().trianglesDrawn());
        assertThatThrownBy(() -> scene.saveElsewhere(elsewhere)).hasMessageContaining("already there");
        scene.saveOver();
        assertThat(workshop.openScene(Safekeeping.before(scene.file()).getFirst())
                        .placements()
                        .all())
                .extracting(Placement::path)
                .containsExactly(theirs);
        assertThat(scene.changedOnDisk()).isFalse();
    }

    @Test
    @DisplayName("an asset that is taken off the library meanwhile leaves the scene whole, and told as missing")
    void removedAsset() {
        SdfPath path = put(1);
        scene.save();
        library.trash().discard(block);
        scene.reload();
        assertThat(scene.placements().at(path).orElseThrow().held()).isEqualTo(Placement.Held.MISSING);
        assertThat(scene.model().trianglesDrawn()).isZero();
        assertThat(scene.stage().problems()).isNotEmpty();
        scene.arranging().move(java.util.Map.of(path, TransformComponents.ORIGIN.withMove(new Vec3(5, 0, 0))));
        scene.save();
        assertThat(workshop.openScene(scene.file()).placements().all()).hasSize(1);
    }
}
