package pantry.shading;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.model.ShaderNetwork.Input;

/**
 * What the nodes of MaterialX's standard library compute, after the formulas of its specification (version 1.39): those
 * that give a number, colour or vector of texture coordinates. Defaults of inputs are from memory.
 */
final class NodeLibrary {
    /** How bright a colour is, by its components: the library's default, of ACEScg. */
    private static final float[] LUMINANCE = {0.2722287f, 0.6740818f, 0.0536895f};

    private static final int MOST_OCTAVES = 16;

    private final Field.Maker make;
    private final Consumer<String> tell;
    private final ImageFields images;

    /** @param tell is told what cannot be evaluated */
    NodeLibrary(Field.Maker make, Consumer<String> tell) {
        this.make = make;
        this.tell = tell;
        this.images = new ImageFields(make, tell);
    }

    /** What a node comes to; empty, and told, where it is none that can be evaluated. */
    Optional<Field> field(NodeUse node) {
        Optional<Field> found = Optional.ofNullable(
                switch (node.category()) {
                    case "constant" -> node.all("value", 0);
                    case "dot" -> node.all("in", 0);
                    case "texcoord" -> coordinates(node);
                    case "geompropvalue" -> property(node);
                    case "hsvtorgb", "rgbtohsv", "hsvadjust" -> hued(node);
                    case "position" -> position();
                    case "image", "tiledimage", "UsdUVTexture", "gltf_image", "gltf_colorimage" ->
                        images.field(node, coordinatesOf(node));
                    case "place2d" -> place(node);
                    case "rotate2d" -> rotated(node.all("in", 0, 0), node.input("amount", 0));
                    case "normalmap" -> normal(node);
                    // The surface's own, in its own space.
                    case "normal" -> make.constant(0, 0, 1);
                    case "noise2d", "noise3d", "fractal2d", "fractal3d", "cellnoise2d", "cellnoise3d" -> noise(node);
                    case "worleynoise2d", "worleynoise3d" -> distances(node);
                    case "ramplr", "ramptb", "ramp4", "splitlr", "splittb", "checkerboard" -> pattern(node);
                    case "extract", "swizzle", "separate2", "separate3", "separate4" -> parts(node);
                    case "combine2", "combine3", "combine4", "convert" -> assembled(node);
                    case "ifgreater", "ifgreatereq", "ifequal", "switch" -> chosen(node);
                    default -> computed(node);
                });
        if (found.isEmpty()) {
            tell.accept("nodes of the kind " + node.category());
        }
        return found.map(field -> make.widened(field, Math.max(field.width(), node.width())));
    }

    private Field coordinates(NodeUse node) {
        String index = node.said("index").map(input -> input.value().strip()).orElse("0");
        if (index.matches("[0-9]")) {
            return make.coordinates(Integer.parseInt(index));
        }
        tell.accept("texture coordinates of the set " + index);
        return make.coordinates(0);
    }

    /** A value that surfaces bring: of those, texture coordinates are known by the names that they have by custom. */
    private @Nullable Field property(NodeUse node) {
        String name = node.said("geomprop").map(Input::value).orElse("").strip();
        if (name.matches("(st|UV)[0-9]")) {
            return make.coordinates(name.charAt(2) - '0');
        }
        return List.of("st", "UVMap", "map1").contains(name) ? make.coordinates(0) : null;
    }

    private Field hued(NodeUse node) {
        Field in = node.input("in", 0, 0, 0);
        Field amount = node.category().equals("hsvadjust") ? node.input("amount", 0, 1, 1) : make.constant(0, 0, 0);
        return make.of(3, List.of(make.widened(in, 3), make.widened(amount, 3)), (from, out, places) -> {
            int n = places.count;
            float[] colour = new float[3];
            for (int i = 0; i < n; i++) {
                for (int c = 0; c < 3; c++) {
                    colour[c] = from[0][c * n + i];
                }
                switch (node.category()) {
                    case "rgbtohsv" -> Hues.toHsv(colour);
                    case "hsvtorgb" -> Hues.toRgb(colour);
                    default -> {
                        Hues.toHsv(colour);
                        colour[0] += from[1][i];
                        colour[1] *= from[1][n + i];
                        colour[2] *= from[1][2 * n + i];
                        Hues.toRgb(colour);
                    }
                }
                for (int c = 0; c < 3; c++) {
                    out[c * n + i] = colour[c];
                }
            }
        });
    }

    private Field coordinatesOf(NodeUse node) {
        return node.said("texcoord").isPresent() ? node.input("texcoord", 0, 0) : make.coordinates(0);
    }

    /** An image knows no places in space: what asks for one gets its texture coordinates. */
    private Field position() {
        tell.accept("places in space, instead of which texture coordinates are taken");
        return make.widened(make.coordinates(0), 3);
    }

    private Field place(NodeUse node) {
        Field pivot = node.input("pivot", 0, 0);
        Field scale = node.input("scale", 1, 1);
        Field offset = node.input("offset", 0, 0);
        Field turn = node.input("rotate", 0);
        Field at = make.map(coordinatesOf(node), pivot, (a, b) -> a - b);
        boolean offsetFirst = node.said("operationorder")
                .filter(input -> input.value().strip().equals("1"))
                .isPresent();
        Field placed = offsetFirst
                ? make.map(rotated(make.map(at, offset, (a, b) -> a - b), turn), scale, NodeLibrary::divided)
                : make.map(rotated(make.map(at, scale, NodeLibrary::divided), turn), offset, (a, b) -> a - b);
        return make.map(placed, pivot, Float::sum);
    }

    private static float divided(float a, float b) {
        return b == 0 ? 0 : a / b;
    }

    private Field rotated(Field plane, Field degrees) {
        return make.of(2, List.of(make.widened(plane, 2), degrees), (in, out, places) -> {
            int n = places.count;
            for (int i = 0; i < n; i++) {
                double angle = Math.toRadians(in[1][i]);
                double sine = Math.sin(angle);
                double cosine = Math.cos(angle);
                out[i] = (float) (cosine * in[0][i] + sine * in[0][n + i]);
                out[n + i] = (float) (-sine * in[0][i] + cosine * in[0][n + i]);
            }
        });
    }

    /** A normal in the space of the surface, each component from -1 to 1. */
    private Field normal(NodeUse node) {
        Field scale = make.widened(node.all("scale", 1), 2);
        return make.of(3, List.of(node.input("in", 0.5f, 0.5f, 1), scale), (in, out, places) -> {
            int n = places.count;
            for (int i = 0; i < n; i++) {
                float x = (2 * in[0][i] - 1) * in[1][i];
                float y = (2 * in[0][n + i] - 1) * in[1][n + i];
                float z = 2 * in[0][2 * n + i] - 1;
                float length = (float) Math.sqrt(x * x + y * y + z * z);
                out[i] = length == 0 ? 0 : x / length;
                out[n + i] = length == 0 ? 0 : y / length;
                out[2 * n + i] = length == 0 ? 1 : z / length;
            }
        });
    }

    private Field noise(NodeUse node) {
        boolean plane = node.category().endsWith("2d");
        Field at = placeOf(node, plane);
        if (node.category().startsWith("cell")) {
            return make.of(1, List.of(at), (in, out, places) -> {
                int n = places.count;
                for (int i = 0; i < n; i++) {
                    out[i] = plane
                            ? LatticeNoise.cell(in[0][i], in[0][n + i])
                            : LatticeNoise.cell(in[0][i], in[0][n + i], in[0][2 * n + i]);
                }
            });
        }
        int wide = node.width();
        Field amplitude = make.widened(node.all("amplitude", 1), wide);
        boolean fractal = node.category().startsWith("fractal");
        Field octaves = fractal ? node.input("octaves", 3) : make.constant(1);
        // As many steps as an octave of noise takes beside a sum.
        make.addWork(20L * wide * Math.clamp((int) octaves.at(0.5f, 0.5f)[0], 1, MOST_OCTAVES));
        Field lacunarity = node.input("lacunarity", 2);
        Field diminish = node.input("diminish", 0.5f);
        Field pivot = make.widened(fractal ? make.constant(0) : node.all("pivot", 0), wide);
        return make.of(wide, List.of(at, amplitude, octaves, lacunarity, diminish, pivot), (in, out, places) -> {
            int n = places.count;
            for (int i = 0; i < n; i++) {
                for (int c = 0; c < wide; c++) {
                    out[c * n + i] = in[1][c * n + i] * octaves(in, i, n, plane, c, wide) + in[5][c * n + i];
                }
            }
        });
    }

    /** Where a noise is asked for: on the plane or in space. */
    private Field placeOf(NodeUse node, boolean plane) {
        if (plane) {
            return make.widened(coordinatesOf(node), 2);
        }
        return make.widened(node.said("position").isPresent() ? node.input("position", 0, 0, 0) : position(), 3);
    }

    private Field distances(NodeUse node) {
        int dimensions = node.category().endsWith("2d") ? 2 : 3;
        int wide = Math.min(node.width(), 3);
        boolean solid = node.input("style", 0).at(0.5f, 0.5f)[0] == 1;
        // Each of the cells around takes about as long as four steps.
        make.addWork(dimensions == 2 ? 40 : 110);
        return make.of(wide, List.of(placeOf(node, dimensions == 2), node.input("jitter", 1)), (in, out, places) -> {
            int n = places.count;
            CellDistances cells = new CellDistances(dimensions, wide, solid);
            float[] at = new float[dimensions];
            for (int i = 0; i < n; i++) {
                for (int axis = 0; axis < dimensions; axis++) {
                    at[axis] = in[0][axis * n + i];
                }
                float[] found = cells.at(at, in[1][i]);
                for (int c = 0; c < wide; c++) {
                    out[c * n + i] = found[c];
                }
            }
        });
    }

    private static float octaves(float[][] in, int i, int n, boolean plane, int component, int wide) {
        int count = Math.clamp((int) in[2][i], 0, MOST_OCTAVES);
        float sum = 0;
        float strength = 1;
        float fine = 1;
        for (int octave = 0; octave < count; octave++) {
            float x = in[0][i] * fine;
            float y = in[0][n + i] * fine;
            sum += strength
                    * (plane
                            ? LatticeNoise.gradient(x, y, component, wide == 1)
                            : LatticeNoise.gradient(x, y, in[0][2 * n + i] * fine, component, wide == 1));
            strength *= in[4][i];
            fine *= in[3][i];
        }
        return sum;
    }

    private Field pattern(NodeUse node) {
        Field at = coordinatesOf(node);
        Field u = make.component(at, 0);
        Field v = make.component(at, 1);
        return switch (node.category()) {
            case "ramplr" -> mixed(node.all("valuel", 0), node.all("valuer", 0), unit(u));
            case "ramptb" -> mixed(node.all("valueb", 0), node.all("valuet", 0), unit(v));
            case "ramp4" ->
                mixed(
                        mixed(node.all("valuebl", 0), node.all("valuebr", 0), unit(u)),
                        mixed(node.all("valuetl", 0), node.all("valuetr", 0), unit(u)),
                        unit(v));
            case "splitlr" ->
                mixed(
                        node.all("valuel", 0),
                        node.all("valuer", 0),
                        make.map(u, node.input("center", 0.5f), (a, b) -> a < b ? 0f : 1f));
            case "splittb" ->
                mixed(
                        node.all("valueb", 0),
                        node.all("valuet", 0),
                        make.map(v, node.input("center", 0.5f), (a, b) -> a < b ? 0f : 1f));
            default -> {
                Field tiled = make.map(
                        make.map(at, node.input("uvtiling", 8, 8), (a, b) -> a * b),
                        node.input("uvoffset", 0, 0),
                        (a, b) -> a - b);
                Field odd = make.map(make.component(tiled, 0), make.component(tiled, 1), (a, b) ->
                        (float) Math.floorMod((int) Math.floor(a) + (int) Math.floor(b), 2));
                yield mixed(node.all("color1", 1, 1, 1), node.all("color2", 0, 0, 0), odd);
            }
        };
    }

    private Field unit(Field field) {
        return make.map(field, a -> Math.clamp(a, 0f, 1f));
    }

    private Field mixed(Field none, Field all, Field share) {
        return make.map(none, all, share, (a, b, t) -> a + (b - a) * t);
    }

    private @Nullable Field parts(NodeUse node) {
        Field in = node.all("in", 0);
        if (node.category().equals("extract")) {
            return make.component(in, (int) node.input("index", 0).at(0, 0)[0]);
        }
        String letters = node.category().equals("swizzle")
                ? node.said("channels").map(Input::value).orElse("").strip()
                : node.output().isEmpty()
                        ? ""
                        : node.output().substring(node.output().length() - 1);
        List<Field> parts = new ArrayList<>();
        for (char letter : letters.toCharArray()) {
            int which = Math.max("rgba".indexOf(letter), "xyzw".indexOf(letter));
            if (which < 0 && letter != '0' && letter != '1') {
                return null;
            }
            parts.add(which < 0 ? make.constant(letter - '0') : make.component(in, which));
        }
        return parts.isEmpty() ? null : make.together(parts);
    }

    private Field assembled(NodeUse node) {
        if (node.category().equals("convert")) {
            Field in = node.all("in", 0);
            int wide = node.width();
            return in.width() <= wide
                    ? make.widened(in, wide)
                    : make.of(wide, List.of(in), (a, out, places) -> System.arraycopy(a[0], 0, out, 0, out.length));
        }
        int count = node.category().charAt(node.category().length() - 1) - '0';
        List<Field> parts = new ArrayList<>();
        for (int i = 1; i <= count; i++) {
            parts.add(node.all("in" + i, 0));
        }
        return make.together(parts);
    }

    private Field chosen(NodeUse node) {
        if (node.category().equals("switch")) {
            int which = Math.clamp((int) node.input("which", 0).at(0, 0)[0], 0, 9);
            return node.all("in" + (which + 1), 0);
        }
        String kind = node.category();
        // Of "greater" the first value is usual, of "equal" the second.
        Field first = node.input("value1", kind.equals("ifequal") ? 0 : 1);
        Field second = node.input("value2", 0);
        Field met = make.map(first, second, (a, b) -> switch (kind) {
            case "ifgreater" -> a > b ? 1f : 0f;
            case "ifgreatereq" -> a >= b ? 1f : 0f;
            default -> a == b ? 1f : 0f;
        });
        return make.map(met, node.all("in1", 0), node.all("in2", 0), (yes, a, b) -> yes > 0 ? a : b);
    }

    /** What is computed number by number, or of a vector's numbers together. */
    private @Nullable Field computed(NodeUse node) {
        return switch (node.category()) {
            case "add" -> make.map(node.all("in1", 0), node.all("in2", 0), Float::sum);
            case "subtract" -> make.map(node.all("in1", 0), node.all("in2", 0), (a, b) -> a - b);
            case "multiply" -> make.map(node.all("in1", 0), node.all("in2", 1), (a, b) -> a * b);
            case "divide" -> make.map(node.all("in1", 0), node.all("in2", 1), NodeLibrary::divided);
            case "modulo" ->
                make.map(
                        node.all("in1", 0),
                        node.all("in2", 1),
                        (a, b) -> b == 0 ? 0 : (float) (a - b * Math.floor(a / b)));
            case "power" -> make.map(node.all("in1", 0), node.all("in2", 1), (a, b) -> finite(Math.pow(a, b)));
            case "safepower" ->
                make.map(
                        node.all("in1", 0),
                        node.all("in2", 1),
                        (a, b) -> Math.signum(a) * finite(Math.pow(Math.abs(a), b)));
            case "min" -> make.map(node.all("in1", 0), node.all("in2", 0), Math::min);
            case "max" -> make.map(node.all("in1", 0), node.all("in2", 0), Math::max);
            case "invert" -> make.map(node.all("amount", 1), node.all("in", 0), (a, b) -> a - b);
            case "mix" -> mixed(node.all("bg", 0), node.all("fg", 0), node.all("mix", 0));
            case "clamp" ->
                make.map(
                        node.all("in", 0),
                        node.all("low", 0),
                        node.all("high", 1),
                        (a, low, high) -> Math.max(low, Math.min(high, a)));
            case "smoothstep" ->
                make.map(node.all("in", 0), node.all("low", 0), node.all("high", 1), NodeLibrary::smooth);
            case "remap", "range" -> ranged(node);
            case "contrast" ->
                make.map(
                        node.all("in", 0),
                        node.all("amount", 1),
                        node.all("pivot", 0.5f),
                        (a, by, pivot) -> (a - pivot) * by + pivot);
            case "luminance" -> luminance(node);
            case "saturate" -> mixed(luminance(node), node.input("in", 0, 0, 0), node.input("amount", 1));
            case "dotproduct" -> sum(make.map(node.all("in1", 0), node.all("in2", 0), (a, b) -> a * b), a -> a);
            case "magnitude" -> length(node.all("in", 0));
            case "normalize" -> make.map(node.all("in", 0), length(node.all("in", 0)), NodeLibrary::divided);
            case "absval" -> make.map(node.all("in", 0), a -> Math.abs(a));
            case "sign" -> make.map(node.all("in", 0), a -> Math.signum(a));
            case "floor" -> make.map(node.all("in", 0), a -> (float) Math.floor(a));
            case "ceil" -> make.map(node.all("in", 0), a -> (float) Math.ceil(a));
            case "round" -> make.map(node.all("in", 0), a -> (float) Math.floor(a + 0.5));
            case "fract" -> make.map(node.all("in", 0), a -> (float) (a - Math.floor(a)));
            case "sin" -> make.map(node.all("in", 0), a -> (float) Math.sin(a));
            case "cos" -> make.map(node.all("in", 0), a -> (float) Math.cos(a));
            case "sqrt" -> make.map(node.all("in", 0), a -> (float) Math.sqrt(Math.max(0, a)));
            case "exp" -> make.map(node.all("in", 0), a -> finite(Math.exp(a)));
            case "ln" -> make.map(node.all("in", 1), a -> finite(Math.log(a)));
            default -> null;
        };
    }

    private static float finite(double number) {
        return Double.isFinite(number) ? (float) number : 0;
    }

    private static float smooth(float a, float low, float high) {
        if (a <= low) {
            return 0;
        }
        if (a >= high) {
            return 1;
        }
        float t = (a - low) / (high - low);
        return t * t * (3 - 2 * t);
    }

    private Field ranged(NodeUse node) {
        Field low = node.all("inlow", 0);
        Field share = make.map(
                make.map(node.all("in", 0), low, (a, b) -> a - b),
                make.map(node.all("inhigh", 1), low, (a, b) -> a - b),
                NodeLibrary::divided);
        Field outLow = node.all("outlow", 0);
        Field outHigh = node.all("outhigh", 1);
        if (node.category().equals("remap")) {
            return mixed(outLow, outHigh, share);
        }
        Field bent = make.map(
                share,
                node.all("gamma", 1),
                (a, gamma) -> Math.signum(a) * finite(Math.pow(Math.abs(a), gamma == 0 ? 1 : 1 / gamma)));
        Field out = mixed(outLow, outHigh, bent);
        boolean clamps = node.said("doclamp")
                .filter(input -> input.value().strip().equals("true"))
                .isPresent();
        return clamps
                ? make.map(out, outLow, outHigh, (a, lowest, highest) -> Math.max(lowest, Math.min(highest, a)))
                : out;
    }

    private Field luminance(NodeUse node) {
        Field weights = node.input("lumacoeffs", LUMINANCE);
        return sum(make.map(node.input("in", 0, 0, 0), weights, (a, b) -> a * b), a -> a);
    }

    private Field length(Field field) {
        return sum(make.map(field, a -> a * a), a -> (float) Math.sqrt(a));
    }

    private Field sum(Field field, Field.Unary then) {
        return make.of(1, List.of(field), (in, out, places) -> {
            int n = places.count;
            for (int i = 0; i < n; i++) {
                float sum = 0;
                for (int c = 0; c < field.width(); c++) {
                    sum += in[0][c * n + i];
                }
                out[i] = then.of(sum);
            }
        });
    }
}
