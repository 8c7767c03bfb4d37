package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.ModelWriters;
import pantry.library.Library;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.testing.Workshop;
import pantry.usd.AssetPaths;

/** What went missing is found again. */
class RelinkingTest extends WithProject {
    private Path moved() throws IOException {
        Path place = Files.createDirectories(folder.resolve("other drive")).resolve("shelves");
        Files.move(library.root(), place);
        return place;
    }

    @Test
    void aMovedLibraryMendsAllThatUsedItInOneMove() throws IOException {
        Path place = moved();
        Library there = Library.open(place, "tester", Clock.systemUTC());
        List<Project> projects = List.of(Project.open(project));
        index.refresh(projects, List.of(there), Progress.NONE);
        Reach reach = new Reach(index, List.of(there), projects);
        List<Relinking.Missing> missing = new Relinking(reach, List.of(), Progress.NONE).missing();
        assertThat(missing).hasSize(4).allSatisfy(each -> assertThat(each.best())
                .hasValueSatisfying(best -> assertThat(best.reason()).contains("in the library")));
        assertThat(Relinking.moves(missing)).containsExactly(new Relinking.Move(folder.resolve("library"), place, 5));
        ChangeRuns runs = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC());
        runs.run(Relinking.plan(missing), file -> AssetPaths.PLAIN, file -> "", Progress.NONE);
        index.refresh(projects, List.of(there), Progress.NONE);
        Reach after = new Reach(index, List.of(there), projects);
        assertThat(after.missing()).isEmpty();
        assertThat(after.uses(there.find("Mast"), Optional.empty()))
                .extracting(Reach.SceneUse::placements)
                .containsExactlyInAnyOrder(1L, 1L, 3L);
    }

    @Test
    void texturesAreFoundByNameAndPlaceAndNotTakenWhereTwoAreAsLikely() throws IOException {
        Path sign = project.resolve("sign.usda");
        Files.writeString(sign, """
                #usda 1.0
                def Material "Paint" {
                    def Shader "One" { asset inputs:file = @./textures/rust/Base.png@ }
                    def Shader "Two" { asset inputs:file = @./textures/snow.png@ }
                    def Shader "None" { asset inputs:file = @./textures/gone.png@ }
                }
                """);
        Path archive = folder.resolve("archive");
        for (String name : List.of("a/rust/base.png", "b/other/base.png", "a/snow.png", "b/snow.png")) {
            Files.createDirectories(archive.resolve(name).getParent());
            Files.writeString(archive.resolve(name), name);
        }
        List<Relinking.Missing> missing = new Relinking(reach(), List.of(archive), Progress.NONE).missing();
        assertThat(missing)
                .extracting(Relinking.Missing::places)
                .containsExactly(
                        List.of("/Paint/None.inputs:file"),
                        List.of("/Paint/One.inputs:file"),
                        List.of("/Paint/Two.inputs:file"));
        assertThat(missing.get(1).candidates())
                .extracting(candidate ->
                        candidate.path().toString().substring(archive.toString().length()))
                .containsExactly("/a/rust/base.png", "/b/other/base.png");
        assertThat(missing.get(1).best())
                .hasValueSatisfying(best -> assertThat(best.reason()).contains("but for case"));
        assertThat(missing.get(0).candidates()).isEmpty();
        assertThat(missing.get(2).candidates()).hasSize(2);
        assertThat(missing.get(2).best()).isEmpty();
        assertThat(Relinking.plan(missing).changes()).singleElement().satisfies(change -> assertThat(change.place())
                .isEqualTo("/Paint/One.inputs:file"));
    }

    @Test
    void whatWasRenamedAndMovedIsKnownByWhatItHolds() throws IOException {
        Path rock = Files.writeString(project.resolve("rock.usda"), """
                #usda 1.0
                ( defaultPrim = "Rock" )
                def Mesh "Rock" { int[] faceVertexCounts = [3] }
                """);
        Path user = Files.writeString(
                project.resolve("hill.usda"), "#usda 1.0\ndef \"A\" (references = @./rock.usda@) {}\n");
        assertThat(reach().missing()).isEmpty();
        Path attic = Files.createDirectories(folder.resolve("attic/deep"));
        Files.move(rock, attic.resolve("boulder 7.usda"));
        Files.writeString(attic.resolve("rock.usda"), "#usda 1.0\ndef Mesh \"Rock\" {}\n");
        reach();
        List<Relinking.Missing> missing =
                new Relinking(reach(), List.of(folder.resolve("attic")), Progress.NONE).missing();
        assertThat(missing).singleElement().satisfies(each -> {
            assertThat(each.file()).isEqualTo(user);
            assertThat(each.candidates()).as("one has only its name").hasSize(2);
            assertThat(each.best()).hasValueSatisfying(best -> {
                assertThat(best.path()).isEqualTo(attic.resolve("boulder 7.usda"));
                assertThat(best.reason()).contains("the same to the byte");
            });
        });
        Files.copy(attic.resolve("boulder 7.usda"), attic.resolve("boulder 8.usda"));
        assertThat(new Relinking(reach(), List.of(attic), Progress.NONE)
                        .missing()
                        .getFirst()
                        .best())
                .as("two are as likely")
                .isEmpty();
    }

    @Test
    void whatWasExportedAnewUnderAnotherNameIsKnownByItsShape() throws IOException {
        Mesh rock = Shapes.lathe(new double[] {0, 2, 1.2, 1.7, 0}, new double[] {0, 0.3, 1, 1.6, 2}, 9, false);
        Path file = project.resolve("rock.usda");
        ModelWriters.write(Workshop.model("Rock", rock), file);
        Files.writeString(project.resolve("hill.usda"), "#usda 1.0\ndef \"A\" (references = @./rock.usda@) {}\n");
        assertThat(reach().missing()).isEmpty();
        Path attic = Files.createDirectories(folder.resolve("attic"));
        Files.delete(file);
        Matrix4 turn = Matrix4.rotation(1, 50);
        ModelWriters.write(Workshop.model("Export", rock.transformed(turn)), attic.resolve("export 12.usdc"));
        ModelWriters.write(Workshop.model("Post", Shapes.block(1, 4, 1)), attic.resolve("post.usda"));
        ModelWriters.write(
                Workshop.model("Small", rock.transformed(Matrix4.scale(new Vec3(0.1, 0.1, 0.1)))),
                attic.resolve("small.usda"));
        Files.writeString(attic.resolve("broken.usda"), "#usda 1.0\ndef Mesh \"M\" { point3f[] points = [(1");
        reach();
        assertThat(new Relinking(reach(), List.of(attic), Progress.NONE).missing())
                .singleElement()
                .satisfies(missing -> {
                    assertThat(missing.candidates())
                            .extracting(
                                    candidate -> candidate.path().getFileName().toString())
                            .containsExactly("export 12.usdc", "small.usda");
                    assertThat(missing.best()).hasValueSatisfying(best -> assertThat(best.reason())
                            .isEqualTo("shows the same shape in the same size"));
                });
    }

    @Test
    void whatAFileNamesElsewhereOnTheMachineIsNeitherReadNorKnownAgain() throws IOException {
        Path secret = Files.writeString(folder.resolve("secret.png"), "secret");
        Files.writeString(
                project.resolve("sign.usda"),
                "#usda 1.0\ndef Shader \"S\" { asset inputs:file = @%s@ }\n".formatted(secret));
        assertThat(reach().missing()).isEmpty();
        Path attic = Files.createDirectories(folder.resolve("attic"));
        Files.move(secret, attic.resolve("other.png"));
        reach();
        assertThat(new Relinking(reach(), List.of(attic), Progress.NONE).missing())
                .singleElement()
                .satisfies(each -> assertThat(each.candidates()).isEmpty());
    }
}
