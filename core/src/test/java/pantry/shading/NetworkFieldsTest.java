package pantry.shading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import pantry.model.ShaderNetwork;
import pantry.model.ShaderNetwork.Graph;
import pantry.model.ShaderNetwork.Input;
import pantry.model.ShaderNetwork.Link;
import pantry.model.ShaderNetwork.Node;
import pantry.model.ShaderNetwork.Output;

/** What nodes come to, against the formulas of MaterialX's specification (version 1.39) reckoned by hand. */
class NetworkFieldsTest {
    /** Nodes that are told one after another; the surface's roughness is what the last of them comes to. */
    private final Map<String, Node> nodes = new LinkedHashMap<>();

    private String last = "";

    private NetworkFieldsTest node(String name, String category, String type, Object... inputs) {
        Map<String, Input> said = new LinkedHashMap<>();
        for (int i = 0; i < inputs.length; i += 2) {
            String key = (String) inputs[i];
            String value = (String) inputs[i + 1];
            String wanted = value.matches("[a-z].*") && nodes.containsKey(value)
                    ? nodes.get(value).type()
                    : switch (value.split(",").length) {
                        case 2 -> "vector2";
                        case 3 -> "color3";
                        case 4 -> "color4";
                        default -> "float";
                    };
            said.put(
                    key,
                    nodes.containsKey(value) || value.startsWith("missing")
                            ? Input.of(wanted, Link.node(value))
                            : Input.of(value.matches("true|false") ? "boolean" : wanted, value));
        }
        nodes.put(name, new Node(category, type, "ND_" + category + "_" + type, said));
        last = name;
        return this;
    }

    private NetworkFields fields() {
        Map<String, Node> all = new LinkedHashMap<>(nodes);
        all.put(
                "S",
                new Node(
                        "standard_surface",
                        "surfaceshader",
                        "ND_standard_surface_surfaceshader",
                        Map.of("base_color", Input.of("color3", Link.node(last)))));
        return new NetworkFields(new ShaderNetwork("S", all, Map.of()));
    }

    /** What the last node comes to at a place. */
    private float[] at(double u, double v) {
        float[] said = fields().surface("base_color", 0, 0, 0).at((float) u, (float) v);
        nodes.clear();
        return said;
    }

    private static void close(float[] found, double... wanted) {
        assertThat(found).hasSize(wanted.length);
        for (int i = 0; i < wanted.length; i++) {
            assertThat(found[i]).as("component " + i).isCloseTo((float) wanted[i], within(1e-5f));
        }
    }

    @Test
    void arithmeticGoesByComponents() {
        close(node("a", "add", "color3", "in1", "0.1, 0.2, 0.3", "in2", "0.5").at(0, 0), 0.6, 0.7, 0.8);
        close(
                node("a", "multiply", "color3", "in1", "0.1, 0.2, 0.3", "in2", "2, 3, 4")
                        .at(0, 0),
                0.2,
                0.6,
                1.2);
        close(node("a", "subtract", "float", "in1", "1", "in2", "0.75").at(0, 0), 0.25);
        close(node("a", "divide", "float", "in1", "1", "in2", "0").at(0, 0), 0);
        close(node("a", "modulo", "float", "in1", "-0.25", "in2", "1").at(0, 0), 0.75);
        close(node("a", "power", "float", "in1", "0.5", "in2", "2").at(0, 0), 0.25);
        close(node("a", "invert", "float", "in", "0.3").at(0, 0), 0.7);
        close(
                node("a", "clamp", "float", "in", "3", "low", "0.2", "high", "0.8")
                        .at(0, 0),
                0.8);
        close(
                node("a", "mix", "color3", "bg", "0, 0, 0", "fg", "1, 0.5, 0.25", "mix", "0.25")
                        .at(0, 0),
                0.25,
                0.125,
                0.0625);
        close(node("a", "smoothstep", "float", "in", "0.25").at(0, 0), 0.15625);
        close(
                node("a", "remap", "float", "in", "0.75", "inlow", "0.5", "outlow", "2", "outhigh", "4")
                        .at(0, 0),
                3);
        close(node("a", "range", "float", "in", "0.25", "gamma", "2").at(0, 0), 0.5);
        close(node("a", "contrast", "float", "in", "0.75", "amount", "2").at(0, 0), 1);
        close(node("a", "luminance", "color3", "in", "1, 1, 1").at(0, 0), 1, 1, 1);
        close(
                node("a", "dotproduct", "float", "in1", "1, 2, 3", "in2", "4, 5, 6")
                        .at(0, 0),
                32);
        close(node("a", "magnitude", "float", "in", "2, 3, 6").at(0, 0), 7);
    }

    @Test
    void partsAreTakenAndPutTogether() {
        close(node("a", "extract", "float", "in", "0.1, 0.2, 0.3", "index", "2").at(0, 0), 0.3);
        close(
                node("a", "combine3", "color3", "in1", "0.1", "in2", "0.2", "in3", "0.3")
                        .at(0, 0),
                0.1,
                0.2,
                0.3);
        close(node("a", "convert", "color3", "in", "0.4").at(0, 0), 0.4, 0.4, 0.4);
        close(
                node("a", "ifgreater", "float", "value1", "2", "value2", "1", "in1", "5", "in2", "6")
                        .at(0, 0),
                5);
        close(
                node("a", "ifequal", "float", "value1", "2", "value2", "1", "in1", "5", "in2", "6")
                        .at(0, 0),
                6);
        close(node("a", "switch", "float", "in1", "5", "in2", "6", "which", "1").at(0, 0), 6);
    }

    /** The six hues and a dark one; there and back is where it was. */
    @Test
    void coloursAreToldByTheirHue() {
        close(node("a", "rgbtohsv", "color3", "in", "1, 0, 0").at(0, 0), 0, 1, 1);
        close(node("a", "rgbtohsv", "color3", "in", "0, 0.5, 0.5").at(0, 0), 0.5, 1, 0.5);
        close(node("a", "rgbtohsv", "color3", "in", "0.2, 0.2, 0.2").at(0, 0), 0, 0, 0.2);
        close(node("a", "hsvtorgb", "color3", "in", "0.1666667, 1, 1").at(0, 0), 1, 1, 0);
        close(node("a", "hsvtorgb", "color3", "in", "0.6666667, 0.5, 0.8").at(0, 0), 0.4, 0.4, 0.8);
        close(node("a", "hsvtorgb", "color3", "in", "0.8333333, 1, 1").at(0, 0), 1, 0, 1);
        close(
                node("a", "rgbtohsv", "color3", "in", "0.7, 0.3, 0.45")
                        .node("b", "hsvtorgb", "color3", "in", "a")
                        .at(0, 0),
                0.7,
                0.3,
                0.45);
        close(
                node("a", "hsvadjust", "color3", "in", "1, 0, 0", "amount", "0.3333333, 1, 0.5")
                        .at(0, 0),
                0,
                0.5,
                0);
    }

    @Test
    void patternsLieOnTheCoordinates() {
        close(node("a", "ramplr", "float", "valuel", "2", "valuer", "4").at(0.25, 0.9), 2.5);
        close(node("a", "ramptb", "float", "valuet", "1", "valueb", "0").at(0.5, 0.75), 0.75);
        close(
                node("a", "ramp4", "float", "valuetl", "1", "valuetr", "2", "valuebl", "3", "valuebr", "4")
                        .at(1, 0),
                4);
        close(node("a", "splitlr", "float", "valuel", "1", "valuer", "2").at(0.6, 0), 2);
        close(node("a", "splittb", "float", "valuet", "1", "valueb", "2").at(0, 0.4), 2);
        close(node("a", "checkerboard", "color3", "uvtiling", "2, 2").at(0.25, 0.25), 1, 1, 1);
        close(node("a", "checkerboard", "color3", "uvtiling", "2, 2").at(0.75, 0.25), 0, 0, 0);
        // By its scale, then a quarter turn clockwise, less its offset.
        close(
                node("t", "texcoord", "vector2")
                        .node(
                                "p",
                                "place2d",
                                "vector2",
                                "texcoord",
                                "t",
                                "scale",
                                "0.5, 0.5",
                                "rotate",
                                "90",
                                "offset",
                                "0.25, 0")
                        .node("a", "combine3", "color3", "in1", "p")
                        .node("b", "extract", "float", "in", "p", "index", "0")
                        .at(0.1, 0.3),
                0.6 - 0.25);
    }

    /** Perlin's noise is nothing at whole places, and between -1 and 1 elsewhere. */
    @Test
    void noiseIsNothingAtWholePlacesAndVariesBetween() {
        close(node("a", "noise2d", "float", "pivot", "0.5").at(0, 0), 0.5);
        close(node("a", "noise2d", "float", "amplitude", "0").at(0.3, 0.7), 0);
        float least = 1;
        float most = -1;
        for (int i = 0; i < 500; i++) {
            float value = LatticeNoise.gradient(i * 0.173f, i * 0.311f, 0, true);
            assertThat(LatticeNoise.gradient(i, -i, 0, true)).isZero();
            assertThat(LatticeNoise.gradient(i, 2 * i, -i, 0, true)).isZero();
            least = Math.min(least, value);
            most = Math.max(most, value);
        }
        assertThat(least).isBetween(-1f, -0.3f);
        assertThat(most).isBetween(0.3f, 1f);
        assertThat(LatticeNoise.cell(3.2f, 4.9f))
                .isEqualTo(LatticeNoise.cell(3.9f, 4.1f))
                .isBetween(0f, 1f);
        assertThat(LatticeNoise.cell(3.2f, 4.9f)).isNotEqualTo(LatticeNoise.cell(4.2f, 4.9f));
    }

    /** Where points are in the middles of their cells, it is known how far they are. */
    @Test
    void distancesToPointsInTheMiddleOfTheirCells() {
        node("p", "constant", "vector2", "value", "3.5, -2.25");
        close(
                node("a", "worleynoise2d", "float", "texcoord", "p", "jitter", "0")
                        .at(0, 0),
                0.25);
        node("p", "constant", "vector2", "value", "7, 4");
        close(
                node("a", "worleynoise2d", "float", "texcoord", "p", "jitter", "0")
                        .at(0, 0),
                Math.sqrt(0.5));
        node("p", "constant", "vector2", "value", "0.75, 0.5");
        close(
                node("a", "worleynoise2d", "vector3", "texcoord", "p", "jitter", "0")
                        .at(0, 0),
                0.25,
                0.75,
                Math.sqrt(0.25 * 0.25 + 1));
        node("q", "constant", "vector3", "value", "5.5, 1.5, 2.1");
        close(
                node("a", "worleynoise3d", "float", "position", "q", "jitter", "0")
                        .at(0, 0),
                0.4);
    }

    /** The nearest of all points of a wide neighbourhood; each lies in its own cell, so that looking further finds none nearer. */
    @Test
    void theNearestPointIsFoundAndItsCellHasOneNumber() {
        Random random = new Random(7);
        CellDistances far = new CellDistances(2, 2, false);
        CellDistances solid = new CellDistances(2, 1, true);
        for (int trial = 0; trial < 200; trial++) {
            float x = random.nextFloat() * 40 - 20;
            float y = random.nextFloat() * 40 - 20;
            TreeMap<Double, Float> sorted = new TreeMap<>();
            for (int i = (int) x - 5; i <= x + 5; i++) {
                for (int j = (int) y - 5; j <= y + 5; j++) {
                    double px = i + LatticeNoise.unit(LatticeNoise.hash(i, j, 0));
                    double py = j + LatticeNoise.unit(LatticeNoise.hash(i, j, 1));
                    sorted.put(Math.hypot(px - x, py - y), LatticeNoise.cell(i, j));
                }
            }
            float[] found = far.at(new float[] {x, y}, 1);
            assertThat(found[0]).isCloseTo(sorted.firstKey().floatValue(), within(1e-4f));
            assertThat(found[1]).isGreaterThanOrEqualTo(found[0]);
            assertThat(solid.at(new float[] {x, y}, 1)[0])
                    .isEqualTo(sorted.firstEntry().getValue());
        }
    }

    /** B. Jenkins' lookup3, reckoned by a program of its own for the words 1, 2, 3, 4: {@code hashword(k, 4, 13)}. */
    @Test
    void fourNumbersAreHashedAsThePublishedFunctionDoes() {
        assertThat(LatticeNoise.hash(1, 2, 3, 4)).isEqualTo(0x0584dec1);
    }

    /** What is the same everywhere is not asked for at every place. */
    @Test
    void whatIsSteadyIsKnownToBe() {
        node("a", "add", "float", "in1", "1", "in2", "2").node("b", "multiply", "float", "in1", "a", "in2", "3");
        assertThat(fields().surface("base_color", 0).isSteady()).isTrue();
        node("c", "ramplr", "float", "valuel", "0", "valuer", "1").node("d", "mix", "float", "bg", "b", "mix", "c");
        assertThat(fields().surface("base_color", 0).isSteady()).isFalse();
    }

    @Test
    void graphsTakeTheInputsThatTheyAreGiven() {
        Graph graph = new Graph(
                Map.of("strength", Input.of("float", "0.5")),
                Map.of(
                        "m",
                        new Node(
                                "multiply",
                                "float",
                                "ND_multiply_float",
                                Map.of(
                                        "in1",
                                        Input.of("float", "0.5"),
                                        "in2",
                                        Input.of("float", new Link(Link.From.INTERFACE, "strength", ""))))),
                Map.of("out", new Output("float", Link.node("m"))));
        Node surface = new Node(
                "standard_surface",
                "surfaceshader",
                "",
                Map.of("specular_roughness", Input.of("float", new Link(Link.From.GRAPH, "NG", "out"))));
        NetworkFields fields = new NetworkFields(new ShaderNetwork("S", Map.of("S", surface), Map.of("NG", graph)));
        close(fields.surface("specular_roughness", 1).at(0, 0), 0.25);
        assertThat(fields.told()).isEmpty();
    }

    @Test
    void whatCannotBeEvaluatedIsTheDefaultAndIsTold() {
        node("a", "flake2d", "float").node("b", "add", "float", "in1", "a", "in2", "0.25");
        NetworkFields unknown = fields();
        close(unknown.surface("base_color", 0).at(0, 0), 0.25);
        assertThat(unknown.told()).containsExactly("nodes of the kind flake2d");
        nodes.clear();
        node("b", "add", "float", "in1", "missing", "in2", "0.25");
        NetworkFields missing = fields();
        close(missing.surface("base_color", 0).at(0, 0), 0.25);
        assertThat(missing.told()).containsExactly("a node missing that is not there");
    }

    @Test
    void circlesEndAndAreTold() {
        nodes.put("b", new Node("add", "float", "", Map.of("in1", Input.of("float", Link.node("a")))));
        nodes.put("a", new Node("add", "float", "", Map.of("in1", Input.of("float", Link.node("b")))));
        last = "a";
        NetworkFields fields = fields();
        close(fields.surface("base_color", 0).at(0, 0), 0);
        assertThat(fields.told()).singleElement().asString().contains("circle");
    }

    @Test
    void networksWithoutEndAreBounded() {
        node("n0", "constant", "float", "value", "1");
        for (int i = 1; i <= 5000; i++) {
            node("n" + i, "add", "float", "in1", "n" + (i - 1), "in2", "1");
        }
        NetworkFields deep = fields();
        deep.surface("base_color", 0).at(0, 0);
        assertThat(deep.told()).singleElement().asString().contains("one behind another");
        nodes.clear();
        Map<String, Input> many = new LinkedHashMap<>();
        for (int i = 0; i < 10_000; i++) {
            many.put("in" + i, Input.of("float", "1"));
        }
        nodes.put("wide", new Node("add", "float", "", many));
        last = "wide";
        close(fields().surface("base_color", 0).at(0, 0), 2);
    }
}
