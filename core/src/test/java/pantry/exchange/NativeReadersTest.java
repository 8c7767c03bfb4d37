package pantry.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.lwjgl.assimp.AIScene;
import org.lwjgl.assimp.Assimp;
import pantry.base.PantryException;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.exchange.format.ExchangeException;
import pantry.exchange.format.FileKind;
import pantry.exchange.format.Imported;
import pantry.mesh.Shapes;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.ShapeDescriptor;
import pantry.model.Texture;
import pantry.testing.Mutations;
import pantry.testing.Workshop;

/** Pantry's own readers against Assimp, which Pantry's authors did not write, on files that Assimp has written. */
class NativeReadersTest {
    private static final int DAMAGED = 1200;

    @TempDir
    private Path folder;

    private Workshop workshop;

    @BeforeEach
    void open() {
        workshop = new Workshop(folder);
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private Model things() throws IOException {
        Path image = folder.resolve("weave.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(4, 4, 1)));
        Material woven = Material.plain("Woven", Colour.WHITE, 0, 0.7)
                .with(Material.Slot.BASE, new Texture("weave.png", Optional.of(image)));
        Model.Node inner = Model.Node.of(
                "Ball",
                Matrix4.scale(new Vec3(1, 2, 0.5)).times(Matrix4.translation(new Vec3(0, 3, 1))),
                List.of(new Model.Part(Shapes.sphere(0.5, 24, 12), woven)),
                List.of());
        Model.Node outer = Model.Node.of(
                "Block",
                Matrix4.rotationXyz(new Vec3(10, 200, -45)),
                List.of(new Model.Part(Shapes.block(1, 2, 3), Workshop.RED)),
                List.of(inner));
        return new Model("Things", List.of(outer), Model.Extras.NONE);
    }

    @ParameterizedTest
    @CsvSource({"glb2, glb", "gltf2, gltf", "obj, obj", "ply, ply", "plyb, ply", "stl, stl", "stlb, stl"})
    void theyFindWhatAssimpFinds(String format, String ending) throws IOException {
        // Assimp's PLY declares colours where it writes texture coordinates: there, the source has neither.
        Path source = folder.resolve(ending.equals("ply") ? "source.stl" : "source.glb");
        ModelWriters.write(things(), source);
        Path file = folder.resolve("things." + ending);
        AIScene scene = Assimp.aiImportFile(
                source.toString(),
                Assimp.aiProcess_Triangulate | Assimp.aiProcess_PreTransformVertices | Assimp.aiProcess_GenNormals);
        try {
            assertThat(Assimp.aiExportScene(scene, format, file.toString(), 0)).isEqualTo(Assimp.aiReturn_SUCCESS);
        } finally {
            Assimp.aiReleaseImport(scene);
        }
        Imported own = workshop.readers().read(file, Progress.NONE);
        Imported theirs = workshop.foreign().read(file, Progress.NONE);
        assertThat(own.model().trianglesDrawn()).isEqualTo(theirs.model().trianglesDrawn());
        double area = theirs.model().measures().area();
        assertThat(own.model().measures().area()).isCloseTo(area, within(1e-5 * area));
        for (int axis = 0; axis < 3; axis++) {
            assertThat(own.model().bounds().min().get(axis))
                    .isCloseTo(theirs.model().bounds().min().get(axis), within(1e-5));
            assertThat(own.model().bounds().max().get(axis))
                    .isCloseTo(theirs.model().bounds().max().get(axis), within(1e-5));
        }
        if (!ending.equals("stl") && !ending.equals("ply")) {
            assertThat(names(own)).isEqualTo(names(theirs));
            assertThat(textures(own)).isEqualTo(textures(theirs));
        }
    }

    private static TreeSet<String> names(Imported read) {
        TreeSet<String> names = new TreeSet<>();
        read.model().materials().forEach(material -> names.add(material.name()));
        return names;
    }

    /** Images within a file get names of their own: that they are there is what counts. */
    private static List<Boolean> textures(Imported read) {
        return read.model().textures().stream().map(Texture::found).distinct().toList();
    }

    /** Whatever is wrong with a file, it is read or refused in Pantry's own words; seed kept. */
    @Test
    void damagedFilesAreReadOrRefused() throws IOException {
        Files.writeString(folder.resolve("paint.mtlx"), """
                <?xml version="1.0"?><materialx version="1.38"><UsdPreviewSurface name="S" type="surfaceshader">
                <input name="diffuseColor" type="color3" value="1, 0, 0"/></UsdPreviewSurface></materialx>
                """);
        Model model = things();
        for (String ending : List.of("glb", "gltf", "obj", "ply", "stl", "mtlx")) {
            Path seed = folder.resolve(ending.equals("mtlx") ? "paint.mtlx" : "seed." + ending);
            if (!ending.equals("mtlx")) {
                ModelWriters.write(model, seed);
            }
            Mutations mutations = new Mutations(new Random(20_261_125), List.of(Files.readAllBytes(seed)));
            int read = 0;
            int refused = 0;
            Path file = folder.resolve("damaged." + ending);
            for (int i = 0; i < DAMAGED / 6; i++) {
                Files.write(file, mutations.next());
                try {
                    Imported imported = workshop.readers().read(file, Progress.NONE);
                    assertThat(imported.facts().triangles()).isNotNegative();
                    read++;
                } catch (PantryException e) {
                    assertThat(e.line()).startsWith(file.toString());
                    refused++;
                }
            }
            assertThat(read + refused).isEqualTo(DAMAGED / 6);
            assertThat(refused).as(ending).isPositive();
        }
    }

    @Test
    void everyKindIsToldByItsContent() throws IOException {
        Model model = Workshop.model("Block", Shapes.block(1, 1, 1));
        for (String ending : List.of("glb", "ply", "usda", "usdc")) {
            Path file = folder.resolve("block." + ending);
            ModelWriters.write(model, file);
            Path unnamed = Files.copy(file, folder.resolve("unnamed-" + ending));
            assertThat(FileKind.of(unnamed)).as(ending).isEqualTo(FileKind.of(file));
            assertThat(workshop.readers().read(unnamed, Progress.NONE).model().trianglesDrawn())
                    .isEqualTo(12);
        }
        assertThat(FileKind.of(Files.writeString(folder.resolve("a.txt"), "<?xml?><materialx version='1'/>")))
                .isEqualTo(FileKind.MATERIALX);
        assertThat(FileKind.of(Files.writeString(folder.resolve("b.txt"), "just words")))
                .isEqualTo(FileKind.OTHER);
        assertThat(FileKind.of(Files.write(folder.resolve("c.dat"), new byte[] {(byte) 0x89, 'P', 'N', 'G', 13, 10})))
                .isEqualTo(FileKind.IMAGE);
        assertThat(FileKind.of(Files.writeString(folder.resolve("d.mtl"), "newmtl A")))
                .isEqualTo(FileKind.COMPANION);
    }

    @Test
    void imagesBecomeBoardsOfTheirShape() throws IOException {
        Path image = folder.resolve("poster.png");
        Files.write(image, Png.of(new java.awt.image.BufferedImage(30, 20, 1)));
        Imported read = workshop.readers().read(image, Progress.NONE);
        assertThat(read.holds()).isEqualTo(Imported.Holds.IMAGE);
        assertThat(read.model().bounds().size().x()).isCloseTo(1.5, within(1e-6));
        assertThat(read.model().bounds().size().y()).isCloseTo(1, within(1e-6));
        assertThat(read.model().bounds().min().y()).isCloseTo(0, within(1e-6));
    }

    @Test
    void materialXMaterialsAreReadWithTheirImages() throws IOException {
        Path file = Files.writeString(folder.resolve("floor.mtlx"), """
                <?xml version="1.0"?>
                <materialx version="1.39" fileprefix="maps/">
                  <nodegraph name="NG">
                    <image name="img" type="color3"><input name="file" type="filename" value="planks.png"/></image>
                    <output name="out" type="color3" nodename="img"/>
                  </nodegraph>
                  <standard_surface name="S" type="surfaceshader">
                    <input name="base" type="float" value="0.5"/>
                    <input name="base_color" type="color3" nodegraph="NG" output="out"/>
                    <input name="metalness" type="float" value="0.2"/>
                    <input name="specular_roughness" type="float" value="0.4"/>
                  </standard_surface>
                  <surfacematerial name="Planks" type="material">
                    <input name="surfaceshader" type="surfaceshader" nodename="S"/>
                  </surfacematerial>
                </materialx>
                """);
        Imported read = workshop.readers().read(file, Progress.NONE);
        assertThat(read.holds()).isEqualTo(Imported.Holds.MATERIALS);
        Material planks = read.model().materials().iterator().next();
        assertThat(planks.name()).isEqualTo("Planks");
        assertThat(planks.metallic()).isEqualTo(0.2f);
        assertThat(planks.roughness()).isEqualTo(0.4f);
        assertThat(planks.texture(Material.Slot.BASE).orElseThrow().name()).isEqualTo("maps/planks.png");
        Path bomb = Files.writeString(
                folder.resolve("bomb.mtlx"),
                "<?xml version=\"1.0\"?><!DOCTYPE m [<!ENTITY a SYSTEM \"file:///etc/hostname\">]><materialx>&a;</materialx>");
        org.assertj.core.api.Assertions.assertThatThrownBy(
                        () -> workshop.readers().read(bomb, Progress.NONE))
                .isInstanceOf(ExchangeException.class)
                .hasMessageContaining("DOCTYPE");
    }

    @Test
    void theSameShapeIsKnownHoweverItIsTurnedScaledOrCut() {
        Model ball = Workshop.model("Ball", Shapes.sphere(1, 24, 12));
        ShapeDescriptor shape = ShapeDescriptor.of(ball);
        Matrix4 turned = Matrix4.rotationXyz(new Vec3(30, 50, 70)).times(Matrix4.scale(new Vec3(7, 7, 7)));
        assertThat(shape.likeness(ShapeDescriptor.of(ball.reframed(turned)))).isGreaterThan(0.99);
        assertThat(shape.likeness(ShapeDescriptor.of(Workshop.model("Fine", Shapes.sphere(1, 96, 48)))))
                .isGreaterThan(0.93);
        assertThat(shape.likeness(ShapeDescriptor.of(Workshop.model("Post", Shapes.block(0.1, 9, 0.1)))))
                .isLessThan(0.5);
        assertThat(shape.likeness(ShapeDescriptor.of(Workshop.model("Cube", Shapes.block(1, 1, 1)))))
                .isLessThan(0.85);
        assertThat(ShapeDescriptor.ofCode(shape.code()).orElseThrow().likeness(shape))
                .isGreaterThan(0.999);
        assertThat(ShapeDescriptor.ofCode("nonsense")).isEmpty();
    }
}
