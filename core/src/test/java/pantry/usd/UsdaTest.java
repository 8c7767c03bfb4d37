package pantry.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

class UsdaTest {
    private static final String RICH = """
            #usda 1.0
            (
                "a station"
                defaultPrim = "World"
                metersPerUnit = 0.01
                upAxis = "Z"
                customLayerData = {
                    string made = "by hand"
                    dictionary inner = {
                        float3[] spots = [(1, 2, 3)]
                    }
                }
                subLayers = [
                    @./below.usda@ (offset = 10; scale = 2)
                ]
            )

            def Xform "World" (
                prepend apiSchemas = ["GeomModelAPI"]
                kind = "assembly"
                prepend references = [@../mast.usda@</Mast>, </Class>]
                delete payload = @old.usda@
                variants = {
                    string size = "tall"
                }
                prepend variantSets = "size"
                someFuture = [1, 2, ("x")]
            )
            {
                custom double height = 1.5 (
                    doc = "metres"
                )
                float3[] extent = [(-1, 0, -1), (1, 0.1, 1e10)]
                matrix4d xformOp:transform = ( (1, 0, 0, 0), (0, 1, 0, 0), (0, 0, 1, 0), (0, 0, 0, 1) )
                uniform token[] xformOpOrder = ["xformOp:transform"]
                quatf turn = (1, 0, 0, 0)
                double level.timeSamples = {
                    0: 1,
                    24: None,
                }
                color3f inputs:tint.connect = </World/Paint.outputs:out>
                asset picture = @./a b.png@
                newKind strange = <|anything|>
                rel target = [</World/A>, </World/B>]
                prepend rel more = </World/A>
                bool seen = true
                string text = "two\\nlines and \\"quotes\\""

                over "Inner"
                {
                }

                class "Class"
                {
                }
                variantSet "size" = {
                    "short" {
                    }
                    "tall" (
                        kind = "component"
                    ) {
                        double height = 9

                        def Sphere "Ball"
                        {
                        }
                    }
                }
            }
            """;

    @Test
    void whatIsReadIsWrittenAgainAndReadTheSame() {
        Layer first = UsdaReader.parse(RICH.replace("<|anything|>", "(1, 2)"));
        String written = UsdaWriter.write(first);
        assertThat(UsdaWriter.write(UsdaReader.parse(written))).isEqualTo(written);
        PrimSpec world = first.prim(SdfPath.of("/World")).orElseThrow();
        assertThat(world.metadata().get("someFuture")).isEqualTo(new Value.Unread("[1, 2, (\"x\")]"));
        assertThat(world.attribute("strange").orElseThrow().value()).contains(new Value.Unread("(1, 2)"));
        assertThat(world.attribute("text").orElseThrow().value()).contains(new Value.Text("two\nlines and \"quotes\""));
        assertThat(world.attribute("level").orElseThrow().timeSamples().at(24.0))
                .contains(new Value.Block());
        assertThat(first.prim(SdfPath.of("/World{size=tall}Ball"))).isPresent();
        assertThat(first.subLayers()).containsExactly(new Layer.SubLayer("./below.usda", new LayerOffset(10, 2)));
        assertThat(written).contains("someFuture = [1, 2, (\"x\")]").contains("delete payload = @old.usda@");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "#usda 1.0\\ndef Xform \"A\" { | line 2 | '}' after the contents",
                "#usda 1.0\\ndef Xform \"A\"\\n{ float3 p = (1, 2) } | line 3 | ',' between",
                "#usda 1.0\\ndef Xform \"A\" { int n = x } | line 2, column 25 | a whole number",
                "#usda 1.0\\ndef \"A\" {} def \"A\" {} | line 2 | two prims",
                "#usda 1.0\\ndef \"A\" { string s = \"open } | line 2 | does not end",
                "#usda 1.0\\ndef \"A\" { rel r = <B C> | line 2 | ",
                "PLY | line 1 | #usda 1.0",
            })
    void errorsSayLineAndWhatWasExpected(String text, String place, String words) {
        assertThatThrownBy(() -> UsdaReader.parse(text.replace("\\n", "\n")))
                .isInstanceOfSatisfying(UsdException.class, e -> {
                    assertThat(e.place().orElse("")).startsWith(place);
                    if (words != null) {
                        assertThat(e.getMessage()).contains(words);
                    }
                });
    }

    @Test
    void deepNestingIsRefusedRatherThanOverflowing() {
        String prims = "#usda 1.0\n" + "def \"A\" {\n".repeat(20_000);
        assertThatThrownBy(() -> UsdaReader.parse(prims)).isInstanceOf(UsdException.class);
        String dictionaries = "#usda 1.0\n( customLayerData = " + "{ dictionary a = ".repeat(20_000);
        assertThatThrownBy(() -> UsdaReader.parse(dictionaries)).isInstanceOf(UsdException.class);
    }

    /** Bytes changed, cut and doubled at random: the only failure is the declared one. */
    @Property(tries = 3000)
    void damagedLayersFailOnlyAsDeclared(@ForAll long seed) {
        Random random = new Random(seed);
        byte[] bytes = RICH.getBytes(StandardCharsets.UTF_8);
        for (int i = random.nextInt(6); i >= 0; i--) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(128);
        }
        int length = random.nextBoolean() ? bytes.length : random.nextInt(bytes.length);
        try {
            UsdaReader.parse(new String(bytes, 0, length, StandardCharsets.UTF_8));
        } catch (UsdException e) {
            assertThat(e.line()).isNotBlank();
        }
    }

    @Property(tries = 2000)
    void everyDoubleAndFloatComesBackToTheBit(@ForAll double number, @ForAll float single) {
        Layer layer = Layer.anonymous();
        PrimSpec prim = layer.root().define("", "A");
        prim.set("double", "d", new Value.Real(number));
        prim.set("float[]", "f", new Value.Floats(new float[] {single, -single}, 1));
        PrimSpec read =
                UsdaReader.parse(UsdaWriter.write(layer)).prim(SdfPath.of("/A")).orElseThrow();
        assertThat(read.attribute("d").orElseThrow().value()).contains(new Value.Real(number));
        assertThat(read.attribute("f").orElseThrow().value())
                .contains(new Value.Floats(new float[] {single, -single}, 1));
    }
}
