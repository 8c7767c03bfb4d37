package pantry.usd.edit;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

class PathRemappingTest {
    private static final UnaryOperator<SdfPath> MOVED =
            path -> path.replacePrefix(SdfPath.of("/A/Old"), SdfPath.of("/B/New"));

    private static String remapped(String body) {
        Layer layer = UsdaReader.read(
                ("#usda 1.0\n" + body).getBytes(StandardCharsets.UTF_8), AssetLocation.of(Path.of("test.usda")));
        PrimSpec prim = layer.rootPrims().iterator().next();
        PathRemapping.apply(prim, MOVED);
        return UsdaWriter.write(layer);
    }

    @Test
    void targetsConnectionsClassesAndInternalArcsFollow() {
        String text = remapped("""
                def Xform "A" (
                    prepend inherits = </A/Old/_class>
                    prepend references = [</A/Old>, @other.usda@</A/Old>]
                ) {
                    rel material:binding = </A/Old/Paint>
                    float size.connect = </A/Old/Shader.outputs:size>
                    def Xform "Below" {
                        rel proxyPrim = [</A/Old/Proxy>, </A/Else>]
                    }
                }
                """);
        assertThat(text)
                .contains("</B/New/_class>", "</B/New>", "</B/New/Paint>", "</B/New/Shader.outputs:size>")
                .contains("</B/New/Proxy>", "</A/Else>")
                .as("what another file calls so is not touched")
                .contains("@other.usda@</A/Old>");
    }

    @Test
    void whatVariantsSayFollowsToo() {
        String text = remapped("""
                def Xform "A" (
                    prepend variantSets = "size"
                ) {
                    variantSet "size" = {
                        "tall" {
                            def Xform "Post" {
                                rel binding = </A/Old/Paint>
                            }
                        }
                    }
                }
                """);
        assertThat(text).contains("</B/New/Paint>").doesNotContain("/A/Old");
    }
}
