package pantry.exchange.usd;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.ShaderNetwork.Output;
import pantry.model.ShaderNetwork.Part;
import pantry.model.Texture;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Arc;
import pantry.usd.compose.Attribute;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;
import pantry.usd.schema.Values;

/** Reads the network of MaterialX's nodes that a material is connected to, as {@link UsdNetworkWriter} writes it. */
final class UsdNetworkReader {
    private static final String INPUTS = "inputs:";
    private static final String OUTPUTS = "outputs:";

    /** Categories with an underscore of their own. */
    private static final Set<String> LONG =
            Set.of("standard_surface", "gltf_pbr", "open_pbr_surface", "gltf_colorimage", "gltf_image");

    private final Stage stage;
    private final Consumer<SdfPath> visit;
    private final Map<String, Node> nodes = new LinkedHashMap<>();
    private final Map<String, Graph> graphs = new LinkedHashMap<>();
    private final Deque<SdfPath> wanted = new ArrayDeque<>();

    /** @param visit is told each prim that is read */
    UsdNetworkReader(Stage stage, Consumer<SdfPath> visit) {
        this.stage = stage;
        this.visit = visit;
    }

    /** The network of a material; empty where it has none. */
    Optional<ShaderNetwork> read(Prim material) {
        Optional<SdfPath> surface =
                connection(material, UsdNetworkWriter.OUTPUT).map(SdfPath::prim);
        if (surface.isEmpty() || stage.prim(surface.get()).isEmpty()) {
            return Optional.empty();
        }
        Optional<SdfPath> displacement = connection(material, UsdNetworkWriter.DISPLACEMENT)
                .map(SdfPath::prim)
                .filter(path -> stage.prim(path).isPresent());
        wanted.add(surface.get());
        displacement.ifPresent(wanted::add);
        while (!wanted.isEmpty()) {
            SdfPath path = wanted.poll();
            if (nodes.containsKey(path.name()) || graphs.containsKey(path.name())) {
                continue;
            }
            stage.prim(path).ifPresent(prim -> {
                visit.accept(path);
                if (prim.typeName().equals("NodeGraph")) {
                    graphs.put(path.name(), graph(prim));
                } else {
                    nodes.put(path.name(), node(prim, Optional.empty()));
                }
            });
        }
        String name = surface.get().name();
        return nodes.containsKey(name)
                ? Optional.of(new ShaderNetwork(
                        name, displacement.map(SdfPath::name).filter(nodes::containsKey), nodes, graphs))
                : Optional.empty();
    }

    /** Reads a graph by itself. */
    Graph graph(Prim prim) {
        Map<String, Input> inputs = inputs(prim, Optional.empty());
        Map<String, Node> inner = new LinkedHashMap<>();
        Map<String, Output> outputs = new LinkedHashMap<>();
        for (Prim child : prim.children()) {
            visit.accept(child.path());
            inner.put(child.name(), node(child, Optional.of(prim.path())));
        }
        for (String name : prim.propertyNames()) {
            if (name.startsWith(OUTPUTS)) {
                prim.attribute(name).ifPresent(output -> link(output, Optional.of(prim.path()))
                        .ifPresent(link -> outputs.put(
                                name.substring(OUTPUTS.length()),
                                new Output(UsdNetworkTypes.materialX(output.typeName()), link))));
            }
        }
        return new Graph(inputs, inner, outputs, reference(prim));
    }

    /** The layer that a graph is referenced from, by the strongest of the references that are said at the graph itself. */
    private static Optional<Part> reference(Prim prim) {
        return prim.arcs().stream()
                .filter(site -> site.arc() == Arc.REFERENCE)
                .findFirst()
                .flatMap(site -> site.layer().file().map(file -> new Part(file, own(prim, site.layer()))));
    }

    /** The inputs that layers speak of which do not come by way of a referenced one. */
    private static Set<String> own(Prim prim, Layer referenced) {
        return prim.opinions().stream()
                .filter(opinion -> opinion.chain().stream().noneMatch(site -> site.layer() == referenced))
                .flatMap(opinion ->
                        opinion.spec() instanceof PrimSpec spec ? spec.propertyNames().stream() : Stream.empty())
                .filter(name -> name.startsWith(INPUTS))
                .map(name -> name.substring(INPUTS.length()))
                .collect(Collectors.toSet());
    }

    private Node node(Prim prim, Optional<SdfPath> graph) {
        String definition = Values.token(prim, "info:id").orElse("");
        String plain = definition.startsWith("ND_") ? definition.substring(3) : definition;
        String category = LONG.stream()
                .filter(plain::startsWith)
                .findFirst()
                .orElseGet(() -> plain.contains("_") ? plain.substring(0, plain.indexOf('_')) : plain);
        String type = prim.attribute(UsdNetworkWriter.OUT)
                .map(out ->
                        out.typeName().equals("token") ? shader(category) : UsdNetworkTypes.materialX(out.typeName()))
                .orElse("multioutput");
        return new Node(category, type, definition, inputs(prim, graph));
    }

    /** What comes out of what is no value. */
    private static String shader(String category) {
        return category.equals("displacement") ? "displacementshader" : "surfaceshader";
    }

    private Map<String, Input> inputs(Prim prim, Optional<SdfPath> graph) {
        Map<String, Input> inputs = new LinkedHashMap<>();
        for (String name : prim.propertyNames()) {
            if (name.startsWith(INPUTS)) {
                prim.attribute(name)
                        .ifPresent(attribute -> inputs.put(name.substring(INPUTS.length()), input(attribute, graph)));
            }
        }
        return inputs;
    }

    private Input input(Attribute attribute, Optional<SdfPath> graph) {
        String type = UsdNetworkTypes.materialX(attribute.typeName());
        Optional<Link> link = link(attribute, graph);
        Optional<Value> value = link.isPresent() ? Optional.empty() : attribute.value();
        Optional<Texture> image = value.filter(Value.Asset.class::isInstance)
                .map(asset -> Texture.of(((Value.Asset) asset).path(), Texture.Sampling.USUAL, attribute::image));
        String space = attribute
                .metadata(UsdNetworkWriter.COLOUR_SPACE)
                .map(UsdNetworkTypes::written)
                .orElse("");
        String written =
                image.isPresent() ? "" : value.map(UsdNetworkTypes::written).orElse("");
        return new Input(type, written, link, image, space);
    }

    /** @param graph the one that the attribute's node is in, or whose output it is */
    private Optional<Link> link(Attribute attribute, Optional<SdfPath> graph) {
        return attribute.connections().stream().findFirst().map(source -> {
            SdfPath prim = source.prim();
            String property = source.name();
            if (graph.filter(prim::equals).isPresent()) {
                return new Link(Link.From.INTERFACE, property.substring(property.indexOf(':') + 1), "");
            }
            String output = property.startsWith(OUTPUTS) ? property.substring(OUTPUTS.length()) : property;
            boolean isGraph = stage.prim(prim)
                    .filter(found -> found.typeName().equals("NodeGraph"))
                    .isPresent();
            if (graph.isEmpty()) {
                wanted.add(prim);
            }
            return new Link(
                    isGraph ? Link.From.GRAPH : Link.From.NODE,
                    prim.name(),
                    output.equals("out") && !isGraph ? "" : output);
        });
    }

    private static Optional<SdfPath> connection(Prim prim, String attribute) {
        return prim.attribute(attribute).map(Attribute::connections).orElse(List.of()).stream()
                .findFirst();
    }
}
