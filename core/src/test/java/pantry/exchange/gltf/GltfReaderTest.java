package pantry.exchange.gltf;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static pantry.exchange.gltf.TinyGltf.BYTE;
import static pantry.exchange.gltf.TinyGltf.FLOAT;
import static pantry.exchange.gltf.TinyGltf.UNSIGNED_BYTE;
import static pantry.exchange.gltf.TinyGltf.UNSIGNED_SHORT;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.meshoptimizer.MeshOptimizer;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Fixture;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

/** The reader against what the Khronos glTF 2.0 specification and its extensions say. */
class GltfReaderTest {
    @TempDir
    private Path folder;

    private static Mesh mesh(Imported read) {
        return read.model().meshes().iterator().next();
    }

    private static Model.Part part(Imported read) {
        return read.model().roots().getFirst().parts().getFirst();
    }

    @Test
    void aSquareIsReadInMetresWithYUp() throws IOException {
        Imported read = TinyGltf.square().read(folder);
        assertThat(read.unit()).contains(1.0);
        assertThat(mesh(read).triangleCount()).isEqualTo(2);
        assertThat(read.model().bounds().max()).isEqualTo(new Vec3(1, 1, 0));
        assertThat(read.model().measures().area()).isEqualTo(1);
    }

    /** Section 3.7.2.1 of the specification: every second triangle of a strip is turned round. */
    @ParameterizedTest
    @CsvSource({"5, '0 1 3 2'", "6, '0 1 2 3'"})
    void stripsAndFansFaceOneWay(int mode, String order) throws IOException {
        TinyGltf gltf = TinyGltf.square();
        double[] indices = List.of(order.split(" ")).stream()
                .mapToDouble(Double::parseDouble)
                .toArray();
        int accessor = gltf.accessor("SCALAR", UNSIGNED_BYTE, 4, false, indices);
        gltf.primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": %d, \"mode\": %d".formatted(accessor, mode));
        Mesh mesh = mesh(gltf.read(folder));
        assertThat(mesh.triangleCount()).isEqualTo(2);
        int[] c = mesh.corners();
        for (int t = 0; t < 6; t += 3) {
            Vec3 normal = mesh.point(c[t + 1])
                    .minus(mesh.point(c[t]))
                    .cross(mesh.point(c[t + 2]).minus(mesh.point(c[t])));
            assertThat(normal.z()).isPositive();
        }
    }

    /** Section 3.6.2.3: sparse accessors replace elements of the dense ones; 3.6.2.2: normalised integers. */
    @Test
    void sparseAndNormalisedAccessorsAreUnderstood() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int base = gltf.view(FLOAT, 0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0);
        int places = gltf.view(UNSIGNED_SHORT, 2);
        int values = gltf.view(FLOAT, 3, 4, 5);
        int sparse = gltf.raw(("{\"bufferView\": %d, \"componentType\": 5126, \"count\": 4, \"type\": \"VEC3\","
                        + " \"sparse\": {\"count\": 1, \"indices\": {\"bufferView\": %d, \"componentType\": 5123},"
                        + " \"values\": {\"bufferView\": %d}}}")
                .formatted(base, places, values));
        int normals = gltf.accessor("VEC3", BYTE, 4, true, 0, 0, 127, 0, 0, 127, 0, 0, -128, 127, 0, 0);
        int uvs = gltf.accessor("VEC2", UNSIGNED_SHORT, 4, true, 0, 0, 65535, 0, 65535, 65535, 0, 65535);
        gltf.primitive("\"attributes\": {\"POSITION\": %d, \"NORMAL\": %d, \"TEXCOORD_0\": %d}, \"indices\": 1"
                .formatted(sparse, normals, uvs));
        Mesh mesh = mesh(gltf.read(folder));
        assertThat(mesh.point(2)).isEqualTo(new Vec3(3, 4, 5));
        assertThat(mesh.point(1)).isEqualTo(new Vec3(1, 0, 0));
        assertThat(mesh.normals().orElseThrow().data()).containsExactly(0, 0, 1, 0, 0, 1, 0, 0, -1, 1, 0, 0);
        assertThat(mesh.uvs().orElseThrow().data()).as("v runs upwards").containsExactly(0, 1, 1, 1, 1, 0, 0, 0);
    }

    @Test
    void coloursFurtherTextureCoordinatesAndTransformsAreKept() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int colours = gltf.accessor(
                "VEC4", UNSIGNED_BYTE, 4, true, 255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 0, 0, 0, 0);
        int uvs = gltf.accessor("VEC2", FLOAT, 4, false, 0, 0, 1, 0, 1, 1, 0, 1);
        int second = gltf.accessor("VEC2", FLOAT, 4, false, 0, 0, 2, 0, 2, 2, 0, 2);
        gltf.primitive(("\"attributes\": {\"POSITION\": 0, \"COLOR_0\": %d, \"TEXCOORD_0\": %d, \"TEXCOORD_1\": %d},"
                        + " \"indices\": 1, \"material\": 0")
                .formatted(colours, uvs, second));
        gltf.with("\"materials\": [{\"name\": \"Felt\", \"pbrMetallicRoughness\": {\"baseColorFactor\": [0.5, 0.25, 1,"
                + " 1], \"metallicFactor\": 0, \"baseColorTexture\": {\"index\": 0, \"texCoord\": 1, \"extensions\":"
                + " {\"KHR_texture_transform\": {\"offset\": [0.1, 0.2], \"rotation\": 0.5, \"scale\": [2, 3]}}}},"
                + " \"alphaMode\": \"MASK\", \"alphaCutoff\": 0.3}],"
                + " \"textures\": [{\"source\": 0, \"sampler\": 0}], \"images\": [{\"uri\": \"lost.png\"}],"
                + " \"samplers\": [{\"wrapS\": 33071, \"wrapT\": 33648}]");
        Imported read = gltf.read(folder);
        assertThat(mesh(read).primvars()).containsOnlyKeys(Mesh.COLOUR, Mesh.OPACITY, "st1");
        assertThat(mesh(read).primvars().get(Mesh.OPACITY).data()).containsExactly(1, 1, 1, 0);
        assertThat(mesh(read).primvars().get(Mesh.COLOUR).data()).startsWith(1, 0, 0, 0, 1, 0);
        Material material = part(read).material();
        assertThat(material.base()).isEqualTo(new Colour(0.5f, 0.25f, 1));
        assertThat(material.finish().cutoff()).isEqualTo(0.3f);
        assertThat(material.finish().coloured()).isTrue();
        Texture texture = material.texture(Material.Slot.BASE).orElseThrow();
        assertThat(texture.name()).isEqualTo("lost.png");
        assertThat(texture.found()).isFalse();
        assertThat(texture.sampling().uvSet()).isEqualTo(1);
        assertThat(texture.sampling().wrapS()).isEqualTo(Texture.Wrap.CLAMP);
        assertThat(texture.sampling().wrapT()).isEqualTo(Texture.Wrap.MIRROR);
        assertThat(material.texture(Material.Slot.OPACITY)).contains(texture);
    }

    /**
     * The matrix is that of three 0.187's GLTFLoader (KHR_texture_transform, offset times rotation times scale); v runs
     * downwards there and upwards here.
     */
    @Test
    void textureTransformsPlaceImagesAsThreeDoes() throws IOException {
        TinyGltf gltf =
                TinyGltf.square().primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"material\": 0");
        gltf.with("\"materials\": [{\"pbrMetallicRoughness\": {\"baseColorTexture\": {\"index\": 0, \"extensions\":"
                + " {\"KHR_texture_transform\": {\"offset\": [0.1, 0.2], \"rotation\": 0.5, \"scale\": [2, 3]}}}}}],"
                + " \"textures\": [{\"source\": 0}], \"images\": [{\"uri\": \"a.png\"}]");
        Texture.Placement s = part(gltf.read(folder))
                .material()
                .texture(Material.Slot.BASE)
                .orElseThrow()
                .sampling()
                .placement();
        double u = 0.3;
        double down = 0.8;
        double c = Math.cos(0.5);
        double n = Math.sin(0.5);
        double threeU = 2 * c * u + 3 * n * down + 0.1;
        double threeV = -2 * n * u + 3 * c * down + 0.2;
        double turn = Math.toRadians(s.rotation());
        double x = u * s.scaleU();
        double y = (1 - down) * s.scaleV();
        assertThat(x * Math.cos(turn) - y * Math.sin(turn) + s.moveU()).isCloseTo(threeU, within(1e-5));
        assertThat(x * Math.sin(turn) + y * Math.cos(turn) + s.moveV()).isCloseTo(1 - threeV, within(1e-5));
    }

    @Test
    void variantsBecomeLooks() throws IOException {
        TinyGltf gltf = TinyGltf.square()
                .primitive("\"attributes\": {\"POSITION\": 0}, \"indices\": 1, \"material\": 0, \"extensions\":"
                        + " {\"KHR_materials_variants\": {\"mappings\": [{\"material\": 1, \"variants\": [0, 1]}]}}")
                .with(
                        "\"materials\": [{\"name\": \"White\"}, {\"name\": \"Snow\"}], \"extensions\":"
                                + " {\"KHR_materials_variants\": {\"variants\": [{\"name\": \"Winter\"}, {\"name\": \"Spring\"}]}}");
        Imported read = gltf.read(folder);
        assertThat(part(read).material().name()).isEqualTo("White");
        assertThat(part(read).looks()).containsOnlyKeys("Winter", "Spring");
        assertThat(part(read).looks().get("Winter").name()).isEqualTo("Snow");
        assertThat(read.model().materials()).hasSize(2);
    }

    @Test
    void instancesShareTheirMesh() throws IOException {
        TinyGltf gltf = TinyGltf.square();
        int moves = gltf.accessor("VEC3", FLOAT, 3, false, 0, 0, 0, 5, 0, 0, 0, 0, 7);
        int scales = gltf.accessor("VEC3", FLOAT, 3, false, 1, 1, 1, 2, 2, 2, 1, 3, 1);
        gltf.nodes(("{\"mesh\": 0, \"extensions\": {\"EXT_mesh_gpu_instancing\": {\"attributes\": {\"TRANSLATION\": %d,"
                        + " \"SCALE\": %d}}}}")
                .formatted(moves, scales));
        Model model = gltf.read(folder).model();
        assertThat(model.meshes()).hasSize(1);
        assertThat(model.trianglesDrawn()).isEqualTo(6);
        assertThat(model.bounds().max()).isEqualTo(new Vec3(7, 3, 7));
    }

    @Test
    void lightsAndCamerasAreTold() throws IOException {
        TinyGltf gltf = TinyGltf.square()
                .nodes("{\"mesh\": 0, \"children\": [1, 2], \"translation\": [0, 1, 0]},"
                        + " {\"name\": \"Eye\", \"camera\": 0, \"translation\": [0, 0, 5]},"
                        + " {\"extensions\": {\"KHR_lights_punctual\": {\"light\": 0}}}")
                .with("\"cameras\": [{\"type\": \"perspective\", \"perspective\": {\"yfov\": 0.5, \"znear\": 0.1}}],"
                        + " \"extensions\": {\"KHR_lights_punctual\": {\"lights\": [{\"type\": \"spot\", \"name\":"
                        + " \"Lamp\", \"intensity\": 10, \"spot\": {\"outerConeAngle\": 0.5}}]}},"
                        + " \"animations\": [{\"channels\": [], \"samplers\": []}]");
        Model.Extras extras = gltf.read(folder).model().extras();
        assertThat(extras.lights()).isOne();
        assertThat(extras.cameras()).isOne();
        assertThat(extras.foreign()).containsExactly("1 animation");
        Fixture.Camera camera = (Fixture.Camera) extras.fixtures().getFirst();
        assertThat(camera.world().translationPart()).isEqualTo(new Vec3(0, 1, 5));
        assertThat(camera.angle()).isCloseTo(Math.toDegrees(0.5), within(1e-9));
        Fixture.Light light = (Fixture.Light) extras.fixtures().getLast();
        assertThat(light.coneAngle()).isCloseTo(Math.toDegrees(0.5), within(1e-9));
    }

    /** The packed numbers come from meshoptimizer's own encoder. */
    @Test
    void packedViewsAreUnpacked() throws IOException {
        float[] points = {0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0};
        ByteBuffer in = MemoryUtil.memAlloc(48);
        in.asFloatBuffer().put(points);
        ByteBuffer out = MemoryUtil.memAlloc((int) MeshOptimizer.meshopt_encodeVertexBufferBound(4, 12));
        int length = (int) MeshOptimizer.meshopt_encodeVertexBuffer(out, in, 4, 12);
        byte[] packed = new byte[length];
        out.get(0, packed);
        TinyGltf gltf = TinyGltf.square();
        int start = gltf.view(packed, "");
        int view = gltf.view(
                0,
                48,
                ("\"extensions\": {\"EXT_meshopt_compression\": {\"buffer\": 0, \"byteOffset\": %s, \"byteLength\": %d,"
                                + " \"byteStride\": 12, \"count\": 4, \"mode\": \"ATTRIBUTES\"}}")
                        .formatted(offset(gltf, start), length));
        int positions = gltf.raw(
                "{\"bufferView\": %d, \"componentType\": 5126, \"count\": 4, \"type\": \"VEC3\"}".formatted(view));
        gltf.primitive("\"attributes\": {\"POSITION\": %d}, \"indices\": 1".formatted(positions));
        assertThat(mesh(gltf.read(folder)).points()).containsExactly(points);
        MemoryUtil.memFree(in);
        MemoryUtil.memFree(out);
    }

    private static String offset(TinyGltf gltf, int view) {
        var matcher = java.util.regex.Pattern.compile("\"byteOffset\": (\\d+)").matcher(gltf.json());
        for (int i = 0; i <= view; i++) {
            assertThat(matcher.find()).isTrue();
        }
        return matcher.group(1);
    }

    @Test
    void aFileWithMaterialsOnlyShowsThemOnBalls() throws IOException {
        Path file = Files.writeString(
                folder.resolve("paints.gltf"),
                "{\"asset\": {\"version\": \"2.0\"}, \"materials\": [{\"name\": \"A\"}, {\"name\": \"B\"}]}");
        Imported read =
                GltfReader.read(file, FileGate.OPEN, folder, Progress.NONE).orElseThrow();
        assertThat(read.holds()).isEqualTo(Imported.Holds.MATERIALS);
        assertThat(read.model().materials()).extracting(Material::name).containsExactly("A", "B");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "\"POSITION\": 9 | accessors[9]",
                "\"POSITION\": 1 | accessors[1]",
                "\"NORMAL\": 0 | has no positions",
            })
    void whatIsWrongIsNamedByItsPlace(String attribute, String told) {
        TinyGltf gltf = TinyGltf.square().primitive("\"attributes\": {%s}".formatted(attribute));
        assertThatThrownBy(() -> gltf.read(folder))
                .isInstanceOf(ExchangeException.class)
                .satisfies(e -> assertThat(((ExchangeException) e).line())
                        .contains("tiny.gltf")
                        .contains(told));
    }

    @Test
    void absurdCountsAreRefusedBeforeAnythingIsMade() {
        TinyGltf gltf = TinyGltf.square();
        int huge = gltf.raw("{\"componentType\": 5126, \"count\": 500000000, \"type\": \"VEC3\"}");
        gltf.primitive("\"attributes\": {\"POSITION\": %d}".formatted(huge));
        assertThatThrownBy(() -> gltf.read(folder)).hasMessageContaining("elements");
        TinyGltf loop = TinyGltf.square().nodes("{\"mesh\": 0, \"children\": [0]}");
        assertThatThrownBy(() -> loop.read(folder)).hasMessageContaining("or of itself");
    }
}
