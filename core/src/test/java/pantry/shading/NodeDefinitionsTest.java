package pantry.shading;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.annotation.JsonIgnoreProperties;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import pantry.base.Json;
import pantry.model.ShaderNetwork.Input;
import pantry.testing.Oracle;

/** Against the table of MaterialX's node definitions that three's loader ships. */
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class NodeDefinitionsTest {
    /** What the library evaluates, and a few that it does not. */
    private static final Set<String> NODES = Set.of(
            "image",
            "tiledimage",
            "constant",
            "texcoord",
            "position",
            "place2d",
            "rotate2d",
            "normalmap",
            "noise2d",
            "noise3d",
            "fractal2d",
            "fractal3d",
            "cellnoise2d",
            "cellnoise3d",
            "worleynoise2d",
            "worleynoise3d",
            "ramplr",
            "ramptb",
            "ramp4",
            "splitlr",
            "splittb",
            "checkerboard",
            "extract",
            "separate2",
            "separate3",
            "separate4",
            "combine3",
            "convert",
            "ifgreater",
            "ifgreatereq",
            "ifequal",
            "switch",
            "add",
            "subtract",
            "multiply",
            "divide",
            "modulo",
            "power",
            "safepower",
            "min",
            "max",
            "invert",
            "mix",
            "clamp",
            "smoothstep",
            "remap",
            "range",
            "contrast",
            "luminance",
            "saturate",
            "hsvtorgb",
            "rgbtohsv",
            "hsvadjust",
            "dotproduct",
            "magnitude",
            "normalize",
            "absval",
            "sign",
            "floor",
            "ceil",
            "round",
            "fract",
            "sin",
            "cos",
            "sqrt",
            "exp",
            "ln",
            "gltf_image",
            "gltf_colorimage",
            "standard_surface",
            "gltf_pbr",
            "open_pbr_surface",
            "UsdPreviewSurface");

    /** Matrices and whole numbers are not computed with; a definition of several outputs is named by its inputs. */
    private static final Set<String> OTHER_TYPES =
            Set.of("matrix33", "matrix44", "integer", "boolean", "filename", "string");

    @JsonIgnoreProperties(ignoreUnknown = true)
    record Definition(String node, Map<String, Said> inputs, Map<String, String> outputs) {}

    @JsonIgnoreProperties(ignoreUnknown = true)
    record Said(String type, String value) {}

    private final Map<String, Definition> table = new LinkedHashMap<>();

    @BeforeAll
    void readTable() {
        Map<?, ?> all = Json.read(Oracle.run("materialx-nodes.mjs"), "nodes", Map.class);
        all.forEach(
                (name, body) -> table.put((String) name, Json.read(Json.write(body), "definition", Definition.class)));
        assertThat(table).hasSizeGreaterThan(500);
    }

    @Test
    void everyDefinitionOfTheNodesThatAreKnownIsNamedAsTheTableNamesIt() {
        Set<String> wrong = new TreeSet<>();
        Set<String> met = new TreeSet<>();
        table.forEach((name, definition) -> {
            String type = definition.outputs().size() == 1
                    ? definition.outputs().values().iterator().next()
                    : "multioutput";
            // Former versions of a definition have a number behind their names.
            boolean former = name.equals("ND_standard_surface_surfaceshader_100");
            if (NODES.contains(definition.node()) && !OTHER_TYPES.contains(type) && !former) {
                met.add(definition.node());
                Map<String, Input> inputs = new LinkedHashMap<>();
                definition.inputs().forEach((input, said) -> inputs.put(input, Input.of(said.type(), "0")));
                String named = NodeDefinitions.name(definition.node(), type, inputs);
                if (!named.equals(name)) {
                    wrong.add(name + " is named " + named);
                }
            }
        });
        assertThat(met).containsAll(NODES);
        assertThat(wrong).isEmpty();
    }

    /** What a surface is where nothing is said, for each kind. */
    @Test
    void surfacesHaveTheDefaultsOfTheTable() {
        for (String kind : SurfaceInputs.KINDS) {
            Map<String, Said> inputs =
                    table.get("ND_" + kind + "_surfaceshader").inputs();
            new SurfaceInputs(kind).usual().forEach((name, usual) -> {
                assertThat(inputs).as(kind).containsKey(name);
                String said = Optional.ofNullable(inputs.get(name).value()).orElse("0");
                // Of normals the default is that of the surface itself.
                if (!name.contains("normal")) {
                    assertThat(Float.parseFloat(said.split(",")[0]))
                            .as(kind + " " + name)
                            .isEqualTo(usual);
                }
            });
        }
    }
}
