package pantry.exchange.usd;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.model.Colour;
import pantry.model.Material;
import pantry.testing.Stages;

/** What is drawn of a stage, and with what. */
class UsdModelReaderTest {
    private static UsdModelReader.Result read(String text) {
        return UsdModelReader.read(Stages.of(text), new MeshCache());
    }

    private static List<String> drawn(UsdModelReader.Result result) {
        List<String> drawn = new ArrayList<>();
        result.model()
                .visit((owner, part, world) ->
                        drawn.add(owner.name() + " in " + part.material().title()));
        return drawn;
    }

    private static final String MATERIALS = """
            def Scope "Materials" {
                def Material "Red" {} def Material "Blue" {}
            }
            """;

    @Test
    void usesOfAPointInstancerAreDrawnWhereTheyStandAndShareTheirMesh() {
        UsdModelReader.Result result = read("""
                def PointInstancer "Flags" {
                    rel prototypes = </Flags/Flag>
                    int[] protoIndices = [0, 0, 0]
                    point3f[] positions = [(0, 0, 0), (10, 0, 0), (20, 0, 0)]
                    int64[] invisibleIds = [1]
                    def Cube "Flag" {}
                }
                """);
        assertThat(result.problems()).isEmpty();
        assertThat(result.model().meshes()).hasSize(1);
        assertThat(drawn(result)).hasSize(2);
        assertThat(result.model().bounds().max().x()).isCloseTo(21, within(1e-6));
        assertThat(result.model().trianglesStored()).isEqualTo(12);
        assertThat(result.model().trianglesDrawn()).isEqualTo(24);
    }

    @Test
    void anInstancerThatCannotBeReadIsToldAndTheRestIsDrawn() {
        UsdModelReader.Result result = read("""
                def PointInstancer "Flags" { rel prototypes = </No> int[] protoIndices = [0, 7] point3f[] positions = [(0, 0, 0)] }
                def PointInstancer "Gone" { rel prototypes = </No> int[] protoIndices = [0] point3f[] positions = [(0, 0, 0)] }
                def Cube "Block" {}
                """);
        assertThat(result.problems()).hasSize(2);
        assertThat(result.problems().getFirst()).contains("</Flags>", "1 positions for 2 instances");
        assertThat(result.problems().getLast()).contains("</Gone>", "</No>");
        assertThat(drawn(result)).containsExactly("Block in Plain");
    }

    @Test
    void aMaterialComesFromABindingAboveOrFromACollection() {
        UsdModelReader.Result result = read(MATERIALS + """
                def Xform "A" (apiSchemas = ["CollectionAPI:some"]) {
                    rel material:binding = </Materials/Red>
                    rel collection:some:includes = </A/Two>
                    rel material:binding:collection:some = [</A.collection:some>, </Materials/Blue>]
                    def Cube "One" {}
                    def Cube "Two" {}
                }
                """);
        assertThat(drawn(result)).containsExactly("One in Red", "Two in Blue");
    }

    @Test
    void instancesOfOneThingMayBeOfDifferentMaterials() {
        UsdModelReader.Result result = read(MATERIALS + """
                class "_Box" { def Cube "Inner" {} }
                def Xform "One" (inherits = </_Box> instanceable = true) { rel material:binding = </Materials/Red> }
                def Xform "Two" (inherits = </_Box> instanceable = true) { rel material:binding = </Materials/Blue> }
                def Xform "Three" (inherits = </_Box> instanceable = true) { rel material:binding = </Materials/Red> }
                """);
        assertThat(drawn(result)).containsExactly("One in Red", "Two in Blue", "Three in Red");
        assertThat(result.model().roots().get(0).children())
                .as("what is alike is shared")
                .isSameAs(result.model().roots().get(2).children());
    }

    @Test
    void withoutAMaterialTheDisplayColourIsShown() {
        UsdModelReader.Result result = read("""
                def Xform "A" {
                    color3f[] primvars:displayColor = [(1, 0, 0)]
                    def Cube "Inherits" {}
                    def Cube "Varies" { color3f[] primvars:displayColor = [(0, 0, 0), (1, 1, 1)] (interpolation = "vertex") }
                }
                def Cube "Plain" {}
                """);
        List<Colour> colours = new ArrayList<>();
        result.model().visit((owner, part, world) -> colours.add(part.material().base()));
        assertThat(colours).containsExactly(new Colour(1, 0, 0), new Colour(0.5f, 0.5f, 0.5f), Material.PLAIN.base());
    }

    @Test
    void whatIsBelowAnInvisiblePrimIsNotDrawnAndWhatStartsFromTheStageStandsThere() {
        UsdModelReader.Result result = read("""
                def Xform "A" {
                    double3 xformOp:translate = (100, 0, 0)
                    uniform token[] xformOpOrder = ["xformOp:translate"]
                    def Xform "Hidden" { token visibility = "invisible" def Cube "Below" {} }
                    def Cube "Free" { uniform token[] xformOpOrder = ["!resetXformStack!"] }
                }
                """);
        assertThat(drawn(result)).containsExactly("Free in Plain");
        assertThat(result.model().bounds().max().x()).isCloseTo(1, within(1e-9));
        assertThat(result.model().extras().hidden()).isEqualTo(1);
    }
}
