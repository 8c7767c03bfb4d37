package pantry.shading;

import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;

/**
 * What the inputs of a network's surface come to, as fields over its texture coordinates. What cannot be evaluated is the
 * default of the input that asks for it, and is told.
 */
final class NetworkFields {
    /** More nodes one behind another, or altogether, are not evaluated. */
    private static final int DEEPEST = 200;

    private static final int MOST = 1000;

    private final ShaderNetwork network;
    private final Field.Maker maker = new Field.Maker();
    private final NodeLibrary library = new NodeLibrary(maker, this::told);
    private final Map<Place, Field> known = new HashMap<>();
    private final Set<Place> open = new HashSet<>();
    private final Set<String> told = new LinkedHashSet<>();

    /** A node's output, or an input of the graph around it. @param graph empty outside of graphs */
    private record Place(String graph, Link link) {}

    NetworkFields(ShaderNetwork network) {
        this.network = network;
    }

    Field.Maker maker() {
        return maker;
    }

    /** What could not be evaluated, each once. */
    Set<String> told() {
        return told;
    }

    void told(String what) {
        told.add(what);
    }

    Node surface() {
        return Optional.ofNullable(network.nodes().get(network.surface()))
                .orElseThrow(() -> new IllegalArgumentException("the network has no surface " + network.surface()));
    }

    /** What pushes the surface out; empty where nothing does. */
    Optional<Node> displacement() {
        return network.displacement().map(network.nodes()::get);
    }

    /** What an input of what pushes the surface out comes to, in however many components. @param otherwise where nothing is said */
    Field displacement(String input, float otherwise) {
        return displacement()
                .flatMap(node -> node.input(input))
                .map(said -> value("", said, new float[] {otherwise}))
                .orElseGet(() -> maker.constant(otherwise));
    }

    /** Whether the surface says anything of an input. */
    boolean says(String input) {
        return surface().input(input).isPresent();
    }

    /** What an input of the surface comes to. @param otherwise where it says nothing */
    Field surface(String input, float... otherwise) {
        return input("", surface(), input, otherwise);
    }

    /** What an input of a node comes to, in as many components as its default has. */
    private Field input(String graph, Node node, String name, float[] otherwise) {
        Optional<Input> said = node.input(name);
        Field field = said.map(input -> value(graph, input, otherwise)).orElseGet(() -> maker.constant(otherwise));
        return field.width() > otherwise.length && otherwise.length > 0 ? first(field, otherwise.length) : field;
    }

    private Field first(Field field, int wide) {
        return maker.of(wide, List.of(field), (in, out, places) -> System.arraycopy(in[0], 0, out, 0, out.length));
    }

    private Field value(String graph, Input input, float[] otherwise) {
        if (input.link().isPresent()) {
            return linked(new Place(graph, input.link().get()), input.type())
                    .orElseGet(() -> maker.constant(otherwise));
        }
        return constant(input).orElseGet(() -> maker.constant(otherwise));
    }

    private Optional<Field> constant(Input input) {
        float[] numbers = NodeValues.numbers(input);
        return numbers.length == 0 ? Optional.empty() : Optional.of(maker.constant(numbers));
    }

    /** What a link gives; empty, and told, where nothing does. */
    private Optional<Field> linked(Place place, String type) {
        Field before = known.get(place);
        if (before != null) {
            return Optional.of(before);
        }
        if (!open.add(place)) {
            told("nodes that go round in a circle at " + place.link().name());
            return Optional.empty();
        }
        try {
            if (open.size() > DEEPEST) {
                told("more than " + DEEPEST + " nodes one behind another");
                return Optional.empty();
            }
            if (known.size() > MOST) {
                told("more than " + MOST + " nodes");
                return Optional.empty();
            }
            Optional<Field> found =
                    switch (place.link().from()) {
                        case NODE -> node(place, type);
                        case GRAPH -> graph(place, type);
                        case INTERFACE -> interfaced(place);
                    };
            found.ifPresent(field -> known.put(place, field));
            return found;
        } finally {
            open.remove(place);
        }
    }

    private Optional<Field> node(Place place, String type) {
        Map<String, Node> scope = place.graph().isEmpty()
                ? network.nodes()
                : network.graphs().get(place.graph()).nodes();
        Node node = scope.get(place.link().name());
        if (node == null) {
            told("a node " + place.link().name() + " that is not there");
            return Optional.empty();
        }
        String wanted = node.type().equals("multioutput") ? type : node.type();
        return library.field(new NodeUse() {
            @Override
            public String category() {
                return node.category();
            }

            @Override
            public String output() {
                return place.link().output();
            }

            @Override
            public int width() {
                return NodeValues.width(wanted);
            }

            @Override
            public Optional<Input> said(String name) {
                return node.input(name).map(input -> resolved(place.graph(), input));
            }

            @Override
            public Field input(String name, float... otherwise) {
                return NetworkFields.this.input(place.graph(), node, name, otherwise);
            }

            @Override
            public Field all(String name, float... otherwise) {
                return node.input(name)
                        .map(input -> value(place.graph(), input, otherwise))
                        .orElseGet(() -> maker.constant(otherwise));
            }
        });
    }

    /** What the graph around gives an input that takes it from there, where that is a value or an image. */
    private Input resolved(String graph, Input input) {
        return graph.isEmpty()
                ? input
                : network.graphs().get(graph).given(input).orElse(input);
    }

    private Optional<Field> graph(Place place, String type) {
        Graph graph = network.graphs().get(place.link().name());
        if (graph == null) {
            told("a graph " + place.link().name() + " that is not there");
            return Optional.empty();
        }
        ShaderNetwork.Output output = graph.output(place.link()).orElse(null);
        if (output == null) {
            told("an output " + place.link().output() + " of " + place.link().name() + " that is not there");
            return Optional.empty();
        }
        return linked(new Place(place.link().name(), output.link()), type);
    }

    /** An input of the graph around; what that is linked to stands outside of all graphs. */
    private Optional<Field> interfaced(Place place) {
        Graph graph = network.graphs().get(place.graph());
        Input input = graph == null ? null : graph.inputs().get(place.link().name());
        if (input == null) {
            told("an input " + place.link().name() + " that its graph does not have");
            return Optional.empty();
        }
        return input.link().isPresent() ? linked(new Place("", input.link().get()), input.type()) : constant(input);
    }
}
