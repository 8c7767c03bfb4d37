package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;
import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;
import pantry.usd.text.UsdaReader;
import pantry.usd.text.UsdaWriter;

class TransformComponentsTest {
    private static PrimSpec prim() {
        return new PrimSpec(Specifier.DEF, "Xform", "A");
    }

    @Test
    void typedFiguresComeBackAsTheyWereTyped() {
        TransformComponents placing = new TransformComponents(
                new Vec3(0.1, -2.345678, 1e6), new Vec3(5.8, 0.1, 359.9), new Vec3(1.544, 0.001, -2));
        PrimSpec prim = prim();
        placing.write(prim);
        assertThat(TransformComponents.read(prim)).isEqualTo(placing);
        Layer layer = Layer.anonymous();
        layer.root().add(prim);
        PrimSpec again =
                UsdaReader.parse(UsdaWriter.write(layer)).prim(SdfPath.of("/A")).orElseThrow();
        assertThat(TransformComponents.read(again)).isEqualTo(placing);
    }

    @Test
    void theWrittenOpsComeToTheSameTransform() {
        Random random = new Random(2);
        for (int i = 0; i < 30; i++) {
            TransformComponents placing = new TransformComponents(
                    new Vec3(random.nextInt(9), random.nextInt(9), random.nextInt(9)),
                    new Vec3(random.nextInt(360), random.nextInt(360), random.nextInt(360)),
                    new Vec3(1 + random.nextInt(3), 1, 0.5));
            Layer layer = Layer.anonymous();
            PrimSpec prim = layer.root().define("Xform", "A");
            placing.write(prim);
            Matrix4 composed = Xforms.local(
                    Stage.open(layer, new LayerCache()).prim(SdfPath.of("/A")).orElseThrow());
            Vec3 p = new Vec3(1, 2, 3);
            assertThat(composed.point(p).minus(placing.matrix().point(p)).length())
                    .isLessThan(1e-9);
        }
    }

    @Test
    void whatStandsBehindTheUsualOpsIsKept() {
        PrimSpec prim = prim();
        TransformComponents.ORIGIN.write(prim);
        Xforms.appendMatrix(prim, "unit", Matrix4.scale(new Vec3(0.01, 0.01, 0.01)));
        TransformComponents.ORIGIN.withMove(new Vec3(1, 0, 0)).write(prim);
        assertThat(prim.attribute("xformOpOrder").orElseThrow().value())
                .contains(new Value.Strings(
                        List.of("xformOp:translate", "xformOp:rotateXYZ", "xformOp:scale", "xformOp:transform:unit")));
        assertThat(TransformComponents.isUsual(prim)).isTrue();
    }

    /** Many programs write only those ops that say something. */
    @Test
    void someOfTheUsualOpsAreAsGoodAsAllOfThem() {
        PrimSpec prim = prim();
        prim.set("double3", "xformOp:translate", new Value.Tuple(new double[] {3, 0, 1}));
        prim.set("float3", "xformOp:scale", new Value.Tuple(new double[] {2, 2, 2}));
        prim.set("token[]", "xformOpOrder", new Value.Strings(List.of("xformOp:translate")));
        assertThat(TransformComponents.isUsual(prim)).isTrue();
        assertThat(TransformComponents.read(prim))
                .as("what is not in the order has no effect")
                .isEqualTo(new TransformComponents(new Vec3(3, 0, 1), Vec3.ZERO, Vec3.ONE));
        prim.set("token[]", "xformOpOrder", new Value.Strings(List.of("xformOp:translate", "xformOp:scale")));
        assertThat(TransformComponents.read(prim))
                .isEqualTo(new TransformComponents(new Vec3(3, 0, 1), Vec3.ZERO, new Vec3(2, 2, 2)));
        prim.set("token[]", "xformOpOrder", new Value.Strings(List.of("xformOp:scale", "xformOp:translate")));
        assertThat(TransformComponents.isUsual(prim))
                .as("another order is another transform")
                .isFalse();
    }

    @Test
    void transformsOfAnotherFormAreKnownAsSuch() {
        PrimSpec bare = prim();
        assertThat(TransformComponents.isUsual(bare)).isTrue();
        assertThat(TransformComponents.read(bare)).isEqualTo(TransformComponents.ORIGIN);
        PrimSpec matrix = prim();
        Xforms.setMatrix(matrix, Matrix4.translation(new Vec3(1, 0, 0)));
        assertThat(TransformComponents.isUsual(matrix)).isFalse();
    }

    @Test
    void theTreeListsPrimsPrototypesAndErrors() {
        Layer layer = UsdaReader.parse("""
                #usda 1.0
                class "Shared" { def Sphere "In" {} }
                def Xform "W" (kind = "assembly") {
                    def "A" (inherits = </Shared> instanceable = true) {}
                    def "B" (inherits = </Shared> instanceable = true) {}
                    def "Off" (active = false) {}
                    def "Lost" (references = @gone.usda@) {}
                }
                """);
        SceneTree tree = SceneTree.of(Stage.open(layer, new LayerCache()));
        assertThat(tree.prims())
                .anySatisfy(line -> {
                    assertThat(line.path()).isEqualTo("/W/A");
                    assertThat(line.instance()).isTrue();
                    assertThat(line.prototype()).isEqualTo("/__Prototype_1");
                })
                .anySatisfy(line -> {
                    assertThat(line.path()).isEqualTo("/__Prototype_1/In");
                    assertThat(line.type()).isEqualTo("Sphere");
                })
                .anySatisfy(line -> {
                    assertThat(line.path()).isEqualTo("/W/Off");
                    assertThat(line.active()).isFalse();
                })
                .anySatisfy(line -> assertThat(line.references()).containsExactly("gone.usda"));
        assertThat(tree.prims().getFirst().path()).isEqualTo("/Shared");
        assertThat(tree.errors()).singleElement().satisfies(error -> {
            assertThat(error.path()).isEqualTo("/W/Lost");
            assertThat(error.chain()).hasSize(1);
        });
    }
}
