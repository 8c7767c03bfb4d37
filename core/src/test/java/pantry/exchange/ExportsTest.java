package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.base.Sha256;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.HeightImages;
import pantry.exchange.gltf.GltfReader;
import pantry.exchange.obj.ObjReader;
import pantry.exchange.ply.PlyReader;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.usd.UsdModelReader;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.Texture;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackage;

/** What goes with an exported file, what it says of what it cannot hold, and that it is the same when it is read again. */
class ExportsTest {
    @TempDir
    private Path folder;

    private Path out;

    @BeforeEach
    void makeFolder() throws IOException {
        out = Files.createDirectories(folder.resolve("out"));
    }

    private Path image(Path file, int rgb) throws IOException {
        BufferedImage image = new BufferedImage(4, 4, BufferedImage.TYPE_INT_RGB);
        for (int i = 0; i < 16; i++) {
            image.setRGB(i % 4, i / 4, rgb + i);
        }
        Files.createDirectories(file.getParent());
        String name = file.getFileName().toString();
        ImageIO.write(image, name.substring(name.lastIndexOf('.') + 1), file.toFile());
        return file;
    }

    private static Material painted(Path image) {
        return Material.plain("Paint", Colour.WHITE, 0, 0.5)
                .with(Slot.BASE, new Texture(image.getFileName().toString(), Optional.of(image)));
    }

    private static Model of(Mesh mesh, Material material) {
        return of(mesh, material, Matrix4.IDENTITY);
    }

    private static Model of(Mesh mesh, Material material, Matrix4 place) {
        Model.Node node = Model.Node.of("Crate", place, List.of(new Model.Part(mesh, material)), List.of());
        return new Model("crate", List.of(node), Model.Extras.NONE);
    }

    private Model read(Path file) throws IOException {
        String name = file.getFileName().toString();
        return switch (name.substring(name.lastIndexOf('.') + 1)) {
            case "obj" -> ObjReader.read(file, FileGate.OPEN, Progress.NONE).model();
            case "ply" -> PlyReader.read(file, FileGate.OPEN, Progress.NONE).model();
            case "glb", "gltf" ->
                GltfReader.read(file, FileGate.OPEN, Files.createTempDirectory(folder, "images-"), Progress.NONE)
                        .orElseThrow()
                        .model();
            default -> {
                LayerCache layers = new LayerCache();
                yield UsdModelReader.read(Stage.open(layers.open(file), layers), new MeshCache())
                        .model();
            }
        };
    }

    private static Material material(Model model) {
        return model.materials().iterator().next();
    }

    private static Mesh mesh(Model model) {
        return model.meshes().iterator().next();
    }

    @ParameterizedTest
    @ValueSource(strings = {"usda", "usdc", "usdz", "gltf", "glb", "obj"})
    void anImageThatOnlyThisRunHasGoesWithTheFile(String ending) throws IOException {
        Path image = image(Scratch.folder("test").resolve("bark.png"), 0x604020);
        Path file = out.resolve("crate." + ending);
        ModelWriters.write(of(Shapes.block(1, 1, 1), painted(image)), file);
        Path moved = Files.move(out, folder.resolve("moved"));
        String sum = Sha256.of(image);
        Files.delete(image);
        Texture texture = material(read(moved.resolve("crate." + ending)))
                .texture(Slot.BASE)
                .orElseThrow();
        assertThat(texture.file()).as("found where the folder is now").isPresent();
        assertThat(Sha256.of(texture.file().get())).isEqualTo(sum);
        if (ending.equals("usda")) {
            assertThat(moved.resolve("textures/bark.png")).exists();
            assertThat(LayerAssets.of(LayerFiles.read(moved.resolve("crate.usda"))))
                    .containsExactly("./textures/bark.png");
        }
    }

    @Test
    void imagesBesideTheFileStayWhereTheyAreAndTwoOfOneNameBothGoAlong() throws IOException {
        Path beside = image(out.resolve("maps/bark.png"), 0x604020);
        Path other = image(folder.resolve("elsewhere/bark.png"), 0x203040);
        Path third = image(folder.resolve("further/bark.png"), 0x708090);
        Material material = painted(beside)
                .with(Slot.NORMAL, new Texture("bark.png", Optional.of(other)))
                .with(Slot.EMISSIVE, new Texture("bark.png", Optional.of(third)));
        ModelWriters.write(of(Shapes.block(1, 1, 1), material), out.resolve("crate.usda"));
        assertThat(LayerAssets.of(LayerFiles.read(out.resolve("crate.usda"))))
                .containsExactlyInAnyOrder("./maps/bark.png", "./textures/bark.png", "./textures/bark-2.png");
        assertThat(Sha256.of(out.resolve("textures/bark-2.png")))
                .isIn(Sha256.of(other), Sha256.of(third))
                .isNotEqualTo(Sha256.of(out.resolve("textures/bark.png")));
    }

    @ParameterizedTest
    @ValueSource(strings = {"usda", "usdc", "usdz", "gltf", "glb", "obj", "ply"})
    void aMissingImageIsToldWithWhereItWasLookedForAndNothingRefersToIt(String ending) throws IOException {
        Material material = Material.plain("Paint", Colour.WHITE, 0, 0.5)
                .with(Slot.BASE, new Texture("maps/gone.png", Optional.empty()));
        Path source = folder.resolve("from/crate.fbx");
        Path file = out.resolve("crate." + ending);
        List<String> left = ModelWriters.write(
                        of(Shapes.block(1, 1, 1), material), file, ModelWriters.Options.of(source))
                .left();
        assertThat(left).anySatisfy(line -> assertThat(line)
                .contains("maps/gone.png is missing", source.getParent().toString()));
        assertThat(read(file).textures()).isEmpty();
    }

    @Test
    void packagesHoldOnlyWhatTheirSpecificationAllows() throws IOException {
        Path file = out.resolve("crate.usdz");
        List<String> left = ModelWriters.write(
                        of(Shapes.block(1, 1, 1), painted(image(folder.resolve("old.bmp"), 0x604020))), file)
                .left();
        assertThat(UsdPackage.open(file).names()).containsExactlyInAnyOrder("crate.usdc", "old.png");
        assertThat(left).anySatisfy(line -> assertThat(line).contains("old.bmp", "is a PNG in the package"));
        Path image =
                material(read(file)).texture(Slot.BASE).flatMap(Texture::file).orElseThrow();
        assertThat(ImageIO.read(image.toFile()).getRGB(1, 0) & 0xffffff).isEqualTo(0x604021);
    }

    @Test
    void whatAFormatCannotHoldIsSaid() {
        Mesh coloured = Shapes.block(1, 1, 1)
                .withPrimvar(Mesh.COLOUR, new Channel(new float[] {1, 0, 0}, 3, Channel.Per.MESH))
                .withDoubleSided(true);
        Fixture lamp = new Fixture.Light("Lamp", Matrix4.IDENTITY, Fixture.Light.Kind.RECT, Colour.WHITE, 1, 180);
        Model model = of(coloured, Material.plain("Paint", Colour.WHITE, 0, 0.5))
                .with(new Model.Extras(List.of(lamp), 0, List.of("1 animation", "BasisCurves /crate/Wire")));
        Map<String, List<String>> left = new TreeMap<>();
        for (String ending : List.of("glb", "obj", "ply", "stl", "usda")) {
            left.put(
                    ending,
                    ModelWriters.write(model, out.resolve("crate." + ending)).left());
        }
        assertThat(left.values()).allSatisfy(lines -> assertThat(lines)
                .contains("1 animation left out", "BasisCurves /crate/Wire is written as a mesh"));
        assertThat(left.get("usda")).hasSize(2);
        assertThat(left.get("glb")).anySatisfy(line -> assertThat(line).contains("Lamp is a RectLight"));
        assertThat(left.get("obj"))
                .contains("OBJ has no lights: 1 left out", "OBJ does not say which surfaces are seen from both sides");
        assertThat(left.get("ply")).contains("PLY has no lights: 1 left out");
        assertThat(left.get("stl"))
                .contains("STL has no materials: 1 left out", "STL has no texture coordinates")
                .contains("STL has no place for displayColor of Crate");
    }

    @Test
    void colourAndOpacityOfTwoImagesBecomeOneInGltf() throws IOException {
        Path colour = image(folder.resolve("colour.png"), 0x604020);
        BufferedImage grey = new BufferedImage(4, 4, BufferedImage.TYPE_BYTE_GRAY);
        grey.getRaster().setSample(1, 0, 0, 100);
        Path mask = folder.resolve("mask.png");
        ImageIO.write(grey, "png", mask.toFile());
        Material material = painted(colour)
                .with(
                        Slot.OPACITY,
                        new Texture("mask.png", Optional.of(mask), Texture.Sampling.USUAL.with(Texture.Channel.RED)));
        Path file = out.resolve("crate.glb");
        ModelWriters.write(of(Shapes.block(1, 1, 1), material), file);
        Material again = material(read(file));
        assertThat(again.texture(Slot.OPACITY)).isPresent();
        BufferedImage both = ImageIO.read(
                again.texture(Slot.BASE).flatMap(Texture::file).orElseThrow().toFile());
        assertThat(both.getRGB(1, 0))
                .as("the mask's grey is the alpha, as it is stored")
                .isEqualTo(100 << 24 | 0x604021);
        assertThat(both.getRGB(2, 0) >>> 24).isZero();
    }

    @Test
    void roughnessAndMetalnessOfTwoImagesBecomeOneInGltf() throws IOException {
        Texture rough = new Texture("r.png", Optional.of(image(folder.resolve("r.png"), 0x0040a0)));
        Texture metal = new Texture("m.png", Optional.of(image(folder.resolve("m.png"), 0x102030)));
        Material material = Material.plain("Paint", Colour.WHITE, 1, 1)
                .with(Slot.ROUGHNESS, rough)
                .with(Slot.METALLIC, metal);
        Path file = out.resolve("crate.glb");
        ModelWriters.write(of(Shapes.block(1, 1, 1), material), file);
        Path packed = material(read(file))
                .texture(Slot.ROUGHNESS)
                .flatMap(Texture::file)
                .orElseThrow();
        assertThat(ImageIO.read(packed.toFile()).getRGB(0, 0) & 0xffff)
                .as("green of the one, blue of the other")
                .isEqualTo(0x4030);
        Texture turned = metal.with(Texture.Sampling.placed(new Texture.Placement(0, 2, 2, 0, 0, 0)));
        assertThat(ModelWriters.write(of(Shapes.block(1, 1, 1), material.with(Slot.METALLIC, turned)), file)
                        .left())
                .singleElement()
                .satisfies(line -> assertThat(line).contains("Paint", "metalness", "one image for both"));
    }

    @Test
    void placesThatAreNoMoveTurnAndScaleAreBakedWithFacesLookingOutwards() throws IOException {
        Matrix4 shear = Matrix4.ofRows(new double[] {-1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0.25, 1, 0, 3, 0, 0, 1});
        Model model = of(Shapes.block(2, 1, 1), Material.PLAIN, shear);
        Path file = out.resolve("crate.glb");
        ModelWriters.write(model, file);
        Model again = read(file);
        assertThat(again.roots().getFirst().local()).isEqualTo(Matrix4.IDENTITY);
        assertThat(again.measures().volume()).isCloseTo(2, within(1e-5));
        assertThat(again.bounds().min().minus(model.bounds().min()).length()).isLessThan(1e-5);
        Model flat = of(Shapes.block(2, 1, 1), Material.PLAIN, Matrix4.scale(new Vec3(1, 0, 1)));
        ModelWriters.write(flat, file);
        assertThat(read(file).bounds().size().y()).isZero();
    }

    @Test
    void aSurfaceWithoutAMaterialHasNoneAgain() throws IOException {
        for (String ending : List.of("glb", "gltf", "usda", "obj", "ply")) {
            Path file = out.resolve("crate." + ending);
            ModelWriters.write(of(Shapes.block(1, 1, 1), Material.PLAIN), file);
            assertThat(read(file).materials()).as(ending).isEmpty();
        }
        Path file = out.resolve("crate.usda");
        ModelWriters.write(of(Shapes.block(1, 1, 1), Material.displayColour(new Colour(1, 0.5f, 0.25f))), file);
        assertThat(Files.readString(file)).contains("primvars:displayColor").doesNotContain("def Material");
        assertThat(material(read(file)).base()).isEqualTo(new Colour(1, 0.5f, 0.25f));
    }

    @Test
    void bothSidesOrOneAreKeptWhereTheFormatSaysSo() throws IOException {
        Material paint = Material.plain("Paint", Colour.WHITE, 0, 0.5);
        Model sheet = of(Shapes.plate(1, 1).withDoubleSided(true), paint);
        Model block = of(Shapes.block(1, 1, 1), paint);
        for (String ending : List.of("glb", "usda", "usdc")) {
            Path file = out.resolve("crate." + ending);
            ModelWriters.write(sheet, file);
            assertThat(mesh(read(file)).doubleSided()).isTrue();
            ModelWriters.write(block, file);
            assertThat(mesh(read(file)).doubleSided()).isFalse();
        }
        Model both = new Model(
                "both", List.of(sheet.roots().getFirst(), block.roots().getFirst()), Model.Extras.NONE);
        Path file = out.resolve("both.glb");
        ModelWriters.write(both, file);
        assertThat(read(file).meshes()).extracting(Mesh::doubleSided).containsExactly(true, false);
    }

    @Test
    void colourTintsAndSeveralSetsAreKept() throws IOException {
        Mesh mesh = Shapes.plate(1, 1)
                .withPrimvar(
                        Mesh.COLOUR,
                        new Channel(new float[] {1, 1, 1, 1, 0, 0, 0, 1, 0, 0.5f, 0.5f, 1}, 3, Channel.Per.POINT))
                .withPrimvar(Mesh.OPACITY, new Channel(new float[] {1, 0.5f, 0.25f, 1}, 1, Channel.Per.POINT))
                .withPrimvar("st1", new Channel(new float[] {0, 0, 2, 0, 2, 2, 0, 2}, 2, Channel.Per.POINT));
        Material tint = Material.plain("Tint", new Colour(0.5f, 1, 1), 0, 0.5).onColoured();
        for (String ending : List.of("glb", "usda")) {
            Path file = out.resolve("crate." + ending);
            ModelWriters.write(of(mesh, tint), file);
            Model again = read(file);
            float[] colours = mesh(again).primvars().get(Mesh.COLOUR).data();
            float shown = colours[0] * material(again).base().r();
            assertThat(shown).as(ending + " shows the product").isEqualTo(0.5f);
            assertThat(mesh(again).primvars()).containsKey("st1");
        }
        assertThat(mesh(read(out.resolve("crate.glb")))
                        .primvars()
                        .get(Mesh.OPACITY)
                        .data())
                .containsExactly(1, 0.5f, 0.25f, 1);
        Path ply = out.resolve("crate.ply");
        ModelWriters.write(of(mesh, tint), ply);
        assertThat(mesh(read(ply)).uvs()).isPresent();
        assertThat(mesh(read(ply)).primvars()).containsKey(Mesh.COLOUR);
        Path obj = out.resolve("crate.obj");
        ModelWriters.write(of(mesh, tint), obj);
        assertThat(mesh(read(obj)).primvars().get(Mesh.COLOUR).data()).startsWith(1, 1, 1, 1, 0, 0);
    }

    @Test
    void lightsCamerasAndLooksAreInGltf() throws IOException {
        Fixture.Light spot = new Fixture.Light(
                "Spot",
                Matrix4.rotation(0, -90).times(Matrix4.translation(new Vec3(0, 5, 0))),
                Fixture.Light.Kind.SPHERE,
                new Colour(1, 0.5f, 0.25f),
                40,
                30);
        Fixture.Camera camera = new Fixture.Camera("Watch", Matrix4.translation(new Vec3(0, 1, 9)), 45, 1.6);
        Material red = Material.plain("Red", new Colour(1, 0, 0), 0, 0.5);
        Material snow = Material.plain("Snow", Colour.WHITE, 0, 0.9);
        Model.Part part = new Model.Part(Shapes.block(1, 1, 1), red, Map.of("Winter", snow));
        Model model = new Model(
                "crate",
                List.of(Model.Node.of("Crate", Matrix4.IDENTITY, List.of(part), List.of())),
                new Model.Extras(List.of(spot, camera), 0, List.of()));
        Path file = out.resolve("crate.glb");
        assertThat(ModelWriters.write(model, file).left()).isEmpty();
        Model again = read(file);
        assertThat(again.looks()).containsExactly("Winter");
        assertThat(again.extras().fixtures()).anySatisfy(fixture -> {
            Fixture.Light light = (Fixture.Light) fixture;
            assertThat(light.name()).isEqualTo("Spot");
            assertThat(light.coneAngle()).isCloseTo(30, within(1e-4));
            assertThat(light.intensity()).isCloseTo(40, within(1e-4));
            assertThat(light.world().translationPart().y()).isCloseTo(5, within(1e-6));
        });
        assertThat(again.extras().cameras()).isEqualTo(1);
    }

    @Test
    void numbersAreInTheUnitThatIsAskedFor() throws IOException {
        Model model = of(Shapes.block(2, 3, 4), Material.PLAIN);
        Path file = out.resolve("crate.ply");
        ModelWriters.write(model, file, new ModelWriters.Options(0.001, "millimetres", Optional.empty()));
        assertThat(read(file).bounds().size().y()).isCloseTo(3000, within(1e-3));
        assertThat(new String(Files.readAllBytes(file), java.nio.charset.StandardCharsets.ISO_8859_1))
                .contains("comment Pantry; millimetres, Y up");
    }

    @Test
    void aWriterNeverWritesAPathThatLeadsElsewhere() {
        for (String path : List.of("../other/a.png", "/tmp/a.png", "C:/a.png", "file:///a.png")) {
            assertThatThrownBy(() -> ExportImages.checked(path)).hasMessageContaining(path);
        }
        assertThat(ExportImages.checked("textures/a.png")).isEqualTo("textures/a.png");
    }

    @Test
    void aNormalMapUnderTheWordForHeightsIsOneAndHeightsAreNot() throws IOException {
        image(out.resolve("normal.png"), 0x8080ff);
        image(out.resolve("height.png"), 0x808080);
        Files.writeString(out.resolve("two.mtl"), "newmtl A\nmap_Bump -bm 0.5 normal.png\nnewmtl B\nbump height.png\n");
        Files.writeString(out.resolve("two.obj"), """
                mtllib two.mtl
                v 0 0 0
                v 1 0 0
                v 0 1 0
                usemtl A
                f 1 2 3
                usemtl B
                f 3 2 1
                """);
        List<Material> materials = List.copyOf(read(out.resolve("two.obj")).materials());
        assertThat(materials
                        .getFirst()
                        .texture(Slot.NORMAL)
                        .orElseThrow()
                        .sampling()
                        .strength())
                .isEqualTo(0.5f);
        assertThat(materials.getLast().texture(Slot.NORMAL)).isEmpty();
        assertThat(materials
                        .getLast()
                        .texture(Slot.DISPLACEMENT)
                        .orElseThrow()
                        .sampling()
                        .strength())
                .isEqualTo(HeightImages.USUAL);
    }

    @Test
    void heightsGoOutToObjAndAreToldWhereAFormatHasNone() throws IOException {
        Path height = image(out.resolve("height.png"), 0x808080);
        Texture heights = new Texture("height.png", java.util.Optional.of(height))
                .with(Texture.Sampling.USUAL.withStrength(0.05f));
        Material bark = Material.plain("Bark", Colour.WHITE, 0, 1).with(Slot.DISPLACEMENT, heights);
        Model model = pantry.testing.Workshop.model("Log", pantry.mesh.Shapes.plate(1, 1))
                .withMaterials(each -> bark);
        ModelWriters.write(model, out.resolve("log.obj"));
        assertThat(read(out.resolve("log.obj"))
                        .materials()
                        .iterator()
                        .next()
                        .texture(Slot.DISPLACEMENT)
                        .orElseThrow()
                        .sampling()
                        .strength())
                .isCloseTo(0.05f, org.assertj.core.api.Assertions.within(1e-6f));
        assertThat(ModelWriters.write(model, out.resolve("log.glb")).left())
                .contains("glTF has no displacement: the image of Bark is left out");
    }
}
