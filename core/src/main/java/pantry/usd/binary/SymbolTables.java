package pantry.usd.binary;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import pantry.usd.SdfPath;

/** The tokens, strings and paths of a file that is being written, by number. */
final class SymbolTables {
    private final Map<String, Integer> tokens = new LinkedHashMap<>();
    private final Map<String, Integer> strings = new LinkedHashMap<>();
    private final List<Integer> stringTokens = new ArrayList<>();
    private final PathNode root = new PathNode("", false, 0);
    private int pathCount = 1;
    private int emptyPath = -1;

    /** One element of a path, and what is below it. */
    private static final class PathNode {
        final String element;
        final boolean property;
        final int number;
        final Map<String, PathNode> children = new LinkedHashMap<>(2);

        PathNode(String element, boolean property, int number) {
            this.element = element;
            this.property = property;
            this.number = number;
        }
    }

    SymbolTables() {
        // Properties are told by a negative token, so that no name may be token 0.
        token(";-)");
    }

    int token(String text) {
        return tokens.computeIfAbsent(text, t -> tokens.size());
    }

    int string(String text) {
        Integer known = strings.get(text);
        if (known == null) {
            known = strings.size();
            strings.put(text, known);
            stringTokens.add(token(text));
        }
        return known;
    }

    int path(SdfPath path) {
        PathNode node = root;
        for (SdfPath.Element element : path.elements()) {
            node = switch (element) {
                case SdfPath.Element.Child(String name) -> below(node, name, false);
                case SdfPath.Element.Variant(String set, String selection) ->
                    below(node, "{" + set + "=" + selection + "}", false);
            };
        }
        return path.isProperty() ? below(node, path.name(), true).number : node.number;
    }

    private PathNode below(PathNode parent, String element, boolean property) {
        return parent.children.computeIfAbsent(property ? "." + element : element, key -> {
            token(element);
            return new PathNode(element, property, pathCount++);
        });
    }

    /** The number of a path, or of the empty one. */
    int path(Optional<SdfPath> path) {
        if (path.isPresent()) {
            return path(path.get());
        }
        if (emptyPath < 0) {
            emptyPath = pathCount++;
        }
        return emptyPath;
    }

    int tokenCount() {
        return tokens.size();
    }

    /** All tokens, each with a zero behind it. */
    byte[] tokenText() {
        ByteArrayOutputStream text = new ByteArrayOutputStream();
        for (String token : tokens.keySet()) {
            text.writeBytes(token.getBytes(StandardCharsets.UTF_8));
            text.write(0);
        }
        return text.toByteArray();
    }

    List<Integer> stringTokens() {
        return stringTokens;
    }

    /** How many paths there are, the empty one included. */
    int pathCount() {
        return pathCount;
    }

    /** The paths depth first, as {@link Tables} reads them. */
    record Coded(int[] numbers, int[] elements, int[] jumps) {}

    Coded codedPaths() {
        int count = emptyPath < 0 ? pathCount : pathCount - 1;
        Coded coded = new Coded(new int[count], new int[count], new int[count]);
        code(root, 0, false, coded);
        return coded;
    }

    /** Codes a path and all below it; returns the position behind them. */
    private int code(PathNode node, int position, boolean siblingFollows, Coded coded) {
        coded.numbers[position] = node.number;
        int token = node == root ? 0 : token(node.element);
        coded.elements[position] = node.property ? -token : token;
        int next = position + 1;
        int left = node.children.size();
        for (PathNode child : node.children.values()) {
            next = code(child, next, --left > 0, coded);
        }
        boolean children = !node.children.isEmpty();
        coded.jumps[position] = siblingFollows ? (children ? next - position : 0) : (children ? -1 : -2);
        return next;
    }
}
