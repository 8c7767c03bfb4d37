package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.usd.file.LayerFiles;

/** Files get other names and places, and all that has to do with them still finds them. */
class MovingTest extends WithProject {
    private ChangeRuns runs;
    private Path part;
    private Path city;

    @BeforeEach
    void files() throws IOException {
        runs = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC());
        part = project.resolve("parts/part.usda");
        Files.createDirectories(part.getParent().resolve("textures"));
        Files.writeString(part.getParent().resolve("textures/snow.png"), "image");
        Files.writeString(part, """
                #usda 1.0
                ( defaultPrim = "Part" )
                def "Part" (references = @../yard.usda@) { # stays
                    asset inputs:file = @./textures/snow.png@
                    asset far = @https://example.org/snow.png@
                }
                """);
        city = Files.writeString(project.resolve("city.usda"), """
                #usda 1.0
                (
                    subLayers = [@./fields/field 1.usda@]
                )
                def "One" (references = @./parts/part.usda@) {}
                def "Two" (references = @parts/part.usda@</Part>) {}
                """);
    }

    private Moving plan(Path from, Path to) {
        return Moving.plan(reach(), List.of(Project.open(project)), from, to);
    }

    private void move(Path from, Path to) {
        plan(from, to).run(runs, file -> "", Progress.NONE);
    }

    private List<Object> seen() {
        Reach reach = reach();
        List<Object> seen = new ArrayList<>(List.of(reach.missing().size(), reach.unreadable()));
        reach.uses(current(mast), Optional.empty()).forEach(use -> seen.add(use.placements() + use.version()));
        reach.uses(current(frame), Optional.empty()).forEach(use -> seen.add(use.placements() + use.version()));
        return seen;
    }

    @Test
    void aFileThatIsMovedIsFoundByWhatNamesItAndFindsWhatItNames() throws IOException {
        List<Object> before = seen();
        String text = Files.readString(part);
        Path to = project.resolve("deep/er/renamed part.usda");
        Moving moving = plan(part, to);
        assertThat(moving.moved()).containsExactly(part);
        assertThat(moving.users()).isEqualTo(Map.of(city, 2));
        ChangeRuns.Done done = moving.run(runs, file -> "", Progress.NONE);
        assertThat(part).doesNotExist();
        assertThat(Files.readString(city))
                .contains("@./deep/er/renamed part.usda@</Part>", "subLayers = [@./fields/field 1.usda@]")
                .doesNotContain("parts/part");
        assertThat(Files.readString(to))
                .isEqualTo(text.replace("@../yard.usda@", "@../../yard.usda@")
                        .replace("@./textures/snow.png@", "@../../parts/textures/snow.png@"));
        assertThat(seen()).containsExactlyInAnyOrderElementsOf(before);
        runs.undo(done.id());
        assertThat(Files.readString(part)).isEqualTo(text);
        assertThat(to).doesNotExist();
        assertThat(seen()).containsExactlyInAnyOrderElementsOf(before);
    }

    @Test
    void aFolderIsMovedAsAWholeWithItsImages() throws IOException {
        List<Object> before = seen();
        String text = Files.readString(part);
        move(part.getParent(), project.resolve("shared/parts"));
        assertThat(part.getParent()).doesNotExist();
        Path there = project.resolve("shared/parts/part.usda");
        assertThat(there.resolveSibling("textures/snow.png")).hasContent("image");
        assertThat(Files.readString(there))
                .as("what went along is named as before")
                .isEqualTo(text.replace("@../yard.usda@", "@../../yard.usda@"));
        assertThat(seen()).containsExactlyInAnyOrderElementsOf(before);
    }

    @Test
    void anImageAndAScenesSublayerAreMovedToo() throws IOException {
        List<Object> before = seen();
        move(project.resolve("parts/textures/snow.png"), project.resolve("snow 2.png"));
        assertThat(Files.readString(part)).contains("@../snow 2.png@");
        move(field, project.resolve("base.usda"));
        assertThat(Files.readString(city)).contains("subLayers = [@./base.usda@]");
        assertThat(seen()).containsExactlyInAnyOrderElementsOf(before);
    }

    @Test
    void binaryLayersAreMovedToo() throws IOException {
        Path binary = project.resolve("parts/part.usdc");
        LayerFiles.write(LayerFiles.read(part), binary);
        Files.delete(part);
        Files.writeString(city, Files.readString(city).replace("part.usda", "part.usdc"));
        List<Object> before = seen();
        move(binary, project.resolve("one.usdc"));
        assertThat(seen()).containsExactlyInAnyOrderElementsOf(before);
    }

    @Test
    void whatCannotBeIsRefusedAndWhatFailsLeavesAllAsItWas() throws IOException {
        Path outside = folder.resolve("outside.usda");
        Path there = project.resolve("there.usda");
        Files.writeString(there, "#usda 1.0\n");
        Map<Path, String> wrong =
                Map.of(outside, "not within", there, "there already", project.resolve("part.usdc"), "another ending");
        wrong.forEach((to, why) -> assertThatThrownBy(() -> plan(part, to))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining(why));
        assertThatThrownBy(() -> plan(project.resolve("none.usda"), project.resolve("x.usda")))
                .hasMessageContaining("is not there");
        assertThatThrownBy(() -> plan(part.getParent(), part.getParent().resolve("inner")))
                .hasMessageContaining("within what would be moved");
        assertThatThrownBy(() -> plan(project, project.resolve("inner"))).hasMessageContaining("not within one");
        Moving moving = plan(part, project.resolve("x.usda"));
        assertThatThrownBy(() -> moving.run(runs, file -> file.equals(city) ? "is open" : "", Progress.NONE))
                .hasMessageContaining("is open");
        assertThat(part).exists();
        // Somebody takes the place between plan and doing.
        Files.writeString(project.resolve("x.usda"), "#usda 1.0\n");
        String before = Files.readString(city);
        assertThatThrownBy(() -> moving.run(runs, file -> "", Progress.NONE)).hasMessageContaining("nothing was moved");
        assertThat(part).exists();
        assertThat(city).hasContent(before);
    }

    /** As if killed between the new file and the removal of the old one. */
    @Test
    void aMoveThatWasStoppedHalfWayIsTakenBack() throws IOException {
        String text = Files.readString(part);
        ChangeRuns.Done done = plan(part, project.resolve("x.usda")).run(runs, file -> "", Progress.NONE);
        Path kept = folder.resolve("changes/done").resolve(done.id());
        Path underway = folder.resolve("changes/underway").resolve(done.id());
        Files.createDirectories(underway.getParent());
        Files.move(kept, underway);
        Files.writeString(folder.resolve("changes/underway/" + done.id() + ".held"), "");
        Files.writeString(part, text);
        assertThat(runs.recover()).contains(part);
        assertThat(part).hasContent(text);
        assertThat(project.resolve("x.usda")).doesNotExist();
        try (Stream<Path> left = Files.list(folder.resolve("changes/underway"))) {
            assertThat(left).isEmpty();
        }
    }
}
