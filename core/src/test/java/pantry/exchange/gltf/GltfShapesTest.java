package pantry.exchange.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static pantry.exchange.gltf.TinyGltf.FLOAT;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.exchange.format.ExchangeException;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Motion;
import pantry.testing.Moving;
import pantry.testing.Workshop;

/** Morph targets of glTF 2.0, beside three's reading and morphing of the same files. */
class GltfShapesTest {
    private static final double[] TIMES = {0, 0.25, 0.5, 0.8, 1};

    @TempDir
    private Path folder;

    /** A square with two shapes, which two nodes show, each with weights of its own; the second is never at 0. */
    private static TinyGltf smiling(String way) {
        TinyGltf gltf = TinyGltf.square();
        int up = gltf.accessor("VEC3", FLOAT, 4, false, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 2);
        int wide = gltf.accessor("VEC3", FLOAT, 4, false, -1, 0, 0, 1, 0, 0, 1, 0, 0, -1, 0, 0);
        int times = gltf.accessor("SCALAR", FLOAT, 2, false, 0, 1);
        int one = way.equals("CUBICSPLINE")
                ? gltf.accessor("SCALAR", FLOAT, 12, false, 0, 0, 0, 0.25, 1, 0.5, 1, 0, 1, 0.5, 0, 0)
                : gltf.accessor("SCALAR", FLOAT, 4, false, 0, 0.25, 1, 0.5);
        int other = gltf.accessor("SCALAR", FLOAT, 4, false, 1, 0, 0, 1);
        return gltf.primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"targets\": [{\"POSITION\": %d},"
                                .formatted(up)
                        + " {\"POSITION\": %d}]".formatted(wide))
                .nodes("{\"children\": [1, 2]}, {\"name\": \"Left\", \"mesh\": 0, \"translation\": [0, 0, 3]},"
                        + " {\"name\": \"Right\", \"mesh\": 0, \"translation\": [4, 0, 0], \"weights\": [0.5, 0.25]}")
                .with(("\"animations\": [{\"name\": \"Smile\", \"channels\": [{\"sampler\": 0, \"target\": {\"node\":"
                                + " 1, \"path\": \"weights\"}}, {\"sampler\": 1, \"target\": {\"node\": 2, \"path\":"
                                + " \"weights\"}}], \"samplers\": [{\"input\": %d, \"output\": %d,"
                                + " \"interpolation\": \"%s\"}, {\"input\": %d, \"output\": %d}]}]")
                        .formatted(times, one, way, times, other));
    }

    private void checkAgainstThree(TinyGltf gltf, double error) throws IOException {
        Moving.assertPosedAsThree(gltf.read(folder).model(), folder.resolve("tiny.gltf"), error, TIMES);
    }

    @ParameterizedTest
    @ValueSource(strings = {"LINEAR", "STEP"})
    void pointsComeToWhereThreeHasThem(String way) throws IOException {
        checkAgainstThree(smiling(way), 1e-5);
    }

    @Test
    void splinesAreFollowedClosely() throws IOException {
        checkAgainstThree(smiling("CUBICSPLINE"), 1e-3);
    }

    @Test
    void whatIsShownTwiceHasWeightsOfItsOwn() throws IOException {
        Model model = smiling("LINEAR").read(folder).model();
        Motion motion = model.extras().skeleton().orElseThrow().motions().getFirst();
        assertThat(motion.shapes()).containsExactly("Shape 1", "Shape 2", "Shape 1_2", "Shape 2_2");
        assertThat(model.extras().foreign()).isEmpty();
        assertThat(model.bounds().max().z()).as("at rest at its usual weights").isEqualTo(3);
        assertThat(model.bounds().min().x()).isEqualTo(0);
        assertThat(model.bounds().max().x()).isEqualTo(5.25);
    }

    /** Through the worker, as FBX comes in. */
    @Test
    void theWorkerHandsShapesOver() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int up = gltf.accessor("VEC3", FLOAT, 4, false, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 2);
        int times = gltf.accessor("SCALAR", FLOAT, 2, false, 0, 1);
        int weights = gltf.accessor("SCALAR", FLOAT, 2, false, 0, 1);
        gltf.primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"targets\": [{\"POSITION\": %d}]"
                        .formatted(up))
                .nodes("{\"name\": \"Face\", \"mesh\": 0}")
                .with(("\"animations\": [{\"name\": \"Smile\", \"channels\": [{\"sampler\": 0, \"target\": {\"node\":"
                                + " 0, \"path\": \"weights\"}}], \"samplers\": [{\"input\": %d, \"output\": %d}]}]")
                        .formatted(times, weights));
        Model here = gltf.read(folder).model();
        try (Workshop workshop = new Workshop(folder.resolve("workshop"))) {
            Model there = workshop.foreign()
                    .read(folder.resolve("tiny.gltf"), FileGate.OPEN, Progress.NONE)
                    .model();
            assertThat(there.extras().foreign()).isEmpty();
            Moving.assertComesTo(here, there, 1e-5, TIMES);
            assertThat(Posing.of(there)
                            .orElseThrow()
                            .at(
                                    there.extras()
                                            .skeleton()
                                            .orElseThrow()
                                            .motions()
                                            .getFirst(),
                                    1)
                            .bounds()
                            .max()
                            .z())
                    .isEqualTo(2);
        }
    }

    @Test
    void wrongShapesAreRefusedWithTheirPlace() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int few = gltf.accessor("VEC3", FLOAT, 3, false, 0, 0, 0, 0, 0, 0, 0, 0, 1);
        gltf.primitive(
                "\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"targets\": [{\"POSITION\": %d}]".formatted(few));
        refused(gltf.json(), "meshes[0].primitives[0].targets[0]: has 3 offsets for 4 points");
        refused(
                smiling("LINEAR").json().replace("\"weights\": [0.5, 0.25]", "\"weights\": [1e999, 0]"),
                "weight 0 is not a number or infinite");
        refused(
                smiling("LINEAR")
                        .json()
                        .replace(
                                "\"path\": \"weights\"}}, {",
                                "\"path\": \"weights\"}}, {\"sampler\": 9, \"target\": {\"node\": 1, \"path\": \"weights\"}}, {"),
                "there is no such element");
        String many =
                IntStream.range(0, 1001).mapToObj(i -> "{\"POSITION\": 0}").collect(Collectors.joining(", "));
        refused(
                TinyGltf.square()
                        .primitive(
                                "\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"targets\": [%s]".formatted(many))
                        .json(),
                "has more than 1000 morph targets");
    }

    private void refused(String json, String message) throws IOException {
        Path file = Files.writeString(folder.resolve("wrong.gltf"), json);
        Path images = Files.createDirectories(folder.resolve("images"));
        assertThatThrownBy(() -> GltfReader.read(file, FileGate.OPEN, images, Progress.NONE))
                .isInstanceOf(ExchangeException.class)
                .satisfies(problem ->
                        assertThat(((ExchangeException) problem).line()).contains(message));
    }
}
