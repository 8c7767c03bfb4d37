package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Json;
import pantry.base.Png;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;

/** {@code pantry receive} with all that can be told it. */
class ReceiveCommandTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() {
        shell = new Shell(folder);
        shell.run("new-library", path("library"), "--name", "Shelves");
    }

    @AfterEach
    void stop() {
        shell.close();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    private void model(String file, Mesh mesh) throws IOException {
        Path target = folder.resolve(file);
        Files.createDirectories(target.getParent());
        Material paint = Material.plain("Paint", Colour.WHITE, 0, 1);
        ModelWriters.write(
                new Model(
                        "Thing",
                        List.of(Model.Node.of(
                                "Body", Matrix4.IDENTITY, List.of(new Model.Part(mesh, paint)), List.of())),
                        Model.Extras.NONE),
                target);
    }

    private int receive(String... more) {
        List<String> all = new ArrayList<>(List.of("receive", "--library", path("library"), "--json"));
        all.addAll(List.of(more));
        return shell.run(all.toArray(String[]::new));
    }

    private List<Map<?, ?>> printed(String list) {
        Map<?, ?> document = Json.read(shell.printed(), "output", Map.class);
        List<Map<?, ?>> maps = new ArrayList<>();
        ((List<?>) document.get(list)).forEach(each -> maps.add((Map<?, ?>) each));
        return maps;
    }

    @Test
    void aDryRunTellsWhatTheSlipWouldBe() throws IOException {
        model("in/chair.glb", Shapes.block(0.5, 0.9, 0.5));
        receive(path("in"), "--shelf", "Chairs");
        model("more/copy.obj", Shapes.block(50, 90, 50));
        Files.writeString(folder.resolve("more/copy.mtl"), "newmtl Paint\nmap_Kd cloth.png\n");
        assertThat(receive(path("more"), "--shelf", "Chairs", "--parts", "single", "--pivot", "base", "--dry-run"))
                .as(shell.said())
                .isZero();
        Map<?, ?> slip = printed("slips").getFirst();
        assertThat(slip.get("scale")).isEqualTo(0.01);
        assertThat(slip.get("parts")).isEqualTo("single");
        assertThat(slip.get("pivot")).isEqualTo("base");
        assertThat(slip.get("missing")).isEqualTo(List.of("cloth.png"));
        Map<?, ?> alike = (Map<?, ?>) ((List<?>) slip.get("looksLike")).getFirst();
        assertThat(alike.get("name")).isEqualTo("Chair");
        assertThat((double) alike.get("likeness")).isGreaterThan(0.95);
    }

    @Test
    void choicesAreKeptAndTakenUpAgain() throws IOException {
        model("a.glb", Shapes.sphere(1, 32, 16));
        model("b.glb", Shapes.block(1, 1, 1));
        assertThat(receive(
                        path("a.glb"),
                        "--shelf",
                        "Balls",
                        "--reduce",
                        "0.5",
                        "--collision",
                        "hull",
                        "--levels",
                        "--tag",
                        "round",
                        "--keep-preset",
                        "Light"))
                .as(shell.said())
                .isZero();
        Map<?, ?> ball = printed("shelved").getFirst();
        assertThat((int) ball.get("triangles")).isLessThan(32 * 2 * 15);
        assertThat((double) ball.get("error")).isPositive();
        assertThat(receive(path("b.glb"), "--preset", "light")).as(shell.said()).isZero();
        assertThat(printed("shelved").getFirst().get("shelf")).isEqualTo("Balls");
        shell.run("find", "--library", path("library"), "--tag", "round", "--json");
        assertThat(printed("items")).hasSize(2);
    }

    @Test
    void aReportIsWrittenAndARoundGoesOn() throws IOException {
        model("in/a.glb", Shapes.block(1, 1, 1));
        model("in/b.glb", Shapes.block(1, 2, 1));
        Files.writeString(folder.resolve("in/broken.glb"), "glTF, or not");
        assertThat(receive(path("in"), "--shelf", "Things", "--report", path("report.csv"), "--go-on", path("round")))
                .isEqualTo(1);
        assertThat(Files.readAllLines(folder.resolve("report.csv"))).hasSize(4);
        assertThat(folder.resolve("round"))
                .as("a round that is over leaves nothing")
                .doesNotExist();
        // As an interruption leaves it: one done, one not.
        Files.writeString(
                folder.resolve("round"),
                Json.line(Map.of("arrival", path("in/a.glb"), "done", false)) + "\n"
                        + Json.line(Map.of("arrival", path("in/b.glb"), "done", false)) + "\n"
                        + Json.line(Map.of("arrival", path("in/a.glb"), "done", true)) + "\n");
        assertThat(receive(path("in"), "--shelf", "Again", "--again", "--go-on", path("round")))
                .isZero();
        assertThat(printed("shelved")).hasSize(1);
        assertThat(printed("shelved").getFirst().get("name")).isEqualTo("B");
    }

    @Test
    void whatWasReceivedBeforeOrIsGivenTwiceIsLeftOutUnlessItIsAskedFor() throws IOException {
        model("in/a.glb", Shapes.block(1, 1, 1));
        Files.copy(folder.resolve("in/a.glb"), folder.resolve("in/b.glb"));
        model("in/c.obj", Shapes.block(1, 3, 1));
        assertThat(receive(path("in"), "--shelf", "Things")).isZero();
        assertThat(printed("shelved")).hasSize(2);
        assertThat(printed("leftOut").getFirst().get("why")).isEqualTo("is the same as a.glb");

        assertThat(receive(path("in"), "--shelf", "Others", "--report", path("report.csv")))
                .isZero();
        assertThat(printed("shelved")).isEmpty();
        assertThat(printed("leftOut")).hasSize(3);
        assertThat(printed("leftOut").getFirst().get("why")).isEqualTo("was shelved before, on Things as A");
        assertThat(Files.readString(folder.resolve("report.csv"))).contains("left out");

        // The same points with other materials beside them are something else.
        Files.writeString(folder.resolve("in/c.mtl"), "newmtl Body\nKd 0 0 1\n");
        assertThat(receive(path("in"), "--shelf", "Things")).isZero();
        assertThat(printed("shelved")).hasSize(1);

        assertThat(receive(path("in/a.glb"), "--shelf", "Things", "--again")).isZero();
        assertThat(printed("shelved")).hasSize(1);
    }

    @Test
    void anArrivalBecomesAVersionAndTexturesAreFound() throws IOException {
        model("crate.obj", Shapes.block(1, 1, 1));
        assertThat(receive(path("crate.obj"), "--shelf", "Crates")).isZero();
        Files.writeString(folder.resolve("crate.mtl"), "newmtl Paint\nmap_Kd label.png\n");
        assertThat(receive(path("crate.obj"), "--version-of", "Crates/Crate")).isEqualTo(1);
        assertThat(shell.said()).contains("label.png");
        Path attic = Files.createDirectories(folder.resolve("attic"));
        Files.write(attic.resolve("LABEL.png"), Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        assertThat(receive(path("crate.obj"), "--version-of", "Crates/Crate", "--textures", attic.toString()))
                .as(shell.said())
                .isZero();
        assertThat(printed("shelved").getFirst().get("version")).isEqualTo("v002");
    }

    @Test
    void theLibraryItselfIsPassedOver() throws IOException {
        model("a.glb", Shapes.block(1, 1, 1));
        receive(path("a.glb"), "--shelf", "Things");
        Files.delete(folder.resolve("a.glb"));
        model("b.glb", Shapes.block(1, 1, 2));
        assertThat(receive(folder.toString(), "--shelf", "Things")).isZero();
        assertThat(printed("shelved")).hasSize(1);
        assertThat(shell.said()).contains("is a library and was passed over");
    }

    @Test
    void wrongCallsAreToldBeforeAnythingIsRead() {
        for (String[] wrong : new String[][] {
            {"--parts", "some"},
            {"--pivot", "nose"},
            {"--with", "rain"},
            {"--reduce", "2"},
            {"--collision", "ball"},
            {"--report", "x.pdf"}
        }) {
            assertThat(receive("nothing.glb", wrong[0], wrong[1])).as(wrong[0]).isEqualTo(2);
            assertThat(shell.said()).contains(wrong[0]);
        }
    }

    @Test
    void statesOfOneThingAreReceivedAsItsVariantsUnlessTakenApart() throws IOException {
        model("door_shut.glb", Shapes.block(0.9, 2, 0.05));
        model("door_open.glb", Shapes.block(0.05, 2, 0.9));
        receive(path("door_shut.glb"), "--shelf", "Doors", "--dry-run");
        assertThat(printed("slips").getFirst().get("series"))
                .isEqualTo(Map.of("set", "state", "variants", List.of("shut", "open")));
        receive(path("door_shut.glb"), path("door_open.glb"), "--shelf", "Doors");
        assertThat(printed("shelved")).hasSize(1);
        assertThat(printed("shelved").getFirst().get("name")).isEqualTo("Door");
        assertThat(printed("shelved").getFirst().get("variants")).isEqualTo(Map.of("state", List.of("shut", "open")));
        receive(path("door_shut.glb"), path("door_open.glb"), "--shelf", "Apart", "--apart");
        assertThat(printed("shelved").stream().map(line -> String.valueOf(line.get("name"))))
                .containsExactlyInAnyOrder("Door shut", "Door open");
    }

    @Test
    void whatWasReceivedIsExportedWithTheSameBounds() throws IOException {
        model("ball.glb", Shapes.sphere(1, 24, 12));
        receive(path("ball.glb"), "--shelf", "Balls");
        String entry = String.valueOf(printed("shelved").getFirst().get("path"));
        assertThat(shell.run("export", entry, "--to", path("out.glb")))
                .as(shell.said())
                .isZero();
        shell.run("facts", path("ball.glb"), "--json");
        Object before = Json.read(shell.printed(), "facts", Map.class).get("bounds");
        shell.run("facts", path("out.glb"), "--json");
        assertThat(Json.read(shell.printed(), "facts", Map.class).get("bounds")).isEqualTo(before);
    }
}
