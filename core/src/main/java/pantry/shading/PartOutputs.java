package pantry.shading;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.ShaderNetwork.Output;

/**
 * What the outputs of a graph that is kept by itself are for. They go by their names, which are those of the inputs of
 * surfaces; an output of another name that is a colour is the base's, and one that is a number where there is no colour
 * says how much of something shows.
 *
 * @param bySlot the names of the outputs that are for a surface
 * @param mask the output that says how much of the part shows, from 0 to 1
 */
public record PartOutputs(Map<Slot, String> bySlot, Optional<String> mask) {
    private static final Map<Slot, List<String>> NAMES = new EnumMap<>(Map.of(
            Slot.BASE, List.of("basecolor", "diffusecolor", "color", "colour", "albedo"),
            Slot.EMISSIVE, List.of("emissive", "emissivecolor", "emissioncolor"),
            Slot.METALLIC, List.of("metallic", "metalness", "basemetalness"),
            Slot.ROUGHNESS, List.of("roughness", "specularroughness"),
            Slot.OPACITY, List.of("opacity", "geometryopacity", "alpha"),
            Slot.NORMAL, List.of("normal", "geometrynormal")));
    private static final List<String> MASKS = List.of("mask", "amount", "weight", "factor");
    private static final String SHOWN = "standard_surface";

    /** Of a part that says nothing of it, so that it is seen without a highlight in front. */
    private static final String ROUGH = "0.6";

    private static final List<String> COLOURS = List.of("color3", "color4");

    /** What a graph's outputs are for. */
    public static PartOutputs of(Graph graph) {
        Map<Slot, String> bySlot = new EnumMap<>(Slot.class);
        Optional<String> mask = Optional.empty();
        List<Map.Entry<String, Output>> others = new ArrayList<>();
        for (Map.Entry<String, Output> output : graph.outputs().entrySet()) {
            String plain = output.getKey().toLowerCase(Locale.ROOT).replace("_", "");
            Optional<Slot> slot = NAMES.entrySet().stream()
                    .filter(entry -> entry.getValue().contains(plain)
                            && fits(entry.getKey(), output.getValue().type()))
                    .map(Map.Entry::getKey)
                    .findFirst();
            if (slot.isPresent()) {
                bySlot.putIfAbsent(slot.get(), output.getKey());
            } else if (mask.isEmpty()
                    && MASKS.contains(plain)
                    && output.getValue().type().equals("float")) {
                mask = Optional.of(output.getKey());
            } else {
                others.add(output);
            }
        }
        if (!bySlot.containsKey(Slot.BASE)) {
            first(others, COLOURS).ifPresent(name -> bySlot.put(Slot.BASE, name));
        }
        if (bySlot.isEmpty() && mask.isEmpty()) {
            mask = first(others, List.of("float"));
        }
        return new PartOutputs(bySlot, mask);
    }

    private static Optional<String> first(List<Map.Entry<String, Output>> outputs, List<String> types) {
        return outputs.stream()
                .filter(output -> types.contains(output.getValue().type()))
                .map(Map.Entry::getKey)
                .findFirst();
    }

    private static boolean fits(Slot slot, String type) {
        if (slot == Slot.NORMAL) {
            return type.equals("vector3");
        }
        return slot.colour() ? COLOURS.contains(type) : type.equals("float");
    }

    /** Whether nothing of the graph is of use to a surface. */
    public boolean isEmpty() {
        return bySlot.isEmpty() && mask.isEmpty();
    }

    /**
     * A surface that shows a graph and nothing else; a mask as a colour from black to white.
     *
     * @param name of the graph
     */
    public static ShaderNetwork shown(String name, Graph graph) {
        PartOutputs outputs = of(graph);
        Map<String, Node> nodes = new LinkedHashMap<>();
        Map<String, Input> inputs = new LinkedHashMap<>();
        SurfaceInputs surface = new SurfaceInputs(SHOWN);
        Map<Slot, String> drawn = new EnumMap<>(Slot.class);
        drawn.putAll(outputs.bySlot);
        if (outputs.bySlot.isEmpty()) {
            outputs.mask.ifPresent(mask -> drawn.put(Slot.BASE, mask));
        }
        drawn.forEach((slot, output) ->
                inputs.put(surface.names().get(slot), link(nodes, name, graph, output, surface.type(slot))));
        inputs.putIfAbsent(surface.names().get(Slot.ROUGHNESS), Input.of("float", ROUGH));
        String own = name + "_surface";
        nodes.put(own, node(SHOWN, "surfaceshader", inputs));
        return new ShaderNetwork(own, nodes, Map.of(name, graph));
    }

    /** An input that takes an output of a graph; adds a node that makes another type of it where it needs one. */
    static Input link(Map<String, Node> nodes, String name, Graph graph, String output, String to) {
        Link link = new Link(Link.From.GRAPH, name, output);
        String from = graph.outputs().get(output).type();
        if (from.equals(to)) {
            return Input.of(to, link);
        }
        String convert = name + "_" + output + "_as_" + to;
        nodes.put(convert, node("convert", to, Map.of("in", Input.of(from, link))));
        return Input.of(to, Link.node(convert));
    }

    static Node node(String category, String type, Map<String, Input> inputs) {
        return new Node(category, type, NodeDefinitions.name(category, type, inputs), inputs);
    }
}
