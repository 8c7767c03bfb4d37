package pantry.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static pantry.testing.Stages.prim;

import java.util.Optional;
import org.junit.jupiter.api.Test;
import pantry.testing.Stages;
import pantry.usd.Value;

/** Values at times (AOUSD Core Specification 1.0, value resolution; interpolation worked out by hand). */
class TimeTest {
    private static final Stage STAGE = Stages.of("""
            def "A" {
                double d.timeSamples = { 10: 100, 20: 200, 40: 0 }
                float3 v.timeSamples = { 0: (0, 0, 0), 4: (4, 8, -4) }
                quatf q.timeSamples = { 0: (1, 0, 0, 0), 1: (0.7071067811865476, 0, 0, 0.7071067811865476) }
                float[] list.timeSamples = { 0: [0, 10], 10: [10, 0] }
                float[] grows.timeSamples = { 0: [0], 10: [10, 0] }
                int whole.timeSamples = { 0: 1, 10: 9 }
                token word.timeSamples = { 0: "a", 10: "b" }
                bool flag.timeSamples = { 0: true, 10: false }
                double gap.timeSamples = { 0: 1, 10: None, 20: 3 }
                double both = 7
                double both.timeSamples = { 0: 1 }
            }
            """);

    private static Optional<Value> at(String attribute, double time) {
        return prim(STAGE, "/A").attribute(attribute).orElseThrow().valueAt(time);
    }

    private static void isReal(String attribute, double time, double expected) {
        assertThat(at(attribute, time)).hasValueSatisfying(value -> assertThat(((Value.Real) value).value())
                .isCloseTo(expected, within(1e-12)));
    }

    @Test
    void numbersGoEvenlyFromSampleToSample() {
        isReal("d", 10, 100);
        isReal("d", 12.5, 125);
        isReal("d", 30, 100);
    }

    @Test
    void beforeTheFirstAndAfterTheLastThoseHold() {
        isReal("d", -5, 100);
        isReal("d", 99, 0);
    }

    @Test
    void vectorsGoComponentByComponentAndArraysOfOneLengthElementByElement() {
        assertThat(at("v", 1)).contains(new Value.Tuple(1, 2, -1));
        assertThat(at("list", 2.5)).contains(new Value.Floats(new float[] {2.5f, 7.5f}, 1));
        assertThat(at("grows", 5))
                .as("of different lengths, the earlier holds")
                .contains(new Value.Floats(new float[] {0}, 1));
    }

    @Test
    void quaternionsGoAlongTheSphere() {
        double[] half = ((Value.Tuple) at("q", 0.5).orElseThrow()).components();
        assertThat(half[0]).isCloseTo(Math.cos(Math.toRadians(22.5)), within(1e-6));
        assertThat(half[3]).isCloseTo(Math.sin(Math.toRadians(22.5)), within(1e-6));
    }

    @Test
    void whatHasNothingInBetweenHolds() {
        assertThat(at("whole", 9.9)).contains(new Value.Int(1));
        assertThat(at("word", 9.9)).contains(new Value.Token("a"));
        assertThat(at("flag", 10)).contains(new Value.Bool(false));
    }

    @Test
    void aBlockedSampleMeansNoValueUntilTheNext() {
        assertThat(at("gap", 15)).isEmpty();
        isReal("gap", 20, 3);
        assertThat(at("gap", 5)).contains(new Value.Real(1));
    }

    @Test
    void samplesAreHeardAtTimesAndTheDefaultWithoutOne() {
        isReal("both", 5, 1);
        assertThat(prim(STAGE, "/A").value("both")).contains(new Value.Real(7));
        assertThat(prim(STAGE, "/A").attribute("d").orElseThrow().times()).containsExactly(10.0, 20.0, 40.0);
    }
}
