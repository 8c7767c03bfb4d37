package pantry.exchange.usd;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import pantry.base.Names;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Texture;
import pantry.usd.AttributeSpec;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;

/** Writes materials as UsdPreviewSurface, with the networks that they were made of. */
final class UsdMaterialWriter {
    /** Custom data of images: the numbers of glTF's samplers, as {@link Texture.Filter} has them. */
    static final String SAMPLER = "sampler";

    static final String MAGNIFIED = "magFilter";
    static final String REDUCED = "minFilter";

    private UsdMaterialWriter() {}

    /** A material. @param path where the prim will stand */
    static PrimSpec prim(Material material, SdfPath path, Links links) {
        String name = path.name();
        PrimSpec prim = new PrimSpec(Specifier.DEF, "Material", name);
        if (!name.equals(material.name())) {
            prim.metadata().put("displayName", new Value.Text(material.name()));
        }
        ShaderSpecs.connect(
                prim, "token", "outputs:surface", path.child("Surface").property("outputs:surface"));
        PrimSpec surface = ShaderSpecs.shader(prim, "Surface", "UsdPreviewSurface");
        ShaderSpecs.input(surface, "color3f", "diffuseColor", tuple(material.base()));
        ShaderSpecs.input(surface, "color3f", "emissiveColor", tuple(material.emissive()));
        ShaderSpecs.input(surface, "float", "metallic", new Value.Real(material.metallic()));
        ShaderSpecs.input(surface, "float", "roughness", new Value.Real(material.roughness()));
        ShaderSpecs.input(surface, "float", "opacity", new Value.Real(material.opacity()));
        finish(surface, material.finish());
        if (material.finish().coloured() && material.texture(Material.Slot.BASE).isEmpty()) {
            PrimSpec reader = ShaderSpecs.shader(prim, "Colours", "UsdPrimvarReader_float3");
            ShaderSpecs.input(reader, "string", "varname", new Value.Text(Mesh.COLOUR));
            reader.put(new AttributeSpec("outputs:result", "float3"));
            ShaderSpecs.connect(
                    surface,
                    "color3f",
                    "inputs:diffuseColor",
                    path.child("Colours").property("outputs:result"));
        }
        material.textures()
                .forEach((slot, texture) -> image(prim, path, surface, new Use(material, slot, texture), links));
        surface.put(new AttributeSpec("outputs:surface", "token"));
        material.network().ifPresent(network -> UsdNetworkWriter.write(prim, path, network, links));
        return prim;
    }

    /** An image that drives an input of a material's surface. */
    private record Use(Material material, Material.Slot slot, Texture texture) {}

    private static void image(PrimSpec prim, SdfPath path, PrimSpec surface, Use use, Links links) {
        Material.Slot slot = use.slot();
        Texture texture = use.texture();
        SdfPath coordinates = coordinates(prim, path, texture.sampling());
        String sampler = Names.identifier("Image_" + slot.name().toLowerCase(java.util.Locale.ROOT));
        PrimSpec image = ShaderSpecs.shader(prim, sampler, "UsdUVTexture");
        ShaderSpecs.input(image, "asset", "file", new Value.Asset(links.image(texture)));
        ShaderSpecs.input(
                image,
                "token",
                "sourceColorSpace",
                new Value.Token(slot.colour() && !isLinear(texture) ? "sRGB" : "raw"));
        ShaderSpecs.input(
                image,
                "token",
                "wrapS",
                new Value.Token(texture.sampling().wrapS().token()));
        ShaderSpecs.input(
                image,
                "token",
                "wrapT",
                new Value.Token(texture.sampling().wrapT().token()));
        scale(image, slot, use.material(), texture.sampling().strength());
        keepFilter(image, texture.sampling().filter());
        ShaderSpecs.connect(image, "float2", "inputs:st", coordinates);
        Texture.Channel channel = texture.sampling().channel();
        String output = "outputs:" + (channel == Texture.Channel.OF_SLOT ? slot.output() : channel.output());
        image.put(new AttributeSpec(output, output.equals("outputs:rgb") ? "float3" : "float"));
        String type = slot == Material.Slot.NORMAL ? "normal3f" : slot.output().equals("rgb") ? "color3f" : "float";
        ShaderSpecs.connect(
                surface, type, "inputs:" + slot.input(), path.child(sampler).property(output));
    }

    /** Images of these formats hold linear light by their standards. */
    private static boolean isLinear(Texture texture) {
        return List.of("exr", "hdr").contains(Names.ending(texture.baseName()));
    }

    private static void finish(PrimSpec surface, Material.Finish finish) {
        Material.Finish usual = Material.Finish.USUAL;
        if (finish.cutoff() != usual.cutoff()) {
            ShaderSpecs.input(surface, "float", "opacityThreshold", new Value.Real(finish.cutoff()));
        }
        if (finish.clearcoat() != usual.clearcoat()) {
            ShaderSpecs.input(surface, "float", "clearcoat", new Value.Real(finish.clearcoat()));
            ShaderSpecs.input(surface, "float", "clearcoatRoughness", new Value.Real(finish.clearcoatRoughness()));
        }
        if (finish.ior() != usual.ior()) {
            ShaderSpecs.input(surface, "float", "ior", new Value.Real(finish.ior()));
        }
    }

    /** What an image's numbers are multiplied by: the plain value that it stands in for. */
    private static void scale(PrimSpec image, Material.Slot slot, Material material, float strength) {
        float[] by =
                switch (slot) {
                    case BASE -> three(material.base());
                    case EMISSIVE -> three(material.emissive());
                    case METALLIC -> one(material.metallic());
                    case ROUGHNESS -> one(material.roughness());
                    case OPACITY -> one(material.opacity());
                    case OCCLUSION, DISPLACEMENT -> one(strength);
                    case NORMAL -> new float[] {2 * strength, 2 * strength, 2};
                };
        if (slot == Material.Slot.NORMAL) {
            ShaderSpecs.input(image, "float4", "bias", new Value.Tuple(-strength, -strength, -1, 0));
        } else if (slot == Material.Slot.OCCLUSION && strength != 1) {
            ShaderSpecs.input(image, "float4", "bias", new Value.Tuple(1 - strength, 1 - strength, 1 - strength, 0));
        }
        if (slot == Material.Slot.DISPLACEMENT) {
            // Half grey is where the surface is (common practice).
            double down = -strength / 2;
            ShaderSpecs.input(image, "float4", "bias", new Value.Tuple(down, down, down, 0));
        }
        if (by[0] != 1 || by[1] != 1 || by[2] != 1) {
            double alpha = slot.colour() || slot == Material.Slot.NORMAL ? 1 : by[0];
            ShaderSpecs.input(image, "float4", "scale", new Value.Tuple(by[0], by[1], by[2], alpha));
        }
    }

    /** UsdUVTexture has no word for how an image is looked up between its pixels. */
    private static void keepFilter(PrimSpec image, Texture.Filter filter) {
        if (!filter.equals(Texture.Filter.UNSAID)) {
            Map<String, Value.Dictionary.Entry> sampler = new LinkedHashMap<>();
            sampler.put(MAGNIFIED, new Value.Dictionary.Entry("int", new Value.Int(filter.magnified())));
            sampler.put(REDUCED, new Value.Dictionary.Entry("int", new Value.Int(filter.reduced())));
            image.metadata()
                    .put(
                            "customData",
                            new Value.Dictionary(Map.of(
                                    SAMPLER, new Value.Dictionary.Entry("dictionary", new Value.Dictionary(sampler)))));
        }
    }

    private static float[] three(Colour colour) {
        return new float[] {colour.r(), colour.g(), colour.b()};
    }

    private static float[] one(float number) {
        return new float[] {number, number, number};
    }

    /** The output that gives an image its coordinates; images that lie alike share it. */
    private static SdfPath coordinates(PrimSpec material, SdfPath path, Texture.Sampling sampling) {
        String reader = "TextureCoordinates" + (sampling.uvSet() == 0 ? "" : "_" + sampling.uvSet());
        if (material.child(reader).isEmpty()) {
            PrimSpec made = ShaderSpecs.shader(material, reader, "UsdPrimvarReader_float2");
            String set = sampling.uvSet() == 0 ? "st" : "st" + sampling.uvSet();
            ShaderSpecs.input(made, "string", "varname", new Value.Text(set));
            made.put(new AttributeSpec("outputs:result", "float2"));
        }
        SdfPath plain = path.child(reader).property("outputs:result");
        if (sampling.placement().inPlace()) {
            return plain;
        }
        for (int number = 1; ; number++) {
            String name = "Placing_" + number;
            PrimSpec made = new PrimSpec(Specifier.DEF, "Shader", name);
            made.set("token", "info:id", new Value.Token("UsdTransform2d")).setUniform(true);
            ShaderSpecs.connect(made, "float2", "inputs:in", plain);
            Texture.Placement place = sampling.placement();
            ShaderSpecs.input(made, "float", "rotation", new Value.Real(place.rotation()));
            ShaderSpecs.input(made, "float2", "scale", new Value.Tuple(place.scaleU(), place.scaleV()));
            ShaderSpecs.input(made, "float2", "translation", new Value.Tuple(place.moveU(), place.moveV()));
            made.put(new AttributeSpec("outputs:result", "float2"));
            if (material.child(name).isEmpty()) {
                material.add(made);
            }
            if (material.child(name).orElseThrow().sameAs(made)) {
                return path.child(name).property("outputs:result");
            }
        }
    }

    private static Value.Tuple tuple(Colour c) {
        return new Value.Tuple(c.r(), c.g(), c.b());
    }
}
