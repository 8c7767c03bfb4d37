package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Json;
import pantry.base.math.Matrix4;
import pantry.exchange.ModelWriters;
import pantry.mesh.Shapes;
import pantry.model.Material;
import pantry.model.Model;

/** Every command as a script calls it: what it prints, says and answers. */
class CommandLineTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() throws IOException {
        shell = new Shell(folder);
        Material paint = Material.plain("Paint", pantry.model.Colour.WHITE, 0, 1);
        Model model = new Model(
                "Mast",
                List.of(Model.Node.of(
                        "Body", Matrix4.IDENTITY, List.of(new Model.Part(Shapes.block(1, 4, 1), paint)), List.of())),
                Model.Extras.NONE);
        ModelWriters.write(model, folder.resolve("mast.obj"));
        Files.createDirectories(folder.resolve("project"));
    }

    @AfterEach
    void stop() {
        shell.close();
    }

    private int run(String... arguments) {
        return shell.run(arguments);
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    private Map<?, ?> json(String... arguments) {
        assertThat(run(arguments)).as(shell.said()).isZero();
        return Json.read(shell.printed(), "output", Map.class);
    }

    private Map<?, ?> only(Object list) {
        assertThat(list).isInstanceOf(List.class);
        assertThat((List<?>) list).hasSize(1);
        return (Map<?, ?>) ((List<?>) list).getFirst();
    }

    @Test
    void fromAFileToASceneAndOutAgain() throws IOException {
        assertThat(json("new-library", path("library"), "--name", "Skua Point", "--json")
                        .get("name"))
                .isEqualTo("Skua Point");

        Map<?, ?> dry = json(
                "receive", path("mast.obj"), "--library", path("library"), "--shelf", "Masts", "--dry-run", "--json");
        Map<?, ?> slip = only(dry.get("slips"));
        assertThat((List<?>) slip.get("candidates")).hasSize(5);
        assertThat(((Map<?, ?>) ((List<?>) slip.get("candidates")).getFirst()).get("likely"))
                .isEqualTo(true);
        assertThat(folder.resolve("library/assets")).isEmptyDirectory();

        Map<?, ?> received = json(
                "receive",
                path("mast.obj"),
                "--library",
                path("library"),
                "--shelf",
                "Masts",
                "--unit",
                "m",
                "--tag",
                "tall",
                "--json");
        Map<?, ?> shelved = only(received.get("shelved"));
        assertThat(shelved.get("shelf")).isEqualTo("Masts");
        assertThat(shelved.get("version")).isEqualTo("v001");
        assertThat(Path.of(String.valueOf(shelved.get("path")))).exists();
        assertThat((List<?>) received.get("refused")).isEmpty();

        Map<?, ?> facts = json("facts", path("mast.obj"), "--json");
        assertThat(facts.get("triangles")).isEqualTo(12);
        assertThat(facts.get("closed")).isEqualTo(true);
        assertThat(((Map<?, ?>) facts.get("bounds")).get("max")).isEqualTo(List.of(0.5, 4.0, 0.5));
        assertThat(json("facts", "Masts/Mast", "--library", path("library"), "--json")
                        .get("unit"))
                .isEqualTo(1.0);

        Map<?, ?> found = json("find", "--library", path("library"), "mas", "--tag", "tall", "--json");
        assertThat(found.get("count")).isEqualTo(1);
        assertThat(only(found.get("items")).get("id")).isEqualTo(shelved.get("id"));

        String scene = path("project/yard.usda");
        json("new-scene", scene, "--json");
        for (String at : List.of("0,0,0", "3,0,-1.5")) {
            Map<?, ?> placed = json(
                    "reference",
                    scene,
                    "Masts/Mast",
                    "--library",
                    path("library"),
                    "--at",
                    at,
                    "--turn",
                    "0,45,0",
                    "--scale",
                    "2",
                    "--json");
            assertThat(placed.get("held")).isEqualTo("following");
        }
        assertThat(json("reference", scene, "Mast", "--library", path("library"), "--pin", "v001", "--json")
                        .get("version"))
                .isEqualTo("v001");

        Map<?, ?> tree = json("tree", scene, "--json");
        assertThat((List<?>) tree.get("errors")).isEmpty();
        assertThat((List<?>) tree.get("prims")).anySatisfy(prim -> assertThat(((Map<?, ?>) prim).get("references"))
                .isEqualTo(List.of("../library/assets/Masts/mast/ready.usda")));
        Map<?, ?> weight = json("weigh", scene, "--json");
        assertThat(weight.get("trianglesStored")).isEqualTo(12);
        assertThat(weight.get("trianglesDrawn")).isEqualTo(36);
        assertThat(weight.get("placements")).isEqualTo(3);

        json("flatten", scene, "--out", path("flat.usda"), "--json");
        assertThat(folder.resolve("flat.usda")).content().contains("def Mesh").doesNotContain("ready.usda");
        assertThat(json("weigh", path("flat.usda"), "--json").get("trianglesDrawn"))
                .isEqualTo(36);
        for (String ending : List.of("glb", "gltf", "obj", "ply", "stl", "usda")) {
            Map<?, ?> exported = json("export", scene, "--to", path("yard." + ending), "--json");
            assertThat(exported.get("trianglesDrawn")).isEqualTo(36);
            assertThat(json("facts", path("yard." + ending), "--json").get("triangles"))
                    .isEqualTo(36);
        }

        assertThat(json("verify", "--library", path("library"), "--json").get("ok"))
                .isEqualTo(true);
        Path preview = folder.resolve("library/assets/Masts/mast/v001/data/preview.png");
        Files.writeString(preview, "changed");
        assertThat(run("verify", "--library", path("library"), "--json")).isEqualTo(1);
        assertThat(shell.printed()).contains("\"kind\" : \"changed\"");
        assertThat(shell.said()).contains("preview.png");
    }

    @Test
    void whatFailsSaysSoInOneLineAndAnswersOne() throws IOException {
        json("new-library", path("library"), "--name", "L", "--json");
        Files.createFile(folder.resolve("empty.glb"));
        assertThat(run("receive", path("empty.glb"), path("mast.obj"), "--library", path("library"), "--json"))
                .as("the good one is taken, the bad one told")
                .isEqualTo(1);
        assertThat(shell.said().strip().lines()).singleElement().asString().contains("empty.glb", "empty (0 bytes)");
        assertThat(shell.printed()).contains("\"reason\"").contains("mast.obj");
        for (String[] call : new String[][] {
            {"facts", path("nowhere.obj")},
            {"find", "--library", path("project"), "x"},
            {"tree", path("nowhere.usda")},
            {"reference", path("nowhere.usda"), "X", "--library", path("library")},
            {"export", path("mast.obj"), "--to", path("mast.xyz")},
            {"new-library", path("library"), "--name", "again"},
        }) {
            assertThat(run(call)).as(String.join(" ", call)).isEqualTo(1);
            assertThat(shell.said().strip().lines()).hasSize(1);
            assertThat(shell.said()).startsWith("pantry " + call[0] + ": ");
        }
    }

    @Test
    void wrongCallsAnswerTwo() {
        assertThat(run()).isEqualTo(2);
        assertThat(run("receive")).isEqualTo(2);
        assertThat(run("receive", "x.obj", "--library", "l", "--unit", "furlong"))
                .isEqualTo(2);
        assertThat(run("receive", "x.obj", "--library", "l", "--unit", "m", "--scale", "2"))
                .isEqualTo(2);
        assertThat(run("receive", "x.obj", "--library", "l", "--parts", "some")).isEqualTo(2);
        assertThat(run("reference", "s.usda", "X", "--at", "1,2")).isEqualTo(2);
        assertThat(run("reference", "s.usda", "X", "--pin", "v001", "--follow")).isEqualTo(2);
        assertThat(run("no-such-command")).isEqualTo(2);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "new-library",
                "receive",
                "facts",
                "find",
                "verify",
                "new-scene",
                "reference",
                "tree",
                "weigh",
                "flatten",
                "export"
            })
    void everyCommandHelps(String command) {
        assertThat(run(command, "--help")).isZero();
        assertThat(shell.printed()).contains("--json").contains(command);
        assertThat(run("--help")).isZero();
        assertThat(shell.printed()).contains(command);
    }

    @Test
    void archivesAreReceivedAndBadOnesRefusedWithoutStoppingTheRest() throws IOException {
        run("new-library", path("library"), "--name", "Skua Point");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(folder.resolve("pack.zip")))) {
            for (String name : List.of("mast.obj", "mast.mtl")) {
                zip.putNextEntry(new ZipEntry("deep/" + name));
                zip.write(Files.readAllBytes(folder.resolve(name)));
            }
        }
        Files.write(folder.resolve("cut.zip"), Arrays.copyOf(Files.readAllBytes(folder.resolve("pack.zip")), 60));
        assertThat(run(
                        "receive",
                        path("cut.zip"),
                        path("pack.zip"),
                        "--library",
                        path("library"),
                        "--unit",
                        "m",
                        "--json"))
                .as("one was refused")
                .isEqualTo(1);
        Map<?, ?> received = Json.read(shell.printed(), "output", Map.class);
        assertThat(only(received.get("shelved")).get("name")).isEqualTo("Mast");
        assertThat(String.valueOf(only(received.get("refused")).get("file"))).endsWith("cut.zip");
    }
}
