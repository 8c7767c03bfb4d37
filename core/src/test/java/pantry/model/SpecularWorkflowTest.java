package pantry.model;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.Test;

/**
 * The conversion against the formula that the Khronos extension KHR_materials_pbrSpecularGlossiness publishes: the
 * metallic surface must reflect what the specular one does, diffuse = base (1 - 0.04) (1 - metal) / (1 - strongest specular) and
 * specular = 0.04 + (base - 0.04) metal.
 */
class SpecularWorkflowTest {
    @Test
    void aPlainSurfaceKeepsItsColour() {
        SpecularWorkflow.Metallic m =
                SpecularWorkflow.metallic(new Colour(0.2f, 0.5f, 0.7f), new Colour(0.04f, 0.04f, 0.04f));
        assertThat(m.metallic()).isCloseTo(0, within(1e-6));
        assertThat(m.base().g()).isCloseTo(0.5f, within(1e-5f));
    }

    @Test
    void aMetalTakesItsColourFromWhatItReflects() {
        SpecularWorkflow.Metallic m = SpecularWorkflow.metallic(Colour.BLACK, new Colour(0.9f, 0.6f, 0.3f));
        assertThat(m.metallic()).isCloseTo(1, within(1e-6));
        assertThat(m.base().r()).isCloseTo(0.9f, within(1e-5f));
        assertThat(m.base().b()).isCloseTo(0.3f, within(1e-5f));
    }

    /** Grey surfaces, for which the extension's metalness solves its equation exactly. */
    @Test
    void whatIsBetweenReflectsTheSame() {
        for (double specular : new double[] {0.1, 0.3, 0.5}) {
            float diffuse = 0.2f;
            float s = (float) specular;
            SpecularWorkflow.Metallic m =
                    SpecularWorkflow.metallic(new Colour(diffuse, diffuse, diffuse), new Colour(s, s, s));
            double base = diffuse * (1 - specular) / (1 - 0.04) / (1 - m.metallic());
            double reflected = 0.04 + (base - 0.04) * m.metallic();
            assertThat(reflected).as("specular " + specular).isCloseTo(specular, within(1e-4));
        }
    }

    /** Glass of 1.5 mirrors a 25th of what falls on it straight, diamond of 2.42 about 17 %. */
    @Test
    void theIndexOfRefractionIsFresnels() {
        assertThat(SpecularWorkflow.ior(0.04)).isCloseTo(1.5, within(1e-9));
        assertThat(SpecularWorkflow.ior(0.1724)).isCloseTo(2.42, within(0.005));
        assertThat(SpecularWorkflow.ior(0)).isEqualTo(1);
        assertThat(SpecularWorkflow.ior(7)).isFinite();
    }
}
