package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.math.Vec3;
import pantry.exchange.usd.MeshCache;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.model.Material;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.tools.LevelsAndCollision;
import pantry.prep.tools.Proxy;
import pantry.render.RenderCache;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;
import pantry.usd.text.UsdaWriter;
import pantry.workpiece.Shelving;
import pantry.workpiece.Workpiece;

class SceneTest {
    private static final TransformComponents SOMEWHERE =
            new TransformComponents(new Vec3(1.5, 0, -2.25), new Vec3(0, 37.5, 0), new Vec3(1, 2, 1));

    @TempDir
    private Path folder;

    private Workshop workshop;
    private Asset mast;
    private Scene scene;

    @BeforeEach
    void open() throws IOException {
        Files.createDirectories(folder.resolve("project"));
        workshop = new Workshop(folder);
        mast = workshop.block("Mast 9 m", "Masts", 9);
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
    }

    @AfterEach
    void close() {
        workshop.close();
    }

    private SdfPath place() {
        return scene.placements().place(mast, Optional.empty(), "Mast", SOMEWHERE, Optional.empty());
    }

    @Test
    void everythingIsWhereItWasAfterSavingAndOpening() {
        SdfPath first = place();
        SdfPath pinned = scene.placements()
                .place(mast, Optional.of("v001"), "Mast", TransformComponents.ORIGIN, Optional.empty());
        scene.save();
        Scene again = workshop.openScene(scene.file());
        assertThat(again.placements().all()).hasSize(2);
        assertThat(again.placements().at(first).orElseThrow().placing()).isEqualTo(SOMEWHERE);
        assertThat(again.placements().at(first).orElseThrow().held()).isEqualTo(Placement.Held.FOLLOWING);
        assertThat(again.placements().at(pinned).orElseThrow().version()).isEqualTo("v001");
        assertThat(again.layer().prim(first).orElseThrow().metadata().toString())
                .doesNotContain(folder.toString());
        assertThat(scene.file()).content().contains("@../library/assets/Masts/mast-9-m/ready.usda@");
        Model model = again.model();
        assertThat(model.trianglesStored()).isEqualTo(12);
        assertThat(model.trianglesDrawn()).isEqualTo(24);
        assertThat(model.bounds().max().y()).isEqualTo(18);
    }

    @Test
    void anyChainOfChangesIsUndoneAndRedoneExactly() {
        Random random = new Random(5);
        java.util.List<String> states = new java.util.ArrayList<>();
        states.add(UsdaWriter.write(scene.layer()));
        for (int i = 0; i < 60; i++) {
            List<SdfPath> all =
                    scene.placements().all().stream().map(Placement::path).toList();
            switch (all.isEmpty() ? 0 : random.nextInt(4)) {
                case 0 -> place();
                case 1 ->
                    scene.arranging()
                            .move(Map.of(
                                    all.get(random.nextInt(all.size())),
                                    TransformComponents.ORIGIN.withMove(new Vec3(i, 0, 0))));
                case 2 ->
                    scene.structure()
                            .duplicate(
                                    List.of(all.get(0), all.getLast()).stream()
                                            .distinct()
                                            .toList(),
                                    new Vec3(1, 0, 0));
                default -> scene.structure().remove(List.of(all.get(random.nextInt(all.size()))));
            }
            states.add(UsdaWriter.write(scene.layer()));
        }
        for (int i = states.size() - 2; i >= 0; i--) {
            scene.undo();
            assertThat(UsdaWriter.write(scene.layer())).isEqualTo(states.get(i));
        }
        assertThat(scene.undoName()).isEmpty();
        assertThat(scene.changed()).isFalse();
        for (int i = 1; i < states.size(); i++) {
            scene.redo();
            assertThat(UsdaWriter.write(scene.layer())).isEqualTo(states.get(i));
        }
    }

    @Test
    void aMissingAssetIsShownAndItsReferenceKept() throws IOException {
        SdfPath path = place();
        scene.save();
        Path away = folder.resolve("away");
        Files.move(mast.folder(), away);
        Scene again = workshop.openScene(scene.file());
        assertThat(again.placements().at(path).orElseThrow().held()).isEqualTo(Placement.Held.MISSING);
        assertThat(SceneTree.of(again.stage()).errors()).singleElement().satisfies(error -> assertThat(error.kind())
                .isEqualTo("missing_layer"));
        assertThat(again.model().trianglesDrawn()).isZero();
        again.arranging().move(Map.of(path, TransformComponents.ORIGIN));
        again.save();
        assertThat(again.file()).content().contains("mast-9-m/ready.usda");
        Files.move(away, mast.folder());
        assertThat(workshop.openScene(scene.file()).model().trianglesDrawn()).isEqualTo(12);
    }

    @Test
    void whatPantryDoesNotKnowStaysInTheFile() throws IOException {
        Path file = Files.writeString(folder.resolve("theirs.usda"), """
                #usda 1.0
                (
                    defaultPrim = "World"
                    metersPerUnit = 1
                    upAxis = "Y"
                    studioNote = { string by = "elsewhere" }
                )
                def Xform "World" (strangeField = [(1, 2)])
                {
                    def OddSchema "Thing" { oddType[] values = [<x>, 3] }
                }
                """.replace("[<x>, 3]", "[(1, x), 3]"));
        Scene theirs = workshop.openScene(file);
        theirs.placements().place(mast, Optional.empty(), "Mast", TransformComponents.ORIGIN, Optional.empty());
        theirs.save();
        assertThat(file)
                .content()
                .contains("string by = \"elsewhere\"")
                .contains("strangeField = [(1, 2)]")
                .contains("def OddSchema \"Thing\"")
                .contains("oddType[] values = [(1, x), 3]");
    }

    @Test
    void aForeignFileIsCorrectedToMetresAndUpright() throws IOException {
        Path foreign = Files.writeString(folder.resolve("foreign.usda"), """
                #usda 1.0
                ( defaultPrim = "Post" metersPerUnit = 0.01 upAxis = "Z" )
                def Xform "Post" { def Cube "Body" { double size = 100 double3 xformOp:translate = (0, 0, 50) uniform token[] xformOpOrder = ["xformOp:translate"] } }
                """);
        SdfPath path = scene.placements()
                .placeFile(foreign, Optional.empty(), "Post", SOMEWHERE.withScale(Vec3.ONE), Optional.empty());
        assertThat(scene.placements().at(path).orElseThrow().held()).isEqualTo(Placement.Held.FILE);
        assertThat(scene.model().bounds().size().y()).isCloseTo(1, org.assertj.core.api.Assertions.within(1e-6));
        assertThat(scene.model().bounds().min().y()).isCloseTo(0, org.assertj.core.api.Assertions.within(1e-6));
        scene.arranging().move(Map.of(path, TransformComponents.ORIGIN));
        assertThat(scene.model().bounds().size().y())
                .as("moving keeps the correction")
                .isCloseTo(1, org.assertj.core.api.Assertions.within(1e-6));
    }

    /** Files as other programs leave them: a mesh or a lamp at the top, or a top that is turned and moved itself. */
    @Test
    void whatAFileHasAtItsTopIsShownAsItStandsThere() throws IOException {
        Path mesh = Files.writeString(folder.resolve("mesh.usda"), """
                #usda 1.0
                ( defaultPrim = "Plate" metersPerUnit = 1 upAxis = "Y" )
                def Mesh "Plate" {
                    int[] faceVertexCounts = [3]
                    int[] faceVertexIndices = [0, 1, 2]
                    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 2, 0)]
                    double3 xformOp:translate = (0, 5, 0)
                    float xformOp:rotateZ = 90
                    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:rotateZ"]
                }
                """);
        TransformComponents there = TransformComponents.ORIGIN.withMove(new Vec3(10, 0, 0));
        SdfPath path = scene.placements().placeFile(mesh, Optional.empty(), "Plate", there, Optional.empty());
        // A quarter turn about z lets x become y, and y become -x; then it is raised by 5, and placed at 10.
        var box = scene.model().bounds();
        assertThat(box.min()).isEqualTo(new Vec3(8, 5, 0));
        assertThat(box.max()).isEqualTo(new Vec3(10, 6, 0));
        scene.arranging().move(Map.of(path, TransformComponents.ORIGIN));
        assertThat(scene.model().bounds().min()).isEqualTo(new Vec3(-2, 5, 0));
        // An asset in its place stands upright: what was corrected for the file is gone with it.
        scene.placements().replace(path, mast, Optional.empty());
        assertThat(scene.model().bounds().min().y()).isZero();
        assertThat(scene.stage().prim(path).orElseThrow().isInstance()).isTrue();
        scene.undo();
        assertThat(scene.model().bounds().min()).isEqualTo(new Vec3(-2, 5, 0));

        Path lamp = Files.writeString(
                folder.resolve("lamp.usda"),
                "#usda 1.0\n( defaultPrim = \"Lamp\" )\ndef SphereLight \"Lamp\" { float inputs:intensity = 3 }");
        scene.placements().placeFile(lamp, Optional.empty(), "Lamp", there, Optional.empty());
        assertThat(scene.lamps(each -> false)).hasSize(1);
        assertThat(scene.lamps(each -> each.name().equals("Lamp"))).isEmpty();
    }

    @Test
    void onePrimOfAFileStandsWithItsPivotWhereItIsPlaced() throws IOException {
        Path yard = Files.writeString(folder.resolve("yard.usda"), """
                #usda 1.0
                ( metersPerUnit = 0.01 upAxis = "Y" )
                def Xform "Yard" {
                    double3 xformOp:translate = (900, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                    def Cube "Post" { double size = 100 }
                    def Cube "Other" { double size = 500 }
                }
                """);
        SdfPath path = scene.placements()
                .placeFile(
                        yard,
                        Optional.of(SdfPath.of("/Yard/Post")),
                        "Post",
                        TransformComponents.ORIGIN.withMove(new Vec3(2, 0, 0)),
                        Optional.empty());
        assertThat(scene.model().bounds().centre()).isEqualTo(new Vec3(2, 0, 0));
        assertThat(scene.model().bounds().size()).isEqualTo(new Vec3(1, 1, 1));
        assertThat(scene.placements().at(path).orElseThrow().held()).isEqualTo(Placement.Held.FILE);
        assertThatThrownBy(() -> scene.placements()
                        .placeFile(
                                yard,
                                Optional.of(SdfPath.of("/Yard/Gone")),
                                "Post",
                                TransformComponents.ORIGIN,
                                Optional.empty()))
                .hasMessageContaining("</Yard/Gone>");
        assertThatThrownBy(() -> scene.placements()
                        .placeFile(yard, Optional.empty(), "Yard", TransformComponents.ORIGIN, Optional.empty()))
                .hasMessageContaining("no default prim");
    }

    @Test
    void refusalsSayWhy() throws IOException {
        assertThatThrownBy(() -> workshop.newScene(scene.file())).hasMessageContaining("already there");
        assertThatThrownBy(() -> workshop.newScene(folder.resolve("scene.txt"))).hasMessageContaining(".usda");
        assertThatThrownBy(() -> scene.placements()
                        .place(mast, Optional.of("v009"), "Mast", TransformComponents.ORIGIN, Optional.empty()))
                .hasMessageContaining("v009");
        assertThatThrownBy(() -> scene.placements()
                        .place(
                                mast,
                                Optional.empty(),
                                "Mast",
                                TransformComponents.ORIGIN,
                                Optional.of(SdfPath.of("/No/Where"))))
                .hasMessageContaining("/No/Where");
        assertThatThrownBy(() -> scene.structure().remove(List.of(scene.root())))
                .hasMessageContaining("root");
        Path broken = Files.writeString(folder.resolve("broken.usda"), "#usda 1.0\ndef {");
        assertThatThrownBy(() -> workshop.openScene(broken)).hasMessageContaining("expected");
        AtomicFiles.deleteTree(folder.resolve("project"));
        place();
        assertThatThrownBy(scene::save).hasMessageContaining("cannot be written");
        assertThat(scene.changed()).as("nothing is lost").isTrue();
    }

    @Test
    void theScaleTellsStoredAndDrawn() {
        place();
        place();
        Weight weight = scene.weight(scene.model());
        assertThat(weight.trianglesStored()).isEqualTo(12);
        assertThat(weight.trianglesDrawn()).isEqualTo(24);
        assertThat(weight.placements()).isEqualTo(2);
        assertThat(weight.fileBytes()).isPositive();
    }

    @Test
    void placementsAreShownByTheirProxiesWhileWorking() {
        Asset crate = workshop.block("Crate", "Stores", 1);
        Workpiece piece = Workpiece.of(
                new Workpiece.Shelved(workshop.library(), crate, "v001"),
                new Workpiece.Sources(workshop.readers(), workshop.layers(), new MeshCache()));
        Proxy.write(piece, Proxy.boxes(piece.model(), 1, Progress.NONE));
        LevelsAndCollision.levels(piece);
        Asset light = Shelving.publish(piece, VersionStatus.READY, "proxy", new RenderCache(), Progress.NONE)
                .asset();
        Scene scene = workshop.newScene(folder.resolve("light.usda"));
        SdfPath one =
                scene.placements().place(light, Optional.empty(), "One", TransformComponents.ORIGIN, Optional.empty());
        SdfPath other = scene.placements()
                .place(
                        light,
                        Optional.empty(),
                        "Other",
                        TransformComponents.ORIGIN.withMove(new Vec3(3, 0, 0)),
                        Optional.empty());
        Material paint = scene.model().materials().iterator().next();
        assertThat(scene.model(path -> false, path -> false).materials()).containsExactly(paint);
        Model mixed = scene.model(one::equals, path -> false);
        // The proxy has no material of its own, and stands where the original does.
        assertThat(mixed.materials()).containsExactly(paint);
        assertThat(mixed.objects()).isEqualTo(scene.model().objects());
        assertThat(mixed.bounds().min().minus(scene.model().bounds().min()).length())
                .isLessThan(0.05);
        assertThat(scene.model(path -> path.equals(one) || path.equals(other), path -> false)
                        .materials())
                .isEmpty();
    }

    @Test
    void aSceneIsToldFromOtherFiles() throws Exception {
        Path mine = workshop.newScene(folder.resolve("project/another.usda")).file();
        assertThat(Scene.isScene(mine)).isTrue();
        assertThat(Scene.isScene(mast.entryLayer("v001"))).isFalse();
        assertThat(Scene.isScene(Files.writeString(folder.resolve("broken.usda"), "#usda 1.0\ndef {")))
                .isFalse();
        assertThat(Scene.isScene(folder.resolve("drum.glb"))).isFalse();
    }

    @Test
    void aPlacementIsCalledAsItsAssetWithTheSignsThatAPathCannotHave() {
        String name = "Block, 1.2 m";
        List<String> titles = new ArrayList<>();
        for (int i = 0; i < 2; i++) {
            SdfPath placed = scene.placements()
                    .place(mast, Optional.empty(), name, TransformComponents.ORIGIN, Optional.empty());
            titles.add(scene.title(placed));
        }
        assertThat(titles).containsExactly("Block, 1.2 m", "Block, 1.2 m 2");
        SdfPath plain = scene.placements()
                .place(mast, Optional.empty(), "Block 9 m", TransformComponents.ORIGIN, Optional.empty());
        assertThat(scene.title(plain)).isEqualTo("Block 9 m");
        assertThat(scene.spec(plain).flatMap(prim -> prim.text("displayName"))).isEmpty();
        SdfPath renamed = scene.structure().rename(plain, "Block no. 7");
        assertThat(scene.title(renamed)).isEqualTo("Block no. 7");
    }
}
