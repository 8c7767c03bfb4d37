package pantry.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import org.junit.jupiter.api.Test;
import pantry.base.Progress;
import pantry.model.Weight;
import pantry.scene.Scene;

/** What nothing needs goes, and nothing that is seen changes. */
class LeftoversTest extends WithProject {
    private Path cluttered() throws IOException {
        return Files.writeString(
                project.resolve("cluttered.usda"), """
                #usda 1.0
                (
                    defaultPrim = "Yard"
                    metersPerUnit = 1
                    upAxis = "Y"
                )
                class "_Painted" { }
                over "_Mast" { int said = 1 }
                def Xform "Yard" {
                    def "Mast" (
                        references = @%s@
                        variants = { string size = "large" }
                    ) {
                        over "Gone" (active = false) { over "Deeper" { int a = 1 } }
                        over "Body" { over "Nothing" {} }
                    }
                    over "Empty" {}
                    def Scope "Materials" {
                        def Material "Used" {
                            token outputs:surface.connect = </Yard/Materials/Used/Shader.outputs:surface>
                            def Shader "Shader" { token outputs:surface }
                        }
                        def Material "Unused" {
                            token outputs:surface.connect = </Yard/Materials/Unused/Shader.outputs:surface>
                            def Shader "Shader" { token outputs:surface }
                        }
                        def Material "Base" { }
                        def Material "Derived" ( specializes = </Yard/Materials/Base> ) { }
                        def Material "InVariant" { }
                    }
                    def Mesh "Box" (
                        prepend variantSets = "paint"
                        variants = { string paint = "plain" }
                    ) {
                        rel material:binding = </Yard/Materials/Used>
                        rel other = </Yard/Materials/Derived>
                        variantSet "paint" = {
                            "plain" { }
                            "red" { rel material:binding = </Yard/Materials/InVariant> }
                        }
                    }
                }
                """.formatted(current(mast).entryLayer("v001")));
    }

    private List<Leftovers.Leftover> find(Path... files) {
        return Leftovers.find(reach(), List.of(files), Progress.NONE);
    }

    @Test
    void overridesMaterialsAndChoicesThatNothingNeedsAreFound() throws IOException {
        Path file = cluttered();
        assertThat(find(file))
                .extracting(each -> each.path().toString(), Leftovers.Leftover::kind)
                .containsExactlyInAnyOrder(
                        tuple("/_Mast", Leftovers.Kind.OVERRIDE),
                        tuple("/Yard/Mast", Leftovers.Kind.CHOICE),
                        tuple("/Yard/Mast/Gone", Leftovers.Kind.OVERRIDE),
                        tuple("/Yard/Mast/Body", Leftovers.Kind.EMPTY),
                        tuple("/Yard/Empty", Leftovers.Kind.OVERRIDE),
                        tuple("/Yard/Materials/Unused", Leftovers.Kind.MATERIAL));
        assertThat(find()).as("the other scenes have none").hasSize(6);
    }

    @Test
    void nothingThatIsSeenChangesAndAllIsTakenBack() throws IOException {
        Path file = cluttered();
        Scene scene = workshop.openScene(file);
        Weight before = Weight.of(scene.model());
        String text = Files.readString(file);
        ChangeRuns runs = new ChangeRuns(folder.resolve("changes"), Clock.systemUTC());
        ChangeRuns.Done done = runs.run("cleared", Leftovers.edits(find(file)), each -> "", Progress.NONE);
        assertThat(done.failed()).isEmpty();
        assertThat(Weight.of(workshop.openScene(file).model())).isEqualTo(before);
        assertThat(find(file)).isEmpty();
        assertThat(Files.readString(file))
                .doesNotContain("Gone", "Unused", "variants = {\n            string size")
                .contains("Derived", "InVariant", "class \"_Painted\"");
        runs.undo(done.id());
        assertThat(Files.readString(file)).isEqualTo(text);
    }

    @Test
    void whatOthersUseOrWhereSomethingIsMissingIsNotJudged() throws IOException {
        Path file = cluttered();
        Path user =
                Files.writeString(project.resolve("user.usda"), "#usda 1.0\n( subLayers = [@./cluttered.usda@] )\n");
        assertThat(find()).isEmpty();
        Files.delete(user);
        Files.writeString(
                file,
                Files.readString(file)
                        .replace("over \"Empty\"", "def \"Lost\" (references = @./gone.usda@) {}\n    over \"Empty\""));
        assertThat(find(file)).isEmpty();
    }

    @Test
    void whatIsSaidOfAClassThatIsInheritedInAnAssetStays() throws IOException {
        Path part = Files.writeString(project.resolve("part.usda"), """
                #usda 1.0
                ( defaultPrim = "Part" )
                class "_Part" { }
                def Xform "Part" ( inherits = </_Part> ) { }
                """);
        Path file = Files.writeString(project.resolve("scene.usda"), """
                #usda 1.0
                over "_Part" { int said = 1 }
                def "A" ( references = @./part.usda@ ) { }
                """);
        assertThat(find(file)).isEmpty();
        assertThat(find(part)).isEmpty();
    }
}
