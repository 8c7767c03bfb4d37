package pantry.exchange.materialx;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.w3c.dom.Element;
import pantry.base.FileGate;
import pantry.exchange.format.Companions;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.ShaderNetwork.Output;
import pantry.model.Texture;
import pantry.shading.NodeDefinitions;

/** Reads the network that leads to a surface: the nodes and graphs that it is linked to, as the document says them. */
final class NetworkReader {
    private final Path file;
    private final FileGate gate;
    private final String prefix;
    private final Map<String, Element> top = new LinkedHashMap<>();
    private final Map<String, Texture> images = new LinkedHashMap<>();

    /** @param root of the document */
    NetworkReader(Path file, FileGate gate, Element root) {
        this.file = file;
        this.gate = gate;
        this.prefix = root.getAttribute("fileprefix");
        Elements.of(root).forEach(child -> top.putIfAbsent(child.getAttribute("name"), child));
    }

    /** @param displacement the node that pushes the surface out */
    ShaderNetwork network(Element surface, Optional<Element> displacement) {
        Map<String, Node> nodes = new LinkedHashMap<>();
        Map<String, Graph> graphs = new LinkedHashMap<>();
        String name = surface.getAttribute("name");
        Deque<String> wanted = new ArrayDeque<>();
        Stream.concat(Stream.of(surface), displacement.stream()).forEach(shader -> {
            Node node = node(shader, prefix);
            nodes.put(shader.getAttribute("name"), node);
            node.inputs().values().forEach(input -> input.link().ifPresent(link -> wanted.add(link.name())));
        });
        while (!wanted.isEmpty()) {
            String next = wanted.poll();
            Element element = top.get(next);
            if (element == null || nodes.containsKey(next) || graphs.containsKey(next)) {
                continue;
            }
            Map<String, Input> inputs;
            if (element.getTagName().equals("nodegraph")) {
                Graph graph = graph(element);
                graphs.put(next, graph);
                inputs = graph.inputs();
            } else {
                Node node = node(element, prefix);
                nodes.put(next, node);
                inputs = node.inputs();
            }
            inputs.values().forEach(input -> input.link().ifPresent(link -> wanted.add(link.name())));
        }
        return new ShaderNetwork(name, displacement.map(each -> each.getAttribute("name")), nodes, graphs);
    }

    /** The graphs of the document that have outputs, by their names. */
    Map<String, Graph> graphs() {
        Map<String, Graph> graphs = new LinkedHashMap<>();
        top.forEach((name, element) -> {
            if (element.getTagName().equals("nodegraph")) {
                Graph graph = graph(element);
                if (!graph.outputs().isEmpty()) {
                    graphs.put(name, graph);
                }
            }
        });
        return graphs;
    }

    private Graph graph(Element element) {
        String own = element.hasAttribute("fileprefix") ? element.getAttribute("fileprefix") : prefix;
        Map<String, Input> inputs = new LinkedHashMap<>();
        Map<String, Node> nodes = new LinkedHashMap<>();
        Map<String, Output> outputs = new LinkedHashMap<>();
        for (Element child : Elements.of(element)) {
            String name = child.getAttribute("name");
            switch (child.getTagName()) {
                case "input" -> inputs.putIfAbsent(name, input(child, own));
                case "output" ->
                    link(child)
                            .ifPresent(link -> outputs.putIfAbsent(name, new Output(child.getAttribute("type"), link)));
                default -> nodes.putIfAbsent(name, node(child, own));
            }
        }
        return new Graph(inputs, nodes, outputs);
    }

    private Node node(Element element, String folder) {
        Map<String, Input> inputs = new LinkedHashMap<>();
        for (Element child : Elements.of(element)) {
            if (child.getTagName().equals("input")) {
                inputs.putIfAbsent(child.getAttribute("name"), input(child, folder));
            }
        }
        String category = element.getTagName();
        String type = element.getAttribute("type");
        String definition = element.getAttribute("nodedef");
        return new Node(
                category,
                type,
                definition.isEmpty() ? NodeDefinitions.name(category, type, inputs) : definition,
                inputs);
    }

    private Input input(Element element, String folder) {
        String type = element.getAttribute("type");
        String value = element.getAttribute("value");
        Optional<Link> link = link(element);
        Optional<Texture> image = type.equals("filename") && link.isEmpty() && !value.isBlank()
                ? Optional.of(images.computeIfAbsent(
                        folder + value.strip(), name -> Companions.texture(file, name, Texture.Sampling.USUAL, gate)))
                : Optional.empty();
        return new Input(type, image.isPresent() ? "" : value, link, image, colourSpace(element));
    }

    /** The nearest that is told, of the input or of what is around it. */
    private static String colourSpace(Element element) {
        for (org.w3c.dom.Node at = element; at instanceof Element each; at = at.getParentNode()) {
            // What a document says for all is the space that it works in, not that of its images.
            if (each.hasAttribute("colorspace") && !each.getTagName().equals("materialx")) {
                return each.getAttribute("colorspace");
            }
        }
        return "";
    }

    private static Optional<Link> link(Element element) {
        String output = element.getAttribute("output");
        if (element.hasAttribute("interfacename")) {
            return Optional.of(new Link(Link.From.INTERFACE, element.getAttribute("interfacename"), ""));
        }
        if (element.hasAttribute("nodegraph")) {
            return Optional.of(new Link(Link.From.GRAPH, element.getAttribute("nodegraph"), output));
        }
        return element.hasAttribute("nodename")
                ? Optional.of(new Link(Link.From.NODE, element.getAttribute("nodename"), output))
                : Optional.empty();
    }
}
