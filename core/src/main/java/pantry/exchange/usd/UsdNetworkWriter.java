package pantry.exchange.usd;

import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.Names;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.usd.AttributeSpec;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/**
 * Writes a network of MaterialX's nodes below a material, as OpenUSD's usdMtlx lays them out: nodes as Shader prims called by
 * their definitions, graphs as NodeGraph prims, the surface connected to {@code outputs:mtlx:surface}.
 */
final class UsdNetworkWriter {
    /** The material's output for renderers that understand such networks. */
    static final String OUTPUT = "outputs:mtlx:surface";

    static final String DISPLACEMENT = "outputs:mtlx:displacement";

    static final String OUT = "outputs:out";
    static final String COLOUR_SPACE = "colorSpace";

    private final Links links;
    private final ShaderNetwork network;
    private final Map<String, String> names = new HashMap<>();
    private final SdfPath material;

    private UsdNetworkWriter(SdfPath material, ShaderNetwork network, Links links) {
        this.material = material;
        this.network = network;
        this.links = links;
    }

    static void write(PrimSpec prim, SdfPath path, ShaderNetwork network, Links links) {
        new UsdNetworkWriter(path, network, links).write(prim);
    }

    /** Writes a graph that is kept by itself, whatever it is linked to. */
    static void write(PrimSpec prim, SdfPath path, Graph graph, Links links) {
        ShaderNetwork alone = new ShaderNetwork("", Map.of(), Map.of(path.name(), graph));
        UsdNetworkWriter writer = new UsdNetworkWriter(path.parent(), alone, links);
        writer.names.put(path.name(), path.name());
        writer.graph(prim, path.name(), graph);
    }

    private void write(PrimSpec prim) {
        List.of(network.nodes(), network.graphs()).forEach(each -> each.keySet()
                .forEach(name -> names.put(
                        name,
                        Names.free(
                                Names.identifier(name),
                                taken -> prim.child(taken).isPresent() || names.containsValue(taken)))));
        network.nodes().forEach((name, node) -> node(prim, names.get(name), node, material, names));
        network.graphs()
                .forEach((name, graph) -> graph(prim.define("NodeGraph", names.get(name)), names.get(name), graph));
        connect(prim, OUTPUT, network.surface());
        network.displacement().ifPresent(node -> connect(prim, DISPLACEMENT, node));
    }

    private void connect(PrimSpec prim, String output, String node) {
        ShaderSpecs.connect(
                prim, "token", output, material.child(names.get(node)).property(OUT));
    }

    private void graph(PrimSpec prim, String name, Graph graph) {
        SdfPath path = material.child(name);
        Optional<String> part = graph.part().flatMap(links::part);
        if (part.isPresent()) {
            prim.setReferences(Reference.to(part.get()));
            Set<String> own = graph.part().get().own();
            graph.inputs().forEach((input, said) -> {
                if (own.contains(input)) {
                    input(prim, input, said, path, names);
                }
            });
            return;
        }
        Map<String, String> inner = new LinkedHashMap<>();
        graph.nodes()
                .keySet()
                .forEach(node -> inner.put(node, Names.free(Names.identifier(node), inner::containsValue)));
        graph.inputs().forEach((input, said) -> input(prim, input, said, path, names));
        graph.nodes().forEach((node, said) -> node(prim, inner.get(node), said, path, inner));
        graph.outputs().forEach((output, said) -> source(said.link(), path, inner)
                .ifPresent(from -> ShaderSpecs.connect(prim, type(said.type()), "outputs:" + output, from)));
    }

    /** @param scope the names of the prims around by the names of their nodes */
    private void node(PrimSpec around, String name, Node node, SdfPath path, Map<String, String> scope) {
        PrimSpec prim = ShaderSpecs.shader(around, name, node.definition());
        node.inputs().forEach((input, said) -> input(prim, input, said, path, scope));
        if (!node.type().equals("multioutput")) {
            prim.put(new AttributeSpec(OUT, type(node.type())));
        }
    }

    private void input(PrimSpec prim, String name, Input input, SdfPath path, Map<String, String> scope) {
        AttributeSpec attribute = new AttributeSpec("inputs:" + name, type(input.type()));
        input.link()
                .flatMap(link -> source(link, path, scope))
                .ifPresent(from -> attribute.setConnections(ListEdit.explicit(List.of(from))));
        if (input.image().isPresent()) {
            attribute.setValue(new Value.Asset(links.image(input.image().get())));
        } else if (input.link().isEmpty()) {
            attribute.setValue(UsdNetworkTypes.value(input.type(), input.value()));
        }
        if (!input.colourSpace().isEmpty()) {
            attribute.metadata().put(COLOUR_SPACE, new Value.Token(input.colourSpace()));
        }
        prim.put(attribute);
    }

    /** The output or input that a link leads to. @param path of what the scope's prims are in */
    private Optional<SdfPath> source(Link link, SdfPath path, Map<String, String> scope) {
        String output = link.output().isEmpty() ? "out" : link.output();
        return switch (link.from()) {
            case INTERFACE -> Optional.of(path.property("inputs:" + link.name()));
            case NODE ->
                Optional.ofNullable(scope.get(link.name()))
                        .map(name -> path.child(name).property("outputs:" + output));
            case GRAPH ->
                Optional.ofNullable(network.graphs().get(link.name()))
                        .map(graph -> material.child(names.get(link.name()))
                                .property("outputs:" + graph.outputName(link).orElse("out")));
        };
    }

    private static String type(String said) {
        return UsdNetworkTypes.sdf(said);
    }
}
