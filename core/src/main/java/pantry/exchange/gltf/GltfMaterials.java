package pantry.exchange.gltf;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import javax.imageio.ImageIO;
import org.jspecify.annotations.Nullable;
import pantry.base.ImageDecoder;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.exchange.format.Companions;
import pantry.exchange.format.ExchangeException;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.SpecularWorkflow;
import pantry.model.Texture;
import tools.jackson.databind.JsonNode;

/** The materials of a glTF file, with their images; embedded ones are unpacked into a folder. */
final class GltfMaterials {
    private static final String SPECULAR = "KHR_materials_pbrSpecularGlossiness";

    private final GltfDocument document;
    private final Path images;
    private final Map<Integer, Material> materials = new HashMap<>();
    private final Map<Integer, Texture> textures = new HashMap<>();

    /** @param images an empty folder for embedded images */
    GltfMaterials(GltfDocument document, Path images) {
        this.document = document;
        this.images = images;
    }

    /** @param index negative for surfaces that have none */
    Material material(int index) {
        if (index < 0) {
            return Material.PLAIN;
        }
        Material known = materials.get(index);
        if (known == null) {
            JsonNode json = document.element("materials", index);
            String name = json.path("name").asString("");
            known = material(json, name.isBlank() ? "Material_" + (index + 1) : name);
            materials.put(index, known);
        }
        return known;
    }

    /** Whether surfaces of a material are meant to be seen from both sides. */
    boolean isDoubleSided(int index) {
        return index >= 0
                && document.element("materials", index).path("doubleSided").asBoolean(false);
    }

    private Material material(JsonNode json, String name) {
        JsonNode extensions = json.path("extensions");
        JsonNode metallic = json.path("pbrMetallicRoughness");
        float[] base = numbers(metallic.path("baseColorFactor"), 1, 1, 1, 1);
        float strength =
                number(extensions.path("KHR_materials_emissive_strength").path("emissiveStrength"), 1);
        float[] emissive = numbers(json.path("emissiveFactor"), 0, 0, 0);
        String alpha = json.path("alphaMode").asString("OPAQUE");
        JsonNode coat = extensions.path("KHR_materials_clearcoat");
        Material.Finish finish = new Material.Finish(
                alpha.equals("MASK") ? number(json.path("alphaCutoff"), 0.5f) : 0,
                number(coat.path("clearcoatFactor"), 0),
                number(coat.path("clearcoatRoughnessFactor"), coat.isObject() ? 0 : 0.01f),
                number(extensions.path("KHR_materials_ior").path("ior"), 1.5f),
                false);
        boolean unlit = extensions.has("KHR_materials_unlit");
        Material made = new Material(
                name,
                new Colour(base[0], base[1], base[2]),
                alpha.equals("OPAQUE") ? 1 : Math.clamp(base[3], 0f, 1f),
                unlit ? 0 : number(metallic.path("metallicFactor"), 1),
                unlit ? 1 : number(metallic.path("roughnessFactor"), 1),
                new Colour(emissive[0] * strength, emissive[1] * strength, emissive[2] * strength),
                finish,
                Map.of());
        made = with(made, Material.Slot.BASE, metallic.path("baseColorTexture"));
        made = with(made, Material.Slot.METALLIC, metallic.path("metallicRoughnessTexture"));
        made = with(made, Material.Slot.ROUGHNESS, metallic.path("metallicRoughnessTexture"));
        made = with(made, Material.Slot.NORMAL, json.path("normalTexture"));
        made = with(made, Material.Slot.OCCLUSION, json.path("occlusionTexture"));
        made = with(made, Material.Slot.EMISSIVE, json.path("emissiveTexture"));
        if (extensions.has(SPECULAR)) {
            made = specular(made, extensions.path(SPECULAR), !alpha.equals("OPAQUE"));
        }
        Optional<Texture> colour = made.texture(Material.Slot.BASE);
        return colour.isPresent() && !alpha.equals("OPAQUE") ? made.with(Material.Slot.OPACITY, colour.get()) : made;
    }

    private Material specular(Material m, JsonNode json, boolean clear) {
        float[] d = numbers(json.path("diffuseFactor"), 1, 1, 1, 1);
        float[] s = numbers(json.path("specularFactor"), 1, 1, 1);
        float gloss = number(json.path("glossinessFactor"), 1);
        Colour diffuse = new Colour(d[0], d[1], d[2]);
        Colour specular = new Colour(s[0], s[1], s[2]);
        SpecularWorkflow.Metallic plain = SpecularWorkflow.metallic(diffuse, specular);
        Material made = new Material(
                m.name(),
                plain.base(),
                clear ? Math.clamp(d[3], 0f, 1f) : 1,
                (float) plain.metallic(),
                1 - gloss,
                m.emissive(),
                m.finish(),
                m.textures());
        JsonNode diffuseTexture = json.path("diffuseTexture");
        JsonNode specularTexture = json.path("specularGlossinessTexture");
        Texture onDiffuse = texture(diffuseTexture);
        Texture onSpecular = texture(specularTexture);
        if (onDiffuse == null && onSpecular == null) {
            return made;
        }
        if (onSpecular == null) {
            return made.withBase(diffuse).with(Material.Slot.BASE, onDiffuse);
        }
        if (onSpecular.file().isEmpty() || onDiffuse != null && onDiffuse.file().isEmpty()) {
            // What is missing is said by its own name; it can be found later.
            Material named = onDiffuse == null ? made : made.with(Material.Slot.BASE, onDiffuse);
            return named.with(Material.Slot.ROUGHNESS, onSpecular);
        }
        return converted(
                made,
                onDiffuse,
                onSpecular,
                (diffuseImage, specularImage) ->
                        SpecularGlossiness.convert(diffuseImage, specularImage, diffuse, specular, gloss));
    }

    private Material converted(
            Material m,
            @Nullable Texture onDiffuse,
            Texture onSpecular,
            BiFunction<BufferedImage, BufferedImage, BufferedImage[]> conversion) {
        try {
            BufferedImage specularImage = image(onSpecular);
            BufferedImage diffuseImage = onDiffuse == null ? white() : image(onDiffuse);
            BufferedImage[] made = conversion.apply(diffuseImage, specularImage);
            String stem = Names.slug(m.name());
            Texture.Sampling lying = (onDiffuse == null ? onSpecular : onDiffuse).sampling();
            Texture base = written(made[0], stem + "-base", lying);
            Texture numbers = written(made[1], stem + "-metal-rough", onSpecular.sampling());
            return new Material(m.name(), Colour.WHITE, m.opacity(), 1, 1, m.emissive(), m.finish(), m.textures())
                    .with(Material.Slot.BASE, base)
                    .with(Material.Slot.METALLIC, numbers)
                    .with(Material.Slot.ROUGHNESS, numbers);
        } catch (IOException e) {
            throw new ExchangeException(
                    document.file(),
                    "the images of \"" + m.name() + "\" cannot be converted: " + IoProblems.describe(e),
                    e);
        }
    }

    private static BufferedImage white() {
        BufferedImage white = new BufferedImage(1, 1, BufferedImage.TYPE_INT_ARGB);
        white.setRGB(0, 0, 0xffffffff);
        return white;
    }

    private static BufferedImage image(Texture texture) throws IOException {
        Path file = texture.file().orElseThrow();
        try {
            return ImageDecoder.read(file);
        } catch (IOException e) {
            throw new IOException(file.getFileName() + " " + e.getMessage(), e);
        }
    }

    private Texture written(BufferedImage image, String stem, Texture.Sampling sampling) throws IOException {
        String name = Names.free(stem, taken -> Files.exists(images.resolve(taken + ".png"))) + ".png";
        ImageIO.write(image, "png", images.resolve(name).toFile());
        return new Texture(name, Optional.of(images.resolve(name)), sampling);
    }

    private Material with(Material material, Material.Slot slot, JsonNode use) {
        Texture texture = texture(use);
        return texture == null ? material : material.with(slot, texture);
    }

    /** The image that is used, as it lies there. */
    private @Nullable Texture texture(JsonNode use) {
        int index = use.path("index").asInt(-1);
        if (index < 0) {
            return null;
        }
        Texture plain = textures.get(index);
        if (plain == null) {
            plain = texture(index);
            textures.put(index, plain);
        }
        int sampler = document.element("textures", index).path("sampler").asInt(-1);
        JsonNode wraps = sampler < 0 ? use.path("none") : document.element("samplers", sampler);
        JsonNode transform = use.path("extensions").path("KHR_texture_transform");
        float[] scale = numbers(transform.path("scale"), 1, 1);
        float[] offset = numbers(transform.path("offset"), 0, 0);
        double turn = number(transform.path("rotation"), 0);
        // glTF's v runs downwards: what it does there, told upwards.
        double moveU = offset[0] + Math.sin(turn) * scale[1];
        double moveV = 1 - offset[1] - Math.cos(turn) * scale[1];
        Texture.Placement placement = new Texture.Placement(
                transform.path("texCoord").asInt(use.path("texCoord").asInt(0)),
                scale[0],
                scale[1],
                (float) Math.toDegrees(turn),
                (float) moveU,
                transform.isObject() ? (float) moveV : 0);
        return new Texture(
                plain.name(),
                plain.file(),
                Texture.Sampling.placed(placement)
                        .with(
                                wrap(wraps.path("wrapS").asInt(0)),
                                wrap(wraps.path("wrapT").asInt(0)))
                        .with(new Texture.Filter(
                                wraps.path("magFilter").asInt(0),
                                wraps.path("minFilter").asInt(0)))
                        .withStrength(number(use.path("scale"), number(use.path("strength"), 1))));
    }

    private static Texture.Wrap wrap(int mode) {
        return switch (mode) {
            case GltfImages.CLAMP -> Texture.Wrap.CLAMP;
            case GltfImages.MIRROR -> Texture.Wrap.MIRROR;
            default -> Texture.Wrap.REPEAT;
        };
    }

    private Texture texture(int index) {
        JsonNode json = document.element("textures", index);
        int source = json.path("extensions")
                .path("EXT_texture_webp")
                .path("source")
                .asInt(json.path("source")
                        .asInt(json.path("extensions")
                                .path("KHR_texture_basisu")
                                .path("source")
                                .asInt(-1)));
        JsonNode image = document.element("images", source);
        String place = "images[" + source + "]";
        String uri = image.path("uri").asString("");
        Optional<byte[]> embedded = uri.isEmpty()
                ? Optional.of(bytes(document.view(image.path("bufferView").asInt(-1))))
                : document.embedded(uri, place);
        if (embedded.isEmpty()) {
            return Companions.texture(document.file(), uri, Texture.Sampling.USUAL, document.gate());
        }
        String given = image.path("name").asString("");
        String stem = Names.slug(given.isBlank() ? "image-" + (source + 1) : Names.stem(given));
        String ending = ending(embedded.get(), image.path("mimeType").asString(""));
        String name = Names.free(stem, "-", taken -> Files.exists(images.resolve(taken + "." + ending))) + "." + ending;
        try {
            Files.write(images.resolve(name), embedded.get());
        } catch (IOException e) {
            throw new ExchangeException(
                    document.file(), "an image within it cannot be unpacked: " + IoProblems.describe(e), e);
        }
        return new Texture(name, Optional.of(images.resolve(name)));
    }

    private static byte[] bytes(ByteBuffer view) {
        byte[] bytes = new byte[view.remaining()];
        view.duplicate().get(bytes);
        return bytes;
    }

    /** By what the bytes are, not by what they are called. */
    private static String ending(byte[] bytes, String type) {
        if (bytes.length > 2 && (bytes[0] & 0xff) == 0xff && (bytes[1] & 0xff) == 0xd8) {
            return "jpg";
        }
        if (bytes.length > 3 && bytes[1] == 'P' && bytes[2] == 'N' && bytes[3] == 'G') {
            return "png";
        }
        return type.startsWith("image/") ? Names.slug(type.substring(6)) : "bin";
    }

    private static float number(JsonNode node, float otherwise) {
        double number = node.asDouble(otherwise);
        return Double.isFinite(number) ? (float) number : otherwise;
    }

    private static float[] numbers(JsonNode node, float... otherwise) {
        float[] numbers = otherwise.clone();
        for (int i = 0; i < numbers.length && node.isArray(); i++) {
            numbers[i] = number(node.path(i), otherwise[i]);
        }
        return numbers;
    }
}
