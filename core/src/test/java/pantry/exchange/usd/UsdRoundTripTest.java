package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Png;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerFiles;

/** What a model says is said in USD, and read from there again. */
class UsdRoundTripTest {
    @TempDir
    private Path folder;

    private Model again(Model model, String ending) {
        Path file = folder.resolve("thing." + ending);
        UsdModelWriter.write(model, file);
        LayerCache layers = new LayerCache();
        UsdModelReader.Result result = UsdModelReader.read(Stage.open(layers.open(file), layers), new MeshCache());
        assertThat(result.problems()).isEmpty();
        return result.model();
    }

    private static Model of(Model.Part... parts) {
        List<Model.Node> nodes = new ArrayList<>();
        for (Model.Part part : parts) {
            nodes.add(Model.Node.of("Thing", Matrix4.IDENTITY, List.of(part), List.of()));
        }
        return new Model("Things", nodes, Model.Extras.NONE);
    }

    private Texture image(Texture.Sampling sampling) throws IOException {
        Path file = folder.resolve("image.png");
        Files.write(file, Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        return new Texture("image.png", Optional.of(file), sampling);
    }

    private static Mesh square(Map<String, Channel> more) {
        return new Mesh(
                        new float[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0},
                        new int[] {4},
                        new int[] {0, 1, 2, 3},
                        null,
                        new Channel(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, 2, Channel.Per.POINT))
                .withPrimvars(more);
    }

    @ParameterizedTest
    @ValueSource(strings = {"usda", "usdc"})
    void materialsKeepWhatTheySay(String ending) throws IOException {
        Texture.Sampling lying = Texture.Sampling.placed(new Texture.Placement(1, 2, 3, 30, 0.25f, -0.5f))
                .with(Texture.Wrap.CLAMP, Texture.Wrap.MIRROR);
        Texture.Sampling bumpy = Texture.Sampling.USUAL.withStrength(0.5f);
        Material rich = new Material(
                        "Rich",
                        new Colour(0.5f, 0.25f, 0.125f),
                        0.75f,
                        0.5f,
                        0.25f,
                        new Colour(2, 1, 0.5f),
                        new Material.Finish(0.5f, 0.75f, 0.25f, 1.25f, false),
                        Map.of())
                .with(Material.Slot.BASE, image(lying))
                .with(Material.Slot.NORMAL, image(bumpy))
                .with(Material.Slot.METALLIC, image(Texture.Sampling.USUAL))
                .with(Material.Slot.DISPLACEMENT, image(Texture.Sampling.USUAL.withStrength(0.25f)))
                .with(Material.Slot.EMISSIVE, image(Texture.Sampling.USUAL));
        Channel second = new Channel(new float[] {0, 0, 2, 0, 2, 2, 0, 2}, 2, Channel.Per.POINT);
        Model read = again(of(new Model.Part(square(Map.of("st1", second)), rich)), ending);
        Material material = read.materials().iterator().next();
        assertThat(material.base()).as("what an image is multiplied by").isEqualTo(rich.base());
        assertThat(material.emissive()).isEqualTo(rich.emissive());
        assertThat(material.opacity()).isEqualTo(0.75f);
        assertThat(material.metallic()).isEqualTo(0.5f);
        assertThat(material.roughness()).isEqualTo(0.25f);
        assertThat(material.finish()).isEqualTo(rich.finish());
        assertThat(material.texture(Material.Slot.BASE).orElseThrow().sampling())
                .isEqualTo(lying);
        assertThat(material.texture(Material.Slot.NORMAL).orElseThrow().sampling())
                .isEqualTo(bumpy);
        assertThat(material.texture(Material.Slot.DISPLACEMENT)
                        .orElseThrow()
                        .sampling()
                        .strength())
                .isEqualTo(0.25f);
        assertThat(material.textures()).hasSize(5).allSatisfy((slot, texture) -> assertThat(texture.found())
                .isTrue());
        Mesh mesh = read.meshes().iterator().next();
        assertThat(mesh.primvars().get("st1").data()).containsExactly(second.data());
    }

    @ParameterizedTest
    @EnumSource(Channel.Per.class)
    void coloursStayWhereTheyAre(Channel.Per per) {
        int count = per == Channel.Per.MESH || per == Channel.Per.FACE ? 1 : 4;
        float[] data = new float[3 * count];
        for (int i = 0; i < data.length; i++) {
            data[i] = i / 16f;
        }
        Mesh mesh = square(Map.of(Mesh.COLOUR, new Channel(data, 3, per)));
        Material material = Material.plain("Painted", Colour.WHITE, 0, 1).onColoured();
        Model read = again(of(new Model.Part(mesh, material)), "usda");
        assertThat(read.materials().iterator().next().finish().coloured()).isTrue();
        if (per != Channel.Per.MESH) {
            Channel colours = read.meshes().iterator().next().primvars().get(Mesh.COLOUR);
            assertThat(colours.per()).isEqualTo(per);
            assertThat(colours.data()).containsExactly(data);
        }
    }

    @Test
    void lightsAndCamerasStandWhereTheyStood() {
        Matrix4 place = Matrix4.rotationXyz(new Vec3(10, 20, 30)).times(Matrix4.translation(new Vec3(1, 2, 3)));
        List<Fixture> fixtures = List.of(
                new Fixture.Light("Sun", place, Fixture.Light.Kind.DISTANT, new Colour(1, 0.5f, 0.25f), 3, 180),
                new Fixture.Light("Spot", place, Fixture.Light.Kind.SPHERE, Colour.WHITE, 40, 25),
                new Fixture.Light("Sky", place, Fixture.Light.Kind.DOME, Colour.WHITE, 1, 180),
                new Fixture.Light("Panel", place, Fixture.Light.Kind.RECT, Colour.WHITE, 9, 180),
                new Fixture.Camera("Eye", place, 40, 1.5),
                new Fixture.Camera("Flat", place, 0, 1));
        Model model = of(new Model.Part(Shapes.block(1, 1, 1), Material.PLAIN))
                .with(new Model.Extras(fixtures, 0, List.of()));
        List<Fixture> read = again(model, "usda").extras().fixtures();
        assertThat(read).hasSize(6);
        for (int i = 0; i < 6; i++) {
            Fixture before = fixtures.get(i);
            assertThat(read.get(i).name()).isEqualTo(before.name());
            for (int n = 0; n < 16; n++) {
                assertThat(read.get(i).world().rows()[n]).isCloseTo(place.rows()[n], within(1e-9));
            }
            switch (before) {
                case Fixture.Light light -> {
                    Fixture.Light same = (Fixture.Light) read.get(i);
                    assertThat(same.kind()).isEqualTo(light.kind());
                    assertThat(same.colour()).isEqualTo(light.colour());
                    assertThat(same.intensity()).isEqualTo(light.intensity());
                    assertThat(same.coneAngle()).isEqualTo(light.coneAngle());
                }
                case Fixture.Camera camera -> {
                    Fixture.Camera same = (Fixture.Camera) read.get(i);
                    assertThat(same.angle()).isCloseTo(camera.angle(), within(1e-4));
                    assertThat(same.aspect()).isCloseTo(camera.aspect(), within(1e-6));
                }
            }
        }
        Fixture turned = fixtures.getFirst().reframed(Matrix4.scale(new Vec3(0.01, 0.01, 0.01)));
        assertThat(turned.world().translationPart().length())
                .as("it moves with its surroundings, but does not shrink")
                .isCloseTo(place.translationPart().length() / 100, within(1e-9));
        assertThat(turned.world().determinant3()).isCloseTo(1, within(1e-9));
    }

    @Test
    void anObjectOfSeveralMaterialsIsOneMeshWithSubsets() {
        Model.Node both = Model.Node.of(
                "Both",
                Matrix4.IDENTITY,
                List.of(
                        new Model.Part(Shapes.block(1, 1, 1), Material.plain("Red", new Colour(1, 0, 0), 0, 1)),
                        new Model.Part(
                                Shapes.block(1, 1, 1).transformed(Matrix4.translation(new Vec3(0, 2, 0))),
                                Material.plain("Blue", new Colour(0, 0, 1), 0, 1))),
                List.of());
        Model model = new Model("M", List.of(both), Model.Extras.NONE);
        Path file = folder.resolve("subsets.usda");
        Layer layer =
                UsdModelWriter.layer(model, "M", file, Links.ofImages(Texture::name), UsdModelWriter.Split.SUBSETS);
        LayerFiles.write(layer, file);
        PrimSpec mesh = layer.prim(SdfPath.of("/M/Both")).orElseThrow();
        assertThat(mesh.typeName()).isEqualTo("Mesh");
        PrimSpec blue = mesh.child("Blue").orElseThrow();
        assertThat(blue.attribute("indices").orElseThrow().value())
                .contains(new Value.Ints(new int[] {6, 7, 8, 9, 10, 11}, 1));
        LayerCache layers = new LayerCache();
        Model read = UsdModelReader.read(Stage.open(layers.open(file), layers), new MeshCache())
                .model();
        List<Model.Part> parts = read.roots().getFirst().children().getFirst().parts();
        assertThat(parts).extracting(part -> part.material().name()).containsExactly("Red", "Blue");
        assertThat(parts).extracting(part -> part.mesh().faceCount()).containsExactly(6, 6);
    }

    @Test
    void whatIsForeignIsTold() throws IOException {
        Path file = Files.writeString(folder.resolve("odd.usda"), """
                #usda 1.0
                (defaultPrim = "A")
                def Xform "A" {
                    def Cube "C" {}
                    def BasisCurves "Hair" {}
                    def DomeLight_1 "Sky" {}
                }
                """);
        LayerCache layers = new LayerCache();
        Model model = UsdModelReader.read(Stage.open(layers.open(file), layers), new MeshCache())
                .model();
        assertThat(model.extras().foreign()).containsExactly("BasisCurves /A/Hair");
        assertThat(model.extras().lights()).isOne();
    }
}
