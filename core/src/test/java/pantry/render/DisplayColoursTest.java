package pantry.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;

/** Checked against the transfer function of IEC 61966-2-1 (sRGB), as its equations say it. */
@DisplayName("Linear light on the display")
class DisplayColoursTest {
    private static double encoded(double linear) {
        double c = Math.clamp(linear, 0, 1);
        return c <= 0.0031308 ? 12.92 * c : 1.055 * Math.pow(c, 1 / 2.4) - 0.055;
    }

    @Test
    @DisplayName("is encoded to within a step of eight bits, in each channel by itself")
    void encoding() {
        for (int i = 0; i <= 1000; i++) {
            double linear = i / 1000.0;
            int argb = DisplayColours.pack(linear, linear / 2, 0);
            assertThat(argb >>> 24).isEqualTo(255);
            // The table has 4,096 steps: in the dark, one of them is nearly a whole step of the display.
            assertThat((double) (argb >> 16 & 0xff)).isCloseTo(255 * encoded(linear), within(1.6));
            assertThat((double) (argb >> 8 & 0xff)).isCloseTo(255 * encoded(linear / 2), within(1.6));
            assertThat(argb & 0xff).isZero();
        }
    }

    @Test
    @DisplayName("brighter than the display can show is white, and less than nothing black")
    void limits() {
        assertThat(DisplayColours.pack(7, 1, -3)).isEqualTo(0xFFFFFF00);
        assertThat(DisplayColours.pack(0, 0, 0)).isEqualTo(0xFF000000);
    }
}
