package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.scene.Scene;

/** A library of a panel and a post of 1 m and 3 m, and an empty scene, for commands that change scenes. */
abstract class WithYardScene {
    @TempDir
    Path folder;

    Shell shell;
    String library;
    String scene;

    @BeforeEach
    void open() throws Exception {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        Files.createDirectories(folder.resolve("project"));
        scene = folder.resolve("project/yard.usda").toString();
        assertThat(shell.run("new-library", library, "--name", "Yard")).isZero();
        for (String name : List.of("panel", "post")) {
            String file = Blocks.file(folder, name, name.equals("post") ? 3 : 1);
            assertThat(shell.run("receive", file, "--library", library, "--shelf", "Parts"))
                    .isZero();
        }
        assertThat(shell.run("new-scene", scene)).isZero();
    }

    @AfterEach
    void close() {
        shell.close();
    }

    /** The scene as it was saved last. */
    Scene opened() {
        return shell.workbench().openScene(Path.of(scene));
    }

    /** What a command that has to succeed says as JSON. */
    Map<?, ?> json(String... arguments) {
        String[] all = Arrays.copyOf(arguments, arguments.length + 1);
        all[arguments.length] = "--json";
        assertThat(shell.run(all)).as(shell.said()).isZero();
        return Json.read(shell.printed(), "output", Map.class);
    }

    /** The first object that came of a command. */
    static String path(Map<?, ?> result) {
        return (String) ((List<?>) result.get("paths")).getFirst();
    }

    /** How many triangles the scene draws. */
    int drawn() {
        return (Integer) json("weigh", scene).get("trianglesDrawn");
    }
}
