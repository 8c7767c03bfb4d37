package pantry.exchange.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static pantry.exchange.gltf.TinyGltf.FLOAT;
import static pantry.exchange.gltf.TinyGltf.UNSIGNED_BYTE;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.model.Model;
import pantry.model.Posing;
import pantry.motion.Skeleton;
import pantry.motion.Skin;
import pantry.testing.Moving;
import pantry.testing.Workshop;

/** Skins and animations of glTF 2.0, beside three's reading and skinning of the same files. */
class GltfRigTest {
    private static final double[] TIMES = {0, 0.25, 0.5, 0.8, 1, 1.6, 2};

    @TempDir
    private Path folder;

    /** A square whose upper edge hangs on a second joint, below a node that is turned and moved, with a motion of both. */
    private static TinyGltf waving(String way) {
        TinyGltf gltf = TinyGltf.square();
        int joints = gltf.accessor("VEC4", UNSIGNED_BYTE, 4, false, 0, 1, 0, 0, 0, 1, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0);
        int weights = gltf.accessor("VEC4", FLOAT, 4, false, 1, 0, 0, 0, 1, 0, 0, 0, 0.75, 0.25, 0, 0, 1, 0, 0, 0);
        // The joints were bound at the origin, and half way up.
        int inverse = gltf.accessor(
                "MAT4", FLOAT, 2, false, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0,
                1, 0, 0, -0.5, 0, 1);
        int times = gltf.accessor("SCALAR", FLOAT, 3, false, 0, 1, 2);
        boolean curved = way.equals("CUBICSPLINE");
        double half = Math.sqrt(0.5);
        int turns = curved
                ? gltf.accessor(
                        "VEC4", FLOAT, 9, false, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0.5, 0, 0, 0, half, half, 0,
                        0, 0.5, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0)
                : gltf.accessor("VEC4", FLOAT, 3, false, 0, 0, 0, 1, 0, 0, half, half, 0, 0, 0, 1);
        int moves = curved
                ? gltf.accessor(
                        "VEC3", FLOAT, 9, false, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 2, 3, 0, 1, 0, 0, 0, 0, 0, 0, 0,
                        0, 0, 0)
                : gltf.accessor("VEC3", FLOAT, 3, false, 0, 0, 0, 1, 2, 3, 0, 0, 0);
        return gltf.primitive(
                        ("\"attributes\": {\"POSITION\": 0, \"JOINTS_0\": %d, \"WEIGHTS_0\": %d}," + " \"indices\": 1")
                                .formatted(joints, weights))
                .nodes("{\"name\": \"Crate\", \"children\": [1, 2], \"translation\": [3, 1, 0], \"rotation\":"
                        + " [0, %s, 0, %s]}, {\"name\": \"Flag\", \"mesh\": 0, \"skin\": 0, \"translation\":"
                                .formatted(half, half)
                        + " [50, 0, 0]}, {\"name\": \"Foot\", \"children\": [3]}, {\"name\": \"Top\","
                        + " \"translation\": [0, 0.5, 0]}")
                .with("\"skins\": [{\"joints\": [2, 3], \"inverseBindMatrices\": %d}]".formatted(inverse))
                .with(("\"animations\": [{\"name\": \"Wave\", \"channels\": [{\"sampler\": 0, \"target\":"
                                + " {\"node\": 3, \"path\": \"rotation\"}}, {\"sampler\": 1, \"target\":"
                                + " {\"node\": 2, \"path\": \"translation\"}}], \"samplers\": [{\"input\": %d,"
                                + " \"output\": %d, \"interpolation\": \"%s\"}, {\"input\": %d, \"output\": %d,"
                                + " \"interpolation\": \"%s\"}]}]")
                        .formatted(times, turns, way, times, moves, way));
    }

    private Model read(TinyGltf gltf) throws IOException {
        return gltf.read(folder).model();
    }

    private void checkAgainstThree(TinyGltf gltf, double error) throws IOException {
        Moving.assertPosedAsThree(read(gltf), folder.resolve("tiny.gltf"), error, TIMES);
    }

    @ParameterizedTest
    @ValueSource(strings = {"LINEAR", "STEP"})
    void pointsComeToWhereThreeHasThem(String way) throws IOException {
        checkAgainstThree(waving(way), 1e-5);
    }

    /** Through the worker, as FBX and COLLADA come in: Assimp's bones, weights and channels make the same motion. */
    @Test
    void theWorkerHandsSkinsAndMotionsOver() throws IOException {
        Model model = read(waving("LINEAR"));
        try (Workshop workshop = new Workshop(folder.resolve("workshop"))) {
            Model foreign = workshop.foreign()
                    .read(folder.resolve("tiny.gltf"), FileGate.OPEN, Progress.NONE)
                    .model();
            assertThat(foreign.extras().foreign()).isEmpty();
            Posing here = Posing.of(model).orElseThrow();
            Posing there = Posing.of(foreign).orElseThrow();
            assertThat(there.skeleton().motions()).singleElement().satisfies(motion -> assertThat(motion.name())
                    .isEqualTo("Wave"));
            for (double time : TIMES) {
                List<Vec3> expected =
                        Moving.points(here.at(here.skeleton().motions().getFirst(), time));
                List<Vec3> found =
                        Moving.points(there.at(there.skeleton().motions().getFirst(), time));
                assertThat(found).hasSameSizeAs(expected);
                for (int i = 0; i < found.size(); i++) {
                    assertThat(found.get(i).minus(expected.get(i)).length()).isLessThan(1e-5);
                }
            }
        }
    }

    /** Splines become keys sixty times a second. */
    @Test
    void splinesAreFollowedClosely() throws IOException {
        checkAgainstThree(waving("CUBICSPLINE"), 1e-3);
    }

    @Test
    void whatIsSkinnedStandsAtRestWhereItsJointsHaveIt() throws IOException {
        Model model = read(waving("LINEAR"));
        Skeleton skeleton = model.extras().skeleton().orElseThrow();
        assertThat(skeleton.paths()).containsExactly("Foot", "Foot/Top");
        assertThat(model.extras().foreign()).isEmpty();
        assertThat(model.bounds().centre().minus(new Vec3(3, 1.5, -0.5)).length())
                .as("turned and moved with its joints, and not by its own node")
                .isLessThan(1e-6);
        Model rest = Posing.of(model).orElseThrow().atRest();
        for (int i = 0; i < 4; i++) {
            assertThat(Moving.points(rest)
                            .get(i)
                            .minus(Moving.points(model).get(i))
                            .length())
                    .isLessThan(1e-6);
        }
    }

    /** A thing that turns without a skin, with something else standing on it. */
    @Test
    void whatStandsOnAMovingNodeGoesWithItAsAWhole() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int times = gltf.accessor("SCALAR", FLOAT, 2, false, 0, 2);
        int turns = gltf.accessor("VEC4", FLOAT, 2, false, 0, 0, 0, 1, 0, Math.sqrt(0.5), 0, Math.sqrt(0.5));
        gltf.nodes("{\"name\": \"Mast\", \"children\": [1, 3], \"translation\": [0, 4, 0]}, {\"name\":"
                        + " \"Head\", \"children\": [2]}, {\"name\": \"Vane\", \"mesh\": 0, \"translation\":"
                        + " [1, 0, 0], \"scale\": [2, 1, 1]}, {\"name\": \"Plate\", \"mesh\": 0}")
                .with(("\"animations\": [{\"channels\": [{\"sampler\": 0, \"target\": {\"node\": 1, \"path\":"
                                + " \"rotation\"}}], \"samplers\": [{\"input\": %d, \"output\": %d}]}]")
                        .formatted(times, turns));
        Model model = read(gltf);
        assertThat(model.extras().skeleton().orElseThrow().motions().getFirst().name())
                .isEqualTo("Motion 1");
        assertThat(model.meshes()).as("the plate does not move").anyMatch(mesh -> Skin.of(mesh)
                .isEmpty());
        Posing posing = Posing.of(model).orElseThrow();
        Model half = posing.at(posing.skeleton().motions().getFirst(), 2);
        assertThat(half.bounds().min().z()).as("turned by 90°, x became -z").isCloseTo(-3, within(1e-5));
        assertThat(posing.reach(posing.skeleton().motions().getFirst()).max().x())
                .isCloseTo(3, within(1e-5));
    }

    @Test
    void wrongSkinsAreRefusedWithTheirPlace() throws IOException {
        String good = waving("LINEAR").json();
        refused(good.replace("\"joints\": [2, 3]", "\"joints\": [2, 99]"), "skins[0].joints[1]");
        refused(good.replace("\"joints\": [2, 3]", "\"joints\": []"), "has no joints");
        refused(good.replace("\"joints\": [2, 3]", "\"joints\": [2]"), "hangs on joint 1 of 1");
        refused(good.replace("\"skin\": 0", "\"skin\": 7"), "names skin 7 of 1");
        refused(good.replace("{\"name\": \"Top\"", "{\"children\": [2], \"name\": \"Top\""), "in a circle");
        refused(good.replace("LINEAR", "CUBICSPLINE"), "do not go together");
    }

    @Test
    void jointsWithoutEndAreRefused() throws IOException {
        StringBuilder nodes = new StringBuilder("{\"mesh\": 0, \"children\": [1]}");
        StringBuilder channels = new StringBuilder();
        for (int i = 1; i < 3000; i++) {
            nodes.append(i < 2999 ? ", {\"children\": [%d]}".formatted(i + 1) : ", {}");
            channels.append(i == 1 ? "" : ", ")
                    .append("{\"sampler\": 0, \"target\": {\"node\": %d, \"path\": \"translation\"}}".formatted(i));
        }
        TinyGltf gltf = TinyGltf.square().nodes(nodes.toString());
        int times = gltf.accessor("SCALAR", FLOAT, 1, false, 0);
        int moves = gltf.accessor("VEC3", FLOAT, 1, false, 0, 0, 0);
        gltf.with("\"animations\": [{\"channels\": [%s], \"samplers\": [{\"input\": %d, \"output\": %d}]}]"
                .formatted(channels, times, moves));
        refused(gltf.json(), "nested more than");
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
