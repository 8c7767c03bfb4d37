package pantry.exchange.worker;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import pantry.base.Names;
import pantry.base.math.Matrix4;

/**
 * The objects of a building as its file has them (IFC, ISO 16739): the site, its buildings, their storeys and what is in these,
 * by their own names. Assimp names each by its class, its name and its identifier, and puts a node for every relation between.
 */
final class IfcTree {
    private static final Pattern NAMED = Pattern.compile("Ifc([A-Za-z0-9]+)_(.*)_([0-9A-Za-z_$]{22})", Pattern.DOTALL);

    /** The identifier and the name of whatever has both, as ISO 10303-21 writes them. */
    private static final Pattern TOLD = Pattern.compile(
            "=\\s*IFC[A-Z0-9]+\\s*\\(\\s*'([0-9A-Za-z_$]{22})'\\s*,\\s*(?:#[0-9]+|\\$)\\s*,\\s*'((?:[^']|'')*)'");

    /** Signs beyond ASCII, by ISO 10303-21: two bytes each, or one. */
    private static final Pattern CODED =
            Pattern.compile("\\\\X2\\\\((?:[0-9A-F]{4})+)\\\\X0\\\\|\\\\X\\\\([0-9A-F]{2})");

    private static final String RELATION = "$Rel";
    private static final String MAPPED = "IfcMappedItem";
    private static final String UNNAMED = "Unnamed";

    /** So much of what stands in a building. */
    private final Map<String, Integer> kinds = new TreeMap<>();

    private final List<String> storeys = new ArrayList<>();

    /** Names by identifiers: Assimp leaves spaces and signs out. */
    private final Map<String, String> names;

    private IfcTree(Map<String, String> names) {
        this.names = names;
    }

    /** What was handed over of a building, with its objects as the file has them, and what they are told. */
    static Wire of(Path file, Wire wire) throws IOException {
        IfcTree tree = new IfcTree(names(file));
        List<Wire.WireNode> roots = tree.nodes(List.of(wire.root()), "", Matrix4.IDENTITY);
        Wire.WireNode root = roots.size() == 1
                ? roots.getFirst()
                : new Wire.WireNode(wire.root().name(), Matrix4.IDENTITY.rows(), new int[0], roots);
        List<String> told = new ArrayList<>(wire.foreign());
        if (!tree.kinds.isEmpty()) {
            told.add(tree.told());
        }
        return new Wire(
                wire.meshes(),
                wire.materials(),
                wire.embedded(),
                root,
                wire.fixtures(),
                told,
                wire.motions(),
                wire.unit(),
                wire.up());
    }

    private String told() {
        String kinds = this.kinds.entrySet().stream()
                .map(kind -> Names.counted(kind.getValue(), kind.getKey()))
                .collect(Collectors.joining(", "));
        return "properties and identifiers of " + kinds
                + (storeys.isEmpty() ? "" : " on the storeys " + String.join(", ", storeys));
    }

    private static Map<String, String> names(Path file) throws IOException {
        Map<String, String> names = new HashMap<>();
        try (BufferedReader lines = Files.newBufferedReader(file, StandardCharsets.ISO_8859_1)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                Matcher told = TOLD.matcher(line);
                while (told.find()) {
                    names.put(told.group(1), decoded(told.group(2).replace("''", "'")));
                }
            }
        }
        return names;
    }

    private static String decoded(String text) {
        return CODED.matcher(text).replaceAll(coded -> {
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
            String name = name(node, owner);
            List<Wire.WireNode> children = nodes(node.children(), name, Matrix4.IDENTITY);
            // Openings have no surface: they are cut out of their walls already.
            if (node.meshes().length > 0 || !children.isEmpty()) {
                kept.add(new Wire.WireNode(name, local.rows(), node.meshes(), children));
            }
        }
        return kept;
    }

    private String name(Wire.WireNode node, String owner) {
        Matcher named = NAMED.matcher(node.name());
        if (!named.matches()) {
            return node.name().equals(MAPPED) && !owner.isEmpty() ? owner : node.name();
        }
        String kind = words(named.group(1));
        String own = names.getOrDefault(named.group(3), named.group(2)).strip();
        String name = own.isEmpty() || own.equals(UNNAMED)
                ? kind.substring(0, 1).toUpperCase(Locale.ROOT) + kind.substring(1)
                : own;
        boolean storey = named.group(1).equals("BuildingStorey");
        if (storey) {
            storeys.add(name);
        } else if (!List.of("Site", "Building", "OpeningElement").contains(named.group(1))) {
            kinds.merge(kind, 1, Integer::sum);
        }
        return name;
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
