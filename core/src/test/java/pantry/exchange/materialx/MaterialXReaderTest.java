package pantry.exchange.materialx;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.FileGate;
import pantry.base.ImageDecoder;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;
import pantry.shading.NodeValues;
import pantry.testing.Workshop;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** Documents with networks: what is made of them, and that they are kept as they are said. */
class MaterialXReaderTest {
    private static final int SIZE = 64;

    @TempDir
    private Path folder;

    /** Planks: a ramp across each of four, darkened by fine noise; rough where it is dark. */
    private static final String PLANKS = """
            <?xml version="1.0"?>
            <materialx version="1.39" colorspace="lin_rec709">
              <nodegraph name="NG_planks">
                <input name="light" type="color3" value="0.5, 0.25, 0.125"/>
                <texcoord name="st" type="vector2"/>
                <place2d name="four" type="vector2">
                  <input name="texcoord" type="vector2" nodename="st"/>
                  <input name="scale" type="vector2" value="0.25, 0.25"/>
                </place2d>
                <modulo name="within" type="vector2">
                  <input name="in1" type="vector2" nodename="four"/>
                  <input name="in2" type="float" value="1"/>
                </modulo>
                <ramplr name="across" type="float">
                  <input name="valuel" type="float" value="0"/>
                  <input name="valuer" type="float" value="1"/>
                  <input name="texcoord" type="vector2" nodename="within"/>
                </ramplr>
                <mix name="colour" type="color3">
                  <input name="bg" type="color3" value="0, 0, 0"/>
                  <input name="fg" type="color3" interfacename="light"/>
                  <input name="mix" type="float" nodename="across"/>
                </mix>
                <invert name="rough" type="float"><input name="in" type="float" nodename="across"/></invert>
                <output name="colour_out" type="color3" nodename="colour"/>
                <output name="rough_out" type="float" nodename="rough"/>
              </nodegraph>
              <standard_surface name="S_planks" type="surfaceshader">
                <input name="base_color" type="color3" nodegraph="NG_planks" output="colour_out"/>
                <input name="specular_roughness" type="float" nodegraph="NG_planks" output="rough_out"/>
                <input name="metalness" type="float" value="0.25"/>
                <input name="sheen" type="float" value="0.5"/>
              </standard_surface>
              <surfacematerial name="Planks" type="material">
                <input name="surfaceshader" type="surfaceshader" nodename="S_planks"/>
              </surfacematerial>
            </materialx>
            """;

    private Imported read(String text) throws IOException {
        return MaterialXReader.read(
                Files.writeString(folder.resolve("some.mtlx"), text),
                FileGate.to(List.of(folder)),
                SIZE,
                Progress.NONE);
    }

    private static Material only(Imported read) {
        assertThat(read.model().materials()).hasSize(1);
        return read.model().materials().iterator().next();
    }

    private static BufferedImage image(Material material, Slot slot) throws IOException {
        return ImageDecoder.read(material.texture(slot).flatMap(Texture::file).orElseThrow());
    }

    @Test
    void whatVariesBecomesImagesAndTheRestValues() throws IOException {
        Material planks = only(read(PLANKS));
        assertThat(planks.metallic()).isEqualTo(0.25f);
        assertThat(planks.base()).isEqualTo(Colour.WHITE);
        assertThat(planks.textures().keySet()).containsExactlyInAnyOrder(Slot.BASE, Slot.ROUGHNESS);
        BufferedImage colour = image(planks, Slot.BASE);
        BufferedImage rough = image(planks, Slot.ROUGHNESS);
        assertThat(colour.getWidth()).isEqualTo(SIZE);
        for (int x = 0; x < SIZE; x++) {
            double across = ((x + 0.5) / SIZE * 4) % 1;
            // IEC 61966-2-1 says how a linear colour is stored.
            double linear = 0.5 * across;
            double stored = linear <= 0.0031308 ? 12.92 * linear : 1.055 * Math.pow(linear, 1 / 2.4) - 0.055;
            assertThat(colour.getRGB(x, 7) >> 16 & 0xff)
                    .as("red at " + x)
                    .isCloseTo((int) Math.round(255 * stored), within(1));
            assertThat(rough.getRGB(x, 50) >> 8 & 0xff).isCloseTo((int) Math.round(255 * (1 - across)), within(1));
        }
    }

    /** What repeats over the coordinates has no seam at the image's edge: here it goes up from 0 again, as at each plank. */
    @Test
    void imagesRepeatWhereTheirNetworkDoes() throws IOException {
        BufferedImage rough = image(only(read(PLANKS)), Slot.ROUGHNESS);
        for (int x = 0; x < SIZE; x++) {
            assertThat(rough.getRGB(x, 0)).isEqualTo(rough.getRGB((x + SIZE / 4) % SIZE, SIZE / 4));
        }
    }

    @Test
    void networksAreKeptAsTheyAreSaidThroughUsd() throws IOException {
        Imported read = read(PLANKS);
        ShaderNetwork said = only(read).network().orElseThrow();
        assertThat(said.nodes().get("S_planks").input("sheen").orElseThrow().value())
                .isEqualTo("0.5");
        Path file = folder.resolve("planks.usda");
        ModelWriters.write(read.model(), file);
        String text = Files.readString(file);
        assertThat(text)
                .contains("token outputs:mtlx:surface.connect")
                .contains("def NodeGraph \"NG_planks\"")
                .contains("uniform token info:id = \"ND_modulo_vector2FA\"")
                .contains("color3f inputs:fg.connect")
                .contains("NG_planks.inputs:light");
        Stage stage = Stage.open(LayerFiles.read(file), new LayerCache(FileGate.to(List.of(folder))));
        Material again = UsdModelReader.read(stage, new MeshCache())
                .model()
                .materials()
                .iterator()
                .next();
        assertThat(again.network()).contains(said);
        assertThat(again.texture(Slot.BASE)).isPresent();
    }

    @Test
    void anImageThatIsOnlyPlacedStaysAsItIs() throws IOException {
        ImageIO.write(
                new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB),
                "png",
                folder.resolve("tiles.png").toFile());
        Material tiles = only(read("""
                <materialx version="1.39">
                  <place2d name="p" type="vector2">
                    <input name="scale" type="vector2" value="0.5, 0.25"/>
                    <input name="rotate" type="float" value="30"/>
                    <input name="offset" type="vector2" value="0.1, 0.2"/>
                    <input name="pivot" type="vector2" value="0.5, 0.5"/>
                  </place2d>
                  <image name="i" type="color3">
                    <input name="file" type="filename" value="tiles.png" colorspace="srgb_texture"/>
                    <input name="texcoord" type="vector2" nodename="p"/>
                    <input name="uaddressmode" type="string" value="mirror"/>
                  </image>
                  <image name="n" type="vector3"><input name="file" type="filename" value="tiles.png"/></image>
                  <normalmap name="nm" type="vector3">
                    <input name="in" type="vector3" nodename="n"/><input name="scale" type="float" value="0.5"/>
                  </normalmap>
                  <tiledimage name="packed" type="color3">
                    <input name="file" type="filename" value="tiles.png" colorspace="raw"/>
                    <input name="uvtiling" type="vector2" value="3, 2"/>
                  </tiledimage>
                  <extract name="e" type="float">
                    <input name="in" type="color3" nodename="packed"/><input name="index" type="integer" value="2"/>
                  </extract>
                  <gltf_pbr name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="i"/>
                    <input name="normal" type="vector3" nodename="nm"/>
                    <input name="roughness" type="float" nodename="e"/>
                  </gltf_pbr>
                </materialx>
                """));
        Texture base = tiles.texture(Slot.BASE).orElseThrow();
        assertThat(base.file()).contains(folder.resolve("tiles.png"));
        assertThat(base.sampling().wrapS()).isEqualTo(Texture.Wrap.MIRROR);
        // Where the placed coordinates are, by the formula of place2d: less the pivot, by the scale, turned, less the
        // offset.
        double x = (0.2 - 0.5) / 0.5;
        double y = (0.9 - 0.5) / 0.25;
        double c = Math.cos(Math.toRadians(30));
        double s = Math.sin(Math.toRadians(30));
        float[] placed = base.sampling().placement().placed(new float[] {0.2f, 0.9f});
        assertThat(placed[0]).isCloseTo((float) (c * x + s * y - 0.1 + 0.5), within(1e-5f));
        assertThat(placed[1]).isCloseTo((float) (c * y - s * x - 0.2 + 0.5), within(1e-5f));
        assertThat(tiles.texture(Slot.NORMAL).orElseThrow().sampling().strength())
                .isEqualTo(0.5f);
        Texture.Sampling rough = tiles.texture(Slot.ROUGHNESS).orElseThrow().sampling();
        assertThat(rough.channel()).isEqualTo(Texture.Channel.BLUE);
        assertThat(rough.placement().scaleU()).isEqualTo(3);
        assertThat(tiles.network().orElseThrow().textures()).hasSize(1);
    }

    /** Images lie on the coordinates over which their network varies, those that are made and those that are used as they are. */
    @Test
    void eachImageLiesOnTheCoordinatesThatItsNodesAskFor() throws IOException {
        ImageIO.write(
                new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB),
                "png",
                folder.resolve("tiles.png").toFile());
        Imported read = read("""
                <materialx version="1.39">
                  <texcoord name="second" type="vector2"><input name="index" type="integer" value="1"/></texcoord>
                  <ramplr name="r" type="float">
                    <input name="valuel" type="float" value="0"/><input name="valuer" type="float" value="1"/>
                    <input name="texcoord" type="vector2" nodename="second"/>
                  </ramplr>
                  <image name="i" type="color3">
                    <input name="file" type="filename" value="tiles.png" colorspace="srgb_texture"/>
                    <input name="texcoord" type="vector2" nodename="second"/>
                  </image>
                  <geompropvalue name="third" type="vector2">
                    <input name="geomprop" type="string" value="st2"/>
                  </geompropvalue>
                  <checkerboard name="c" type="color3">
                    <input name="texcoord" type="vector2" nodename="third"/>
                  </checkerboard>
                  <ramplr name="first" type="float"><input name="valuer" type="float" value="1"/></ramplr>
                  <multiply name="both" type="float">
                    <input name="in1" type="float" nodename="r"/><input name="in2" type="float" nodename="first"/>
                  </multiply>
                  <gltf_pbr name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="i"/>
                    <input name="roughness" type="float" nodename="r"/>
                    <input name="emissive" type="color3" nodename="c"/>
                    <input name="metallic" type="float" nodename="both"/>
                  </gltf_pbr>
                </materialx>
                """);
        Material material = only(read);
        assertThat(set(material, Slot.BASE)).isEqualTo(1);
        assertThat(set(material, Slot.ROUGHNESS)).isEqualTo(1);
        assertThat(set(material, Slot.EMISSIVE)).isEqualTo(2);
        assertThat(set(material, Slot.METALLIC)).isZero();
        assertThat(read.model().extras().foreign())
                .singleElement()
                .asString()
                .contains("several sets of texture coordinates at once");
        Path file = folder.resolve("several.usda");
        ModelWriters.write(read.model(), file);
        assertThat(Files.readString(file)).contains("inputs:varname = \"st1\"", "inputs:varname = \"st2\"");
    }

    private static int set(Material material, Slot slot) {
        return material.texture(slot).orElseThrow().sampling().uvSet();
    }

    private static String pushedOut(String nodes, String inputs) {
        return """
                <materialx version="1.39">
                  %s
                  <displacement name="D" type="displacementshader">%s</displacement>
                  <standard_surface name="S" type="surfaceshader"/>
                  <surfacematerial name="Bark" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S"/>
                    <input name="displacementshader" type="displacementshader" nodename="D"/>
                  </surfacematerial>
                </materialx>
                """.formatted(nodes, inputs);
    }

    private static final String LINKED = "<input name=\"displacement\" type=\"float\" nodename=\"h\"/>";

    /** From 3 cm below to 1 cm above: black is the lowest, white 4 cm above it. */
    @Test
    void heightsAreMadeIntoAnImageWhoseStrengthIsHowFarTheyAreApart() throws IOException {
        Material bark = only(read(pushedOut("""
                <ramplr name="h" type="float">
                  <input name="valuel" type="float" value="-3"/><input name="valuer" type="float" value="1"/>
                </ramplr>
                """, LINKED + "<input name=\"scale\" type=\"float\" value=\"0.01\"/>")));
        Texture heights = bark.texture(Slot.DISPLACEMENT).orElseThrow();
        assertThat(heights.sampling().strength()).isCloseTo(0.04f, within(1e-3f));
        BufferedImage image = image(bark, Slot.DISPLACEMENT);
        assertThat(image.getRGB(0, 3) & 0xff).isLessThan(4);
        assertThat(image.getRGB(SIZE / 2, 3) & 0xff).isCloseTo(128, within(3));
        assertThat(image.getRGB(SIZE - 1, 3) & 0xff).isGreaterThan(251);
        assertThat(bark.network().orElseThrow().displacement()).contains("D");
    }

    @Test
    void anImageOfHeightsIsUsedAsItIsAndGoesThroughUsdAndBack() throws IOException {
        ImageIO.write(
                new BufferedImage(4, 4, BufferedImage.TYPE_BYTE_GRAY),
                "png",
                folder.resolve("bark_height.png").toFile());
        Imported read = read(pushedOut("""
                <image name="h" type="float"><input name="file" type="filename" value="bark_height.png"/></image>
                """, LINKED + "<input name=\"scale\" type=\"float\" value=\"0.03\"/>"));
        Texture heights = only(read).texture(Slot.DISPLACEMENT).orElseThrow();
        assertThat(heights.file()).contains(folder.resolve("bark_height.png"));
        assertThat(heights.sampling().strength()).isEqualTo(0.03f);
        Path usd = folder.resolve("bark.usda");
        ModelWriters.write(read.model(), usd);
        assertThat(Files.readString(usd)).contains("token outputs:mtlx:displacement.connect", "ND_displacement_float");
        try (Workshop workshop = new Workshop(folder.resolve("shop"))) {
            Imported sealed = workshop.readers().read(usd, Progress.NONE);
            ShaderNetwork again = only(sealed).network().orElseThrow();
            assertThat(again.displacement()).contains("D");
            assertThat(again.nodes().get("D").type()).isEqualTo("displacementshader");
            Path out = folder.resolve("again.mtlx");
            ModelWriters.write(sealed.model(), out);
            assertThat(Files.readString(out)).contains("name=\"displacementshader\"", "<displacement ");
            assertThat(only(workshop.readers().read(out, Progress.NONE))
                            .texture(Slot.DISPLACEMENT)
                            .orElseThrow()
                            .sampling()
                            .strength())
                    .isEqualTo(0.03f);
        }
    }

    @Test
    void whatPushesASurfaceAsideIsToldAndWhatPushesItEvenlyMakesNoImage() throws IOException {
        Imported aside = read(pushedOut("""
                <constant name="h" type="vector3"><input name="value" type="vector3" value="0.1, 0, 0"/></constant>
                """, "<input name=\"displacement\" type=\"vector3\" nodename=\"h\"/>"));
        assertThat(aside.model().extras().foreign())
                .singleElement()
                .asString()
                .contains("a displacement that is not along the normal");
        Material even = only(read(pushedOut("", "<input name=\"displacement\" type=\"float\" value=\"0.1\"/>")));
        assertThat(even.texture(Slot.DISPLACEMENT)).isEmpty();
    }

    @Test
    void whatCannotBeEvaluatedIsNamed() throws IOException {
        Imported read = read("""
                <materialx version="1.39">
                  <flakes3d name="w" type="float"/>
                  <image name="i" type="color3"><input name="file" type="filename" value="gone.png"/></image>
                  <multiply name="m" type="color3">
                    <input name="in1" type="color3" nodename="i"/><input name="in2" type="float" nodename="w"/>
                  </multiply>
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="m"/>
                  </standard_surface>
                </materialx>
                """);
        assertThat(read.model().extras().foreign())
                .singleElement()
                .asString()
                .contains("flakes3d")
                .contains("gone.png, which is missing");
        // It is among the images that can be found and put right.
        assertThat(read.model().textures()).extracting(Texture::name).containsExactly("gone.png");
    }

    /** A small file must not take long: what would is shown by fewer pixels, and says so. */
    @Test
    void whatTakesMuchReckoningGetsSmallerImages() throws IOException {
        StringBuilder text = new StringBuilder("<materialx version=\"1.39\">");
        for (int i = 0; i < 190; i++) {
            text.append(String.format(
                    "<fractal2d name=\"n%d\" type=\"vector2\"><input name=\"octaves\" type=\"integer\" value=\"99\"/>%s"
                            + "</fractal2d>",
                    i, i == 0 ? "" : "<input name=\"texcoord\" type=\"vector2\" nodename=\"n" + (i - 1) + "\"/>"));
        }
        text.append(
                "<standard_surface name=\"S\" type=\"surfaceshader\"><input name=\"specular_roughness\" type=\"float\""
                        + " nodename=\"n189\"/></standard_surface></materialx>");
        Path file = Files.writeString(folder.resolve("long.mtlx"), text);
        Imported read = MaterialXReader.read(file, FileGate.to(List.of(folder)), 4096, Progress.NONE);
        assertThat(read.model().extras().foreign()).singleElement().asString().contains("pixels of images");
        assertThat(image(only(read), Slot.ROUGHNESS).getWidth()).isLessThan(512).isGreaterThanOrEqualTo(16);
    }

    @Test
    void circlesAndDamagedNumbersAreNoFault() throws IOException {
        Imported read = read("""
                <materialx version="1.39">
                  <add name="a" type="color3"><input name="in1" type="color3" nodename="b"/></add>
                  <add name="b" type="color3"><input name="in1" type="color3" nodename="a"/></add>
                  <power name="p" type="float">
                    <input name="in1" type="float" value="1e39"/><input name="in2" type="float" value="abc"/>
                  </power>
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base_color" type="color3" nodename="a"/>
                    <input name="specular_roughness" type="float" nodename="p"/>
                    <input name="metalness" type="float" nodename="S"/>
                  </standard_surface>
                </materialx>
                """);
        assertThat(read.model().extras().foreign()).singleElement().asString().contains("circle");
        Path file = folder.resolve("circle.usda");
        ModelWriters.write(read.model(), file);
        assertThat(Optional.of(file))
                .hasValueSatisfying(written -> assertThat(written).exists());
    }

    @Test
    void numbersOfInputsAreReadByTheirType() {
        assertThat(NodeValues.numbers(ShaderNetwork.Input.of("color3", "0.1, 0.2, 0.3")))
                .containsExactly(0.1f, 0.2f, 0.3f);
        assertThat(NodeValues.numbers(ShaderNetwork.Input.of("boolean", "true")))
                .containsExactly(1);
        assertThat(NodeValues.numbers(ShaderNetwork.Input.of("float", "words"))).isEmpty();
    }
}
