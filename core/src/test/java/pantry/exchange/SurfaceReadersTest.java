package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import pantry.base.FileGate;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.Imported;
import pantry.exchange.format.PhongTerms;
import pantry.exchange.obj.ObjReader;
import pantry.exchange.ply.PlyReader;
import pantry.exchange.stl.StlReader;
import pantry.mesh.Channel;
import pantry.mesh.Mesh;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Texture;

class SurfaceReadersTest {
    @TempDir
    private Path folder;

    private Path file(String name, String text) {
        try {
            return Files.writeString(folder.resolve(name), text);
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private Imported obj(String text) {
        return ObjReader.read(file("thing.obj", text), FileGate.OPEN, Progress.NONE);
    }

    private static Mesh mesh(Imported read) {
        return read.model().meshes().iterator().next();
    }

    @Test
    void objectsGroupsAndMaterialsOfAnObjAreKeptApart() {
        file("paints.mtl", """
                newmtl Rust
                Kd 0.5 0.25 0.1
                Ns 100
                map_Kd -s 2 3 1 -o 0.5 0 0 -clamp on rust stain.png
                newmtl Glass
                Kd 1 1 1
                Tr 0.75
                Pr 0.1
                Pm 0.9
                """);
        Imported read = obj("""
                mtllib paints.mtl
                v 0 0 0
                v 1 0 0
                v 1 1 0
                v 0 1 0
                o Door
                usemtl Rust
                f 1 2 3
                usemtl Glass
                f -4 -2 -1
                g Frame
                f 1 2 3 4
                l 1 2
                """);
        assertThat(read.model().roots()).extracting(Model.Node::name).containsExactly("Door", "Frame");
        assertThat(read.model().roots().getFirst().parts()).hasSize(2);
        Material rust = read.model().roots().getFirst().parts().getFirst().material();
        assertThat(rust.base()).isEqualTo(new Colour(0.5f, 0.25f, 0.1f));
        assertThat(rust.roughness()).isEqualTo(PhongTerms.roughness(100));
        Texture texture = rust.texture(Material.Slot.BASE).orElseThrow();
        assertThat(texture.name()).isEqualTo("rust stain.png");
        assertThat(texture.sampling().placement().scaleV()).isEqualTo(3);
        assertThat(texture.sampling().placement().moveU()).isEqualTo(0.5f);
        assertThat(texture.sampling().wrapS()).isEqualTo(Texture.Wrap.CLAMP);
        Material glass = read.model().roots().getFirst().parts().getLast().material();
        assertThat(glass.opacity()).isEqualTo(0.25f);
        assertThat(glass.metallic()).isEqualTo(0.9f);
        assertThat(glass.roughness()).isEqualTo(0.1f);
        assertThat(read.companions()).containsExactly(folder.resolve("paints.mtl"));
        assertThat(read.model().extras().foreign()).isEmpty();
    }

    @Test
    void cornersNormalsColoursAndLinesThatGoOnAreRead() {
        Imported read = obj("""
                v 0 0 0 1 0 0
                v 1 0 0 0 1 0
                v 1 1 0 0 0 1
                vt 0 0
                vt 1 0
                vt 1 1
                vn 0 0 1
                f 1/1/1 \\
                  2/2/1 3/3/1
                """);
        Mesh mesh = mesh(read);
        assertThat(mesh.uvs().orElseThrow().data()).containsExactly(0, 0, 1, 0, 1, 1);
        assertThat(mesh.normals().orElseThrow().size()).isEqualTo(3);
        assertThat(mesh.primvars().get(Mesh.COLOUR).data()).containsExactly(1, 0, 0, 0, 1, 0, 0, 0, 1);
        assertThat(read.unit()).as("the format says no unit").isEmpty();
    }

    /** By IEC 61966-2-1: 0.735 and 187 of 255 are half of the light. */
    @ParameterizedTest
    @CsvSource({"0.7354 0 1", "187.5 0 255"})
    void coloursArePlacedBehindPointsAsADisplayHasThem(String colour) {
        Imported read = obj("v 0 0 0 " + colour + "\nv 1 0 0 " + colour + "\nv 1 1 0\nf 1 2 3\n");
        float[] colours = mesh(read).primvars().get(Mesh.COLOUR).data();
        assertThat(colours[0]).isCloseTo(0.5f, within(1e-3f));
        assertThat(colours[1]).isZero();
        assertThat(colours[2]).isCloseTo(1, within(1e-6f));
        assertThat(colours[6]).as("white where none is told").isEqualTo(1);
    }

    @Test
    void textInSixteenBitsIsReadToo() throws IOException {
        Path file = Files.write(
                folder.resolve("wide.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n".getBytes(StandardCharsets.UTF_16));
        assertThat(mesh(ObjReader.read(file, FileGate.OPEN, Progress.NONE)).faceCount())
                .isOne();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "v 0 0 0~f 1 2 3 | line 2 | a face uses vertex 2 of 1",
                "v 0 zero 0 | line 1 | a number is expected",
                "v 0 0 0~~f 1/x 1 1 | line 3 | a whole number is expected",
                "v 1e99 0 0 | line 1 | too large",
                "v 0 0 0~f 1 1 0 | line 2 | vertex 0 of 1",
            })
    void whatIsWrongInAnObjIsNamedByItsLine(String text, String place, String message) {
        assertThatThrownBy(() -> obj(text.replace('~', '\n')))
                .isInstanceOf(ExchangeException.class)
                .satisfies(e -> assertThat(((ExchangeException) e).line())
                        .contains(place)
                        .contains(message));
    }

    private static final String PLY_HEADER = """
            ply
            format %s 1.0
            comment TextureFile bark.png
            element vertex 4
            property float x
            property float y
            property double z
            property uchar red
            property uchar green
            property uchar blue
            property float s
            property float t
            element face 2
            property uchar flags
            property list uchar int vertex_indices
            element camera 1
            property float focal
            end_header
            """;

    @Test
    void plyIsReadAsTextAndInBothByteOrders() throws IOException {
        String text = PLY_HEADER.formatted("ascii") + """
                0 0 0 255 0 0 0 0
                1 0 0 0 255 0 1 0
                1 1 0 0 0 255 1 1
                0 1 0 255 255 255 0 1
                7 4 0 1 2 3
                7 2 0 1
                35
                """;
        checkPly(PlyReader.read(file("text.ply", text), FileGate.OPEN, Progress.NONE));
        for (ByteOrder order : new ByteOrder[] {ByteOrder.LITTLE_ENDIAN, ByteOrder.BIG_ENDIAN}) {
            String name = order == ByteOrder.LITTLE_ENDIAN ? "binary_little_endian" : "binary_big_endian";
            ByteBuffer body = ByteBuffer.allocate(400).order(order);
            float[][] points = {{0, 0}, {1, 0}, {1, 1}, {0, 1}};
            int[][] colours = {{255, 0, 0}, {0, 255, 0}, {0, 0, 255}, {255, 255, 255}};
            for (int i = 0; i < 4; i++) {
                body.putFloat(points[i][0]).putFloat(points[i][1]).putDouble(0);
                for (int c : colours[i]) {
                    body.put((byte) c);
                }
                body.putFloat(points[i][0]).putFloat(points[i][1]);
            }
            body.put((byte) 7).put((byte) 4).putInt(0).putInt(1).putInt(2).putInt(3);
            body.put((byte) 7).put((byte) 2).putInt(0).putInt(1);
            body.putFloat(35);
            byte[] head = PLY_HEADER.formatted(name).getBytes(StandardCharsets.US_ASCII);
            byte[] all = java.util.Arrays.copyOf(head, head.length + body.position());
            body.get(0, all, head.length, body.position());
            checkPly(PlyReader.read(Files.write(folder.resolve(name + ".ply"), all), FileGate.OPEN, Progress.NONE));
            Path cut = Files.write(folder.resolve("cut.ply"), java.util.Arrays.copyOf(all, all.length - 20));
            assertThatThrownBy(() -> PlyReader.read(cut, FileGate.OPEN, Progress.NONE))
                    .hasMessageContaining("cut off");
        }
    }

    private static void checkPly(Imported read) {
        Mesh mesh = mesh(read);
        assertThat(mesh.faceSizes()).as("an edge is no face").containsExactly(4);
        assertThat(mesh.point(2)).isEqualTo(new Vec3(1, 1, 0));
        assertThat(mesh.uvs().orElseThrow().data()).containsExactly(0, 0, 1, 0, 1, 1, 0, 1);
        assertThat(mesh.primvars().get(Mesh.COLOUR).data()).startsWith(1, 0, 0, 0, 1, 0);
        Material material = read.model().materials().iterator().next();
        assertThat(material.texture(Material.Slot.BASE).orElseThrow().name()).isEqualTo("bark.png");
        assertThat(read.model().extras().foreign()).containsExactly("1 elements \"camera\"");
    }

    @Test
    void stripsOfAPlyBecomeTrianglesThatFaceOneWay() {
        Imported read = PlyReader.read(file("strip.ply", """
                ply
                format ascii 1.0
                element vertex 5
                property float x
                property float y
                property float z
                element tristrips 1
                property list int int vertex_indices
                end_header
                0 0 0
                1 0 0
                0 1 0
                1 1 0
                0 2 0
                8 0 1 2 3 -1 2 3 4
                """), FileGate.OPEN, Progress.NONE);
        assertThat(mesh(read).corners()).containsExactly(0, 1, 2, 1, 3, 2, 2, 3, 4);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "ply~format ascii 1.0~element vertex 900000000~property float x~end_header~1~ | more than the file can hold",
                "ply~format odd 1.0~end_header~ | format \"odd\" is not known",
                "ply~element vertex 1~property wide x~end_header~ | no type that PLY knows",
                "ply~format ascii 1.0~element vertex 1~property float x~end_header~1~ | lacks x, y or z",
                "ply~format ascii 1.0~ | the header has no end",
            })
    void whatIsWrongInAPlyIsSaid(String text, String message) {
        Path file = file("wrong.ply", text.replace('~', '\n'));
        assertThatThrownBy(() -> PlyReader.read(file, FileGate.OPEN, Progress.NONE))
                .isInstanceOf(ExchangeException.class)
                .hasMessageContaining(message);
    }

    @Test
    void stlIsToldApartByItsSizeNotByItsFirstWord() throws IOException {
        ByteBuffer binary = ByteBuffer.allocate(84 + 50).order(ByteOrder.LITTLE_ENDIAN);
        binary.put("solid but binary, with facet in it".getBytes(StandardCharsets.US_ASCII));
        binary.putInt(80, 1);
        binary.position(96);
        for (float number : new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}) {
            binary.putFloat(number);
        }
        Path file = Files.write(folder.resolve("one.stl"), binary.array());
        assertThat(mesh(StlReader.read(file, Progress.NONE)).pointCount()).isEqualTo(3);
        Imported text = StlReader.read(file("two.stl", """
                solid Left
                facet normal 0 0 1
                 outer loop
                  vertex 0 0 0
                  vertex 1 0 0
                  vertex 1 1 0
                 endloop
                endfacet
                facet normal 0 0 1
                 outer loop
                  vertex 0 0 0
                  vertex 1 1 0
                  vertex 0 1 0
                 endloop
                endfacet
                endsolid Left
                solid Right
                facet normal 0 0 1
                 outer loop
                  vertex 0 0 1
                  vertex 1 0 1
                  vertex 1 1 1
                 endloop
                endfacet
                endsolid Right
                """), Progress.NONE);
        assertThat(text.model().roots()).extracting(Model.Node::name).containsExactly("Left", "Right");
        assertThat(mesh(text).pointCount())
                .as("corners in one place are one point")
                .isEqualTo(4);
        Path cut = file("cut.stl", "solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nendloop\n");
        assertThatThrownBy(() -> StlReader.read(cut, Progress.NONE)).hasMessageContaining("three vertices");
        Path odd = file("odd.stl", "solid x\nfacet normal 0 0 1\nouter ring\n");
        assertThatThrownBy(() -> StlReader.read(odd, Progress.NONE)).hasMessageContaining("\"ring\"");
    }

    @Test
    void channelsThatAgreeWithThePointsAreToldPerPoint() {
        Mesh mesh = mesh(obj("v 0 0 0\nv 1 0 0\nv 0 1 0\nvn 0 0 1\nvn 0 0 1\nvn 0 0 1\nf 1//1 2//2 3//3\n"));
        assertThat(mesh.normals().orElseThrow().per()).isEqualTo(Channel.Per.POINT);
    }
}
