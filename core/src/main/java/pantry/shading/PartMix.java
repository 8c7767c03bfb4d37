package pantry.shading;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import pantry.base.Names;
import pantry.model.Material.Slot;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;

/**
 * Material parts mixed into the networks of materials: before each input of the surface that a part has an output for stands
 * a node that mixes the two. How much shows is one number for the whole part, multiplied by the part's mask where it has one.
 */
public final class PartMix {
    private static final String AMOUNT = "_amount";
    private static final String MASK = "_mask";

    private PartMix() {}

    /**
     * Mixes a part over what a network is now.
     *
     * @param name what the part is called in the network; a number is added where that is taken
     * @param amount how much of the part shows, 0 to 1
     * @param masked whether that is where the part's mask says, if it has one
     * @throws IllegalArgumentException where none of the part's outputs is for a surface
     */
    public static ShaderNetwork mixed(ShaderNetwork network, String name, Graph part, double amount, boolean masked) {
        PartOutputs outputs = PartOutputs.of(part);
        if (outputs.bySlot().isEmpty()) {
            throw new IllegalArgumentException(name + " has nothing for a surface among its outputs "
                    + String.join(", ", part.outputs().keySet()));
        }
        Set<String> taken = new HashSet<>(network.nodes().keySet());
        taken.addAll(network.graphs().keySet());
        String own = Names.free(Names.identifier(name), each -> taken.stream().anyMatch(other -> isOf(other, each)));
        Map<String, Graph> graphs = new LinkedHashMap<>(network.graphs());
        graphs.put(own, part);
        Map<String, Node> nodes = new LinkedHashMap<>(network.nodes());
        Optional<String> mask = outputs.mask().filter(output -> masked);
        mask.ifPresent(output -> nodes.put(own + MASK, mask(own, output)));
        nodes.put(own + AMOUNT, amount(own, mask.isPresent(), amount));
        Node surface = network.nodes().get(network.surface());
        SurfaceInputs kind = new SurfaceInputs(surface.category());
        Map<String, Input> inputs = new LinkedHashMap<>(surface.inputs());
        outputs.bySlot().forEach((slot, output) -> {
            String input = kind.names().get(slot);
            String type = kind.type(slot);
            Input below = Optional.ofNullable(inputs.get(input)).orElseGet(() -> usual(nodes, own, slot, kind));
            Map<String, Input> mix = new LinkedHashMap<>();
            mix.put("fg", PartOutputs.link(nodes, own, part, output, type));
            mix.put("bg", below);
            mix.put("mix", Input.of("float", Link.node(own + AMOUNT)));
            String node = own + "_" + slot.name().toLowerCase(Locale.ROOT);
            nodes.put(node, PartOutputs.node("mix", type, mix));
            inputs.put(input, Input.of(type, Link.node(node)));
        });
        nodes.put(network.surface(), new Node(surface.category(), surface.type(), surface.definition(), inputs));
        return network.with(nodes, graphs);
    }

    private static boolean isOf(String node, String part) {
        return node.equals(part) || node.startsWith(part + "_");
    }

    /** A part's mask, of which what is below 0 or above 1 would make other colours than there are. */
    private static Node mask(String part, String output) {
        return PartOutputs.node(
                "clamp", "float", Map.of("in", Input.of("float", new Link(Link.From.GRAPH, part, output))));
    }

    /** How much shows: the number, or the mask times the number. */
    private static Node amount(String part, boolean masked, double amount) {
        Input number = Input.of("float", String.valueOf((float) amount));
        return masked
                ? PartOutputs.node(
                        "multiply", "float", Map.of("in1", Input.of("float", Link.node(part + MASK)), "in2", number))
                : PartOutputs.node("constant", "float", Map.of("value", number));
    }

    /** What the surface is where it says nothing. */
    private static Input usual(Map<String, Node> nodes, String part, Slot slot, SurfaceInputs kind) {
        if (slot == Slot.NORMAL) {
            String node = part + "_below_normal";
            nodes.put(node, PartOutputs.node("normal", "vector3", Map.of("space", Input.of("string", "world"))));
            return Input.of("vector3", Link.node(node));
        }
        float usual = kind.usual().getOrDefault(kind.names().get(slot), 1f);
        String type = kind.type(slot);
        return Input.of(type, type.equals("color3") ? usual + ", " + usual + ", " + usual : String.valueOf(usual));
    }

    /** How much of a part shows, from 0 to 1; empty where it is not mixed in as {@link #mixed} does it. */
    public static Optional<Double> amount(ShaderNetwork network, String part) {
        return Optional.ofNullable(network.nodes().get(part + AMOUNT))
                .flatMap(node -> Stream.of("in2", "value")
                        .flatMap(name -> node.input(name).stream())
                        .findFirst())
                .map(NodeValues::numbers)
                .filter(numbers -> numbers.length == 1)
                .map(numbers -> (double) numbers[0]);
    }

    /** Whether a part shows where its mask says. */
    public static boolean isMasked(ShaderNetwork network, String part) {
        Node amount = network.nodes().get(part + AMOUNT);
        return amount != null && amount.category().equals("multiply");
    }

    /** A network without a part that was mixed in; what lay below it and above it stays. */
    public static ShaderNetwork without(ShaderNetwork network, String part) {
        Map<String, Input> below = new LinkedHashMap<>();
        network.nodes().forEach((name, node) -> {
            boolean mixesIt = node.input("mix")
                    .flatMap(Input::link)
                    .filter(Link.node(part + AMOUNT)::equals)
                    .isPresent();
            if (mixesIt) {
                node.input("bg").ifPresent(input -> below.put(name, input));
            }
        });
        Map<String, Node> nodes = new LinkedHashMap<>();
        network.nodes().forEach((name, node) -> {
            Map<String, Input> inputs = new LinkedHashMap<>(node.inputs());
            inputs.replaceAll((input, said) -> said.link()
                    .filter(link -> link.from() == Link.From.NODE)
                    .map(link -> below.get(link.name()))
                    .orElse(said));
            nodes.put(name, new Node(node.category(), node.type(), node.definition(), inputs));
        });
        return network.with(nodes, network.graphs()).reached();
    }
}
