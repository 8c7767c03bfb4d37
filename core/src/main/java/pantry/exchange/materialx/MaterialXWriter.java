package pantry.exchange.materialx;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import pantry.base.Names;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Material.Slot;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.Texture;

/**
 * Writes the materials of a model as a MaterialX document (version 1.39): their networks as they are said, and others as
 * UsdPreviewSurface with their images. Names are unique over the document.
 */
public final class MaterialXWriter {
    private static final String VERSION = "1.39";

    private final XMLStreamWriter out;
    private final ExportImages images;
    private final Set<String> taken = new TreeSet<>();
    private int depth;

    private MaterialXWriter(XMLStreamWriter out, ExportImages images) {
        this.out = out;
        this.images = images;
    }

    /**
     * Writes a document.
     *
     * @param file that is written
     * @param target where it will stand, beside which its images are
     * @param notes are told what a document cannot hold
     */
    public static void write(Model model, Path file, Path target, ExportNotes notes) throws IOException {
        notes.left("surfaces: MaterialX holds materials alone");
        try (OutputStream bytes = Files.newOutputStream(file)) {
            XMLStreamWriter xml = XMLOutputFactory.newDefaultFactory().createXMLStreamWriter(bytes, "UTF-8");
            MaterialXWriter writer = new MaterialXWriter(xml, new ExportImages(target, notes));
            xml.writeStartDocument("UTF-8", "1.0");
            writer.open("materialx", Map.of("version", VERSION, "colorspace", "lin_rec709"));
            for (Material material : model.materials()) {
                writer.material(material);
            }
            writer.close();
            xml.writeCharacters("\n");
            xml.writeEndDocument();
            xml.close();
        } catch (XMLStreamException e) {
            throw new IOException(e.getMessage(), e);
        }
    }

    private void material(Material material) throws XMLStreamException {
        String name = free(material.title());
        ShaderNetwork network = material.network().orElseGet(() -> preview(material));
        Map<String, String> names = new LinkedHashMap<>();
        network.graphs().keySet().forEach(graph -> names.put(graph, free(graph)));
        network.nodes().keySet().forEach(node -> names.put(node, free(node)));
        for (Map.Entry<String, Graph> entry : network.graphs().entrySet()) {
            graph(names.get(entry.getKey()), entry.getValue(), names);
        }
        for (Map.Entry<String, Node> entry : network.nodes().entrySet()) {
            node(names.get(entry.getKey()), entry.getValue(), names, names);
        }
        open("surfacematerial", attributes(name, "material"));
        leaf("input", with(attributes("surfaceshader", "surfaceshader"), "nodename", names.get(network.surface())));
        close();
    }

    private String free(String wanted) {
        String name = Names.free(Names.identifier(wanted), taken::contains);
        taken.add(name);
        return name;
    }

    private void graph(String name, Graph graph, Map<String, String> outside) throws XMLStreamException {
        open("nodegraph", Map.of("name", name));
        for (Map.Entry<String, Input> input : graph.inputs().entrySet()) {
            input(input.getKey(), input.getValue(), outside, outside);
        }
        Map<String, String> inner = new LinkedHashMap<>();
        graph.nodes()
                .keySet()
                .forEach(node -> inner.put(node, Names.free(Names.identifier(node), inner::containsValue)));
        for (Map.Entry<String, Node> node : graph.nodes().entrySet()) {
            node(inner.get(node.getKey()), node.getValue(), inner, outside);
        }
        for (Map.Entry<String, ShaderNetwork.Output> output : graph.outputs().entrySet()) {
            Map<String, String> said =
                    attributes(output.getKey(), output.getValue().type());
            link(said, output.getValue().link(), inner, outside);
            leaf("output", said);
        }
        close();
    }

    /** @param scope the names of the nodes around */
    private void node(String name, Node node, Map<String, String> scope, Map<String, String> graphs)
            throws XMLStreamException {
        Map<String, String> said = attributes(name, node.type());
        if (!node.definition().isEmpty()
                && !node.definition().equals(Definitions.name(node.category(), node.type(), node.inputs()))) {
            said.put("nodedef", node.definition());
        }
        open(node.category(), said);
        for (Map.Entry<String, Input> input : node.inputs().entrySet()) {
            input(input.getKey(), input.getValue(), scope, graphs);
        }
        close();
    }

    private void input(String name, Input input, Map<String, String> scope, Map<String, String> graphs)
            throws XMLStreamException {
        Map<String, String> said = attributes(name, input.type());
        input.link().ifPresent(link -> link(said, link, scope, graphs));
        input.image().ifPresent(image -> images.path(image).ifPresent(path -> said.put("value", path)));
        if (input.link().isEmpty() && input.image().isEmpty()) {
            said.put("value", input.value());
        }
        if (!input.colourSpace().isEmpty()) {
            said.put("colorspace", input.colourSpace());
        }
        leaf("input", said);
    }

    private static void link(
            Map<String, String> said, Link link, Map<String, String> scope, Map<String, String> graphs) {
        switch (link.from()) {
            case INTERFACE -> said.put("interfacename", link.name());
            case NODE -> said.put("nodename", scope.getOrDefault(link.name(), link.name()));
            case GRAPH -> said.put("nodegraph", graphs.getOrDefault(link.name(), link.name()));
        }
        if (!link.output().isEmpty()) {
            said.put("output", link.output());
        }
    }

    /** A material without a network, as one of UsdPreviewSurface. */
    private static ShaderNetwork preview(Material material) {
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
        return new Node(category, type, Definitions.name(category, type, inputs), inputs);
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

    private static Map<String, String> attributes(String name, String type) {
        Map<String, String> attributes = new LinkedHashMap<>();
        attributes.put("name", name);
        attributes.put("type", type);
        return attributes;
    }

    private static Map<String, String> with(Map<String, String> attributes, String name, String value) {
        attributes.put(name, value);
        return attributes;
    }

    private void open(String element, Map<String, String> attributes) throws XMLStreamException {
        indent();
        out.writeStartElement(element);
        write(attributes);
        depth++;
    }

    private void close() throws XMLStreamException {
        depth--;
        indent();
        out.writeEndElement();
    }

    private void leaf(String element, Map<String, String> attributes) throws XMLStreamException {
        indent();
        out.writeEmptyElement(element);
        write(attributes);
    }

    private void write(Map<String, String> attributes) throws XMLStreamException {
        for (Map.Entry<String, String> attribute : attributes.entrySet()) {
            out.writeAttribute(attribute.getKey(), attribute.getValue());
        }
    }

    private void indent() throws XMLStreamException {
        out.writeCharacters("\n" + "  ".repeat(depth));
    }
}
