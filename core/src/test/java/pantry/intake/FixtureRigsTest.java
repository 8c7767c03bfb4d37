package pantry.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.base.math.Box3;
import pantry.base.math.Vec3;
import pantry.exchange.format.Imported;
import pantry.exchange.usd.LampReader;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.model.Fixture;
import pantry.model.Model;
import pantry.testing.WithWorkshop;
import pantry.usd.compose.Prim;
import pantry.usd.compose.Stage;

/** Files of lights and cameras become light rigs, seen by small bodies that no scene shows. */
class FixtureRigsTest extends WithWorkshop {
    private static final String RIG = """
            #usda 1.0
            ( defaultPrim = "Rig" metersPerUnit = 0.01 upAxis = "Z" )
            def Xform "Rig" {
                def SphereLight "Spot" ( prepend apiSchemas = ["ShapingAPI"] ) {
                    float inputs:shaping:cone:angle = 30
                    double3 xformOp:translate = (100, 0, 200)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                }
                def RectLight "Panel" { float inputs:width = 120 float inputs:intensity = 7 }
                def Camera "View" { float focalLength = 35 }
            }
            """;

    private Imported read(String name, String text) throws IOException {
        Path file = Files.writeString(folder.resolve(name), text);
        return workshop.intake().read(file, Progress.NONE);
    }

    private Asset shelved(Imported arrival) {
        Slip slip = Intake.suggested(arrival, "Lights", Neighbours.NONE);
        assertThat(slip.kind()).isEqualTo(AssetKind.LIGHT_RIG);
        return workshop.intake()
                .shelve(arrival, slip, library, Progress.NONE)
                .published()
                .asset();
    }

    private Stage stage(Asset asset) {
        var layers = workshop.layers();
        return Stage.open(layers.open(asset.entryLayer("v001")), layers);
    }

    @Test
    void aRigOfUsdKeepsAllThatItSays() throws IOException {
        Imported arrival = read("rig.usda", RIG);
        assertThat(arrival.holds()).isEqualTo(Imported.Holds.FIXTURES);
        Asset asset = shelved(arrival);
        List<Prim> prims = stage(asset).prims().toList();
        Prim panel = prims.stream()
                .filter(prim -> prim.typeName().equals("RectLight"))
                .findFirst()
                .orElseThrow();
        assertThat(panel.attribute("inputs:width")).isPresent();
        assertThat(prims).extracting(Prim::typeName).contains("SphereLight", "Camera");
        assertThat(asset.facts("v001").lights()).isEqualTo(2);
        assertThat(asset.facts("v001").cameras()).isEqualTo(1);
        assertThat(LampReader.read(stage(asset), path -> false)).hasSize(2);
        Imported again = workshop.readers().read(asset.entryLayer("v001"), Progress.NONE);
        assertThat(again.holds()).isEqualTo(Imported.Holds.FIXTURES);
        assertThat(again.facts().triangles()).as("bodies only show the lights").isZero();
        assertThat(asset.facts("v001").triangles()).isZero();
        assertThat(asset.facts("v001").meshes()).isZero();
        assertThat(asset.facts("v001").bounds().size().y()).isPositive();
        Set<String> bodies = new TreeSet<>();
        again.model().visit((owner, part, world) -> bodies.add(owner.name()));
        assertThat(bodies).hasSize(3).allSatisfy(name -> assertThat(name).startsWith("Sample"));
    }

    /** The ball that shows a dome called Sky is around nothing that is to be left out. */
    @Test
    void aSkyAmongLampsIsKept() throws IOException {
        Asset asset = shelved(read(
                "rig.usda",
                RIG.replace(
                        "def Camera", "def DomeLight \"Sky\" {}\n    def DistantLight \"Sun\" {}\n    def Camera")));
        assertThat(LampReader.read(stage(asset), path -> false)).hasSize(4);
    }

    /** The cone of a spot that hangs two metres up opens downwards, as it looks along its negative z: in Z up, down. */
    @Test
    void bodiesStandWhereLightsDoAndLookWhereTheyLook() throws IOException {
        Asset asset = shelved(read("rig.usda", RIG));
        Model seen =
                workshop.readers().read(asset.entryLayer("v001"), Progress.NONE).model();
        Box3[] box = {Box3.EMPTY};
        seen.visit((owner, part, world) -> {
            if (owner.name().contains("Spot")) {
                box[0] = box[0].union(part.mesh().bounds().transformed(world));
            }
        });
        assertThat(box[0].max().y()).isCloseTo(2, within(0.01));
        assertThat(box[0].min().y()).isBetween(1.6, 1.8);
        assertThat(box[0].centre().minus(new Vec3(1, box[0].centre().y(), 0)).length())
                .isLessThan(0.01);
    }

    @Test
    void aCameraOfGltfIsKeptAlone() throws IOException {
        Asset asset = shelved(read("view.gltf", """
                {"asset": {"version": "2.0"}, "scene": 0, "scenes": [{"nodes": [0]}],
                 "nodes": [{"camera": 0, "name": "View", "translation": [0, 1, 5]}],
                 "cameras": [{"type": "perspective", "perspective": {"yfov": 0.8, "znear": 0.1}}]}
                """));
        Imported again = workshop.readers().read(asset.entryLayer("v001"), Progress.NONE);
        assertThat(again.model().extras().fixtures()).singleElement().satisfies(fixture -> {
            assertThat(fixture).isInstanceOf(Fixture.Camera.class);
            assertThat(((Fixture.Camera) fixture).angle()).isCloseTo(Math.toDegrees(0.8), within(0.01));
            assertThat(fixture.world().point(Vec3.ZERO).minus(new Vec3(0, 1, 5)).length())
                    .isLessThan(1e-6);
        });
    }

    /** What is placed in a scene lights it, and its bodies are not drawn there. */
    @Test
    void inASceneTheLightsShineAndTheBodiesAreNotDrawn() throws IOException {
        Asset asset = shelved(read("rig.usda", RIG));
        var scene = workshop.newScene(folder.resolve("scene.usda"));
        pantry.testing.Workshop.stand(scene, asset, 0);
        assertThat(scene.model().meshes()).isEmpty();
        assertThat(LampReader.read(scene.stage(), path -> false)).hasSize(2);
    }

    @Test
    void emptyFilesAreStillRefused() {
        assertThatThrownBy(() -> read("none.usda", "#usda 1.0\ndef Xform \"Empty\" {}\n"))
                .isInstanceOf(PantryException.class)
                .hasMessageContaining("has no surface in it and nothing else");
    }
}
