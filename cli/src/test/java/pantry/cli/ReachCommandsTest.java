package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;

/** What projects use, on the command line. */
class ReachCommandsTest {
    @TempDir
    private Path folder;

    private Shell shell;
    private String library;
    private String project;
    private String scene;

    @BeforeEach
    void open() throws Exception {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        project = Files.createDirectories(folder.resolve("project")).toString();
        scene = folder.resolve("project/yard.usda").toString();
        run("new-library", library, "--name", "Yard");
        for (String name : List.of("post", "panel")) {
            run("receive", model(name, 3), "--library", library, "--shelf", "Parts");
        }
        run("new-scene", scene);
        run("reference", scene, "Post", "--library", library, "--pin", "v001");
        run("reference", scene, "Post", "--library", library, "--follow");
        run("publish", "Post", model("post", 4), "--library", library, "--note", "taller");
        run("ready", "Post", "v002", "--library", library);
    }

    private String model(String name, double height) {
        return Blocks.file(folder, name, height);
    }

    @AfterEach
    void close() {
        shell.close();
    }

    private void run(String... arguments) {
        assertThat(shell.run(arguments)).as(shell.said()).isZero();
    }

    /** A command over the project and the library, its answer as JSON. */
    private Map<?, ?> json(String... arguments) {
        List<String> all = new ArrayList<>(Arrays.asList(arguments));
        all.addAll(List.of("--library", library, "--project", project, "--json"));
        run(all.toArray(String[]::new));
        return Json.read(shell.printed(), "output", Map.class);
    }

    private static List<?> list(Map<?, ?> result, String field) {
        return (List<?>) result.get(field);
    }

    @Test
    void usesTellsFilesVersionsAndHowFarBehind() {
        assertThat(list(json("uses", "Post"), "scenes"))
                .hasSize(2)
                .anySatisfy(line -> assertThat(line)
                        .isEqualTo(Map.of(
                                "file", scene, "placements", 1, "version", "v001", "following", false, "behind", 1)))
                .anySatisfy(line -> assertThat(line)
                        .isEqualTo(Map.of(
                                "file", scene, "placements", 1, "version", "v002", "following", true, "behind", 0)));
        Map<?, ?> one = json("uses", "Parts/Post@v001");
        assertThat(one.get("version")).isEqualTo("v001");
        assertThat(list(one, "scenes")).hasSize(1);
        assertThat(list(json("uses", scene), "scenes")).isEmpty();
        assertThat(shell.run("uses", "Post@v007", "--library", library, "--project", project))
                .isEqualTo(1);
        assertThat(shell.said()).contains("has no version v007");
        run("uses", "Post", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("Post is used 2 times in 1 file").contains("1 behind");
    }

    @Test
    void usedByTellsWhatASceneUses() {
        assertThat(list(json("used-by", scene), "assets")).hasSize(2);
        assertThat(shell.run("used-by", "nowhere.usda", "--library", library, "--project", project))
                .isEqualTo(1);
        assertThat(shell.said()).contains("is no file of the projects");
    }

    @Test
    void outdatedTellsEachPlacementAndUnusedWhatNobodyNeeds() {
        assertThat(list(json("outdated"), "items")).singleElement().satisfies(item -> {
            Map<?, ?> line = (Map<?, ?>) item;
            assertThat(line.get("file")).isEqualTo(scene);
            assertThat(line.get("version")).isEqualTo("v001");
            assertThat(line.get("ready")).isEqualTo("v002");
            assertThat(line.get("behind")).isEqualTo(1);
            assertThat((String) line.get("path")).startsWith("/");
        });
        Map<?, ?> unused = json("unused");
        assertThat(list(unused, "versions")).isEmpty();
        assertThat(list(unused, "assets"))
                .singleElement()
                .satisfies(asset -> assertThat(((Map<?, ?>) asset).get("name")).isEqualTo("Panel"));
        run("outdated", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("1 placement behind in 1 file");
        run("unused", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("1 asset and 0 versions");
    }

    @Test
    void updateBringsPinnedPlacementsToTheReadyVersionAndIsTakenBack() throws Exception {
        String before = Files.readString(Path.of(scene));
        assertThat(list(json("update", "--dry-run"), "changes")).hasSize(1);
        assertThat(Files.readString(Path.of(scene))).isEqualTo(before);
        Map<?, ?> done = json("update", "Post");
        assertThat(list(done, "changes")).hasSize(1);
        assertThat(list(done, "failed")).isEmpty();
        assertThat(Files.readString(Path.of(scene))).isEqualTo(before.replace("v001/data", "v002/data"));
        assertThat(list(json("outdated"), "items")).isEmpty();
        run("changes");
        assertThat(shell.printed()).contains("Updated placements to the ready versions");
        run("changes", "--undo", (String) done.get("id"));
        assertThat(Files.readString(Path.of(scene))).isEqualTo(before);
        assertThat(shell.run("changes", "--undo", (String) done.get("id"))).isEqualTo(1);
        assertThat(list(json("update"), "changes")).hasSize(1);
        assertThat(list(json("update"), "changes")).isEmpty();
    }

    @Test
    void placementsArePinnedLetFollowBroughtToAVersionAndSwapped() {
        assertThat(list(json("update", "--follow", "--scene", scene), "changes"))
                .hasSize(1);
        assertThat(list(json("pin"), "changes")).hasSize(2);
        assertThat(list(json("uses", "Post@v002"), "scenes")).singleElement().satisfies(line -> assertThat(
                        ((Map<?, ?>) line).get("placements"))
                .isEqualTo(2));
        assertThat(list(json("update", "Post", "--to", "v001"), "changes")).hasSize(2);
        assertThat(list(json("follow", "Post"), "changes")).hasSize(2);
        assertThat(list(json("swap", "Post", "Panel"), "changes")).hasSize(2);
        assertThat(list(json("uses", "Panel"), "scenes")).hasSize(1);
        assertThat(list(json("uses", "Post"), "scenes")).isEmpty();
        assertThat(shell.run("update", "--to", "v001", "--follow", "--library", library, "--project", project))
                .isEqualTo(2);
        assertThat(shell.run("update", "--scene", "x.usda", "--library", library, "--project", project))
                .isEqualTo(1);
        assertThat(shell.said()).contains("is no file of the projects");
    }

    @Test
    void relinkFindsAMovedLibrary() throws Exception {
        Path there = folder.resolve("drive/shelves");
        Files.createDirectories(there.getParent());
        Files.move(Path.of(library), there);
        library = there.toString();
        Map<?, ?> told =
                json("relink", "--dry-run", "--search", folder.resolve("drive").toString());
        assertThat(list(told, "missing")).hasSize(2).allSatisfy(each -> {
            Map<?, ?> line = (Map<?, ?>) each;
            assertThat(line.get("file")).isEqualTo(scene);
            assertThat((String) line.get("path")).startsWith("/");
            assertThat(list(line, "candidates")).first().satisfies(candidate -> {
                assertThat((String) ((Map<?, ?>) candidate).get("path")).startsWith(library);
                assertThat((String) ((Map<?, ?>) candidate).get("reason")).isNotBlank();
                assertThat((Double) ((Map<?, ?>) candidate).get("score")).isBetween(0.6, 1.0);
            });
        });
        assertThat(list(json("uses", "Post"), "scenes")).isEmpty();
        assertThat(list(json("relink"), "changes")).hasSize(2);
        assertThat(list(json("relink"), "missing")).isEmpty();
        assertThat(list(json("uses", "Post"), "scenes")).hasSize(2);
    }

    @Test
    void straysAreFoundAndPlaced() throws Exception {
        Path copied = folder.resolve("project/old.usda");
        Files.copy(folder.resolve("panel.usda"), copied);
        assertThat(list(json("strays"), "groups")).singleElement().satisfies(group -> {
            Map<?, ?> line = (Map<?, ?>) group;
            assertThat(line.get("name")).isEqualTo("Panel");
            assertThat((Double) line.get("deviation")).isLessThan(1e-5);
            assertThat(list(line, "copies")).singleElement().satisfies(copy -> assertThat(
                            ((Map<?, ?>) copy).get("file"))
                    .isEqualTo(copied.toString()));
        });
        Map<?, ?> placed = json("strays", "--place");
        assertThat((String) placed.get("id")).isNotEmpty();
        assertThat(list(json("strays"), "groups")).isEmpty();
        assertThat(list(json("uses", "Panel"), "scenes")).hasSize(1);
        run("changes", "--undo", (String) placed.get("id"));
        assertThat(list(json("strays"), "groups")).hasSize(1);
        run("strays", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("Panel v001: 1 copies");
    }

    @Test
    void whatIsTheSameThingTwiceIsMerged() {
        run("receive", model("board", 3), "--library", library, "--shelf", "Attic");
        run("reference", scene, "Panel", "--library", library, "--follow");
        run("reference", scene, "Panel", "--library", library, "--follow");
        run("reference", scene, "Board", "--library", library, "--pin", "v001");
        assertThat(list(json("merge-assets"), "pairs")).singleElement().satisfies(pair -> {
            Map<?, ?> line = (Map<?, ?>) pair;
            assertThat(line.get("keptName")).isEqualTo("Panel");
            assertThat(line.get("goneName")).isEqualTo("Board");
            assertThat(line.get("placements")).isEqualTo(1);
            assertThat(line.get("merged")).isEqualTo(false);
        });
        assertThat(json("merge-assets", "--all", "--dry-run").get("id")).isEqualTo("");
        assertThat(list(json("uses", "Board"), "scenes")).hasSize(1);
        assertThat(shell.run("merge-assets", "Panel", "--library", library, "--project", project))
                .isNotZero();
        assertThat(shell.said()).contains("is not the same thing as another asset that is placed more");

        run("merge-assets", "Board", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("Board is now Panel: 1 placements").contains("pantry changes --undo");
        assertThat(shell.run("uses", "Board", "--library", library, "--project", project))
                .isNotZero();
        assertThat(list(json("uses", "Panel"), "scenes"))
                .extracting(use -> String.valueOf(((Map<?, ?>) use).get("placements")))
                .containsExactlyInAnyOrder("2", "1");
        assertThat(list(json("merge-assets"), "pairs")).isEmpty();
        run("verify", "--library", library);
    }

    @Test
    void oneVersionGoesToAnArchiveAndComesBack() {
        String archive = folder.resolve("archive").toString();
        run("new-library", archive, "--name", "Archive");
        run("archive", "Post", "--version", "v001", "--to-library", archive, "--library", library);
        assertThat(shell.printed()).contains("Post v001 is in the archive");
        assertThat(list(json("uses", "Post"), "scenes"))
                .extracting(use -> String.valueOf(((Map<?, ?>) use).get("version")))
                .as("what pins it still does")
                .containsExactlyInAnyOrder("v001", "v002");
        run("verify", "--library", library);
        run("verify", "--library", archive);
        assertThat(shell.run("archive", "Post", "--version", "v002", "--to-library", archive, "--library", library))
                .isNotZero();
        assertThat(shell.said()).contains("is the ready version or the newest one, and stays");
        run("archive", "Post", "--version", "v001", "--to-library", archive, "--library", library, "--call-back");
        assertThat(shell.printed()).contains("Post v001 is back on Parts");
    }

    @Test
    void whatIfTellsWhatAVersionWouldDoAndCreditsWhoIsToBeNamed() throws Exception {
        run("publish", "Post", model("post", 5), "--library", library, "--note", "taller still", "--draft");
        Map<?, ?> foretold = json("what-if", "Post");
        assertThat(foretold.get("version")).isEqualTo("v003");
        assertThat(list(foretold, "scenes")).singleElement().satisfies(scene -> {
            Map<?, ?> line = (Map<?, ?>) scene;
            assertThat(line.get("placements")).isEqualTo(1);
            assertThat(list(line, "lost")).isEmpty();
        });
        assertThat(list(json("what-if", "Post@v002"), "scenes"))
                .as("it is ready")
                .isEmpty();
        Path table = folder.resolve("credits.csv");
        assertThat(list(json("credits", "--out", table.toString()), "assets")).hasSize(1);
        assertThat(Files.readString(table)).startsWith("Name,Credit,Licence").contains("Post");
        run("credits", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("1 asset");
    }

    @Test
    void whatIsHandedOverShowsTheSameWhereNeitherProjectNorLibraryAre() throws Exception {
        Map<?, ?> before = weight(scene);
        Path folderOut = folder.resolve("out");
        Map<?, ?> planned = json("hand-over", "--out", folderOut.toString(), "--dry-run");
        assertThat(list(planned, "scenes")).isEqualTo(List.of(scene));
        assertThat(folderOut).doesNotExist();
        Map<?, ?> copied = json("hand-over", "--out", folderOut.toString());
        assertThat(copied.get("files")).isEqualTo(planned.get("files"));
        assertThat(list(copied, "missing")).isEmpty();
        assertThat(list(copied, "licencesMissing")).isEqualTo(List.of("Post"));
        Map<?, ?> packed = json("hand-over", "--packages", "--scene", scene, "--out", folder + "/packed");
        assertThat(shell.run("hand-over", "--out", folder + "/out", "--library", library, "--project", project))
                .as("it is there already")
                .isEqualTo(1);
        Files.move(Path.of(library), folder.resolve("library away"));
        Files.move(Path.of(project), folder.resolve("project away"));
        for (Map<?, ?> result : List.of(copied, packed)) {
            Map<?, ?> now = weight((String) list(result, "scenes").getFirst());
            assertThat(List.of(now.get("trianglesDrawn"), now.get("placements")))
                    .isEqualTo(List.of(before.get("trianglesDrawn"), before.get("placements")))
                    .doesNotContain(0);
        }
    }

    @Test
    void projectsAreWeighedWithWhatWouldMakeThemLighter() {
        Map<?, ?> all = json("weigh");
        Map<?, ?> project = (Map<?, ?>) list(all, "projects").getFirst();
        Map<?, ?> whole = (Map<?, ?>) list(project, "parts").getFirst();
        assertThat(whole.get("path")).isEqualTo(scene);
        Map<?, ?> amounts = (Map<?, ?>) whole.get("amounts");
        Map<?, ?> composed = weight(scene);
        assertThat(amounts.get("trianglesDrawn")).isEqualTo(composed.get("trianglesDrawn"));
        assertThat(amounts.get("trianglesStored")).isEqualTo(composed.get("trianglesStored"));
        assertThat(list(all, "savings")).anySatisfy(way -> {
            assertThat(((Map<?, ?>) way).get("kind")).isEqualTo("one-version");
            assertThat(((Map<?, ?>) way).get("saved")).isEqualTo(12);
        });
        run("weigh", "--library", library, "--project", this.project);
        assertThat(shell.printed()).contains("one version").contains("yard.usda");
        assertThat(shell.run("weigh")).isEqualTo(2);
        assertThat(shell.run("weigh", scene, "--project", this.project)).isEqualTo(2);
    }

    @Test
    void whatIfTellsOfRetiringRemovingAndSwappingAndWritesAReport() throws Exception {
        Path report = folder.resolve("ripple.html");
        Map<?, ?> removed = json("what-if", "Post", "--removed", "--out", report.toString());
        assertThat(removed.get("change")).isEqualTo("Post were removed");
        assertThat(list(removed, "scenes")).hasSize(1);
        assertThat(report).content().contains("If Post were removed", "data:image/png");
        assertThat(json("what-if", "Post", "--swapped-for", "Panel").get("change"))
                .isEqualTo("Post were swapped for Panel");
        assertThat(list(json("what-if", "Post", "--retired"), "scenes")).hasSize(1);
        assertThat(shell.run("what-if", "Post", "--retired", "--removed", "--library", library, "--project", project))
                .isEqualTo(2);
        run("what-if", "Panel", "--removed", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("nothing changes");
    }

    @Test
    void overridesAreCarriedOverWhenAVersionIsMadeReady() throws Exception {
        Path file = Path.of(project).resolve("override.usda");
        Files.writeString(file, """
                #usda 1.0
                (defaultPrim = "Yard" metersPerUnit = 1 upAxis = "Y")
                def Xform "Yard" (kind = "assembly") {
                    def "Post" (references = @%s@) {
                        over "Body" (active = false) {}
                    }
                }
                """.formatted(Path.of(library).resolve("assets/Parts/post/ready.usda")));
        run(
                "publish",
                "Post",
                Blocks.file(folder, "post", "Trunk", 4),
                "--library",
                library,
                "--note",
                "renamed",
                "--draft");
        run("ready", "Post", "v003", "--library", library, "--project", project, "--carry-over", "--json");
        assertThat(list(Json.read(shell.printed(), "output", Map.class), "carriedOver"))
                .isEqualTo(List.of(file.toString()));
        assertThat(Files.readString(file)).contains("over \"Trunk\"").doesNotContain("Body");
        run("changes");
        assertThat(shell.printed()).contains("Carried overrides over to Post");
    }

    @Test
    void aSceneGetsAnotherNameWhereverItIsNamed() throws Exception {
        Path user = Path.of(project).resolve("whole.usda");
        Files.writeString(user, "#usda 1.0\ndef \"A\" (references = @./yard.usda@) {}\n");
        String to = project + "/yards/north yard.usda";
        Map<?, ?> planned = json("move-file", scene, to, "--dry-run");
        assertThat(list(planned, "moved")).isEqualTo(List.of(scene));
        assertThat(Path.of(scene)).exists();
        Map<?, ?> moved = json("move-file", scene, to);
        assertThat(moved.get("users")).isEqualTo(Map.of(user.toString(), 1));
        assertThat(user).content().contains("@./yards/north yard.usda@");
        assertThat(list(json("uses", "Post"), "scenes"))
                .as("as before, in both")
                .hasSize(4);
        run("changes", "--undo", (String) moved.get("id"));
        assertThat(Path.of(scene)).exists();
        assertThat(user).content().contains("@./yard.usda@");
        assertThat(shell.run("move-file", scene, folder + "/x.usda", "--library", library, "--project", project))
                .isEqualTo(1);
        assertThat(shell.said()).contains("not within one of the projects");
    }

    @Test
    void whatNobodyUsesIsArchivedAndCalledBack() {
        String archive = folder.resolve("archive").toString();
        run("new-library", archive, "--name", "Archive");
        run("archive", "--unused", "--library", library, "--to-library", archive, "--project", project, "--dry-run");
        assertThat(shell.printed()).contains("Panel would be in the archive").contains("1 asset");
        run("archive", "--unused", "--library", library, "--to-library", archive, "--project", project);
        assertThat(list(json("unused"), "assets")).isEmpty();
        run("find", "panel", "--library", archive);
        assertThat(shell.printed()).contains("Panel");
        run("archive", "Panel", "--call-back", "--library", library, "--to-library", archive);
        assertThat(shell.printed()).contains("Panel is back on Parts");
        assertThat(list(json("unused"), "assets")).hasSize(1);
        assertThat(shell.run("archive", "--unused", "--library", library, "--to-library", archive))
                .as("of which projects is not told")
                .isEqualTo(1);
        run("verify", "--library", library);
        run("verify", "--library", archive);
    }

    @Test
    void aSceneIsMadeAfterAPattern() {
        String made = project + "/like.usda";
        run("new-scene", made, "--like", scene);
        assertThat(weight(made).get("placements")).isEqualTo(0);
        assertThat(shell.run("new-scene", made, "--like", scene)).isEqualTo(1);
        assertThat(shell.said()).contains("already there");
    }

    @Test
    void leftoversAreToldAndCleared() throws Exception {
        Path file = Path.of(project).resolve("old.usda");
        Files.writeString(file, "#usda 1.0\ndef \"Yard\" {\n    over \"Gone\" { int a = 1 }\n}\n");
        String before = Files.readString(file);
        assertThat(list(json("leftovers", "--dry-run"), "changes"))
                .singleElement()
                .satisfies(line -> {
                    assertThat(((Map<?, ?>) line).get("path")).isEqualTo("/Yard/Gone");
                    assertThat((String) ((Map<?, ?>) line).get("says")).contains("not there");
                });
        assertThat(file).hasContent(before);
        Map<?, ?> done = json("leftovers", "--scene", file.toString());
        assertThat(Files.readString(file)).doesNotContain("Gone");
        run("changes", "--undo", (String) done.get("id"));
        assertThat(Files.readString(file)).isEqualTo(before);
        run("leftovers", "--dry-run", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("/Yard/Gone", "1 place in 1 file would be changed");
    }

    private Map<?, ?> weight(String file) {
        run("weigh", file, "--json");
        return Json.read(shell.printed(), "output", Map.class);
    }

    @Test
    void aProjectSaysWhatBelongsToIt() throws Exception {
        Files.createDirectories(folder.resolve("project/old"));
        Files.copy(Path.of(scene), folder.resolve("project/old/yard.usda"));
        run("project", project, "--json");
        assertThat(list(Json.read(shell.printed(), "output", Map.class), "files"))
                .isEqualTo(List.of("old/yard.usda", "yard.usda"));
        run(
                "project",
                project,
                "--name",
                "Camp",
                "--library",
                library,
                "--leave-out",
                folder.resolve("project/old").toString());
        assertThat(shell.printed()).contains("Camp has 1 file");
        assertThat(Files.readString(folder.resolve("project/pantry-project.json")))
                .contains("\"name\" : \"Camp\"")
                .contains("../library")
                .contains("\"old\"");
        assertThat(shell.run("project", folder.resolve("nowhere").toString())).isEqualTo(1);
        assertThat(shell.said()).contains("there is no such folder");
    }
}
