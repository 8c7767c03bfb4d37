package pantry.exchange;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import pantry.base.Names;
import pantry.base.math.Box3;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.usd.AssetPaths;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;
import pantry.usd.schema.Xforms;

/** Writes a model as USD prims: objects, meshes, and materials as UsdPreviewSurface in a scope of their own. */
public final class UsdModelWriter {
    private final SdfPath root;
    private final Map<Material, String> materialNames = new IdentityHashMap<>();
    private final Set<String> takenNames = new HashSet<>();

    private UsdModelWriter(Model model, String rootName) {
        this.root = SdfPath.ROOT.child(rootName);
        Map<Material, String> equal = new HashMap<>();
        for (Material material : model.materials()) {
            equal.computeIfAbsent(material, m -> {
                String name = Names.free(Names.identifier(m.name()), takenNames::contains);
                takenNames.add(name);
                return name;
            });
        }
        model.visit((owner, part, world) -> materialNames.put(part.material(), equal.get(part.material())));
    }

    private Layer geometry(Model model, Path file) {
        Layer layer = Layer.inMetres(file, root.name());
        PrimSpec prim = layer.root().define("Xform", root.name());
        addNodes(prim, model.roots());
        return layer;
    }

    /**
     * Writes a model to one layer of any format, materials and all; images are referred to where they are, and packed
     * into a package.
     *
     * @throws pantry.usd.UsdException where the file cannot be written
     */
    public static void write(Model model, Path file) {
        String name = Names.identifier(model.name());
        Path folder = file.toAbsolutePath().getParent();
        LayerFiles.write(
                layer(model, name, file, texture -> texture.file()
                        .map(image -> AssetPaths.relative(folder, image))
                        .orElse(texture.name())),
                file);
    }

    /**
     * A model as one layer: its objects and meshes below a root prim, bound to materials in a scope beside them.
     *
     * @param file where the layer is to live
     * @param asset the asset path of a texture, relative to the layer; textures that are not found are asked for too
     */
    public static Layer layer(Model model, String rootName, Path file, Function<Texture, String> asset) {
        UsdModelWriter writer = new UsdModelWriter(model, rootName);
        Layer layer = writer.geometry(model, file);
        PrimSpec materials = writer.materials(asset);
        if (!materials.children().isEmpty()) {
            layer.prim(writer.root).ifPresent(prim -> prim.add(materials));
        }
        return layer;
    }

    private void addNodes(PrimSpec parent, List<Model.Node> nodes) {
        for (Model.Node node : nodes) {
            String name = Names.free(
                    Names.identifier(node.name()),
                    taken -> taken.equals("Materials") || parent.child(taken).isPresent());
            boolean single = node.parts().size() == 1 && node.children().isEmpty();
            PrimSpec prim = parent.define(single ? "Mesh" : "Xform", name);
            if (!name.equals(node.name()) && !node.name().isBlank()) {
                prim.metadata().put("displayName", new Value.Text(node.name()));
            }
            Xforms.setMatrix(prim, node.local());
            if (single) {
                writeMesh(prim, node.parts().getFirst());
            } else {
                for (Model.Part part : node.parts()) {
                    String partName =
                            Names.free(Names.identifier(part.material().name()), taken -> prim.child(taken)
                                    .isPresent());
                    writeMesh(prim.define("Mesh", partName), part);
                }
                addNodes(prim, node.children());
            }
        }
    }

    private void writeMesh(PrimSpec prim, Model.Part part) {
        Mesh mesh = part.mesh();
        Box3 bounds = mesh.bounds();
        prim.set(
                "float3[]",
                "extent",
                new Value.Floats(
                        new float[] {
                            (float) bounds.min().x(), (float) bounds.min().y(),
                                    (float) bounds.min().z(),
                            (float) bounds.max().x(), (float) bounds.max().y(),
                                    (float) bounds.max().z()
                        },
                        3));
        prim.set("int[]", "faceVertexCounts", new Value.Ints(mesh.faceSizes(), 1));
        prim.set("int[]", "faceVertexIndices", new Value.Ints(mesh.corners(), 1));
        prim.set("point3f[]", "points", new Value.Floats(mesh.points(), 3));
        mesh.normals().ifPresent(normals -> channel(prim, "normal3f[]", "normals", normals));
        mesh.uvs().ifPresent(uvs -> channel(prim, "texCoord2f[]", "primvars:st", uvs));
        prim.set("token", "subdivisionScheme", new Value.Token("none")).setUniform(true);
        if (mesh.leftHanded()) {
            prim.set("token", "orientation", new Value.Token("leftHanded")).setUniform(true);
        }
        String material = materialNames.get(part.material());
        if (material != null) {
            prim.setApiSchemas("MaterialBindingAPI");
            prim.relate("material:binding", root.child("Materials").child(material));
        }
    }

    private static void channel(PrimSpec prim, String type, String name, Channel channel) {
        AttributeSpec attribute = prim.set(type, name, new Value.Floats(channel.data(), channel.width()));
        attribute.metadata().put("interpolation", new Value.Token(channel.per().interpolation()));
    }

    private PrimSpec materials(Function<Texture, String> asset) {
        PrimSpec scope = new PrimSpec(Specifier.DEF, "Scope", "Materials");
        materialNames.entrySet().stream()
                .sorted(Map.Entry.comparingByValue())
                .filter(entry -> scope.child(entry.getValue()).isEmpty())
                .forEach(entry -> scope.add(material(entry.getKey(), entry.getValue(), asset)));
        return scope;
    }

    private PrimSpec material(Material material, String name, Function<Texture, String> asset) {
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Material", name);
        if (!name.equals(material.name())) {
            prim.metadata().put("displayName", new Value.Text(material.name()));
        }
        SdfPath path = root.child("Materials").child(name);
        connect(prim, "token", "outputs:surface", path.child("Surface").property("outputs:surface"));
        PrimSpec surface = shader(prim, "Surface", "UsdPreviewSurface");
        input(surface, "color3f", "diffuseColor", tuple(material.base()));
        input(surface, "color3f", "emissiveColor", tuple(material.emissive()));
        input(surface, "float", "metallic", new Value.Real(material.metallic()));
        input(surface, "float", "roughness", new Value.Real(material.roughness()));
        input(surface, "float", "opacity", new Value.Real(material.opacity()));
        if (!material.textures().isEmpty()) {
            PrimSpec reader = shader(prim, "TextureCoordinates", "UsdPrimvarReader_float2");
            input(reader, "string", "varname", new Value.Text("st"));
            reader.put(new AttributeSpec("outputs:result", "float2"));
        }
        material.textures().forEach((slot, texture) -> {
            String sampler = Names.identifier("Image_" + slot.name().toLowerCase(java.util.Locale.ROOT));
            PrimSpec image = shader(prim, sampler, "UsdUVTexture");
            input(image, "asset", "file", new Value.Asset(asset.apply(texture)));
            input(image, "token", "sourceColorSpace", new Value.Token(slot.colour() ? "sRGB" : "raw"));
            input(image, "token", "wrapS", new Value.Token("repeat"));
            input(image, "token", "wrapT", new Value.Token("repeat"));
            if (slot == Material.Slot.NORMAL) {
                input(image, "float4", "scale", new Value.Tuple(2, 2, 2, 1));
                input(image, "float4", "bias", new Value.Tuple(-1, -1, -1, 0));
            }
            connect(
                    image,
                    "float2",
                    "inputs:st",
                    path.child("TextureCoordinates").property("outputs:result"));
            String output = "outputs:" + slot.output();
            image.put(new AttributeSpec(output, slot.output().equals("rgb") ? "float3" : "float"));
            String type =
                    slot == Material.Slot.NORMAL ? "normal3f" : slot.output().equals("rgb") ? "color3f" : "float";
            connect(surface, type, "inputs:" + slot.input(), path.child(sampler).property(output));
        });
        surface.put(new AttributeSpec("outputs:surface", "token"));
        return prim;
    }

    private static PrimSpec shader(PrimSpec parent, String name, String id) {
        PrimSpec shader = parent.define("Shader", name);
        shader.set("token", "info:id", new Value.Token(id)).setUniform(true);
        return shader;
    }

    private static void input(PrimSpec shader, String type, String name, @Nullable Value value) {
        shader.put(new AttributeSpec("inputs:" + name, type).setValue(value));
    }

    private static void connect(PrimSpec prim, String type, String name, SdfPath source) {
        prim.put(new AttributeSpec(name, type).setConnections(ListEdit.explicit(List.of(source))));
    }

    private static Value.Tuple tuple(Colour c) {
        return new Value.Tuple(c.r(), c.g(), c.b());
    }
}
