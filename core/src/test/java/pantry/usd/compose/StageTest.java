package pantry.usd.compose;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.math.Vec3;
import pantry.usd.Layer;
import pantry.usd.PropertySpec;
import pantry.usd.RelationshipSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.schema.Xforms;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

/** Composition; the order of strength is that of the AOUSD Core Specification 1.0 (LIVRPS). */
class StageTest {
    @TempDir
    private Path folder;

    private Stage stage(String text) throws IOException {
        Path file = write("scene.usda", text);
        LayerCache layers = new LayerCache();
        return Stage.open(layers.open(file), layers);
    }

    private Path write(String name, String body) throws IOException {
        return Files.writeString(folder.resolve(name), "#usda 1.0\n" + body);
    }

    private static Value value(Stage stage, String prim, String attribute) {
        return stage.prim(SdfPath.of(prim)).orElseThrow().value(attribute).orElseThrow();
    }

    @Test
    void localIsStrongerThanInheritsVariantsReferencesAndPayloads() throws IOException {
        write("ref.usda", "(defaultPrim=\"R\")\ndef \"R\" { int r = 3 int p = 3 int v = 3 int i = 3 int l = 3 }");
        write(
                "pay.usda",
                "(defaultPrim=\"P\")\ndef \"P\" { int p = 4 int r = 4 int v = 4 int i = 4 int l = 4 int q = 4 }");
        Stage stage = stage("""
                class "C" { int i = 1 int l = 1 }
                def "A" (
                    inherits = </C>
                    variants = { string s = "on" }
                    variantSets = "s"
                    references = @ref.usda@
                    payload = @pay.usda@
                ) {
                    int l = 0
                    variantSet "s" = { "on" { int v = 2 int i = 2 int l = 2 } "off" { int v = 9 } }
                }
                """);
        assertThat(value(stage, "/A", "l")).isEqualTo(new Value.Int(0));
        assertThat(value(stage, "/A", "i")).isEqualTo(new Value.Int(1));
        assertThat(value(stage, "/A", "v")).isEqualTo(new Value.Int(2));
        assertThat(value(stage, "/A", "r")).isEqualTo(new Value.Int(3));
        assertThat(value(stage, "/A", "q")).isEqualTo(new Value.Int(4));
        assertThat(stage.problems()).isEmpty();
    }

    @Test
    void targetsOfAReferencedLayerPointIntoTheScene() throws IOException {
        write(
                "mast.usda",
                "(defaultPrim=\"Mast\")\ndef \"Mast\" { def \"Head\" { rel paint = </Mast/Materials/Red> } }");
        Stage stage = stage("def \"World\" { def \"M\" (references = @mast.usda@) {} }");
        Prim head = stage.prim(SdfPath.of("/World/M/Head")).orElseThrow();
        assertThat(head.targets("paint")).containsExactly(SdfPath.of("/World/M/Materials/Red"));
    }

    @Test
    void overridesReachIntoReferencesAndSublayersAreWeaker() throws IOException {
        write("mast.usda", "(defaultPrim=\"Mast\")\ndef \"Mast\" { def \"Head\" { double size = 1 double keep = 5 } }");
        write("below.usda", "over \"M\" { over \"Head\" { double size = 2 } double only = 7 }");
        Stage stage = stage(
                "(subLayers = [@below.usda@])\ndef \"M\" (references = @mast.usda@) { over \"Head\" { double size = 3 } }");
        assertThat(value(stage, "/M/Head", "size")).isEqualTo(new Value.Real(3));
        assertThat(value(stage, "/M/Head", "keep")).isEqualTo(new Value.Real(5));
        assertThat(value(stage, "/M", "only")).isEqualTo(new Value.Real(7));
    }

    @Test
    void whatIsMissingIsToldWithItsChainAndTheRestStands() throws IOException {
        write(
                "group.usda",
                "(defaultPrim=\"G\")\ndef \"G\" { def \"Lost\" (references = @gone.usda@) {} def \"Kept\" {} }");
        Stage stage =
                stage("def \"World\" (references = @group.usda@) {}\ndef \"Bad\" (references = @group.usda@</No>) {}");
        assertThat(stage.prims().map(prim -> prim.path().toString()))
                .containsExactly("/World", "/World/Lost", "/World/Kept", "/Bad");
        assertThat(stage.problems())
                .extracting(CompositionProblem::kind)
                .containsExactlyInAnyOrder(CompositionProblem.Kind.MISSING_LAYER, CompositionProblem.Kind.MISSING_PRIM);
        CompositionProblem missing = stage.problems().stream()
                .filter(problem -> problem.kind() == CompositionProblem.Kind.MISSING_LAYER)
                .findFirst()
                .orElseThrow();
        assertThat(missing.message()).contains("gone.usda");
        assertThat(missing.chain()).hasSize(2).last().asString().contains("group.usda");
    }

    @Test
    void cyclesAreToldAndEnd() throws IOException {
        write("a.usda", "(defaultPrim=\"A\")\ndef \"A\" { def \"In\" (references = @b.usda@) {} }");
        write("b.usda", "(defaultPrim=\"B\")\ndef \"B\" { def \"In\" (references = @a.usda@) {} }");
        Stage stage = stage(
                "(subLayers = [@scene.usda@])\ndef \"W\" (references = @a.usda@) {}\ndef \"S\" (references = </S/T>) { def \"T\" {} }");
        assertThat(stage.prims().count()).isLessThan(20);
        assertThat(stage.problems())
                .extracting(CompositionProblem::kind)
                .contains(CompositionProblem.Kind.CYCLE)
                .doesNotContain(CompositionProblem.Kind.MISSING_PRIM);
    }

    @Test
    void instancesThatHoldThemselvesAreToldAndEnd() throws IOException {
        write("a.usda", "(defaultPrim=\"A\")\ndef \"A\" { def \"In\" (references = @b.usda@ instanceable = true) {} }");
        write("b.usda", "(defaultPrim=\"B\")\ndef \"B\" { def \"In\" (references = @a.usda@ instanceable = true) {} }");
        Stage stage = stage("def \"W\" (references = @a.usda@ instanceable = true) {}"
                + "\ndef \"V\" (references = @b.usda@ instanceable = true) {}");
        assertThat(depth(stage.root())).isLessThan(10);
        assertThat(stage.problems()).extracting(CompositionProblem::kind).contains(CompositionProblem.Kind.CYCLE);
    }

    private static int depth(Prim prim) {
        return 1 + prim.children().stream().mapToInt(StageTest::depth).max().orElse(0);
    }

    @Test
    void instancesDoNotShareWhatClassesOnTheWayRefineOtherwise() throws IOException {
        write(
                "hut.usda",
                "(defaultPrim=\"Hut\")\ndef \"Hut\" { def \"Door\" (inherits = </_Paint>) {} }\nclass \"_Paint\" { int tone = 1 }");
        write(
                "camp.usda",
                "(defaultPrim=\"Camp\")\ndef \"Camp\" { def \"Hut\" (references = @hut.usda@ instanceable = true) {} }"
                        + "\nclass \"_Paint\" { int tone = 2 }");
        Stage stage = stage("def \"Camp\" (references = @camp.usda@) {}"
                + "\ndef \"Alone\" (references = @hut.usda@ instanceable = true) {}");
        assertThat(tone(stage, "/Camp/Hut")).isEqualTo(new Value.Int(2));
        assertThat(tone(stage, "/Alone")).isEqualTo(new Value.Int(1));
    }

    private static Value tone(Stage stage, String hut) {
        Prim door = stage.prim(SdfPath.of(hut)).orElseThrow().child("Door").orElseThrow();
        return door.value("tone").orElseThrow();
    }

    @Test
    void instancesShareOnePrototypeAndKeepTheirOwnPlaces() throws IOException {
        write(
                "mast.usda",
                "(defaultPrim=\"Mast\")\ndef Xform \"Mast\" { def Mesh \"Body\" { rel b = </Mast/Paint> } def \"Paint\" {} }");
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 500; i++) {
            text.append("def Xform \"M")
                    .append(i)
                    .append("\" (references = @mast.usda@ instanceable = true) { double3 xformOp:translate = (")
                    .append(i)
                    .append(", 0, 0) uniform token[] xformOpOrder = [\"xformOp:translate\"] }\n");
        }
        Stage stage = stage(text.toString());
        Prim first = stage.prim(SdfPath.of("/M0")).orElseThrow();
        Prim last = stage.prim(SdfPath.of("/M499")).orElseThrow();
        assertThat(first.prototype().orElseThrow()).isSameAs(last.prototype().orElseThrow());
        assertThat(stage.prototypes()).hasSize(1);
        assertThat(stage.prims().count()).isEqualTo(500);
        assertThat(Xforms.local(last).translationPart()).isEqualTo(new Vec3(499, 0, 0));
        Prim body = first.child("Body").orElseThrow();
        assertThat(body.targets("b")).containsExactly(SdfPath.of("/__Prototype_1/Paint"));
    }

    /** What nothing has asked for yet, as well: a prototype is composed only then. */
    @Test
    void allPrimsAreGoneThroughAlsoWithinInstancesOfInstances() throws IOException {
        write("bolt.usda", "(defaultPrim=\"Bolt\")\ndef \"Bolt\" { def \"Head\" {} }");
        write(
                "buoy.usda",
                "(defaultPrim=\"Buoy\")\ndef \"Buoy\" { def \"L\" (references = @bolt.usda@ instanceable = true) {}"
                        + " def \"R\" (references = @bolt.usda@ instanceable = true) {} }");
        Stage stage = stage("def \"One\" (references = @buoy.usda@ instanceable = true) {}"
                + " def \"Two\" (references = @buoy.usda@ instanceable = true) {}");
        List<String> names = new ArrayList<>();
        stage.forEachPrim(prim -> names.add(prim.name()));
        assertThat(names).containsExactly("One", "Two", "__Prototype_1", "L", "R", "__Prototype_2", "Head");
        assertThat(stage.usedLayers())
                .flatExtracting(layer -> layer.file().stream()
                        .map(Path::getFileName)
                        .map(Path::toString)
                        .toList())
                .contains("buoy.usda", "bolt.usda");
    }

    @Test
    void flatteningSharesOrExpandsInstances() throws IOException {
        write(
                "mast.usda",
                "(defaultPrim=\"Mast\")\ndef Xform \"Mast\" { def Mesh \"Body\" { rel b = </Mast/Paint> } def \"Paint\" {} }");
        Stage stage = stage(
                "def \"W\" { def \"A\" (references = @mast.usda@ instanceable = true) {} def \"B\" (references = @mast.usda@ instanceable = true) {} }");
        Layer expanded = Flattener.flatten(stage, Flattener.Instances.EXPANDED, folder.resolve("flat.usda"));
        PropertySpec target = expanded.prim(SdfPath.of("/W/B/Body"))
                .orElseThrow()
                .property("b")
                .orElseThrow();
        assertThat(((RelationshipSpec) target).targets().applyTo(List.of())).containsExactly(SdfPath.of("/W/B/Paint"));
        Layer shared = Flattener.flatten(stage, Flattener.Instances.SHARED, folder.resolve("flat.usda"));
        Stage again = Stage.open(UsdaReader.parse(UsdaWriter.write(shared)), new LayerCache());
        assertThat(again.prim(SdfPath.of("/W/B/Body"))).isPresent();
        assertThat(again.prototypes()).hasSize(1);
        assertThat(again.problems()).isEmpty();
    }

    @Test
    void transformOpsApplyFromTheLastToTheFirst() throws IOException {
        Stage stage = stage("""
                def Xform "A" {
                    double3 xformOp:translate = (10, 0, 0)
                    float3 xformOp:rotateXYZ = (0, 90, 0)
                    float3 xformOp:scale = (2, 2, 2)
                    double3 xformOp:translate:pivot = (1, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate", "xformOp:translate:pivot", "xformOp:rotateXYZ", "xformOp:scale", "!invert!xformOp:translate:pivot"]
                }
                """);
        // The pivot stays where it is; a point 1 beyond it comes to lie 2 towards -z.
        Prim prim = stage.prim(SdfPath.of("/A")).orElseThrow();
        assertThat(Xforms.local(prim).point(new Vec3(1, 0, 0))).isEqualTo(new Vec3(11, 0, 0));
        assertThat(Xforms.local(prim)
                        .point(new Vec3(2, 0, 0))
                        .minus(new Vec3(11, 0, -2))
                        .length())
                .isLessThan(1e-12);
    }

    @Test
    void payloadsCanBeLeftOut() throws IOException {
        write("heavy.usda", "(defaultPrim=\"H\")\ndef \"H\" { def Mesh \"Body\" {} }");
        Path file = write("scene.usda", "def \"A\" (payload = @heavy.usda@) {}");
        LayerCache layers = new LayerCache();
        Stage stage = Stage.open(layers.open(file), layers, path -> false);
        Prim prim = stage.prim(SdfPath.of("/A")).orElseThrow();
        assertThat(prim.children()).isEmpty();
        assertThat(prim.isLoaded()).isFalse();
    }

    @Test
    void changedFilesAreReadAgain() throws IOException {
        LayerCache layers = new LayerCache();
        Path file = write("a.usda", "def \"One\" {}");
        Layer first = layers.open(file);
        assertThat(layers.open(file)).isSameAs(first);
        write("a.usda", "def \"One\" {}\ndef \"Two\" {}");
        assertThat(layers.open(file).rootPrims()).hasSize(2);
    }

    @Test
    void whatIsDefinedStaysSoThoughAReferencingLayerSpeaksOfItsClass() throws IOException {
        write("asset.usda", """
                (defaultPrim="Mast")
                class "_Mast" { int height = 9 def Mesh "Pole" {} }
                def Xform "Mast" (inherits = </_Mast>) {}
                """);
        for (String speaks : new String[] {"over", "class"}) {
            Stage stage = stage(speaks + " \"_Mast\" { int height = 12 }\n"
                    + "over \"Yard\" (references = @asset.usda@) {}\n"
                    + "def \"Scene\" { over \"Mast\" (references = @asset.usda@) {} }\n");
            for (String path : List.of("/Yard", "/Scene/Mast")) {
                Prim prim = stage.prim(SdfPath.of(path)).orElseThrow();
                assertThat(prim.specifier()).as(speaks + " " + path).isEqualTo(Specifier.DEF);
                assertThat(prim.isAbstract()).isFalse();
                assertThat(prim.child("Pole")).isPresent();
            }
            Layer flat = Flattener.flatten(stage, Flattener.Instances.SHARED, folder.resolve("flat.usda"));
            assertThat(flat.prim(SdfPath.of("/Yard")).orElseThrow().specifier()).isEqualTo(Specifier.DEF);
        }
    }
}
