package pantry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import pantry.base.AtomicFiles;
import pantry.base.Parallel;
import pantry.base.Progress;
import pantry.model.Colour;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.shading.NetworkBaker;

/**
 * Measures making an image of 2048 × 2048 pixels of a network of ten nodes with its PNG, beside a loop that is written out by
 * hand for the same formulas, without the noise and without the file.
 */
public final class Baking {
    private static final int SIZE = 2048;

    private Baking() {}

    public static void main(String[] arguments) throws Exception {
        Path folder = Files.createTempDirectory("pantry-bench-");
        Pairs.header();
        try {
            for (boolean noise : new boolean[] {false, true}) {
                ShaderNetwork network = network(noise);
                Pairs.pair(
                        "a 2k image of ten nodes" + (noise ? ", one of them noise of three octaves" : ""),
                        () -> NetworkBaker.bake("Wood", network, SIZE, Long.MAX_VALUE, () -> folder, Progress.NONE),
                        "the formulas in a loop of their own, on all cores, without noise or file",
                        Baking::byHand);
            }
        } finally {
            AtomicFiles.deleteTree(folder);
        }
    }

    private static ShaderNetwork network(boolean noise) {
        Map<String, Node> nodes = new LinkedHashMap<>();
        node(nodes, "st", "texcoord", "vector2");
        node(nodes, "scaled", "multiply", "vector2", "in1", "st", "in2", "5");
        if (noise) {
            node(nodes, "grain", "fractal2d", "float", "texcoord", "scaled");
        } else {
            node(nodes, "grain", "extract", "float", "in", "scaled", "index", "1");
        }
        node(nodes, "across", "extract", "float", "in", "scaled", "index", "0");
        node(nodes, "sum", "add", "float", "in1", "grain", "in2", "across");
        node(nodes, "within", "fract", "float", "in", "sum");
        node(nodes, "edge", "smoothstep", "float", "in", "within");
        node(nodes, "dark", "invert", "float", "in", "edge");
        node(nodes, "mixed", "mix", "color3", "bg", "0.1, 0.05, 0.02", "fg", "0.5, 0.3, 0.1", "mix", "dark");
        node(nodes, "last", "clamp", "color3", "in", "mixed");
        node(nodes, "S", "standard_surface", "surfaceshader", "base_color", "last");
        return new ShaderNetwork("S", nodes, Map.of());
    }

    private static void node(Map<String, Node> nodes, String name, String category, String type, String... said) {
        Map<String, Input> inputs = new LinkedHashMap<>();
        for (int i = 0; i < said.length; i += 2) {
            Node before = nodes.get(said[i + 1]);
            inputs.put(
                    said[i],
                    before != null
                            ? Input.of(before.type(), Link.node(said[i + 1]))
                            : Input.of(said[i + 1].contains(",") ? "color3" : "float", said[i + 1]));
        }
        nodes.put(name, new Node(category, type, "", inputs));
    }

    private static void byHand() {
        float[] low = {0.1f, 0.05f, 0.02f};
        float[] high = {0.5f, 0.3f, 0.1f};
        int[] pixels = new int[SIZE * SIZE];
        Parallel.forEach(SIZE, y -> {
            float v = 5 * (1 - (y + 0.5f) / SIZE);
            for (int x = 0; x < SIZE; x++) {
                float sum = v + 5 * (x + 0.5f) / SIZE;
                float within = (float) (sum - Math.floor(sum));
                float dark = 1 - within * within * (3 - 2 * within);
                int pixel = 0xff;
                for (int c = 0; c < 3; c++) {
                    float value = Math.clamp(low[c] + (high[c] - low[c]) * dark, 0f, 1f);
                    pixel = pixel << 8 | Colour.display(value);
                }
                pixels[y * SIZE + x] = pixel;
            }
        });
    }
}
