package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import pantry.base.Json;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.mesh.Shapes;
import pantry.model.Facts;
import pantry.model.Model;
import pantry.scene.Scene;
import pantry.testing.Bunny;
import pantry.testing.Oracle;
import pantry.testing.Workshop;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.compose.Flattener;
import pantry.usd.schema.TransformComponents;
import pantry.usd.text.UsdaReader;

/** What Pantry reads and writes, against programs and data that its authors did not make. */
@Tag("oracle")
class OutsideChecksTest {
    @TempDir
    private Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"glb", "obj", "stl"})
    void theBunnyIsReceivedWithTheCountsAndBoundsThatThePackageGives(String ending) {
        Bunny bunny = Bunny.read();
        try (Workshop workshop = new Workshop(folder)) {
            Path file = folder.resolve("bunny." + ending);
            ModelWriters.write(Workshop.model("Bunny", bunny.mesh()), file);
            Imported arrival = workshop.intake().read(file, Progress.NONE);
            Asset asset = workshop.intake()
                    .shelve(arrival, Workshop.slip("Bunny", "Animals"), workshop.library(), Progress.NONE)
                    .published()
                    .asset();
            Facts facts = asset.facts("v001");
            assertThat(facts.triangles()).isEqualTo(bunny.triangles());
            if (!ending.equals("glb")) {
                // glTF has one normal for each point, and so more points where the surface is creased.
                assertThat(facts.vertices()).isEqualTo(bunny.points());
            }
            assertThat(facts.parts()).isEqualTo(1);
            for (int axis = 0; axis < 3; axis++) {
                assertThat(facts.bounds().min()[axis])
                        .isCloseTo(bunny.mesh().bounds().min().get(axis), within(1e-6));
                assertThat(facts.bounds().max()[axis])
                        .isCloseTo(bunny.mesh().bounds().max().get(axis), within(1e-6));
            }
        }
    }

    private Scene scene(Workshop workshop) {
        Asset ball = workshop.intake()
                .shelve(
                        Workshop.model("Ball", Shapes.sphere(0.5, 12, 6)),
                        Workshop.slip("Ball", "Round/Things"),
                        workshop.library(),
                        Progress.NONE)
                .asset();
        Asset post = workshop.block("Post", "Square", 3);
        Scene scene = workshop.newScene(folder.resolve("yard.usda"));
        for (int i = 0; i < 4; i++) {
            TransformComponents placing =
                    new TransformComponents(new Vec3(i * 2.5, 0, -i), new Vec3(0, 30 * i, 5), new Vec3(1, 1 + i, 1));
            Optional<String> pin = i % 2 == 0 ? Optional.of("v001") : Optional.empty();
            scene.placements().place(i < 2 ? ball : post, pin, i < 2 ? "Ball" : "Post", placing, Optional.empty());
        }
        scene.save();
        return scene;
    }

    @Test
    void tinyusdzComposesTheSavedSceneToWhatFlattenGives() {
        try (Workshop workshop = new Workshop(folder)) {
            Scene scene = scene(workshop);
            Layer theirs =
                    UsdaReader.parse(Oracle.run("compose.mjs", scene.file().toString()));
            Layer ours = Flattener.flatten(
                    workshop.openScene(scene.file()).stage(), Flattener.Instances.EXPANDED, scene.file());
            List<String> paths = new ArrayList<>();
            compare(ours.root(), theirs.root(), SdfPath.ROOT, paths);
            assertThat(paths).hasSizeGreaterThan(20).contains("/yard/Post_2/Body", "/yard/Ball/Materials/Red/Surface");
        }
    }

    private static void compare(PrimSpec ours, PrimSpec theirs, SdfPath path, List<String> paths) {
        assertThat(ours.children())
                .extracting(PrimSpec::name)
                .as("prims below " + path)
                .containsExactlyInAnyOrderElementsOf(
                        theirs.children().stream().map(PrimSpec::name).toList());
        for (PrimSpec child : ours.children()) {
            PrimSpec other = theirs.child(child.name()).orElseThrow();
            SdfPath at = path.child(child.name());
            paths.add(at.toString());
            assertThat(child.typeName()).as("type of " + at).isEqualTo(other.typeName());
            other.properties().forEach(property -> {
                if (property instanceof AttributeSpec attribute
                        && attribute.value().isPresent()) {
                    Value expected = attribute.value().get();
                    Value found = child.attribute(attribute.name())
                            .flatMap(AttributeSpec::value)
                            .orElseThrow(() -> new AssertionError(at + " lacks " + attribute.name()));
                    assertThat(near(found, expected))
                            .as(at + "." + attribute.name() + ": " + found + " and " + expected)
                            .isTrue();
                }
            });
            compare(child, other, at, paths);
        }
    }

    /** Equal but for the last digit of a single-precision number, which is printed differently. */
    private static boolean near(Value a, Value b) {
        return switch (a) {
            case Value.Floats f -> {
                if (!(b instanceof Value.Floats g) || f.data().length != g.data().length) {
                    yield false;
                }
                for (int i = 0; i < f.data().length; i++) {
                    if (Math.abs(f.data()[i] - g.data()[i]) > 1e-6f * Math.max(1, Math.abs(f.data()[i]))) {
                        yield false;
                    }
                }
                yield true;
            }
            case Value.Tuple t -> {
                if (!(b instanceof Value.Tuple u) || t.components().length != u.components().length) {
                    yield false;
                }
                for (int i = 0; i < t.components().length; i++) {
                    if (Math.abs(t.components()[i] - u.components()[i]) > 1e-6) {
                        yield false;
                    }
                }
                yield true;
            }
            case Value.Real(double x) -> b instanceof Value.Real(double y) && Math.abs(x - y) < 1e-6;
            default -> a.equals(b);
        };
    }

    private record GltfReport(
            int errors, int warnings, List<String> messages, int meshes, long drawn, double[] min, double[] max) {}

    @Test
    void theGlbOfASceneIsValidAndHasTheSameCountsAndBounds() throws IOException {
        try (Workshop workshop = new Workshop(folder)) {
            Model model = scene(workshop).model();
            Path file = folder.resolve("yard.glb");
            ModelWriters.write(model, file);
            GltfReport report = Json.read(Oracle.run("validate-gltf.mjs", file.toString()), "report", GltfReport.class);
            assertThat(report.errors()).as(String.join("; ", report.messages())).isZero();
            assertThat(report.drawn()).isEqualTo(model.trianglesDrawn());
            assertThat(report.meshes()).as("instances share their meshes").isEqualTo(2);
            for (int axis = 0; axis < 3; axis++) {
                assertThat(report.min()[axis]).isCloseTo(model.bounds().min().get(axis), within(1e-4));
                assertThat(report.max()[axis]).isCloseTo(model.bounds().max().get(axis), within(1e-4));
            }
        }
    }

    @Test
    void whatIsReceivedAndExportedAgainIsValidWithTheSameCountsAndBounds() throws IOException {
        try (Workshop workshop = new Workshop(folder)) {
            Path file = folder.resolve("yard.glb");
            ModelWriters.write(scene(workshop).model(), file);
            GltfReport before = Json.read(Oracle.run("validate-gltf.mjs", file.toString()), "report", GltfReport.class);
            Imported arrival = workshop.readers().read(file, Progress.NONE);
            assertThat(arrival.model().trianglesDrawn()).isEqualTo(before.drawn());
            Asset asset = workshop.intake()
                    .shelve(arrival, Workshop.slip("Yard", "Yards"), workshop.library(), Progress.NONE)
                    .published()
                    .asset();
            Model composed = workshop.readers()
                    .read(asset.entryLayer("v001"), Progress.NONE)
                    .model();
            Path again = folder.resolve("again.glb");
            ModelWriters.write(composed, again);
            GltfReport after = Json.read(Oracle.run("validate-gltf.mjs", again.toString()), "report", GltfReport.class);
            assertThat(after.errors()).as(String.join("; ", after.messages())).isZero();
            assertThat(after.drawn()).isEqualTo(before.drawn());
            for (int axis = 0; axis < 3; axis++) {
                assertThat(after.min()[axis]).isCloseTo(before.min()[axis], within(1e-5));
                assertThat(after.max()[axis]).isCloseTo(before.max()[axis], within(1e-5));
            }
        }
    }

    /** Triangles without area, edges without length, points nobody uses, colours and no normals; checked by the validator. */
    @Test
    void whatHasNoAreaIsExportedWithoutAnError() throws IOException {
        float[] points = {0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 2, 0, 0, 5, 5, 5};
        Mesh[] meshes = {
            new Mesh(points, new int[] {3, 3, 3}, new int[] {0, 1, 2, 0, 1, 1, 0, 1, 4}, null, null),
            new Mesh(points, new int[] {3}, new int[] {1, 3, 4}, null, null),
            new Mesh(points, new int[] {4, 5}, new int[] {0, 1, 4, 3, 0, 1, 2, 2, 0}, null, null),
            new Mesh(points, new int[] {3}, new int[] {0, 1, 2}, new Channel(new float[18], 3, Channel.Per.POINT), null)
        };
        for (int i = 0; i < meshes.length; i++) {
            Path file = folder.resolve("flat-" + i + ".glb");
            ModelWriters.write(Workshop.model("Flat " + i, meshes[i]), file);
            GltfReport report = Json.read(Oracle.run("validate-gltf.mjs", file.toString()), "report", GltfReport.class);
            assertThat(report.errors())
                    .as(i + ": " + String.join("; ", report.messages()))
                    .isZero();
        }
    }
}
