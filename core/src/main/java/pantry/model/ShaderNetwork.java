package pantry.model;

import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Collection;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * What a material is made of as its document says it: nodes of MaterialX's libraries, and graphs of them that have inputs
 * of their own.
 *
 * @param surface the name of the node, of those outside graphs, that is the surface
 * @param displacement the name of the node, of those outside graphs, that pushes the surface out; empty where none does
 * @param nodes by name, those outside graphs
 * @param graphs by name
 */
public record ShaderNetwork(
        String surface, Optional<String> displacement, Map<String, Node> nodes, Map<String, Graph> graphs) {
    public ShaderNetwork {
        nodes = kept(nodes);
        graphs = kept(graphs);
    }

    /** Of a surface that nothing pushes out. */
    public ShaderNetwork(String surface, Map<String, Node> nodes, Map<String, Graph> graphs) {
        this(surface, Optional.empty(), nodes, graphs);
    }

    /**
     * A graph.
     *
     * @param inputs its own, which nodes within it may take
     * @param part the layer that it stands in, where it is a material part that is referenced
     */
    public record Graph(
            Map<String, Input> inputs, Map<String, Node> nodes, Map<String, Output> outputs, Optional<Part> part) {
        public Graph {
            inputs = kept(inputs);
            nodes = kept(nodes);
            outputs = kept(outputs);
        }

        public Graph(Map<String, Input> inputs, Map<String, Node> nodes, Map<String, Output> outputs) {
            this(inputs, nodes, outputs, Optional.empty());
        }

        /** The same graph, standing in a layer. */
        public Graph from(Path layer) {
            return new Graph(inputs, nodes, outputs, Optional.of(new Part(layer, Set.of())));
        }

        /** The name of an output that is linked to; of the first one where that says none. */
        public Optional<String> outputName(Link link) {
            return link.output().isEmpty() ? outputs.keySet().stream().findFirst() : Optional.of(link.output());
        }

        /** The output that is linked to; empty where there is none. */
        public Optional<Output> output(Link link) {
            return outputName(link).map(outputs::get);
        }

        /** An input of this graph, where an input of a node within takes it; otherwise that input itself. */
        public Optional<Input> given(Input input) {
            return input.link()
                    .filter(link -> link.from() == Link.From.INTERFACE)
                    .map(link -> Optional.ofNullable(inputs.get(link.name())))
                    .orElse(Optional.of(input));
        }
    }

    /**
     * Where a graph that is referenced stands.
     *
     * @param layer whose default prim it is
     * @param own the names of the inputs of which the material says itself what they are
     */
    public record Part(Path layer, Set<String> own) {
        public Part {
            own = Set.copyOf(own);
        }
    }

    /**
     * A node.
     *
     * @param category what it does, such as {@code mix}
     * @param type of what comes out, such as {@code color3}; {@code multioutput} where several things do
     * @param definition the name of its definition in the library, such as {@code ND_mix_color3}
     */
    public record Node(String category, String type, String definition, Map<String, Input> inputs) {
        public Node {
            inputs = kept(inputs);
        }

        public Optional<Input> input(String name) {
            return Optional.ofNullable(inputs.get(name));
        }
    }

    /**
     * An input of a node or of a graph.
     *
     * @param value as it is written; empty where a link or an image stands for it
     * @param link what it takes its value from
     * @param colourSpace of the value or image; empty where none is told
     */
    public record Input(String type, String value, Optional<Link> link, Optional<Texture> image, String colourSpace) {
        public static Input of(String type, String value) {
            return new Input(type, value, Optional.empty(), Optional.empty(), "");
        }

        public static Input of(String type, Link link) {
            return new Input(type, "", Optional.of(link), Optional.empty(), "");
        }
    }

    /**
     * What gives a value.
     *
     * @param name of the node, the graph, or the input of the graph around
     * @param output of several, which; empty for the only one
     */
    public record Link(From from, String name, String output) {
        /** What a link leads to. */
        public enum From {
            NODE,
            GRAPH,
            /** An input of the graph that the node is in. */
            INTERFACE
        }

        public static Link node(String name) {
            return new Link(From.NODE, name, "");
        }
    }

    /** An output of a graph. */
    public record Output(String type, Link link) {}

    private static <V> Map<String, V> kept(Map<String, V> map) {
        return Collections.unmodifiableMap(new LinkedHashMap<>(map));
    }

    /** The number of its nodes, without the surface and what pushes it out. */
    public int size() {
        return (int) allNodes().count() - 1 - (displacement.isPresent() ? 1 : 0);
    }

    /** The images that its nodes show, each once. */
    public Set<Texture> textures() {
        Set<Texture> images = new LinkedHashSet<>();
        Stream.concat(
                        allNodes().flatMap(node -> node.inputs().values().stream()),
                        graphs.values().stream().flatMap(graph -> graph.inputs().values().stream()))
                .flatMap(input -> input.image().stream())
                .forEach(images::add);
        return images;
    }

    private Stream<Node> allNodes() {
        return Stream.concat(
                nodes.values().stream(),
                graphs.values().stream().map(Graph::nodes).map(Map::values).flatMap(Collection::stream));
    }

    /** This with other nodes outside of graphs, and other graphs. */
    public ShaderNetwork with(Map<String, Node> changedNodes, Map<String, Graph> changedGraphs) {
        return new ShaderNetwork(surface, displacement, changedNodes, changedGraphs);
    }

    /** This without what nothing leads to from the surface. */
    public ShaderNetwork reached() {
        Set<String> reached = new LinkedHashSet<>();
        Deque<String> wanted = new ArrayDeque<>(List.of(surface));
        displacement.ifPresent(wanted::add);
        while (!wanted.isEmpty()) {
            String name = wanted.poll();
            if (reached.add(name)) {
                Stream.concat(
                                Optional.ofNullable(nodes.get(name)).map(Node::inputs).stream(),
                                Optional.ofNullable(graphs.get(name)).map(Graph::inputs).stream())
                        .flatMap(inputs -> inputs.values().stream())
                        .flatMap(input -> input.link().stream())
                        .forEach(link -> wanted.add(link.name()));
            }
        }
        Map<String, Node> keptNodes = new LinkedHashMap<>(nodes);
        keptNodes.keySet().retainAll(reached);
        Map<String, Graph> keptGraphs = new LinkedHashMap<>(graphs);
        keptGraphs.keySet().retainAll(reached);
        return with(keptNodes, keptGraphs);
    }

    /** This without some of its graphs; what is linked to them is linked to nothing. */
    public ShaderNetwork without(Predicate<Graph> unwanted) {
        Map<String, Graph> rest = new LinkedHashMap<>(graphs);
        rest.values().removeIf(unwanted);
        return with(nodes, rest);
    }

    /** The graphs that are material parts which are referenced, by their names. */
    public Map<String, Graph> parts() {
        Map<String, Graph> parts = new LinkedHashMap<>(graphs);
        parts.values().removeIf(graph -> graph.part().isEmpty());
        return parts;
    }

    /** This with each image replaced. */
    public ShaderNetwork withTextures(UnaryOperator<Texture> change) {
        Map<String, Graph> changed = new LinkedHashMap<>();
        graphs.forEach((name, graph) -> changed.put(
                name,
                new Graph(
                        inputs(graph.inputs(), change), nodes(graph.nodes(), change), graph.outputs(), graph.part())));
        return new ShaderNetwork(surface, displacement, nodes(nodes, change), changed);
    }

    private static Map<String, Node> nodes(Map<String, Node> nodes, UnaryOperator<Texture> change) {
        Map<String, Node> changed = new LinkedHashMap<>();
        nodes.forEach((name, node) -> changed.put(
                name, new Node(node.category(), node.type(), node.definition(), inputs(node.inputs(), change))));
        return changed;
    }

    private static Map<String, Input> inputs(Map<String, Input> inputs, UnaryOperator<Texture> change) {
        Map<String, Input> changed = new LinkedHashMap<>();
        inputs.forEach((name, input) -> changed.put(
                name,
                new Input(
                        input.type(), input.value(), input.link(), input.image().map(change), input.colourSpace())));
        return changed;
    }
}
