package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.model.Weight;
import pantry.project.ProjectWeight.Amounts;
import pantry.project.ProjectWeight.Box;
import pantry.project.ProjectWeight.Kind;
import pantry.project.ProjectWeight.Measure;
import pantry.scene.Scene;

/** What scenes weigh is what they weigh when they are composed, and adds up. */
class ProjectWeightTest extends WithProject {
    private final AssetWeights weights = new AssetWeights();

    private ProjectWeight weigh() {
        return ProjectWeight.of(reach(), weights, Progress.NONE);
    }

    private static Box scene(ProjectWeight weight, Path file) {
        return weight.whole()
                .all()
                .filter(box -> box.kind() == Kind.SCENE && box.path().equals(file))
                .findFirst()
                .orElseThrow();
    }

    /** Checked against the composed scene, through another way: the engine's own reading of the whole stage. */
    private void weighsAsComposed(Path file) {
        Scene scene = workshop.openScene(file);
        Weight composed = scene.weight(scene.model());
        Amounts amounts = scene(weigh(), file).amounts();
        assertThat(amounts.trianglesDrawn()).isEqualTo(composed.trianglesDrawn());
        assertThat(amounts.trianglesStored()).isEqualTo(composed.trianglesStored());
    }

    @Test
    void scenesWeighWhatTheyWeighComposed() {
        weighsAsComposed(yard);
        weighsAsComposed(field);
    }

    @Test
    void prefabsWithinPrefabsAndFilesWithinFilesAreMultiplied() throws IOException {
        var block = workshop.prefab("Block", "Frames", frame);
        Path part = project.resolve("part.usda");
        scene(part, scene -> {
            place(scene, block, Optional.empty());
            place(scene, frame, Optional.empty());
            place(scene, mast, Optional.of("v001"));
        });
        Path city = project.resolve("city.usda");
        Files.writeString(city, """
                #usda 1.0
                ( defaultPrim = "City" metersPerUnit = 1 upAxis = "Y" )
                def Xform "City" (kind = "assembly") {
                    def "One" (references = @./part.usda@) {}
                    def "Two" (references = @./part.usda@) { double3 xformOp:translate = (5, 0, 0)
                        uniform token[] xformOpOrder = ["xformOp:translate"] }
                    def Mesh "Own" {
                        point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]
                        int[] faceVertexCounts = [4]
                        int[] faceVertexIndices = [0, 1, 2, 3]
                    }
                }
                """);
        weighsAsComposed(city);
        ProjectWeight weight = weigh();
        assertThat(weight.scenes()).as("what another uses is weighed within it").doesNotContain(part);
        Box box = scene(weight, city);
        assertThat(box.parts()).extracting(Box::name).containsExactly("Of its own", "part.usda");
        Box inside = box.parts().getLast();
        assertThat(inside.count()).isEqualTo(2);
        assertThat(inside.parts()).extracting(Box::name).containsExactly("Of its own", "Block", "Frame", "Mast");
        Box nested = inside.parts().get(1);
        assertThat(nested.parts()).singleElement().satisfies(frames -> {
            assertThat(frames.name()).isEqualTo("Frame");
            assertThat(frames.count()).isEqualTo(2);
            assertThat(frames.parts()).singleElement().satisfies(masts -> assertThat(masts.count())
                    .isEqualTo(2));
        });
    }

    @Test
    void eachBoxHoldsWhatIsInItAndTheWholeIsTheSum() {
        Box whole = weigh().whole();
        for (Measure measure : Measure.values()) {
            whole.all().filter(box -> !box.parts().isEmpty()).forEach(box -> {
                long inside = box.parts().stream()
                        .mapToLong(part -> part.amounts().of(measure))
                        .sum();
                assertThat(box.amounts().of(measure)).as(box.name()).isGreaterThanOrEqualTo(inside);
                if (box.kind() != Kind.ASSET) {
                    assertThat(box.amounts().of(measure)).as(box.name()).isEqualTo(inside);
                }
            });
        }
        assertThat(whole.amounts().placements())
                .as("two masts and two frames of one each in the yard, one mast in the field")
                .isEqualTo(2 + 2 + 2 + 1);
        assertThat(whole.amounts().fileBytes()).isPositive();
    }

    @Test
    void texturesWeighTheirPixels() throws IOException {
        Path image = project.resolve("sign.png");
        ImageIO.write(new BufferedImage(300, 200, BufferedImage.TYPE_INT_RGB), "png", image.toFile());
        Path sign = project.resolve("sign.usda");
        Files.writeString(sign, """
                #usda 1.0
                def Shader "One" { asset inputs:file = @./sign.png@ }
                def Shader "Two" { asset inputs:file = @./sign.png@ }
                """);
        Amounts amounts = scene(weigh(), sign).amounts();
        assertThat(amounts.textureBytes()).isEqualTo(300 * 200 * 4);
        assertThat(amounts.fileBytes()).isEqualTo(Files.size(image) + Files.size(sign));
    }

    @Test
    void whatLiesElsewhereOnTheMachineIsNotMeasured() throws IOException {
        Path outside = folder.resolve("outside.png");
        ImageIO.write(new BufferedImage(300, 200, BufferedImage.TYPE_INT_RGB), "png", outside.toFile());
        Path layer = Files.writeString(
                folder.resolve("outside.usda"), "#usda 1.0\ndef Mesh \"M\" { int[] faceVertexCounts = [3, 3] }\n");
        Path sign = project.resolve("sign.usda");
        Files.writeString(sign, """
                #usda 1.0
                ( subLayers = [@%s@] )
                def Shader "One" { asset inputs:file = @%s@ }
                """.formatted(layer, outside));
        Amounts amounts = scene(weigh(), sign).amounts();
        assertThat(amounts.textureBytes()).isZero();
        assertThat(amounts.trianglesStored()).isZero();
        assertThat(amounts.fileBytes()).isEqualTo(Files.size(sign));
    }

    @Test
    void oneVersionForTwoIsAmongTheWaysToMakeScenesLighter() {
        ProjectWeight weight = weigh();
        List<Savings.Saving> ways = Savings.of(weight, reach(), weights, Progress.NONE);
        assertThat(ways)
                .filteredOn(way -> way.kind() == Savings.Kind.ONE_VERSION)
                .singleElement()
                .satisfies(way -> {
                    assertThat(way.asset().card().name()).isEqualTo("Mast");
                    assertThat(way.scenes()).containsExactly(yard);
                    assertThat(way.saved()).as("the block of the other version").isEqualTo(12);
                    assertThat(way.share())
                            .isEqualTo(12.0 / weight.whole().amounts().trianglesStored());
                });
        assertThat(ways).isSortedAccordingTo((one, other) -> Double.compare(other.share(), one.share()));
    }

    @Test
    void oneFileIsWeighedByItself() {
        ProjectWeight weight = ProjectWeight.of(reach(), field, weights, Progress.NONE);
        assertThat(weight.scenes()).containsExactly(field);
        assertThat(weight.whole().amounts()).isEqualTo(scene(weigh(), field).amounts());
    }

    @Test
    void filesThatReferToEachOtherAndToThemselvesAreWeighed() throws IOException {
        for (String name : List.of("left", "right")) {
            Files.writeString(project.resolve(name + ".usda"), """
                    #usda 1.0
                    ( defaultPrim = "Side" metersPerUnit = 1 upAxis = "Y" )
                    def Xform "Side" (kind = "assembly") {
                        def "Other" (references = @./left.usda@) {}
                        def "More" (references = @./right.usda@) {}
                        def Mesh "Own" {
                            point3f[] points = [(0, 0, 0), (1, 0, 0), (1, 1, 0)]
                            int[] faceVertexCounts = [3]
                            int[] faceVertexIndices = [0, 1, 2]
                        }
                    }
                    """);
        }
        Path both = Files.writeString(project.resolve("both.usda"), """
                #usda 1.0
                ( defaultPrim = "Both" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Both" (kind = "assembly") { def "Left" (references = @./left.usda@) {} }
                """);
        assertThat(scene(weigh(), both).amounts().trianglesStored())
                .as("one of each")
                .isEqualTo(2);
    }
}
