package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.Json;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.ModelWriters;
import pantry.exchange.format.Imported;
import pantry.library.Asset;
import pantry.mesh.Mesh;
import pantry.mesh.Strands;
import pantry.model.Axis;
import pantry.model.Model;
import pantry.testing.Oracle;
import pantry.testing.TinyUsdz;
import pantry.testing.WithWorkshop;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.Value;
import pantry.usd.file.LayerFiles;

/**
 * Files of points and lines become assets of UsdGeomPoints and UsdGeomBasisCurves. What is sealed is also read by tinyusdz; how
 * glTF's modes join points is its specification's, section 3.7.2.1.
 */
class StrandsTest extends WithWorkshop {
    private Imported read(String name, String text) throws IOException {
        return read(Files.writeString(folder.resolve(name), text));
    }

    private Imported read(Path file) {
        return workshop.intake().read(file, Progress.NONE);
    }

    private static Strands only(Imported read) {
        List<Strands> all = read.model().roots().stream()
                .flatMap(root -> root.parts().stream())
                .map(part -> part.strands().orElseThrow())
                .toList();
        assertThat(all).hasSize(1);
        return all.getFirst();
    }

    /** The prims that the version's geometry holds below its root. */
    private List<PrimSpec> sealed(Imported read, double factor) {
        Slip slip = Slip.plain("Scan", pantry.library.AssetKind.MODEL, "Scans", factor, Axis.Y);
        Asset asset = workshop.intake()
                .shelve(read, slip, library, Progress.NONE)
                .published()
                .asset();
        Layer layer = LayerFiles.read(asset.data("v001").resolve(asset.slug() + ".geom.usdc"));
        return List.copyOf(layer.rootPrims().iterator().next().children());
    }

    private static String cloud(int count) {
        StringBuilder text = new StringBuilder("ply\nformat ascii 1.0\nelement vertex " + count + "\n"
                + "property float x\nproperty float y\nproperty float z\n"
                + "property uchar red\nproperty uchar green\nproperty uchar blue\nend_header\n");
        for (int i = 0; i < count; i++) {
            text.append(String.format(Locale.ROOT, "%d %d %d %d 0 255\n", i % 100, i / 100 % 100, i / 10_000, i % 256));
        }
        return text.toString();
    }

    @Test
    void aCloudIsKeptAsPointsWithTheirColours() throws IOException {
        Imported read = read("cloud.ply", cloud(300));
        assertThat(only(read).areLoose()).isTrue();
        assertThat(only(read).words()).isEqualTo("300 loose points");
        assertThat(read.model().meshes().iterator().next().primvars()).containsKey(Mesh.COLOUR);
        PrimSpec points = sealed(read, 0.001).getFirst();
        assertThat(points.typeName()).isEqualTo("Points");
        Value.Floats places =
                (Value.Floats) points.attribute("points").orElseThrow().value().orElseThrow();
        assertThat(places.data()).hasSize(900);
        Value.Floats colours = (Value.Floats)
                points.attribute("primvars:displayColor").orElseThrow().value().orElseThrow();
        assertThat(colours.data()).startsWith(0, 0, 1).hasSize(900);
        Asset asset = library.find("Scan");
        Model again =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        assertThat(again.bounds().size().x()).isCloseTo(0.099, within(0.001));
        assertThat(again.meshes().iterator().next().primvars())
                .as("each in its colour")
                .containsKey(Mesh.COLOUR);
        assertThat(asset.preview("v001")).exists();
        assertThat(asset.facts("v001").strands()).containsExactly("300 loose points");
    }

    /** Of very many points some are drawn; all are kept. */
    @Test
    void aLargeCloudIsDrawnThinlyAndKeptWhole() throws IOException {
        Imported read = read("large.ply", cloud(250_000));
        assertThat(read.model().trianglesDrawn()).isEqualTo(8L * 83_334);
        PrimSpec points = sealed(read, 1).getFirst();
        Value.Floats places =
                (Value.Floats) points.attribute("points").orElseThrow().value().orElseThrow();
        assertThat(places.data()).hasSize(750_000);
        Asset asset = library.find("Scan");
        assertThat(workshop.readers()
                        .read(asset.entryLayer("v001"), Progress.NONE)
                        .model()
                        .trianglesDrawn())
                .isEqualTo(8L * 83_334);
    }

    private static String gltf(int mode, int... indices) {
        ByteBuffer bytes = ByteBuffer.allocate(48 + 2 * indices.length).order(ByteOrder.LITTLE_ENDIAN);
        for (float number : new float[] {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0}) {
            bytes.putFloat(number);
        }
        for (int index : indices) {
            bytes.putShort((short) index);
        }
        return """
                {"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}],
                 "nodes": [{"mesh": 0, "name": "Cable"}],
                 "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "mode": %d%s}]}],
                 "accessors": [
                   {"bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3", "min": [0,0,0], "max": [1,1,0]},
                   {"bufferView": 1, "componentType": 5123, "count": %d, "type": "SCALAR"}],
                 "bufferViews": [{"buffer": 0, "byteLength": 48},
                                 {"buffer": 0, "byteOffset": 48, "byteLength": %d}],
                 "buffers": [{"byteLength": %d, "uri": "data:application/octet-stream;base64,%s"}]}
                """.formatted(
                        mode,
                        indices.length == 0 ? "" : ", \"indices\": 1",
                        Math.max(1, indices.length),
                        Math.max(2, 2 * indices.length),
                        bytes.capacity(),
                        Base64.getEncoder().encodeToString(bytes.array()));
    }

    @ParameterizedTest
    @CsvSource({
        "1, '0,1,2,3', '2,2', 12",
        "1, '0,1,1,2,3,0', '3,2', 15",
        "2, '0,1,2', '4', 12",
        "3, '3,2,1,0', '4', 12",
        "0, '0,2', '', 6"
    })
    void linesOfGltfAreJoinedAsItsModesSay(int mode, String numbers, String counts, int length) throws IOException {
        int[] indices =
                List.of(numbers.split(",")).stream().mapToInt(Integer::parseInt).toArray();
        Strands strands = only(read("cable.gltf", gltf(mode, indices)));
        assertThat(strands.counts())
                .containsExactly(List.of(counts.split(",")).stream()
                        .filter(each -> !each.isEmpty())
                        .mapToInt(Integer::parseInt)
                        .toArray());
        assertThat(strands.points()).hasSize(length);
        if (mode == 2) {
            assertThat(strands.points())
                    .as("a loop comes back")
                    .startsWith(0, 0, 0)
                    .endsWith(0, 0, 0);
        }
    }

    /** As such, not as the surface that shows them; the format's validator finds no error in it. */
    @Test
    void pointsAndLinesGoOutToGltfAsTheyAre() throws IOException {
        Imported cloud = read("cloud.ply", cloud(300));
        Imported line = read("cable.gltf", gltf(3, 0, 1, 2, 3));
        for (Imported each : List.of(cloud, line)) {
            Path out = folder.resolve("out.glb");
            ModelWriters.write(each.model(), out);
            Strands before = only(each);
            Strands after = only(workshop.readers().read(out, Progress.NONE));
            assertThat(after.counts()).isEqualTo(before.counts());
            assertThat(after.points()).isEqualTo(before.points());
            assertThat(after.colours()).isEqualTo(before.colours());
        }
        assertThat(ModelWriters.write(cloud.model(), folder.resolve("out.stl")).left())
                .anyMatch(told -> told.contains("has 300 loose points, written as the surface that shows them"));
    }

    /** What three reads of a file. */
    record Seen(List<SeenObject> objects) {}

    record SeenObject(String kind, int triangles, float[] places, float[] colours) {}

    private static Seen seen(Path file) {
        return Json.read(Oracle.run("strands.mjs", file.toString()), "report", Seen.class);
    }

    /** Colours are of a byte there; the rest is as it was, and so three reads it. */
    @Test
    void aCloudGoesOutToPlyAndObjAsPoints() throws IOException {
        Imported cloud = read("cloud.ply", cloud(300));
        for (String ending : List.of("ply", "obj")) {
            Path out = folder.resolve("out." + ending);
            assertThat(ModelWriters.write(cloud.model(), out).left())
                    .noneMatch(told -> told.contains("the surface that"));
            Strands after = only(workshop.readers().read(out, Progress.NONE));
            assertThat(after.areLoose()).isTrue();
            assertThat(after.points()).isEqualTo(only(cloud).points());
            assertThat(after.colours()).containsExactly(only(cloud).colours(), within(0.005f));
            SeenObject seen = seen(out).objects().getFirst();
            assertThat(seen.triangles()).isZero();
            assertThat(seen.places()).isEqualTo(only(cloud).points());
            assertThat(seen.colours()).as(ending).containsExactly(only(cloud).colours(), within(0.005f));
        }
    }

    @Test
    void linesGoOutToObjAsLinesAndToPlyAsTheSurfaceThatShowsThem() throws IOException {
        Imported line = read("cable.gltf", gltf(3, 0, 1, 2, 3));
        Path out = folder.resolve("out.obj");
        ModelWriters.write(line.model(), out);
        Strands after = only(workshop.readers().read(out, Progress.NONE));
        assertThat(after.counts()).containsExactly(4);
        assertThat(after.points()).isEqualTo(only(line).points());
        SeenObject seen = seen(out).objects().getFirst();
        assertThat(seen.kind()).isEqualTo("LineSegments");
        assertThat(seen.places()).as("three takes each piece by itself").hasSize(3 * 2 * 3);
        assertThat(ModelWriters.write(line.model(), folder.resolve("out.ply")).left())
                .anyMatch(told -> told.contains("written as the surface that shows them"));
    }

    private static List<String> contents(Model model) {
        List<String> contents = new ArrayList<>();
        model.visit((owner, part, world) -> contents.add(part.strands()
                .map(strands -> strands.words() + " at " + Arrays.toString(strands.points()))
                .orElse(part.mesh().faceCount() + " faces")));
        return contents;
    }

    /** Their numbers go on where those of the surface end, and the other way round. */
    @Test
    void surfacesPointsAndLinesStandBesideEachOtherInObj() throws IOException {
        Imported read = read("fence.obj", """
                v 0 0 0
                v 1 0 0
                v 1 1 0
                v 0 1 0
                o Wire
                l 1 2 3 4
                l 1 4
                p 1 2
                o Panel
                f 1 2 3
                """);
        Path out = folder.resolve("out.obj");
        ModelWriters.write(read.model(), out);
        Model again = workshop.readers().read(out, Progress.NONE).model();
        List<String> found = contents(again);
        List<String> was = contents(read.model());
        assertThat(found).hasSize(3).containsExactlyInAnyOrderElementsOf(was);
    }

    @Test
    void aCloudInCentimetresIsWrittenInCentimetres() throws IOException {
        Imported cloud = read("cloud.ply", cloud(300));
        Path out = folder.resolve("out.ply");
        ModelWriters.write(cloud.model(), out, new ModelWriters.Options(0.01, "centimetres", Optional.empty()));
        assertThat(only(workshop.readers().read(out, Progress.NONE)).points()[3 * 7])
                .isCloseTo(100 * only(cloud).points()[3 * 7], within(1e-2f));
    }

    @Test
    void theValidatorFindsNoErrorInThem() throws IOException {
        for (Imported each : List.of(read("cloud.ply", cloud(300)), read("cable.gltf", gltf(3, 0, 1, 2, 3)))) {
            Path out = folder.resolve("out.glb");
            ModelWriters.write(each.model(), out);
            assertThat(Oracle.run("validate-gltf.mjs", out.toString())).contains("\"errors\":0");
        }
    }

    @Test
    void linesAndPointsOfObjStandBesideItsFaces() throws IOException {
        Imported read = read("fence.obj", """
                v 0 0 0
                v 1 0 0
                v 1 1 0
                v 0 1 0
                o Panel
                f 1 2 3
                o Wire
                l 1 2 3 4
                l -1 -4
                p 1 2
                """);
        List<PrimSpec> prims = sealed(read, 1);
        assertThat(prims).extracting(PrimSpec::name).contains("Panel", "Wire");
        PrimSpec wire = prims.stream()
                .filter(prim -> prim.name().equals("Wire"))
                .findFirst()
                .orElseThrow();
        assertThat(wire.children()).extracting(PrimSpec::typeName).containsExactlyInAnyOrder("BasisCurves", "Points");
        PrimSpec curves = wire.children().stream()
                .filter(prim -> prim.typeName().equals("BasisCurves"))
                .findFirst()
                .orElseThrow();
        assertThat(curves.attribute("curveVertexCounts").orElseThrow().value())
                .contains(new Value.Ints(new int[] {4, 2}, 1));
    }

    @Test
    void linesOfAPlanComeThroughTheWorker() throws IOException {
        Imported read = read("plan.dxf", """
                0
                SECTION
                2
                ENTITIES
                0
                LINE
                8
                Plan
                10
                0
                20
                0
                30
                0
                11
                4
                21
                2
                31
                0
                0
                ENDSEC
                0
                EOF
                """);
        assertThat(only(read).words()).isEqualTo("1 line");
        assertThat(only(read).points()).containsExactly(0, 0, 0, 4, 2, 0);
    }

    @Test
    void anIndependentReaderFindsTheSamePrims() throws IOException {
        sealed(read("cloud.ply", cloud(20)), 1);
        sealed(read("cable.gltf", gltf(3)), 1);
        List<Path> files = library.assets().stream()
                .map(asset -> asset.data("v001").resolve(asset.slug() + ".geom.usdc"))
                .toList();
        assertThat(TinyUsdz.read(files))
                .flatExtracting(Map::values)
                .as("types of prims")
                .contains("Points", "BasisCurves");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "a.obj | v 0 0 0~l 1 2 | a line uses vertex 2 of 1",
                "b.obj | v 0 0 0~p 3 | a point uses vertex 3 of 1",
            })
    void whatIsDamagedIsSaidWithItsPlace(String name, String text, String message) {
        assertThatThrownBy(() -> read(name, text.replace('~', '\n')))
                .isInstanceOfSatisfying(
                        PantryException.class, e -> assertThat(e.line()).contains("line 2", message));
    }

    @Test
    void indicesBeyondThePointsAreRefused() {
        assertThatThrownBy(() -> read("cable.gltf", gltf(1, 0, 4)))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("has the index 4 of 4 points");
        assertThatThrownBy(() -> new Strands(new float[6], new int[] {3}, new float[0], new float[0]))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Strands.loose(new float[] {0, Float.NaN, 0}, new float[0]))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("not a number");
    }
}
