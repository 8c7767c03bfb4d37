package pantry.exchange.materialx;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.XMLConstants;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.ParserConfigurationException;
import org.jspecify.annotations.Nullable;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;
import pantry.base.FileGate;
import pantry.base.Names;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.exchange.format.Samples;
import pantry.model.Axis;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.shading.NetworkBaker;
import pantry.shading.PartOutputs;
import pantry.shading.SurfaceInputs;

/**
 * Reads the materials of a MaterialX document: UsdPreviewSurface, standard_surface, gltf_pbr and open_pbr_surface, with the
 * networks before them. They are kept as they are said; what is drawn of them is their images as they are where nothing but
 * an image is behind an input, and otherwise images that are made of what their nodes come to.
 */
public final class MaterialXReader {
    private static final int DEEPEST = 64;

    private static final String DISPLACEMENT = "displacement";

    /** As many numbers as are reckoned for the images of a document, so that a small file cannot keep anybody waiting. */
    private static final long MOST_RECKONED = 2_000_000_000L;

    private static final List<String> SURFACES = SurfaceInputs.KINDS;

    private final Path file;
    private final FileGate gate;
    private final int size;
    private final Progress progress;
    private final Map<String, Element> byName = new HashMap<>();
    private final Set<String> told = new LinkedHashSet<>();
    private @Nullable Path folder;
    private long most = MOST_RECKONED;

    private MaterialXReader(Path file, FileGate gate, int size, Progress progress) {
        this.file = file;
        this.gate = gate;
        this.size = size;
        this.progress = progress;
    }

    /** As below, with images of the usual size. */
    public static Imported read(Path file, FileGate gate, Progress progress) {
        return read(file, gate, NetworkBaker.USUAL_SIZE, progress);
    }

    /**
     * Reads a document.
     *
     * @param size of the images that are made of networks, pixels; they are gone at the end of the process
     * @throws ExchangeException naming the line that is wrong, or saying that there is no material
     */
    public static Imported read(Path file, FileGate gate, int size, Progress progress) {
        MaterialXReader reader = new MaterialXReader(file, gate, size, progress);
        List<Material> materials = reader.materials();
        if (materials.isEmpty()) {
            return reader.part();
        }
        String name = Names.stem(file.getFileName().toString());
        return new Imported(
                file,
                Samples.balls(name, materials).with(new Model.Extras(List.of(), 0, reader.toldOf())),
                Optional.of(1.0),
                Optional.of(Axis.Y),
                List.of(),
                Imported.Holds.MATERIALS);
    }

    /** A document without surfaces whose nodes are for materials to use: the first of its graphs that is of use to one. */
    private Imported part() {
        Map<String, Graph> graphs = new NetworkReader(file, gate, document()).graphs();
        String name = graphs.keySet().stream()
                .filter(each -> !PartOutputs.of(graphs.get(each)).isEmpty())
                .findFirst()
                .orElseThrow(() -> new ExchangeException(
                        file,
                        "has no material: none of the surfaces " + String.join(", ", SURFACES)
                                + " is in it, and no group of nodes with an output for one"));
        try {
            Samples.Shown shown = Samples.part(name, graphs.get(name), size, progress);
            told.addAll(shown.told());
            List<String> foreign = new ArrayList<>(toldOf());
            List<String> others =
                    graphs.keySet().stream().filter(each -> !each.equals(name)).toList();
            if (!others.isEmpty()) {
                foreign.add("other groups of nodes, which need files of their own: " + String.join(", ", others));
            }
            return new Imported(
                    file,
                    shown.model().with(new Model.Extras(List.of(), 0, foreign)),
                    Optional.of(1.0),
                    Optional.of(Axis.Y),
                    List.of(),
                    Imported.Holds.PART);
        } catch (IOException e) {
            throw new ExchangeException(file, "the images of " + name + " cannot be written: " + e.getMessage(), e);
        }
    }

    private List<String> toldOf() {
        return told.isEmpty() ? List.of() : List.of("what its pictures do not show: " + String.join(", ", told));
    }

    private Element document() {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultNSInstance();
        try (InputStream in = Files.newInputStream(file)) {
            // Entities could read other files, or grow without end: documents that declare any are refused.
            factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
            factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            factory.setXIncludeAware(false);
            var builder = factory.newDocumentBuilder();
            builder.setErrorHandler(null);
            return builder.parse(in).getDocumentElement();
        } catch (SAXParseException e) {
            throw new ExchangeException(
                    file, "line " + e.getLineNumber(), "is no MaterialX that can be read: " + e.getMessage());
        } catch (SAXException | ParserConfigurationException | IOException e) {
            throw new ExchangeException(file, "cannot be read: " + e.getMessage(), e);
        }
    }

    private List<Material> materials() {
        Element root = document();
        if (!root.getTagName().equals("materialx")) {
            throw new ExchangeException(file, "is no MaterialX: its root is <" + root.getTagName() + ">");
        }
        List<Element> all = new ArrayList<>();
        collect(root, "", all, 0);
        long surfaces = all.stream()
                .filter(element -> SURFACES.contains(element.getTagName()))
                .count();
        most = MOST_RECKONED / Math.max(1, surfaces);
        List<Material> materials = new ArrayList<>();
        List<Element> used = new ArrayList<>();
        for (Element element : all) {
            if (element.getTagName().equals("surfacematerial")) {
                Optional<Element> surface = input(element, "surfaceshader").flatMap(this::source);
                surface.filter(s -> SURFACES.contains(s.getTagName())).ifPresent(s -> {
                    used.add(s);
                    // One that stands elsewhere than the surface, as within a graph, is not looked for there.
                    Optional<Element> displacement = input(element, "displacementshader")
                            .flatMap(this::source)
                            .filter(d -> d.getTagName().equals(DISPLACEMENT) && d.getParentNode() == s.getParentNode());
                    materials.add(material(element.getAttribute("name"), s, displacement));
                });
            }
        }
        for (Element element : all) {
            if (SURFACES.contains(element.getTagName()) && !used.contains(element)) {
                materials.add(material(element.getAttribute("name"), element, Optional.empty()));
            }
        }
        return materials;
    }

    private void collect(Element parent, String graph, List<Element> all, int depth) {
        if (depth > DEEPEST) {
            throw new ExchangeException(file, "is nested more than " + DEEPEST + " deep");
        }
        for (Element child : Elements.of(parent)) {
            if (!child.getTagName().equals("input")) {
                all.add(child);
                byName.putIfAbsent(graph + child.getAttribute("name"), child);
                String inner =
                        child.getTagName().equals("nodegraph") ? graph + child.getAttribute("name") + "/" : graph;
                collect(child, inner, all, depth + 1);
            }
        }
    }

    private static Optional<Element> input(Element node, String name) {
        return Elements.of(node).stream()
                .filter(child -> child.getAttribute("name").equals(name))
                .findFirst();
    }

    /** The node that an input is connected to. */
    private Optional<Element> source(Element input) {
        String graph = input.getAttribute("nodegraph");
        String node = input.getAttribute("nodename");
        if (!graph.isEmpty()) {
            String output = input.getAttribute("output");
            return Optional.ofNullable(byName.get(graph)).flatMap(found -> Elements.of(found).stream()
                    .filter(child -> child.getTagName().equals("output")
                            && (output.isEmpty() || child.getAttribute("name").equals(output)))
                    .findFirst()
                    .flatMap(out -> Optional.ofNullable(byName.get(graph + "/" + out.getAttribute("nodename")))));
        }
        if (node.isEmpty()) {
            return Optional.empty();
        }
        String scope = scope(input);
        return Optional.ofNullable(byName.getOrDefault(scope + node, byName.get(node)));
    }

    private static String scope(Element input) {
        StringBuilder scope = new StringBuilder();
        for (Node at = input.getParentNode(); at != null; at = at.getParentNode()) {
            if (at instanceof Element element && element.getTagName().equals("nodegraph")) {
                scope.insert(0, element.getAttribute("name") + "/");
            }
        }
        return scope.toString();
    }

    /** The material that a surface and the network before it make. */
    private Material material(String name, Element surface, Optional<Element> displacement) {
        Element around = (Element) surface.getParentNode();
        ShaderNetwork network = new NetworkReader(file, gate, around).network(surface, displacement);
        try {
            NetworkBaker.Baked baked = NetworkBaker.bake(name, network, size, most, this::folder, progress);
            told.addAll(baked.told());
            return baked.material();
        } catch (IOException e) {
            throw new ExchangeException(file, "the images of " + name + " cannot be written: " + e.getMessage(), e);
        }
    }

    /** Where images of this document are made; a folder that is made with the first of them. */
    private Path folder() throws IOException {
        Path made = folder;
        if (made == null) {
            made = Scratch.folder("baked");
            folder = made;
        }
        return made;
    }
}
