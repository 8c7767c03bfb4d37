package pantry.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.DisplayName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.exchange.usd.MeshCache;
import pantry.usd.SdfPath;
import pantry.usd.compose.LayerCache;
import pantry.usd.compose.Stage;

/** The standard's order of strength (local, inherits, variants, references, payloads, specializes), as it is told. */
@DisplayName("What each layer says is told, the strongest first")
class ExplanationTest {
    @TempDir
    private Path folder;

    private Stage stage() throws Exception {
        Files.writeString(folder.resolve("post.usda"), """
                #usda 1.0
                ( defaultPrim = "Post" )
                def Xform "Post" (
                    variantSets = "paint"
                    variants = { string paint = "red" }
                )
                {
                    custom string stencil = "as delivered"
                    rel beside = </Post/Foot>
                    int[] numbers = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18]
                    float turn.timeSamples = { 1: 0, 2: 90 }
                    def Xform "Foot" {}
                    variantSet "paint" = {
                        "red" { string stencil = "red one" }
                        "plain" {}
                    }
                }
                """);
        Path scene = Files.writeString(folder.resolve("scene.usda"), """
                #usda 1.0
                ( defaultPrim = "Yard" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Yard" ( kind = "assembly" )
                {
                    def "Post" ( prepend references = @./post.usda@ )
                    {
                        string stencil = "Depot 4"
                    }
                }
                """);
        return Scene.open(scene, new LayerCache(), new MeshCache()).stage();
    }

    private static Explanation of(Stage stage, String path) {
        return Explanation.of(stage, SdfPath.of(path)).orElseThrow();
    }

    @Test
    @DisplayName("an attribute: the scene's word, then the file's own, then that of its variant")
    void attributes() throws Exception {
        Explanation stencil = of(stage(), "/Yard/Post.stencil");
        assertThat(stencil.what()).isEqualTo("attribute");
        assertThat(stencil.value()).isEqualTo("\"Depot 4\"");
        assertThat(stencil.opinions())
                .extracting(Explanation.Line::says)
                .satisfiesExactly(
                        first -> assertThat(first).contains("Depot 4"),
                        second -> assertThat(second).contains("as delivered"),
                        third -> assertThat(third).contains("red one"));
        assertThat(stencil.opinions())
                .extracting(Explanation.Line::path)
                .containsExactly("/Yard/Post.stencil", "/Post.stencil", "/Post{paint=red}.stencil");
        assertThat(stencil.opinions().getFirst().layer()).contains("scene.usda");
        assertThat(stencil.opinions())
                .extracting(Explanation.Line::arc)
                .containsExactly("root", "reference", "variant");
        assertThat(stencil.opinions().getLast().chain()).hasSizeGreaterThan(1);
    }

    @Test
    @DisplayName("a prim: its type, and the fields that each layer gives it")
    void prims() throws Exception {
        Explanation post = of(stage(), "/Yard/Post");
        assertThat(post.what()).isEqualTo("prim");
        assertThat(post.value()).isEqualTo("Xform");
        assertThat(post.opinions().getFirst().says()).startsWith("def").contains("references");
    }

    @Test
    @DisplayName(
            "a relationship by its targets where they are in the scene; long arrays by their length; samples by their number")
    void others() throws Exception {
        Stage stage = stage();
        Explanation beside = of(stage, "/Yard/Post.beside");
        assertThat(beside.what()).isEqualTo("relationship");
        assertThat(beside.value()).isEqualTo("</Yard/Post/Foot>");
        assertThat(beside.opinions().getFirst().says()).contains("</Post/Foot>");
        assertThat(of(stage, "/Yard/Post.numbers").value()).isEqualTo("19 elements");
        assertThat(of(stage, "/Yard/Post.turn").opinions().getFirst().says()).contains("2 time samples");
        assertThat(Explanation.of(stage, SdfPath.of("/Yard/Post.nothing"))).isEmpty();
        assertThat(Explanation.of(stage, SdfPath.of("/Yard/Gone"))).isEmpty();
    }
}
