package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.exchange.format.Imported;
import pantry.testing.Workshop;

/** What a file that was given may make Pantry read: nothing that was not given with it. */
class TrustTest {
    private static final String SECRET = "root:x:0:0:a secret that is nobody's business";

    @TempDir
    static Path folder;

    private Workshop workshop;
    private Path arrivals;

    @BeforeEach
    void arrange() throws IOException {
        workshop = new Workshop(Files.createTempDirectory(folder, "workshop"));
        arrivals = Files.createDirectories(
                Files.createTempDirectory(folder, "given").resolve("pack"));
        Files.writeString(arrivals.resolveSibling("secret.txt"), SECRET);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    static Stream<String> ways() {
        return Stream.of("../secret.txt", "sub/../../secret.txt", "ABSOLUTE", "innocent.png", "../pack/../secret.txt");
    }

    private String way(String way) throws IOException {
        if (way.equals("innocent.png")) {
            Files.createSymbolicLink(arrivals.resolve(way), arrivals.resolveSibling("secret.txt"));
        }
        return way.equals("ABSOLUTE") ? arrivals.resolveSibling("secret.txt").toString() : way;
    }

    /** Nothing of the secret is read into, nor kept with, what is shelved; not even where missing textures are allowed. */
    private void checkNothingLeaks(Path file) throws IOException {
        Imported arrival;
        try {
            arrival = workshop.readers().read(file, Progress.NONE);
        } catch (PantryException e) {
            assertThat(e.line()).doesNotContain("nobody's business");
            return;
        }
        assertThat(arrival.refused()).isNotEmpty();
        Slip slip = Intake.suggested(arrival, "", Neighbours.on(workshop.library(), ""));
        assertThatThrownBy(() -> workshop.intake().shelve(arrival, slip, workshop.library(), Progress.NONE))
                .isInstanceOf(IntakeException.class)
                .hasMessageContaining("lies outside of the folders that may be read");
        workshop.intake().shelve(arrival, slip.withAllowMissing(true), workshop.library(), Progress.NONE);
        try (Stream<Path> files = Files.walk(workshop.library().root())) {
            for (Path each : files.filter(Files::isRegularFile).toList()) {
                assertThat(new String(Files.readAllBytes(each), StandardCharsets.ISO_8859_1))
                        .as(each.toString())
                        .doesNotContain("nobody's business");
            }
        }
    }

    @ParameterizedTest
    @MethodSource("ways")
    void aMaterialLibraryElsewhere(String way) throws IOException {
        checkNothingLeaks(Files.writeString(
                arrivals.resolve("crate.obj"), "mtllib " + way(way) + "\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void aTextureElsewhere(String way) throws IOException {
        Files.writeString(arrivals.resolve("crate.mtl"), "newmtl paint\nmap_Kd " + way(way) + "\n");
        checkNothingLeaks(Files.writeString(
                arrivals.resolve("crate.obj"), "mtllib crate.mtl\nusemtl paint\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void aBufferElsewhere(String way) throws IOException {
        checkNothingLeaks(Files.writeString(arrivals.resolve("crate.gltf"), """
                {"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
                 "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}],
                 "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                                "min": [0, 0, 0], "max": [1, 1, 1]}],
                 "bufferViews": [{"buffer": 0, "byteLength": 36}],
                 "buffers": [{"uri": "%s", "byteLength": 36}]}
                """.formatted(way(way))));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void anImageOfGltfElsewhere(String way) throws IOException {
        byte[] points = new byte[36];
        points[14] = points[19 + 4] = 64;
        points[12 + 2] = (byte) 128;
        points[12 + 3] = 63;
        points[28 + 2] = (byte) 128;
        points[28 + 3] = 63;
        checkNothingLeaks(Files.writeString(arrivals.resolve("crate.gltf"), """
                {"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"mesh": 0}],
                 "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "material": 0}]}],
                 "materials": [{"pbrMetallicRoughness": {"baseColorTexture": {"index": 0}}}],
                 "textures": [{"source": 0}], "images": [{"uri": "%s"}],
                 "accessors": [{"bufferView": 0, "componentType": 5126, "count": 3, "type": "VEC3",
                                "min": [0, 0, 0], "max": [2, 2, 2]}],
                 "bufferViews": [{"buffer": 0, "byteLength": 36}],
                 "buffers": [{"uri": "data:application/octet-stream;base64,%s", "byteLength": 36}]}
                """.formatted(
                        way(way), Base64.getEncoder().encodeToString(points))));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void aTextureOfUsdElsewhere(String way) throws IOException {
        checkNothingLeaks(Files.writeString(arrivals.resolve("crate.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Crate"
                )
                def Xform "Crate"
                {
                    def Mesh "Side" (
                        prepend apiSchemas = ["MaterialBindingAPI"]
                    )
                    {
                        int[] faceVertexCounts = [3]
                        int[] faceVertexIndices = [0, 1, 2]
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
                        rel material:binding = </Crate/Paint>
                    }
                    def Material "Paint"
                    {
                        token outputs:surface.connect = </Crate/Paint/Surface.outputs:surface>
                        def Shader "Surface"
                        {
                            uniform token info:id = "UsdPreviewSurface"
                            color3f inputs:diffuseColor.connect = </Crate/Paint/Image.outputs:rgb>
                            token outputs:surface
                        }
                        def Shader "Image"
                        {
                            uniform token info:id = "UsdUVTexture"
                            asset inputs:file = @%s@
                            float3 outputs:rgb
                        }
                    }
                }
                """.formatted(way(way))));
    }

    @ParameterizedTest
    @MethodSource("ways")
    void aLayerElsewhere(String way) throws IOException {
        checkNothingLeaks(Files.writeString(
                arrivals.resolve("crate.usda"), "#usda 1.0\n(\n    subLayers = [@" + way(way) + "@]\n)\n"));
    }

    @Test
    void linksOutOfAFolderAreNotFollowed() throws IOException {
        Files.writeString(arrivals.resolve("crate.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
        Path outside = Files.createDirectory(arrivals.resolveSibling("outside"));
        Files.copy(arrivals.resolve("crate.obj"), outside.resolve("other.obj"));
        Files.createSymbolicLink(arrivals.resolve("root"), Path.of("/"));
        Files.createSymbolicLink(arrivals.resolve("out"), outside);
        Files.createSymbolicLink(arrivals.resolve("other.obj"), outside.resolve("other.obj"));
        Files.createSymbolicLink(arrivals.resolve("again.obj"), arrivals.resolve("crate.obj"));
        Listing listing = Listing.of(List.of(arrivals), Progress.NONE);
        assertThat(listing.entries())
                .extracting(entry -> entry.file().getFileName().toString())
                .containsExactly("again.obj", "crate.obj");
        assertThat(listing.passedOver())
                .extracting(left -> left.path().getFileName().toString())
                .containsExactlyInAnyOrder("root", "out", "other.obj");
    }
}
