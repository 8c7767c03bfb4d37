package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** Every type of the standard is read into the value that fits it, and written as it was. */
class ValueTypesTest {
    private static AttributeSpec read(String type, String value) {
        return UsdaReader.parse("#usda 1.0\ndef \"A\" { " + type + " v = " + value + " }")
                .prim(SdfPath.of("/A"))
                .orElseThrow()
                .attribute("v")
                .orElseThrow();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "bool | true | Bool",
                "uchar | 200 | Int",
                "int | -7 | Int",
                "uint | 4000000000 | Int",
                "int64 | -9007199254740993 | Int",
                "half | 0.5 | Real",
                "float | 0.1 | Real",
                "double | 0.1 | Real",
                "timecode | 24 | Real",
                "string | \"a\" | Text",
                "token | \"a\" | Token",
                "asset | @a/b.usd@ | Asset",
                "int2 | (1, 2) | Tuple",
                "half3 | (0.5, 1, 2) | Tuple",
                "float4 | (1, 2, 3, 4) | Tuple",
                "double3 | (0.1, 0.2, 0.3) | Tuple",
                "point3f | (1, 2, 3) | Tuple",
                "normal3d | (0, 1, 0) | Tuple",
                "color4f | (1, 1, 1, 0.5) | Tuple",
                "texCoord2f | (0, 1) | Tuple",
                "quatf | (1, 0, 0, 0) | Tuple",
                "matrix2d | ( (1, 2), (3, 4) ) | Tuple",
                "matrix4d | ( (1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (5, 6, 7, 1) ) | Tuple",
                "bool[] | [true, false] | Bools",
                "int[] | [1, -2, 3] | Ints",
                "uchar[] | [0, 255] | Ints",
                "int3[] | [(1, 2, 3)] | Ints",
                "uint[] | [4000000000] | Longs",
                "int64[] | [-5, 6] | Longs",
                "half[] | [0.5] | Floats",
                "float[] | [0.1, 1e-10] | Floats",
                "color3f[] | [(1, 0, 0.5)] | Floats",
                "double[] | [0.1] | Doubles",
                "double2[] | [(1, 2), (3, 4)] | Doubles",
                "matrix2d[] | [( (1, 2), (3, 4) )] | Doubles",
                "string[] | [\"a\", \"b c\"] | Strings",
                "token[] | [] | Strings",
                "asset[] | [@a@, @b@] | Strings",
                "spline | {1, 2} | Unread",
            })
    void eachTypeHasItsValueAndComesBack(String type, String text, String kind) {
        AttributeSpec attribute = read(type, text);
        assertThat(attribute.typeName()).isEqualTo(type);
        Value value = attribute.value().orElseThrow();
        assertThat(value.getClass().getSimpleName()).isEqualTo(kind);
        Layer layer = Layer.anonymous();
        layer.root().define("", "A").set(type, "v", value);
        assertThat(UsdaWriter.write(layer)).contains(type + " v = " + text);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "int | 1.5 | whole number",
                "float3 | (1, 2) | ','",
                "float3 | (1, 2, 3, 4) | ')'",
                "matrix2d | (1, 2, 3, 4) | '('",
                "bool | maybe | true or false",
                "token | name | quoted text",
                "asset | \"a.usd\" | @ signs",
                "int[] | 5 | '['",
                "float[] | [1, 2 | ']'",
                "double | 1e | exponent",
            })
    void whatDoesNotFitIsSaid(String type, String text, String words) {
        assertThatThrownBy(() -> read(type, text))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining(words);
    }

    @Test
    void singlePrecisionIsRoundedOnce() {
        // 1 + 2^-24 + 2^-60 lies just above the middle between two floats; by way of a double it would round down.
        Value.Real real =
                (Value.Real) read("float", "1.000000059604644776257986").value().orElseThrow();
        assertThat((float) real.value()).isEqualTo(Math.nextUp(1f));
    }

    @Test
    void numbersComeInManyForms() {
        Value.Doubles numbers =
                (Value.Doubles) read("double[]", "[+1, -.5, 1., 1e3, 1E-3, inf, -inf, nan, 12345678901234567890]")
                        .value()
                        .orElseThrow();
        assertThat(numbers.data())
                .containsExactly(
                        1,
                        -0.5,
                        1,
                        1000,
                        0.001,
                        Double.POSITIVE_INFINITY,
                        Double.NEGATIVE_INFINITY,
                        Double.NaN,
                        12345678901234567890.0);
    }

    @Test
    void valuesAreEqualByWhatTheyHold() {
        assertThat(new Value.Tuple(1, 2)).isEqualTo(new Value.Tuple(1, 2)).hasSameHashCodeAs(new Value.Tuple(1, 2));
        assertThat(new Value.Floats(new float[] {1, 2}, 1)).isNotEqualTo(new Value.Floats(new float[] {1, 2}, 2));
        assertThat(new Value.Ints(new int[] {1}, 1)).isEqualTo(new Value.Ints(new int[] {1}, 1));
        assertThat(new Value.Longs(new long[] {1})).isEqualTo(new Value.Longs(new long[] {1}));
        assertThat(new Value.Bools(new boolean[] {true})).isNotEqualTo(new Value.Bools(new boolean[] {false}));
        assertThat(new Value.Doubles(new double[] {1}, 1)).hasToString("Doubles[1×1]");
        assertThatThrownBy(() -> new Value.Floats(new float[4], 3)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void commentsAndSeparatorsMayStandAnywhere() {
        Layer layer = UsdaReader.parse("""
                #usda 1.0
                # a comment
                def Xform "A" # here
                {
                    # and here
                    int a = 1; int b = 2
                    // the other kind
                    int[] c = [1, # inside
                        2,
                    ]
                }
                """);
        PrimSpec prim = layer.prim(SdfPath.of("/A")).orElseThrow();
        assertThat(prim.properties()).extracting(PropertySpec::name).containsExactly("a", "b", "c");
        assertThat(prim.attribute("c").orElseThrow().value()).contains(new Value.Ints(new int[] {1, 2}, 1));
    }

    @Test
    void childrenAndPropertiesCanBeReordered() {
        String text = """
                #usda 1.0
                reorder rootPrims = ["B", "A"]
                def "A" { reorder nameChildren = ["Y", "X"] reorder properties = ["q", "p"] int p int q def "X" {} def "Y" {} }
                def "B" {}
                """;
        String written = UsdaWriter.write(UsdaReader.parse(text));
        assertThat(written)
                .contains("reorder rootPrims = [\"B\", \"A\"]")
                .contains("reorder nameChildren = [\"Y\", \"X\"]")
                .contains("reorder properties = [\"q\", \"p\"]");
        pantry.usd.compose.Stage stage =
                pantry.usd.compose.Stage.open(UsdaReader.parse(text), new pantry.usd.compose.LayerCache());
        assertThat(stage.prims().map(prim -> prim.path().toString())).containsExactly("/B", "/A", "/A/Y", "/A/X");
    }

    @Test
    void assetPathsWithAtSignsAndTextsWithEveryCharacterComeBack() {
        Layer layer = Layer.anonymous();
        PrimSpec prim = layer.root().define("", "A");
        prim.set("asset", "a", new Value.Asset("we@ird.png"));
        prim.set("string", "s", new Value.Text("tab\t quote\" back\\slash\r\n'ä€"));
        prim.set("string[]", "t", new Value.Strings(List.of("", "'", "\"")));
        PrimSpec again =
                UsdaReader.parse(UsdaWriter.write(layer)).prim(SdfPath.of("/A")).orElseThrow();
        for (String name : List.of("a", "s", "t")) {
            assertThat(again.attribute(name).orElseThrow().value())
                    .isEqualTo(prim.attribute(name).orElseThrow().value());
        }
    }

    @Test
    void nothingIsWrittenWhereTheFolderIsMissing() {
        assertThatThrownBy(() -> UsdaWriter.write(Layer.anonymous(), java.nio.file.Path.of("/no/such/folder/a.usda")))
                .isInstanceOf(UsdException.class)
                .hasMessageContaining("cannot be written");
    }
}
