package pantry.shading;

import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import pantry.base.Names;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.Texture;

/** A material that has no network, as one: a UsdPreviewSurface with the nodes that its images need before it. */
public final class PreviewNetwork {
    private PreviewNetwork() {}

    /** The network. */
    public static ShaderNetwork of(Material material) {
        Map<String, Node> nodes = new LinkedHashMap<>();
        Map<String, Input> inputs = new LinkedHashMap<>();
        inputs.put("diffuseColor", colour(material.base()));
        inputs.put("emissiveColor", colour(material.emissive()));
        inputs.put("metallic", number(material.metallic()));
        inputs.put("roughness", number(material.roughness()));
        inputs.put("opacity", number(material.opacity()));
        inputs.put("ior", number(material.finish().ior()));
        inputs.put("clearcoat", number(material.finish().clearcoat()));
        inputs.put("clearcoatRoughness", number(material.finish().clearcoatRoughness()));
        material.textures().forEach((slot, texture) -> inputs.put(slot.input(), image(material, slot, texture, nodes)));
        String name = Names.identifier(material.title()) + "_surface";
        Map<String, Node> all = new LinkedHashMap<>(nodes);
        all.put(name, node("UsdPreviewSurface", "surfaceshader", inputs));
        return new ShaderNetwork(name, all, Map.of());
    }

    private static Node node(String category, String type, Map<String, Input> inputs) {
        return new Node(category, type, NodeDefinitions.name(category, type, inputs), inputs);
    }

    private static Input colour(Colour colour) {
        return Input.of("color3", colour.r() + ", " + colour.g() + ", " + colour.b());
    }

    private static Input number(float number) {
        return Input.of("float", String.valueOf(number));
    }

    /** What stands before an input that an image drives; adds the nodes that it needs. */
    private static Input image(Material material, Slot slot, Texture texture, Map<String, Node> nodes) {
        String stem = slot.name().toLowerCase(Locale.ROOT);
        Texture.Placement placement = texture.sampling().placement();
        Map<String, Input> said = new LinkedHashMap<>();
        said.put(
                "file",
                new Input(
                        "filename",
                        "",
                        Optional.empty(),
                        Optional.of(texture),
                        slot.colour() ? "srgb_texture" : "raw"));
        if (!placement.inPlace()) {
            // Coordinates by a scale and turned counter-clockwise, then moved.
            nodes.put(
                    "place_" + stem,
                    node(
                            "place2d",
                            "vector2",
                            Map.of(
                                    "scale",
                                    Input.of("vector2", 1 / placement.scaleU() + ", " + 1 / placement.scaleV()),
                                    "rotate",
                                    number(-placement.rotation()),
                                    "offset",
                                    Input.of("vector2", -placement.moveU() + ", " + -placement.moveV()))));
            said.put("texcoord", Input.of("vector2", Link.node("place_" + stem)));
        }
        said.put("uaddressmode", Input.of("string", mode(texture.sampling().wrapS())));
        said.put("vaddressmode", Input.of("string", mode(texture.sampling().wrapT())));
        String type = slot == Slot.NORMAL ? "vector3" : slot == Slot.OPACITY ? "color4" : "color3";
        nodes.put("image_" + stem, node("image", type, said));
        Link image = Link.node("image_" + stem);
        if (slot == Slot.NORMAL) {
            float strength = texture.sampling().strength();
            nodes.put(
                    "normals",
                    node("normalmap", "vector3", Map.of("in", Input.of("vector3", image), "scale", number(strength))));
            return Input.of("vector3", Link.node("normals"));
        }
        if (slot.colour()) {
            Colour by = slot == Slot.BASE ? material.base() : material.emissive();
            return by.equals(Colour.WHITE)
                    ? Input.of("color3", image)
                    : multiplied(nodes, stem, "color3", image, colour(by));
        }
        String channel = texture.sampling().channel() == Texture.Channel.OF_SLOT
                ? slot.output()
                : texture.sampling().channel().output();
        nodes.put(
                "channel_" + stem,
                node(
                        "extract",
                        "float",
                        Map.of(
                                "in",
                                Input.of(type, image),
                                "index",
                                Input.of("integer", String.valueOf(Math.max(0, "rgba".indexOf(channel)))))));
        Link one = Link.node("channel_" + stem);
        float by =
                switch (slot) {
                    case METALLIC -> material.metallic();
                    case ROUGHNESS -> material.roughness();
                    case OPACITY -> material.opacity();
                    default -> 1;
                };
        return by == 1 ? Input.of("float", one) : multiplied(nodes, stem, "float", one, number(by));
    }

    private static Input multiplied(Map<String, Node> nodes, String stem, String type, Link link, Input by) {
        nodes.put("scaled_" + stem, node("multiply", type, Map.of("in1", Input.of(type, link), "in2", by)));
        return Input.of(type, Link.node("scaled_" + stem));
    }

    private static String mode(Texture.Wrap wrap) {
        return switch (wrap) {
            case REPEAT -> "periodic";
            case MIRROR -> "mirror";
            case CLAMP -> "clamp";
        };
    }
}
