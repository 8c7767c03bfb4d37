package pantry.exchange.gltf;

import de.javagl.jgltf.model.GltfModel;
import de.javagl.jgltf.model.creation.AccessorModels;
import de.javagl.jgltf.model.creation.GltfModelBuilder;
import de.javagl.jgltf.model.creation.MeshPrimitiveBuilder;
import de.javagl.jgltf.model.impl.DefaultImageModel;
import de.javagl.jgltf.model.impl.DefaultMeshModel;
import de.javagl.jgltf.model.impl.DefaultMeshPrimitiveModel;
import de.javagl.jgltf.model.impl.DefaultNodeModel;
import de.javagl.jgltf.model.impl.DefaultSceneModel;
import de.javagl.jgltf.model.impl.DefaultTextureModel;
import de.javagl.jgltf.model.io.GltfAssetWriter;
import de.javagl.jgltf.model.io.v2.GltfAssetV2;
import de.javagl.jgltf.model.io.v2.GltfAssetsV2;
import de.javagl.jgltf.model.v2.MaterialModelV2;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javax.imageio.ImageIO;
import pantry.base.ImageDecoder;
import pantry.base.Names;
import pantry.base.math.Matrix4;
import pantry.exchange.Material;
import pantry.exchange.Model;
import pantry.exchange.Texture;
import pantry.mesh.Mesh;
import pantry.mesh.TriangleMesh;

/** Writes a model as glTF 2.0: the tree as nodes, each mesh once however often it stands somewhere. */
public final class GltfWriter {
    private static final int REPEAT = 10497;
    private static final int LINEAR = 9729;
    private static final int LINEAR_MIPMAP_LINEAR = 9987;

    private final Map<List<Model.Part>, DefaultMeshModel> meshes = new HashMap<>();
    private final Map<Mesh, TriangleMesh> triangles = new HashMap<>();
    private final Map<Material, MaterialModelV2> materials = new HashMap<>();
    private final Map<Path, DefaultTextureModel> textures = new HashMap<>();

    private GltfWriter() {}

    /** One binary file with everything in it. */
    public static void writeBinary(Model model, Path file) throws IOException {
        GltfModel built = new GltfWriter().build(model);
        new GltfAssetWriter().writeBinary(glowing(GltfAssetsV2.createBinary(built), built), file.toFile());
    }

    /** One text file with buffers and images embedded. */
    public static void writeEmbedded(Model model, Path file) throws IOException {
        GltfModel built = new GltfWriter().build(model);
        new GltfAssetWriter().writeJson(glowing(GltfAssetsV2.createEmbedded(built), built), file.toFile());
    }

    /** Adds what glows by itself, which the library writes for textures only. */
    private static GltfAssetV2 glowing(GltfAssetV2 asset, GltfModel model) {
        for (int i = 0; i < model.getMaterialModels().size(); i++) {
            if (model.getMaterialModels().get(i) instanceof MaterialModelV2 material) {
                asset.getGltf().getMaterials().get(i).setEmissiveFactor(material.getEmissiveFactor());
            }
        }
        return asset;
    }

    private GltfModel build(Model model) throws IOException {
        DefaultSceneModel scene = new DefaultSceneModel();
        scene.setName(model.name());
        for (Model.Node root : model.roots()) {
            scene.addNode(node(root));
        }
        GltfModelBuilder builder = GltfModelBuilder.create();
        builder.addSceneModel(scene);
        return builder.build();
    }

    private DefaultNodeModel node(Model.Node node) throws IOException {
        DefaultNodeModel made = new DefaultNodeModel();
        made.setName(node.name());
        if (!node.local().equals(Matrix4.IDENTITY)) {
            double[] rows = node.local().rows();
            float[] matrix = new float[16];
            for (int i = 0; i < 16; i++) {
                // Row by row for row vectors is column by column for glTF's column vectors.
                matrix[i] = (float) rows[i];
            }
            made.setMatrix(matrix);
        }
        if (!node.parts().isEmpty()) {
            made.addMeshModel(mesh(node));
        }
        for (Model.Node child : node.children()) {
            made.addChild(node(child));
        }
        return made;
    }

    private DefaultMeshModel mesh(Model.Node node) throws IOException {
        DefaultMeshModel known = meshes.get(node.parts());
        if (known != null) {
            return known;
        }
        DefaultMeshModel mesh = new DefaultMeshModel();
        mesh.setName(node.name());
        for (Model.Part part : node.parts()) {
            TriangleMesh flat = triangles.computeIfAbsent(part.mesh(), TriangleMesh::of);
            MeshPrimitiveBuilder builder = MeshPrimitiveBuilder.create()
                    .setTriangles()
                    .setIntIndices(IntBuffer.wrap(flat.indices()))
                    .addPositions3D(FloatBuffer.wrap(flat.positions()))
                    .addNormals3D(FloatBuffer.wrap(unit(flat.normals())));
            float[] uvs = flat.uvs();
            if (uvs != null) {
                Texture.Sampling lying = part.material()
                        .texture(Material.Slot.BASE)
                        .map(Texture::sampling)
                        .orElse(Texture.Sampling.USUAL);
                builder.addTexCoords02D(FloatBuffer.wrap(downwards(lying.placed(uvs))));
            }
            float[] colours = flat.colours();
            if (colours != null && part.material().finish().coloured()) {
                builder.addAttribute("COLOR_0", AccessorModels.createFloat3D(FloatBuffer.wrap(colours)));
            }
            DefaultMeshPrimitiveModel primitive = builder.build();
            primitive.setMaterialModel(material(part.material(), uvs != null));
            mesh.addMeshPrimitiveModel(primitive);
        }
        meshes.put(node.parts(), mesh);
        return mesh;
    }

    /** Normals of unit length, as glTF requires; upwards where a face has no area and so no direction of its own. */
    private static float[] unit(float[] normals) {
        float[] unit = new float[normals.length];
        for (int i = 0; i < normals.length; i += 3) {
            double length = Math.sqrt((double) normals[i] * normals[i]
                    + (double) normals[i + 1] * normals[i + 1]
                    + (double) normals[i + 2] * normals[i + 2]);
            boolean none = !(length > 1e-20) || Double.isInfinite(length);
            unit[i] = none ? 0 : (float) (normals[i] / length);
            unit[i + 1] = none ? 1 : (float) (normals[i + 1] / length);
            unit[i + 2] = none ? 0 : (float) (normals[i + 2] / length);
        }
        return unit;
    }

    /** glTF's v runs downwards; in place. */
    private static float[] downwards(float[] uvs) {
        for (int i = 1; i < uvs.length; i += 2) {
            uvs[i] = 1 - uvs[i];
        }
        return uvs;
    }

    private MaterialModelV2 material(Material material, boolean textured) throws IOException {
        MaterialModelV2 known = materials.get(material);
        if (known != null) {
            return known;
        }
        MaterialModelV2 made = new MaterialModelV2();
        made.setName(material.name());
        made.setBaseColorFactor(new float[] {
            unit(material.base().r()),
            unit(material.base().g()),
            unit(material.base().b()),
            material.opacity()
        });
        made.setMetallicFactor(material.metallic());
        made.setRoughnessFactor(material.roughness());
        made.setEmissiveFactor(new float[] {
            unit(material.emissive().r()),
            unit(material.emissive().g()),
            unit(material.emissive().b())
        });
        if (textured) {
            addTextures(made, material);
        }
        made.setDoubleSided(true);
        if (material.finish().cutoff() > 0) {
            made.setAlphaMode(MaterialModelV2.AlphaMode.MASK);
            made.setAlphaCutoff(material.finish().cutoff());
        } else if (material.opacity() < 1
                || image(material, Material.Slot.OPACITY).isPresent()) {
            made.setAlphaMode(MaterialModelV2.AlphaMode.BLEND);
        }
        materials.put(material, made);
        return made;
    }

    private void addTextures(MaterialModelV2 made, Material material) throws IOException {
        Optional<Path> base = image(material, Material.Slot.BASE);
        if (base.isPresent()) {
            made.setBaseColorTexture(texture(base.get()));
        }
        Optional<Path> normal = image(material, Material.Slot.NORMAL);
        if (normal.isPresent()) {
            made.setNormalTexture(texture(normal.get()));
        }
        Optional<Path> occlusion = image(material, Material.Slot.OCCLUSION);
        if (occlusion.isPresent()) {
            made.setOcclusionTexture(texture(occlusion.get()));
        }
        Optional<Path> emissive = image(material, Material.Slot.EMISSIVE);
        if (emissive.isPresent()) {
            made.setEmissiveTexture(texture(emissive.get()));
        }
        // glTF has one image for both: only where they are one can they be written.
        Optional<Path> metallic = image(material, Material.Slot.METALLIC);
        if (metallic.isPresent() && metallic.equals(image(material, Material.Slot.ROUGHNESS))) {
            made.setMetallicRoughnessTexture(texture(metallic.get()));
        }
    }

    private static Optional<Path> image(Material material, Material.Slot slot) {
        return material.texture(slot).flatMap(Texture::file);
    }

    private static float unit(float component) {
        return Math.clamp(component, 0f, 1f);
    }

    private DefaultTextureModel texture(Path file) throws IOException {
        DefaultTextureModel known = textures.get(file);
        if (known != null) {
            return known;
        }
        String name = file.getFileName().toString();
        String ending = Names.ending(name);
        byte[] bytes;
        String type;
        if (ending.equals("png") || ending.equals("jpg") || ending.equals("jpeg")) {
            bytes = Files.readAllBytes(file);
            type = ending.equals("png") ? "image/png" : "image/jpeg";
        } else {
            BufferedImage image = ImageDecoder.read(file);
            ByteArrayOutputStream png = new ByteArrayOutputStream();
            ImageIO.write(image, "png", png);
            bytes = png.toByteArray();
            type = "image/png";
        }
        DefaultImageModel image = new DefaultImageModel();
        image.setName(Names.stem(name).toLowerCase(Locale.ROOT));
        image.setMimeType(type);
        ByteBuffer data = ByteBuffer.allocateDirect(bytes.length);
        data.put(bytes).flip();
        image.setImageData(data);
        DefaultTextureModel texture = new DefaultTextureModel();
        texture.setImageModel(image);
        texture.setWrapS(REPEAT);
        texture.setWrapT(REPEAT);
        texture.setMagFilter(LINEAR);
        texture.setMinFilter(LINEAR_MIPMAP_LINEAR);
        textures.put(file, texture);
        return texture;
    }
}
