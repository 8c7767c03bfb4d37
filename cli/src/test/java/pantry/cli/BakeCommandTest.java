package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A paint of nodes, made into images, handed from format to format, received and handed out again. */
class BakeCommandTest {
    @TempDir
    private Path folder;

    private Shell shell;

    @BeforeEach
    void start() throws IOException {
        shell = new Shell(folder);
        Files.writeString(folder.resolve("paint.mtlx"), """
                <materialx version="1.39">
                  <checkerboard name="squares" type="color3">
                    <input name="color1" type="color3" value="1, 0, 0"/>
                    <input name="uvtiling" type="vector2" value="2, 2"/>
                  </checkerboard>
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="squares"/>
                    <input name="coat" type="float" value="0.5"/>
                  </standard_surface>
                  <surfacematerial name="Squares" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S"/>
                  </surfacematerial>
                </materialx>
                """);
    }

    @AfterEach
    void end() {
        shell.close();
    }

    private String path(String name) {
        return folder.resolve(name).toString();
    }

    @Test
    void imagesAreMadeAsLargeAsIsAsked() throws IOException {
        Map<?, ?> told = shell.json("bake", path("paint.mtlx"), "--size", "32", "--to", path("paint.usda"), "--json");
        assertThat(told.get("materials")).isEqualTo(List.of("Squares"));
        assertThat(told.get("images")).isEqualTo(1);
        var image = ImageIO.read(folder.resolve("textures/squares-base.png").toFile());
        assertThat(image.getWidth()).isEqualTo(32);
        // The left lower square is the first colour, and the one above it the second.
        assertThat(image.getRGB(1, 30) & 0xffffff).isEqualTo(0xff0000);
        assertThat(image.getRGB(1, 1) & 0xffffff).isZero();
        assertThat(Files.readString(folder.resolve("paint.usda")))
                .contains("./textures/squares-base.png")
                .contains("ND_checkerboard_color3");
    }

    @Test
    void aDocumentIsTheSameAgainAfterItWentThroughUsdAndTheShelf() throws IOException {
        shell.done("export", path("paint.mtlx"), "--to", path("paint.usdc"));
        shell.done("export", path("paint.usdc"), "--to", path("again.mtlx"));
        assertThat(Files.readString(folder.resolve("again.mtlx")))
                .contains("<checkerboard name=\"squares\" type=\"color3\">")
                .contains("<input name=\"uvtiling\" type=\"vector2\" value=\"2, 2\"/>")
                .contains("<input name=\"coat\" type=\"float\" value=\"0.5\"/>")
                .contains("nodename=\"squares\"");
        shell.done("new-library", path("library"), "--name", "Paints");
        shell.done("receive", path("paint.mtlx"), "--library", path("library"), "--shelf", "Paints");
        Path version;
        try (Stream<Path> files = Files.walk(folder.resolve("library/assets"))) {
            version = files.filter(file -> file.toString().endsWith(".usda"))
                    .findFirst()
                    .orElseThrow();
        }
        shell.done("export", version.toString(), "--to", path("shelved.mtlx"));
        assertThat(Files.readString(folder.resolve("shelved.mtlx")))
                .contains("<checkerboard name=\"squares\"")
                .contains("<input name=\"coat\" type=\"float\" value=\"0.5\"/>");
        Map<?, ?> again = shell.json("bake", version.toString(), "--size", "16", "--to", path("small.usda"), "--json");
        assertThat(again.get("materials")).isEqualTo(List.of("Squares"));
        assertThat(version.resolveSibling("v001/data/textures/squares-base.png"))
                .exists();
    }

    @Test
    void whatIsNotMadeOfNodesIsRefused() throws IOException {
        Files.writeString(folder.resolve("plain.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        assertThat(shell.run("bake", path("plain.obj"), "--to", path("x.usda"))).isEqualTo(1);
        assertThat(shell.said()).contains("plain.obj").contains("has no material that is made of nodes");
        assertThat(shell.run("bake", path("paint.mtlx"), "--size", "0", "--to", path("x.usda")))
                .isEqualTo(2);
        assertThat(folder.resolve("x.usda")).doesNotExist();
    }

    /** A rust of nodes is shelved, mixed into the paint, made redder, and taken out again. */
    @Test
    void aMaterialPartIsMixedInAndReachesWhatUsesIt() throws IOException {
        String library = path("library");
        shell.done("new-library", library, "--name", "Paints");
        for (String colour : List.of("0.5, 0.1, 0.05", "0.9, 0.1, 0.05")) {
            Files.writeString(
                    folder.resolve(colour.startsWith("0.5") ? "rust.mtlx" : "redder.mtlx"), """
                    <materialx version="1.39"><nodegraph name="Rust">
                      <constant name="c" type="color3"><input name="value" type="color3" value="%s"/></constant>
                      <ramplr name="m" type="float">
                        <input name="valuel" type="float" value="0"/><input name="valuer" type="float" value="1"/>
                      </ramplr>
                      <output name="base_color" type="color3" nodename="c"/>
                      <output name="mask" type="float" nodename="m"/>
                    </nodegraph></materialx>
                    """.formatted(colour));
        }
        for (String file : List.of("paint.mtlx", "rust.mtlx")) {
            assertThat(shell.run("receive", path(file), "--library", library, "--shelf", "Materials"))
                    .isZero();
        }
        assertThat(shell.json("find", "rust", "--kind", "MATERIAL_PART", "--library", library, "--json")
                        .get("count"))
                .isEqualTo(1);
        Map<?, ?> mixed = shell.json(
                "mix", "Materials/Paint", "--part", "Materials/Rust", "--amount", "60", "--library", library, "--json");
        assertThat(mixed.get("version")).isEqualTo("v002");
        assertThat(mixed.get("parts").toString()).contains("name=Rust", "percent=60.0", "masked=true");
        assertThat(shell.run(
                        "publish", "Materials/Rust", path("redder.mtlx"), "--note", "redder", "--library", library))
                .isZero();
        Map<?, ?> remade = shell.json("remake", "Materials/Rust", "--library", library, "--json");
        assertThat(remade.get("made").toString()).contains("name=Paint", "version=v003");
        assertThat((List<?>) remade.get("left")).isEmpty();
        assertThat(shell.run("mix", "Materials/Paint", "--library", library)).isZero();
        assertThat(shell.printed()).contains("Rust, 60 % where its mask says");
        assertThat(shell.run(
                        "mix",
                        "Materials/Paint",
                        "--part",
                        "Materials/Rust",
                        "--by",
                        "Materials/Rust",
                        "--everywhere",
                        "--library",
                        library))
                .isEqualTo(2);
        assertThat(shell.said()).contains("--by goes with --part, and not with --everywhere");
        assertThat(shell.run("mix", "Materials/Paint", "--without", "Materials/Rust", "--library", library))
                .isZero();
        assertThat(shell.printed()).contains("Paint v004").contains("nothing is mixed in");
        assertThat(shell.run("verify", "--library", library)).isZero();
        assertThat(shell.run("mix", "Materials/Rust", "--part", "Materials/Rust", "--library", library))
                .isEqualTo(1);
        assertThat(shell.said()).contains("is no material to mix something into");
        assertThat(shell.run(
                        "mix", "Materials/Paint", "--part", "Materials/Rust", "--amount", "x", "--library", library))
                .isEqualTo(2);
        assertThat(shell.run(
                        "mix", "Materials/Paint", "--part", "Materials/Rust", "--amount", "101", "--library", library))
                .isEqualTo(2);
    }
}
