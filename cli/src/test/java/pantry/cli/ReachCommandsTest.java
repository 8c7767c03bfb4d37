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
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

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
        Path file = folder.resolve(name + ".usda");
        ModelWriters.write(
                new Model(
                        name,
                        List.of(Model.Node.of(
                                "Body",
                                Matrix4.IDENTITY,
                                List.of(new Model.Part(Shapes.block(1, height, 1), Material.PLAIN)),
                                List.of())),
                        Model.Extras.NONE),
                file);
        return file.toString();
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
        assertThat(shell.printed()).contains("Post is used 2 times in 1 files").contains("1 behind");
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
        assertThat(shell.printed()).contains("1 placements are behind in 1 files");
        run("unused", "--library", library, "--project", project);
        assertThat(shell.printed()).contains("1 assets and 0 versions");
    }
}
