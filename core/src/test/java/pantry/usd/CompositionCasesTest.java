package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/**
 * Small scenes, one trap each, with what the AOUSD Core Specification 1.0 says comes of them (composition: strength
 * ordering LIVRPS, list editing, value resolution).
 */
class CompositionCasesTest {
    @TempDir
    private Path folder;

    /**
     * A case.
     *
     * @param layers file names and bodies; {@code main} is opened
     * @param expected attribute paths and the text of the resolved value, or prim paths and {@code there} or
     *     {@code gone}
     */
    record Case(String name, Map<String, String> layers, Map<String, String> expected) {
        @Override
        public String toString() {
            return name;
        }
    }

    private static Map<String, String> map(String... pairs) {
        Map<String, String> map = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            map.put(pairs[i], pairs[i + 1]);
        }
        return map;
    }

    private static Case of(String name, Map<String, String> layers, Map<String, String> expected) {
        return new Case(name, layers, expected);
    }

    static Stream<Case> cases() {
        return Stream.of(
                of(
                        "the first reference of a list is the strongest",
                        map(
                                "main", "def \"A\" (references = [@x@, @y@]) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int v = 2 int w = 2 }"),
                        map("/A.v", "1", "/A.w", "2")),
                of(
                        "a reference is stronger than a payload, whatever their order in the file",
                        map(
                                "main", "def \"A\" (payload = @y@ references = @x@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int v = 2 int w = 2 }"),
                        map("/A.v", "1", "/A.w", "2")),
                of(
                        "a stronger layer's prepend stands before a weaker layer's",
                        map(
                                "main", "(subLayers = [@weak@]) over \"A\" (prepend references = @x@) {}",
                                "weak", "def \"A\" (prepend references = @y@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int v = 2 int w = 2 }"),
                        map("/A.v", "1", "/A.w", "2")),
                of(
                        "an appended reference of a stronger layer is weaker than a weaker layer's",
                        map(
                                "main", "(subLayers = [@weak@]) over \"A\" (append references = @x@) {}",
                                "weak", "def \"A\" (references = @y@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 int u = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int v = 2 }"),
                        map("/A.v", "2", "/A.u", "1")),
                of(
                        "a deleted reference does not count",
                        map(
                                "main", "(subLayers = [@weak@]) over \"A\" (delete references = @y@) {}",
                                "weak", "def \"A\" (references = [@x@, @y@]) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int w = 2 }"),
                        map("/A.v", "1", "/A.w", "none")),
                of(
                        "an explicit list replaces what weaker layers say",
                        map(
                                "main", "(subLayers = [@weak@]) over \"A\" (references = @x@) {}",
                                "weak", "def \"A\" (prepend references = @y@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int w = 2 }"),
                        map("/A.v", "1", "/A.w", "none")),
                of(
                        "None as references takes all away",
                        map(
                                "main", "(subLayers = [@weak@]) over \"A\" (references = None) {}",
                                "weak", "def \"A\" (references = @x@) { int own = 5 }",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 }"),
                        map("/A.own", "5", "/A.v", "none")),
                of(
                        "a reference to a prim other than the default",
                        map(
                                "main", "def \"A\" (references = @x@</X/Inner>) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 1 def \"Inner\" { int w = 2 } }"),
                        map("/A.w", "2", "/A.v", "none")),
                of(
                        "an internal reference",
                        map(
                                "main",
                                "def \"A\" { int v = 1 def \"C\" { int c = 3 } } def \"B\" (references = </A>) { int w = 2 }"),
                        map("/B.v", "1", "/B.w", "2", "/B/C.c", "3")),
                of(
                        "references follow through several files",
                        map(
                                "main", "def \"A\" (references = @x@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" (references = @y@) { int v = 1 }",
                                "y",
                                        "(defaultPrim=\"Y\") def \"Y\" { int v = 2 int w = 2 def \"Deep\" { int d = 4 } }"),
                        map("/A.v", "1", "/A.w", "2", "/A/Deep.d", "4")),
                of(
                        "a child's own reference is found in its parent's reference",
                        map(
                                "main", "def \"A\" (references = @x@) { over \"Child\" { int mine = 9 } }",
                                "x", "(defaultPrim=\"X\") def \"X\" { def \"Child\" (references = @y@) {} }",
                                "y", "(defaultPrim=\"Y\") def \"Y\" { int d = 4 }"),
                        map("/A/Child.d", "4", "/A/Child.mine", "9")),
                of(
                        "a selection made outside decides a variant inside a reference",
                        map(
                                "main",
                                "def \"A\" (references = @x@ variants = { string s = \"two\" }) {}",
                                "x",
                                "(defaultPrim=\"X\") def \"X\" (variantSets = \"s\" variants = { string s = \"one\" })"
                                        + " { variantSet \"s\" = { \"one\" { int v = 1 } \"two\" { int v = 2 } } }"),
                        map("/A.v", "2")),
                of(
                        "without a selection outside the reference's own counts",
                        map(
                                "main",
                                "def \"A\" (references = @x@) {}",
                                "x",
                                "(defaultPrim=\"X\") def \"X\" (variantSets = \"s\" variants = { string s = \"one\" })"
                                        + " { variantSet \"s\" = { \"one\" { int v = 1 } \"two\" { int v = 2 } } }"),
                        map("/A.v", "1")),
                of(
                        "a selection that no variant has brings nothing",
                        map(
                                "main",
                                "def \"A\" (variantSets = \"s\" variants = { string s = \"nine\" }) { int own = 1"
                                        + " variantSet \"s\" = { \"one\" { int v = 1 } } }"),
                        map("/A.v", "none", "/A.own", "1")),
                of(
                        "a reference inside a variant",
                        map(
                                "main",
                                "def \"A\" (variantSets = \"s\" variants = { string s = \"on\" }) {"
                                        + " variantSet \"s\" = { \"on\" (references = @x@) { int w = 2 } \"off\" {} } }",
                                "x",
                                "(defaultPrim=\"X\") def \"X\" { int v = 1 int w = 1 }"),
                        map("/A.v", "1", "/A.w", "2")),
                of(
                        "variants nest",
                        map(
                                "main",
                                "def \"A\" (variantSets = \"s\" variants = { string s = \"on\" string t = \"b\" }) {"
                                        + " variantSet \"s\" = { \"on\" (variantSets = \"t\") {"
                                        + " variantSet \"t\" = { \"a\" { int v = 1 } \"b\" { int v = 2 } } } } }"),
                        map("/A.v", "2")),
                of(
                        "a child prim comes with its variant",
                        map(
                                "main",
                                "def \"A\" (variantSets = \"s\" variants = { string s = \"on\" }) {"
                                        + " variantSet \"s\" = { \"on\" { def \"Lamp\" { int v = 1 } } \"off\" { def \"Dark\" {} } } }"),
                        map("/A/Lamp", "there", "/A/Lamp.v", "1", "/A/Dark", "gone")),
                of(
                        "inherits bring a class's children and properties",
                        map(
                                "main",
                                "class \"C\" { int v = 1 def \"In\" { int i = 2 } } def \"A\" (inherits = </C>) {}"),
                        map("/A.v", "1", "/A/In.i", "2")),
                of(
                        "a class inside a reference is found there",
                        map(
                                "main",
                                "def \"A\" (references = @x@) {}",
                                "x",
                                "(defaultPrim=\"X\") def \"X\" { class \"C\" { int v = 1 } def \"In\" (inherits = </X/C>)"
                                        + " { int w = 2 } }"),
                        map("/A/In.v", "1", "/A/In.w", "2")),
                of(
                        "specializes is weaker than a reference",
                        map(
                                "main",
                                        "class \"C\" { int v = 1 int u = 1 } def \"A\" (specializes = </C> references = @x@) {}",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 2 }"),
                        map("/A.v", "2", "/A.u", "1")),
                of(
                        "a block hides what is weaker",
                        map(
                                "main", "def \"A\" (references = @x@) { int v = None }",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 2 }"),
                        map("/A.v", "none")),
                of(
                        "an attribute without a value does not hide what is weaker",
                        map(
                                "main", "def \"A\" (references = @x@) { int v }",
                                "x", "(defaultPrim=\"X\") def \"X\" { int v = 2 }"),
                        map("/A.v", "2")),
                of(
                        "what is inactive has no children",
                        map("main", "def \"A\" (active = false) { def \"B\" {} }"),
                        map("/A", "there", "/A/B", "gone")),
                of(
                        "a reference can be made inactive from outside",
                        map(
                                "main", "def \"A\" (references = @x@) { over \"In\" (active = false) {} }",
                                "x",
                                        "(defaultPrim=\"X\") def \"X\" { def \"In\" { def \"Deep\" {} } def \"Other\" {} }"),
                        map("/A/In", "there", "/A/In/Deep", "gone", "/A/Other", "there")),
                of(
                        "the first sublayer is stronger than the second, both weaker than the layer",
                        map(
                                "main", "(subLayers = [@a@, @b@]) over \"A\" { int u = 0 }",
                                "a", "def \"A\" { int u = 1 int v = 1 }",
                                "b", "def \"A\" { int u = 2 int v = 2 int w = 2 }"),
                        map("/A.u", "0", "/A.v", "1", "/A.w", "2")),
                of(
                        "the sublayers of a referenced layer come along",
                        map(
                                "main", "def \"A\" (references = @x@) {}",
                                "x", "(defaultPrim=\"X\" subLayers = [@y@]) over \"X\" { int v = 1 }",
                                "y", "def \"X\" { int v = 2 int w = 2 }"),
                        map("/A.v", "1", "/A.w", "2")),
                of(
                        "instances show what they share, and their own overrides inside do not count",
                        map(
                                "main",
                                "def \"A\" (references = @x@ instanceable = true) { int own = 1 over \"In\" { int i = 9 } }"
                                        + " def \"B\" (references = @x@ instanceable = true) {}",
                                "x",
                                "(defaultPrim=\"X\") def \"X\" { def \"In\" { int i = 2 } }"),
                        map("/A.own", "1", "/A/In.i", "2", "/B/In.i", "2")));
    }

    @ParameterizedTest
    @MethodSource("cases")
    void composesAsTheSpecificationSays(Case one) throws IOException {
        for (Map.Entry<String, String> layer : one.layers().entrySet()) {
            // Layers are named without endings in the cases, to keep them short.
            Files.writeString(folder.resolve(layer.getKey()), "#usda 1.0\n" + layer.getValue());
        }
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(folder.resolve("main")), layers);
        one.expected().forEach((path, expected) -> {
            SdfPath at = SdfPath.of(path);
            if (at.isProperty()) {
                String found = stage.prim(at.prim())
                        .flatMap(prim -> prim.value(at.name()))
                        .map(CompositionCasesTest::text)
                        .orElse("none");
                assertThat(found).as(path).isEqualTo(expected);
            } else {
                assertThat(stage.prim(at).isPresent() ? "there" : "gone")
                        .as(path)
                        .isEqualTo(expected);
            }
        });
        assertThat(stage.problems()).isEmpty();
    }

    private static String text(Value value) {
        return value instanceof Value.Int(long number) ? Long.toString(number) : value.toString();
    }

    /** Prims and their composed metadata, across a reference. */
    @ParameterizedTest
    @MethodSource("names")
    void metadataIsTheStrongestOpinion(String field, String expected) throws IOException {
        Files.writeString(
                folder.resolve("x"),
                "#usda 1.0\n(defaultPrim=\"X\") def Xform \"X\" (kind = \"component\" doc = \"theirs\""
                        + " prepend apiSchemas = [\"One\"]) {}");
        Files.writeString(
                folder.resolve("main"),
                "#usda 1.0\ndef \"A\" (references = @x@ doc = \"ours\" append apiSchemas = [\"Two\"]) {}");
        LayerCache layers = new LayerCache();
        Prim prim = Stage.open(layers.open(folder.resolve("main")), layers)
                .prim(SdfPath.of("/A"))
                .orElseThrow();
        String found =
                switch (field) {
                    case "type" -> prim.typeName();
                    case "kind" -> prim.kind();
                    case "schemas" -> prim.apiSchemas().toString();
                    default -> prim.text(field).orElse("");
                };
        assertThat(found).isEqualTo(expected);
    }

    static List<Object[]> names() {
        return List.of(
                new Object[] {"type", "Xform"},
                new Object[] {"kind", "component"},
                new Object[] {"doc", "ours"},
                new Object[] {"schemas", "[One, Two]"});
    }
}
