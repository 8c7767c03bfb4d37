package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.MeshPrimitiveModel;
import de.javagl.jgltf.model.NodeModel;
import de.javagl.jgltf.model.io.GltfModelReader;
import de.javagl.jgltf.model.v2.MaterialModelV2;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.FileGate;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/** glTF as it is written, read by jgltf's own reader. */
class GltfWriterTest {
    @TempDir
    private Path folder;

    private static Model.Node node(String name, Mesh mesh, Material material, Matrix4 local) {
        return Model.Node.of(name, local, List.of(new Model.Part(mesh, material)), List.of());
    }

    private GltfModel written(Model model, String ending) throws IOException {
        Path file = folder.resolve("model." + ending);
        ModelWriters.write(model, file);
        return new GltfModelReader().read(file.toUri());
    }

    @ParameterizedTest
    @ValueSource(strings = {"glb", "gltf"})
    void instancesShareTheirMeshAndKeepTheirPlaces(String ending) throws IOException {
        List<Model.Node> contents = List.of(node("Body", Shapes.block(1, 2, 1), Material.PLAIN, Matrix4.IDENTITY));
        List<Model.Node> uses = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            Matrix4 local = Matrix4.rotation(1, 30 * i).times(Matrix4.translation(new Vec3(3 * i, 0, 0)));
            uses.add(new Model.Node("Use " + i, "/U" + i, local, List.of(), contents, true));
        }
        GltfModel gltf = written(new Model("Uses", uses, Model.Extras.NONE), ending);
        assertThat(gltf.getMeshModels()).hasSize(1);
        assertThat(gltf.getSceneModels()).hasSize(1);
        List<NodeModel> roots = gltf.getSceneModels().getFirst().getNodeModels();
        assertThat(roots).extracting(NodeModel::getName).containsExactly("Use 0", "Use 1", "Use 2", "Use 3", "Use 4");
        float[] matrix = roots.get(4).computeLocalTransform(null);
        assertThat(matrix[12]).isEqualTo(12);
        assertThat(matrix[0])
                .isCloseTo((float) Math.cos(Math.toRadians(120)), org.assertj.core.api.Assertions.within(1e-6f));
        MeshPrimitiveModel primitive =
                gltf.getMeshModels().getFirst().getMeshPrimitiveModels().getFirst();
        assertThat(primitive.getIndices().getCount()).isEqualTo(36);
        assertThat(primitive.getAttributes()).containsKeys("POSITION", "NORMAL", "TEXCOORD_0");
        assertThat(primitive.getAttributes().get("POSITION").getCount()).isEqualTo(24);
    }

    @Test
    void materialsAndImagesAreWrittenOnce() throws IOException {
        Path image = folder.resolve("paint.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        Texture texture = new Texture("paint.png", Optional.of(image));
        Material painted = Material.plain("Painted", new Colour(0.2f, 0.3f, 0.4f), 0.7, 0.3)
                .with(Material.Slot.BASE, texture);
        Material glass = new Material(
                "Glass", new Colour(0.1f, 2, 0.3f), 0.25f, 0, 0.1f, new Colour(0, 0, 0.5f), java.util.Map.of());
        GltfModel gltf = written(
                new Model(
                        "Two",
                        List.of(
                                node("A", Shapes.block(1, 1, 1), painted, Matrix4.IDENTITY),
                                node("B", Shapes.block(2, 1, 1), painted, Matrix4.IDENTITY),
                                node("C", Shapes.sphere(1, 8, 4), glass, Matrix4.IDENTITY)),
                        Model.Extras.NONE),
                "glb");
        assertThat(gltf.getImageModels()).hasSize(1);
        assertThat(gltf.getMaterialModels()).hasSize(2);
        MaterialModelV2 clear = (MaterialModelV2) gltf.getMaterialModels().stream()
                .filter(m -> m.getName().equals("Glass"))
                .findFirst()
                .orElseThrow();
        assertThat(clear.getAlphaMode()).isEqualTo(MaterialModelV2.AlphaMode.BLEND);
        assertThat(clear.getBaseColorFactor()).containsExactly(0.1f, 1, 0.3f, 0.25f);
        MaterialModelV2 withImage = (MaterialModelV2) gltf.getMaterialModels().stream()
                .filter(m -> m.getName().equals("Painted"))
                .findFirst()
                .orElseThrow();
        assertThat(withImage.getBaseColorTexture().getImageModel().getMimeType())
                .isEqualTo("image/png");
        assertThat(withImage.getMetallicFactor()).isEqualTo(0.7f);
        assertThat(withImage.getRoughnessFactor()).isEqualTo(0.3f);
    }

    @Test
    void whatIsWrittenIsReadAgain() throws IOException {
        Path image = folder.resolve("rough.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(2, 2, 1)));
        Texture.Sampling lying = Texture.Sampling.placed(new Texture.Placement(0, 2, 3, 90, 0.5f, 0));
        Texture plain = new Texture("rough.png", Optional.of(image));
        Material rich = new Material(
                        "Rich",
                        new Colour(0.5f, 0.4f, 0.3f),
                        1,
                        0.6f,
                        0.7f,
                        Colour.BLACK,
                        new Material.Finish(0.4f, 0, 0.01f, 1.5f, true),
                        java.util.Map.of())
                .with(Material.Slot.BASE, new Texture("rough.png", Optional.of(image), lying))
                .with(Material.Slot.METALLIC, plain)
                .with(Material.Slot.ROUGHNESS, plain)
                .with(Material.Slot.OCCLUSION, plain);
        Mesh square = new Mesh(
                        new float[] {0, 0, 0, 1, 0, 0, 1, 1, 0},
                        new int[] {3},
                        new int[] {0, 1, 2},
                        new Channel(new float[] {0, 0, 1}, 3, Channel.Per.MESH),
                        new Channel(new float[] {0, 0, 1, 0, 1, 1}, 2, Channel.Per.POINT))
                .withPrimvars(java.util.Map.of(
                        Mesh.COLOUR, new Channel(new float[] {1, 0, 0, 0, 1, 0, 0, 0, 1}, 3, Channel.Per.POINT)));
        Path file = folder.resolve("rich.glb");
        ModelWriters.write(new Model("R", List.of(node("A", square, rich, Matrix4.IDENTITY)), Model.Extras.NONE), file);
        Model read = pantry.exchange.gltf.GltfReader.read(
                        file, FileGate.OPEN, Files.createDirectories(folder.resolve("images")), Progress.NONE)
                .orElseThrow()
                .model();
        Material again = read.materials().iterator().next();
        assertThat(again.base()).isEqualTo(rich.base());
        assertThat(again.finish().cutoff()).isEqualTo(0.4f);
        assertThat(again.finish().coloured()).isTrue();
        assertThat(again.textures())
                .containsKeys(
                        Material.Slot.BASE, Material.Slot.METALLIC, Material.Slot.ROUGHNESS, Material.Slot.OCCLUSION);
        Mesh mesh = read.meshes().iterator().next();
        assertThat(mesh.primvars().get(Mesh.COLOUR).data()).containsExactly(1, 0, 0, 0, 1, 0, 0, 0, 1);
        assertThat(mesh.uvs().orElseThrow().data())
                .as("each image says where it lies; the coordinates stay")
                .containsExactly(0, 0, 1, 0, 1, 1);
        Texture.Placement told =
                again.texture(Material.Slot.BASE).orElseThrow().sampling().placement();
        assertThat(told.scaleU()).isEqualTo(2);
        assertThat(told.scaleV()).isEqualTo(3);
        assertThat(told.rotation()).isCloseTo(90, within(1e-4f));
        assertThat(told.moveU()).isCloseTo(0.5f, within(1e-5f));
        assertThat(told.moveV()).isCloseTo(0, within(1e-5f));
        assertThat(again.texture(Material.Slot.OCCLUSION)
                        .orElseThrow()
                        .sampling()
                        .placement())
                .isEqualTo(Texture.Placement.USUAL);
    }

    @Test
    void whatGlowsIsWritten() throws IOException {
        Material lamp = new Material("Lamp", Colour.WHITE, 1, 0, 1, new Colour(0, 0, 0.5f), java.util.Map.of());
        Path file = folder.resolve("lamp.gltf");
        ModelWriters.write(
                new Model("L", List.of(node("A", Shapes.block(1, 1, 1), lamp, Matrix4.IDENTITY)), Model.Extras.NONE),
                file);
        assertThat(file).content().containsPattern("\"emissiveFactor\"\\s*:\\s*\\[\\s*0.0,\\s*0.0,\\s*0.5\\s*]");
    }

    @Test
    void imagesOfOtherKindsBecomePng() throws IOException {
        Path bmp = folder.resolve("old.bmp");
        javax.imageio.ImageIO.write(new java.awt.image.BufferedImage(3, 3, 1), "bmp", bmp.toFile());
        Material material = Material.plain("Old", Colour.WHITE, 0, 1)
                .with(Material.Slot.BASE, new Texture("old.bmp", Optional.of(bmp)));
        GltfModel gltf = written(
                new Model(
                        "One",
                        List.of(node("A", Shapes.block(1, 1, 1), material, Matrix4.IDENTITY)),
                        Model.Extras.NONE),
                "glb");
        assertThat(gltf.getImageModels().getFirst().getMimeType()).isEqualTo("image/png");
    }
}
