package pantry.exchange.materialx;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import pantry.base.Names;
import pantry.exchange.format.ExportImages;
import pantry.exchange.format.ExportNotes;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.shading.NodeDefinitions;
import pantry.shading.PreviewNetwork;

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
        ShaderNetwork network = material.network().orElseGet(() -> PreviewNetwork.of(material));
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
        if (network.displacement().isPresent()) {
            leaf(
                    "input",
                    with(
                            attributes("displacementshader", "displacementshader"),
                            "nodename",
                            names.get(network.displacement().get())));
        }
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
                && !node.definition().equals(NodeDefinitions.name(node.category(), node.type(), node.inputs()))) {
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
