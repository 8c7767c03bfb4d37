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
 * a node that mixes the two. How much shows is one number for the whole part, multiplied by a mask: the part's own, or that
 * of another one.
 */
public final class PartMix {
    private static final String AMOUNT = "_amount";
    private static final String MASK = "_mask";

    private PartMix() {}

    /**
     * A part by the name that it is called in a network; a number is added where that is taken.
     *
     * @param graph what it is made of
     */
    public record Named(String name, Graph graph) {}

    /** What says where a part shows. */
    public sealed interface Where {
        /** It shows everywhere alike. */
        record Everywhere() implements Where {}

        /** It shows where its own mask says, if it has one. */
        record OwnMask() implements Where {}

        /** It shows where the mask of another part says. */
        record MaskOf(Named part) implements Where {}
    }

    /**
     * Mixes a part over what a network is now.
     *
     * @param amount how much of the part shows, 0 to 1
     * @throws IllegalArgumentException where none of the part's outputs is for a surface, or another part has no mask
     */
    public static ShaderNetwork mixed(ShaderNetwork network, Named mixedIn, double amount, Where where) {
        String name = mixedIn.name();
        Graph part = mixedIn.graph();
        PartOutputs outputs = PartOutputs.of(part);
        if (outputs.bySlot().isEmpty()) {
            throw new IllegalArgumentException(name + " has nothing for a surface among its outputs "
                    + String.join(", ", part.outputs().keySet()));
        }
        Set<String> taken = new HashSet<>(network.nodes().keySet());
        taken.addAll(network.graphs().keySet());
        String own = free(name, taken);
        taken.add(own);
        Map<String, Graph> graphs = new LinkedHashMap<>(network.graphs());
        graphs.put(own, part);
        Map<String, Node> nodes = new LinkedHashMap<>(network.nodes());
        Optional<Link> mask =
                switch (where) {
                    case Where.Everywhere() -> Optional.empty();
                    case Where.OwnMask() -> outputs.mask().map(output -> new Link(Link.From.GRAPH, own, output));
                    case Where.MaskOf(Named other) -> {
                        String stands = free(other.name(), taken);
                        graphs.put(stands, other.graph());
                        yield Optional.of(new Link(Link.From.GRAPH, stands, maskOf(other)));
                    }
                };
        mask.ifPresent(link -> nodes.put(own + MASK, mask(link)));
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

    private static String free(String name, Set<String> taken) {
        return Names.free(Names.identifier(name), each -> taken.stream().anyMatch(other -> isOf(other, each)));
    }

    private static String maskOf(Named part) {
        return PartOutputs.of(part.graph())
                .mask()
                .orElseThrow(() -> new IllegalArgumentException(part.name() + " has no mask among its outputs "
                        + String.join(", ", part.graph().outputs().keySet())));
    }

    /** A mask, of which what is below 0 or above 1 would make other colours than there are. */
    private static Node mask(Link output) {
        return PartOutputs.node("clamp", "float", Map.of("in", Input.of("float", output)));
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

    /** The name of the part by whose mask another one shows; empty where that is its own, or none. */
    public static Optional<String> maskedBy(ShaderNetwork network, String part) {
        return Optional.ofNullable(network.nodes().get(part + MASK))
                .flatMap(node -> node.input("in"))
                .flatMap(Input::link)
                .map(Link::name)
                .filter(name -> !name.equals(part));
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
