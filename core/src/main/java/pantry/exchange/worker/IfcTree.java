package pantry.exchange.worker;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.base.math.Matrix4;
import pantry.model.BuildingValues;

/**
 * The objects of a building as its file has them (IFC, ISO 16739): the site, its buildings, their storeys and what is in these,
 * by their own names. Assimp names each by its class, its name and its identifier, and puts a node for every relation between.
 */
final class IfcTree {
    private static final Pattern NAMED = Pattern.compile("Ifc([A-Za-z0-9]+)_(.*)_([0-9A-Za-z_$]{22})", Pattern.DOTALL);

    /** The identifier and the name of whatever has both, as ISO 10303-21 writes them. */
    private static final Pattern TOLD = Pattern.compile(
            "=\\s*IFC[A-Z0-9]+\\s*\\(\\s*'([0-9A-Za-z_$]{22})'\\s*,\\s*(?:#[0-9]+|\\$)\\s*,\\s*'((?:[^']|'')*)'");

    /** The name of a surface's style. */
    private static final Pattern SURFACE = Pattern.compile("=\\s*IFCSURFACESTYLE\\s*\\(\\s*'((?:[^']|'')+)'");

    private static final Pattern SIGNS = Pattern.compile("[^A-Za-z0-9]+");

    /** Signs beyond ASCII, by ISO 10303-21: two bytes each, or one. */
    private static final Pattern CODED =
            Pattern.compile("\\\\X2\\\\((?:[0-9A-F]{4})+)\\\\X0\\\\|\\\\X\\\\([0-9A-F]{2})");

    private static final String RELATION = "$Rel";
    private static final String MAPPED = "IfcMappedItem";
    private static final String UNNAMED = "Unnamed";

    /** How many have a name by now. */
    private final Map<String, Integer> given = new HashMap<>();

    /** Names by identifiers: Assimp leaves spaces and signs out. */
    private final Map<String, String> names = new HashMap<>();

    /** Names of surfaces by the plain letters and digits in them, which are left. */
    private final Map<String, String> surfaces = new HashMap<>();

    private IfcTree() {}

    /** What was handed over of a building, with its objects as the file has them. */
    static Wire of(Path file, Wire wire) throws IOException {
        IfcTree tree = new IfcTree();
        tree.readNames(file);
        List<Wire.WireNode> roots = tree.nodes(List.of(wire.root()), "", Matrix4.IDENTITY);
        Wire.WireNode root = roots.size() == 1
                ? roots.getFirst()
                : new Wire.WireNode(wire.root().name(), Matrix4.IDENTITY.rows(), new int[0], roots, Map.of());
        return new Wire(
                wire.meshes(),
                wire.materials().stream().map(tree::surface).toList(),
                wire.embedded(),
                root,
                wire.values(),
                wire.fixtures(),
                wire.foreign(),
                wire.motions(),
                wire.unit(),
                wire.up());
    }

    private Wire.WireMaterial surface(Wire.WireMaterial material) {
        String plain = bare(material.name());
        return plain.isEmpty() ? material : material.named(surfaces.getOrDefault(plain, material.name()));
    }

    private static String bare(String name) {
        return SIGNS.matcher(name).replaceAll("");
    }

    private void readNames(Path file) throws IOException {
        try (BufferedReader lines = Files.newBufferedReader(file, StandardCharsets.ISO_8859_1)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                Matcher told = TOLD.matcher(line);
                while (told.find()) {
                    names.put(told.group(1), decoded(told.group(2)));
                }
                Matcher surface = SURFACE.matcher(line);
                while (surface.find()) {
                    String name = decoded(surface.group(1)).strip();
                    surfaces.putIfAbsent(bare(name), name);
                }
            }
        }
    }

    private static String decoded(String text) {
        return CODED.matcher(text.replace("''", "'")).replaceAll(coded -> {
            String hex = coded.group(1) == null ? coded.group(2) : coded.group(1);
            int width = coded.group(1) == null ? 2 : 4;
            StringBuilder signs = new StringBuilder();
            for (int i = 0; i < hex.length(); i += width) {
                signs.append((char) Integer.parseInt(hex.substring(i, i + width), 16));
            }
            return Matcher.quoteReplacement(signs.toString());
        });
    }

    /** @param owner the name of the nearest object above that has one */
    private List<Wire.WireNode> nodes(List<Wire.WireNode> nodes, String owner, Matrix4 above) {
        List<Wire.WireNode> kept = new ArrayList<>();
        for (Wire.WireNode node : nodes) {
            Matrix4 local = Matrix4.ofRows(node.transform()).times(above);
            if (node.name().startsWith(RELATION) && node.meshes().length == 0) {
                kept.addAll(nodes(node.children(), owner, local));
                continue;
            }
            Map<String, Object> values = new LinkedHashMap<>();
            String name = name(node, owner, values);
            values.putAll(node.values());
            List<Wire.WireNode> children = nodes(node.children(), name, Matrix4.IDENTITY);
            // Openings have no surface: they are cut out of their walls already.
            if (node.meshes().length > 0 || !children.isEmpty()) {
                kept.add(new Wire.WireNode(name, local.rows(), node.meshes(), children, values));
            }
        }
        return kept;
    }

    private String name(Wire.WireNode node, String owner, Map<String, Object> values) {
        Matcher named = NAMED.matcher(node.name());
        if (!named.matches()) {
            return node.name().equals(MAPPED) && !owner.isEmpty() ? owner : node.name();
        }
        String kind = words(named.group(1));
        String own = names.getOrDefault(named.group(3), named.group(2)).strip();
        String said = own.isEmpty() || own.equals(UNNAMED)
                ? kind.substring(0, 1).toUpperCase(Locale.ROOT) + kind.substring(1)
                : own;
        String name = free(said, kind);
        values.put(BuildingValues.KIND, kind);
        values.put(BuildingValues.IDENTIFIER, named.group(3));
        return name;
    }

    /** A name that no other object has: by it, what is said of an object is found again. */
    private String free(String name, String kind) {
        if (given.putIfAbsent(name, 1) == null) {
            return name;
        }
        // A slab of the storey of its name is told by what it is; like ones are numbered.
        String told = name.equalsIgnoreCase(kind) || name.endsWith(", " + kind) ? name : name + ", " + kind;
        if (!told.equals(name)) {
            return free(told, kind);
        }
        return free(name + " " + given.merge(name, 1, Integer::sum), kind);
    }

    /** A class as words: {@code WallStandardCase} is a {@code wall}. */
    private static String words(String type) {
        String plain = type.replaceFirst("(StandardCase|ElementedCase|Element)$", "");
        return String.join(
                " ",
                Arrays.stream((plain.isEmpty() ? type : plain).split("(?<=[a-z])(?=[A-Z])"))
                        .map(word -> word.toLowerCase(Locale.ROOT))
                        .toList());
    }
}
