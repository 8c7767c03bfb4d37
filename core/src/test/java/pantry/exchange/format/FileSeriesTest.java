package pantry.exchange.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.intake.DropFolder;
import pantry.intake.Intake;
import pantry.intake.Listing;
import pantry.intake.Neighbours;
import pantry.intake.Pivot;
import pantry.intake.ProcessingOptions;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.mesh.Shapes;
import pantry.model.Model;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;

/** Files that are one thing in several states or at several levels of detail, told by their names; common practice. */
class FileSeriesTest extends WithWorkshop {
    private static final double THICK = 0.05;

    /** A leaf of 0.9 by 2 m, hinged at the origin and turned open. */
    private Path door(String name, double degrees) throws IOException {
        Model leaf = Workshop.model(
                "Leaf",
                Shapes.block(0.9, 2, THICK)
                        .transformed(Matrix4.translation(new Vec3(0.45, 1, 0)))
                        .transformed(Matrix4.rotation(1, degrees)));
        return written(name, leaf);
    }

    private Path written(String name, Model model) throws IOException {
        Path file = folder.resolve("in").resolve(name);
        Files.createDirectories(file.getParent());
        ModelWriters.write(model, file);
        return file;
    }

    private List<Path> named(String... names) {
        List<Path> files = new ArrayList<>();
        for (String name : names) {
            files.add(folder.resolve("in").resolve(name));
        }
        return files;
    }

    private Asset shelved(Path file, Pivot pivot) {
        Imported arrival = workshop.intake().read(file, Progress.NONE);
        Slip slip = Intake.suggested(arrival, "Doors", Neighbours.NONE)
                .withFactor(1)
                .withPivot(pivot);
        return workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
    }

    @ParameterizedTest
    @CsvSource({
        "door_open.glb, door_shut.glb, state, Door, shut open",
        "HutDoorClosed.fbx, HutDoorOpen.fbx, state, Hut door, closed open",
        "lamp-on.obj, lamp-off.obj, state, Lamp, off on",
        "rock_LOD1.fbx, rock_LOD0.fbx, detail, Rock, full lod1",
        "rock lod 2.fbx, rock lod 0.fbx, detail, Rock, full lod2",
        "rock.fbx, rock_lod1.fbx, detail, Rock, full lod1",
        "rock.fbx, rock-LOD_01.fbx, detail, Rock, full lod1",
        "MAST_FOLDED.obj, MAST_UNFOLDED.obj, state, Mast, folded unfolded"
    })
    void oneThingIsToldByTheEndOfItsNames(String one, String other, String set, String title, String variants)
            throws IOException {
        List<FileSeries> found = FileSeries.among(named(one, other));
        Files.createDirectories(folder.resolve("in"));
        for (Path file : named(one, other)) {
            Files.writeString(file, "as good as any");
        }
        assertThat(FileSeries.around(found.getFirst().leader()))
                .as("what lies beside it is found by its name")
                .contains(found.getFirst());
        assertThat(found).hasSize(1);
        assertThat(found.getFirst().set()).isEqualTo(set);
        assertThat(found.getFirst().title()).isEqualTo(title);
        assertThat(found.getFirst().members().keySet()).containsExactly(variants.split(" "));
    }

    @ParameterizedTest
    @CsvSource({
        "door_open.glb, door_shut.fbx, another format",
        "door_open.glb, gate_shut.glb, another name",
        "door_open.glb, door_on.glb, states of other kinds",
        "open.glb, shut.glb, no name in common",
        "rock_lod1.glb, rock_lod2.glb, the finest level is missing",
        "door_open.glb, door-shut.glb, named in another way",
        "door_open.glb, door_SHUT.glb, spelt in another way",
        "rock.glb, rock_lod2.glb, a level is missing between them",
        "reopen.glb, reshut.glb, no words of their own",
        "door.glb, door_open.glb, what the other state would be is not said",
        "north/door_open.glb, south/door_shut.glb, another folder"
    })
    void whatIsNotEvidentIsLeftAlone(String one, String other, String why) {
        assertThat(FileSeries.among(named(one, other))).as(why).isEmpty();
    }

    @Test
    void statesBecomeVariantsThatStandWhereTheFilesHaveThem() throws IOException {
        Path shut = door("door_shut.glb", 0);
        door("door_open.glb", 90);
        door("chair.glb", 0);
        assertThat(Listing.of(List.of(folder.resolve("in")), Progress.NONE).entries())
                .extracting(entry -> entry.file().getFileName().toString())
                .containsExactly("chair.glb", "door_shut.glb");
        Asset asset = shelved(shut, Pivot.BASE);
        assertThat(asset.card().name()).isEqualTo("Door");
        assertThat(asset.facts("v001").variants()).isEqualTo(Map.of("state", List.of("shut", "open")));
        assertThat(asset.data("v001").resolve("source")).isDirectoryContaining("glob:**/door_open.glb");
        Model first =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        assertThat(first.bounds())
                .as("shut unless chosen")
                .isEqualTo(workshop.chosen(asset, "state", "shut").bounds());
        assertThat(first.bounds().size().x()).isCloseTo(0.9, within(1e-6));
        // Turned by a right angle about the hinge, which is 0.45 m off the middle of the shut door.
        Model open = workshop.chosen(asset, "state", "open");
        assertThat(open.bounds().size().x()).isCloseTo(THICK, within(1e-6));
        assertThat(open.bounds().size().z()).isCloseTo(0.9, within(1e-6));
        assertThat(open.bounds().centre().x()).isCloseTo(-0.45, within(1e-6));
    }

    @Test
    void levelsOfDetailBecomeTheSameVariantsAsThoseThatAreMadeHere() throws IOException {
        Path fine = written("rock_LOD0.glb", Workshop.model("Rock", Shapes.sphere(1, 32, 16)));
        written("rock_LOD1.glb", Workshop.model("Rock", Shapes.sphere(1, 8, 4)));
        Imported arrival = workshop.intake().read(fine, Progress.NONE);
        // Levels that are asked for besides are those of the files.
        Slip slip = Intake.suggested(arrival, "Rocks", Neighbours.NONE)
                .withMaking(ProcessingOptions.USUAL.withLevels(true));
        Asset asset = workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
        assertThat(asset.facts("v001").variants()).isEqualTo(Map.of("detail", List.of("full", "lod1")));
        long all = asset.facts("v001").triangles();
        assertThat(workshop.chosen(asset, "detail", "full").trianglesDrawn()).isEqualTo(all);
        assertThat(workshop.chosen(asset, "detail", "lod1").trianglesDrawn()).isLessThan(all / 4);
    }

    @Test
    void eachIsTakenByItselfWhereThatIsWanted() throws IOException {
        Path shut = door("door_shut.glb", 0);
        Path open = door("door_open.glb", 90);
        assertThat(workshop.intake().readAlone(shut, Progress.NONE).series()).isEmpty();
        assertThat(workshop.intake().read(open, Progress.NONE).series())
                .as("only the first of them stands for all")
                .isEmpty();
        assertThat(Listing.of(List.of(folder.resolve("in")), false, Progress.NONE)
                        .entries())
                .hasSize(2);
    }

    @Test
    void whatCannotBeReadOfThemIsToldAndTheOthersAreTakenIn() throws IOException {
        Path shut = door("door_shut.glb", 0);
        door("door_ajar.glb", 20);
        Path open = door("door_open.glb", 90);
        Files.write(open, new byte[] {'g', 'l', 'T', 'F', 2, 0});
        Imported arrival = workshop.intake().read(shut, Progress.NONE);
        assertThat(arrival.series().orElseThrow().names()).containsExactly("shut", "ajar");
        assertThat(arrival.model().extras().foreign())
                .singleElement()
                .asString()
                .startsWith("state open (door_open.glb");
        assertThat(shelved(shut, Pivot.KEEP).facts("v001").variants())
                .isEqualTo(Map.of("state", List.of("shut", "ajar")));
    }

    /** In a folder that is watched, one may come long after the other. */
    @Test
    void whatComesLaterArrivesByItself() throws IOException {
        Path shut = door("door_shut.glb", 0);
        DropFolder watched = new DropFolder(folder.resolve("in"));
        watched.look();
        assertThat(watched.look()).containsExactly(shut);
        Path open = door("door_open.glb", 90);
        watched.look();
        assertThat(watched.look()).containsExactly(open);
    }

    /** A file in the same folder may be a link to any other of the machine. */
    @Test
    void linksAreNotFollowed() throws IOException {
        Path shut = door("door_shut.glb", 0);
        Path elsewhere = folder.resolve("elsewhere.glb");
        Files.move(door("door_open.glb", 90), elsewhere);
        Files.createSymbolicLink(folder.resolve("in/door_open.glb"), elsewhere);
        assertThat(workshop.intake().read(shut, Progress.NONE).series()).isEmpty();
        Files.delete(folder.resolve("in/door_open.glb"));
        Files.move(elsewhere, folder.resolve("in/leaf.glb"));
        Files.createSymbolicLink(folder.resolve("in/door_open.glb"), folder.resolve("in/leaf.glb"));
        assertThat(Listing.of(List.of(folder.resolve("in")), Progress.NONE).entries())
                .as("and what is not read with another is an arrival of its own")
                .hasSize(3);
    }
}
