package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import pantry.base.math.Vec3;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.Value;
import pantry.usd.schema.TransformComponents;

@DisplayName("Overrides, told in sentences")
class OverrideSentencesTest extends WithWorkshop {
    private Scene scene;
    private SdfPath block;
    private SdfPath body;

    @BeforeEach
    void openYard() throws Exception {
        Files.createDirectories(folder.resolve("project"));
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
        block = Workshop.stand(scene, workshop.block("Block", "Parts", 1), 0);
        body = block.child("Body");
    }

    private List<String> told() {
        return scene.overrides().told(block).stream()
                .map(OverrideSentence::sentence)
                .toList();
    }

    private void adjusted(Vec3 move, Vec3 turn, Vec3 scale) {
        scene.parts().adjust(List.of(body), move, turn, scale);
    }

    @Test
    @DisplayName("moves go up, down, or along axes, in metres or millimetres")
    void moves() {
        adjusted(new Vec3(0, -0.25, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(told()).containsExactly("Body moved down by 0.25 m");
        scene.undo();
        adjusted(new Vec3(0, 0.003, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(told()).containsExactly("Body moved up by 3 mm");
        scene.undo();
        adjusted(new Vec3(1.5, 0, -2), Vec3.ZERO, Vec3.ONE);
        assertThat(told()).containsExactly("Body moved 1.5 m along x, −2 m along z");
        adjusted(new Vec3(-1.5, 0, 2), Vec3.ZERO, Vec3.ONE);
        assertThat(told()).as("back where it was").containsExactly("Body stands where its asset has it");
    }

    @Test
    @DisplayName("turns and sizes are told by axis, and evenly where they are even")
    void turnsAndSizes() {
        adjusted(Vec3.ZERO, new Vec3(0, -15, 0), Vec3.ONE);
        assertThat(told()).containsExactly("Body turned −15° about y");
        scene.undo();
        adjusted(Vec3.ZERO, Vec3.ZERO, new Vec3(0.5, 0.5, 0.5));
        assertThat(told()).containsExactly("Body sized × 0.5");
        scene.undo();
        adjusted(Vec3.ZERO, Vec3.ZERO, new Vec3(1, 2, 1));
        assertThat(told()).containsExactly("Body sized × 1, 2, 1");
    }

    @Test
    @DisplayName("what is hidden, shown, switched off, added, or of another value is told as such")
    void others() {
        scene.parts().show(List.of(body), false);
        assertThat(told()).containsExactly("Body is hidden");
        scene.parts().show(List.of(body), true);
        assertThat(told()).containsExactly("Body is shown");
        scene.parts().drop(List.of(body));
        scene.overrides().set(body.property("userProperties:serial"), "int", new Value.Int(7));
        assertThat(told()).containsExactly("Body has userProperties:serial 7");
        scene.overrides()
                .set(
                        body.property("userProperties:notes"),
                        "string",
                        new Value.Text(
                                "a very long note that nobody wants to read whole in a narrow list of sentences"));
        assertThat(told()).singleElement().asString().endsWith("…").hasSizeLessThan(160);
    }

    @Test
    @DisplayName("of a part that is no longer there, that is told")
    void gone() {
        scene.overrides().set(block.child("Gone").property("xformOp:translate"), "double3", new Value.Tuple(1, 0, 0));
        assertThat(told()).containsExactly("Gone is not there any more");
    }

    @Test
    @DisplayName("nothing is told of a placement of which nothing is said, nor of how it shares")
    void nothing() {
        assertThat(told()).isEmpty();
        scene.structure().breakOut(List.of(block));
        assertThat(told()).isEmpty();
        assertThat(scene.overrides().of(block)).isEmpty();
    }

    @Test
    @DisplayName("a placement that is turned and sized itself tells moves as the world sees them")
    void turnedPlacement() {
        scene.arranging()
                .move(java.util.Map.of(
                        block, new TransformComponents(new Vec3(3, 1, 0), new Vec3(0, 90, 0), new Vec3(2, 2, 2))));
        adjusted(new Vec3(1, 0, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(told()).containsExactly("Body moved 1 m along x");
        // By two to the metre of the placement, and turned: half a metre along its own z.
        Vec3 own = scene.parts().at(body).orElseThrow().placing().orElseThrow().move();
        assertThat(own.minus(new Vec3(0, 0, 0.5)).length()).isLessThan(1e-6);
    }

    @Test
    @DisplayName("in a file in centimetres with Z up, moves are metres of the world all the same")
    void foreignUnits() throws Exception {
        Files.writeString(folder.resolve("project/crate.usda"), """
                #usda 1.0
                ( defaultPrim = "Crate" metersPerUnit = 0.01 upAxis = "Z" )
                def Xform "Crate" {
                    def Cube "Lid" { double size = 50 double3 xformOp:translate = (0, 0, 100)
                        uniform token[] xformOpOrder = ["xformOp:translate"] }
                }
                """);
        SdfPath crate = scene.placements()
                .placeFile(
                        folder.resolve("project/crate.usda"),
                        Optional.empty(),
                        "Crate",
                        TransformComponents.ORIGIN,
                        Optional.empty());
        SdfPath lid = crate.child("Lid");
        scene.parts().adjust(List.of(lid), new Vec3(0, 0.2, 0), Vec3.ZERO, Vec3.ONE);
        assertThat(scene.overrides().told(crate))
                .extracting(OverrideSentence::sentence)
                .containsExactly("Lid moved up by 0.2 m");
        double top = scene.arranging().box(crate).max().y();
        // 1 m up, half of 0.5 m above that, and 0.2 m.
        assertThat(top).isCloseTo(1.45, org.assertj.core.api.Assertions.within(1e-6));
    }
}
