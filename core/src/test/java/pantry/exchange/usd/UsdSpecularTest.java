package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.testing.Stages;

/** Surfaces of UsdPreviewSurface's specular workflow, as they are shown. */
class UsdSpecularTest {
    private static Material read(String inputs, String more) {
        var stage = Stages.of("""
                def Material "Made" {
                    token outputs:surface.connect = </Made/Surface.outputs:surface>
                    def Shader "Surface" {
                        uniform token info:id = "UsdPreviewSurface"
                        token outputs:surface
                        %s
                    }
                    %s
                }
                """.formatted(inputs, more));
        return UsdModelReader.material(
                stage, stage.prim(pantry.usd.SdfPath.ROOT.child("Made")).orElseThrow());
    }

    private static String image(String name) {
        return "def Shader \"" + name + "\" { uniform token info:id = \"UsdUVTexture\" asset inputs:file = @" + name
                + ".png@ float3 outputs:rgb }\n";
    }

    @Test
    void aMetalIsWhatItMirrors() {
        Material gold = read(
                "int inputs:useSpecularWorkflow = 1 color3f inputs:diffuseColor = (0, 0, 0)"
                        + " color3f inputs:specularColor = (0.9, 0.6, 0.3)",
                "");
        assertThat(gold.metallic()).isCloseTo(1, within(1e-5f));
        assertThat(gold.base().b()).isCloseTo(0.3f, within(1e-5f));
    }

    @Test
    void whatMirrorsLittleIsNoMetalAndHasTheIndexThatGivesThat() {
        Material varnish = read(
                "int inputs:useSpecularWorkflow = 1 color3f inputs:diffuseColor = (0.4, 0.2, 0.1)"
                        + " color3f inputs:specularColor = (0.04, 0.04, 0.04)",
                "");
        assertThat(varnish.metallic()).isZero();
        assertThat(varnish.base().r()).isCloseTo(0.4f, within(1e-5f));
        assertThat(varnish.finish().ior()).isCloseTo(1.5f, within(1e-4f));
    }

    /** What is black mirrors nothing; but where that is not said, it is left as it usually is. */
    @Test
    void withoutTheWordForItTheSpecularColourIsOfNoUse() {
        Material plain = read("float inputs:metallic = 0.25 color3f inputs:specularColor = (1, 1, 1)", "");
        assertThat(plain.metallic()).isEqualTo(0.25f);
        assertThat(plain.finish().ior()).isEqualTo(1.5f);
    }

    @Test
    void anImageOfWhatIsMirroredIsTheColourWhereNothingElseHasOne() {
        String specular = "color3f inputs:specularColor.connect = </Made/Mirrored.outputs:rgb>";
        Material metal = read(
                "int inputs:useSpecularWorkflow = 1 color3f inputs:diffuseColor = (0, 0, 0) " + specular,
                image("Mirrored"));
        assertThat(metal.metallic()).isEqualTo(1);
        assertThat(metal.base()).isEqualTo(Colour.WHITE);
        assertThat(metal.texture(Material.Slot.BASE).orElseThrow().name()).isEqualTo("Mirrored.png");
        Material both = read(
                "int inputs:useSpecularWorkflow = 1 color3f inputs:diffuseColor.connect = </Made/Paint.outputs:rgb> "
                        + specular,
                image("Mirrored") + image("Paint"));
        assertThat(both.metallic()).isZero();
        assertThat(both.texture(Material.Slot.BASE).orElseThrow().name()).isEqualTo("Paint.png");
        assertThat(both.finish().ior()).isEqualTo(1.5f);
    }

    @Test
    void paintThatIsAnImageStaysUnlessNearlyAllIsMirrored() {
        String start = "int inputs:useSpecularWorkflow = 1"
                + " color3f inputs:diffuseColor.connect = </Made/Paint.outputs:rgb> color3f inputs:specularColor = ";
        Material paint = read(start + "(0.05, 0.05, 0.05)", image("Paint"));
        assertThat(paint.texture(Material.Slot.BASE)).isPresent();
        assertThat(paint.metallic()).isZero();
        Material mirror = read(start + "(0.95, 0.9, 0.85)", image("Paint"));
        assertThat(mirror.texture(Material.Slot.BASE)).isEmpty();
        assertThat(mirror.metallic()).isEqualTo(1);
        assertThat(mirror.base().g()).isCloseTo(0.9f, within(1e-6f));
    }
}
