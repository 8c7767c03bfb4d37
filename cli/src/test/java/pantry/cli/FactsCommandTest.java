package pantry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is told of an asset besides its measures. */
class FactsCommandTest {
    @TempDir
    private Path folder;

    private Shell shell;
    private String library;

    @BeforeEach
    void shelve() throws IOException {
        shell = new Shell(folder);
        library = folder.resolve("library").toString();
        Path file = Files.writeString(folder.resolve("crate.usda"), """
                #usda 1.0
                ( defaultPrim = "Crate" metersPerUnit = 1 upAxis = "Y" )
                def Xform "Crate" ( prepend apiSchemas = ["PhysicsRigidBodyAPI", "PhysicsMassAPI"] ) {
                    float physics:mass = 20
                    custom string onOpenScript = "beep()"
                    def Cube "Box" {}
                }
                """);
        shell.done("new-library", library, "--name", "Stores");
        shell.done("receive", file.toString(), "--library", library, "--shelf", "Stores");
    }

    @AfterEach
    void end() {
        shell.close();
    }

    @Test
    void whatTravelsAlongIsToldWhereItIsAskedFor() {
        List<?> attached = (List<?>) shell.json("facts", "Stores/Crate", "--library", library, "--attached", "--json")
                .get("attached");
        assertThat(attached.toString())
                .contains("kind=physics", "object=Crate", "mass 20", "kind=script", "text=beep()");
        assertThat(shell.run("facts", "Stores/Crate", "--library", library, "--attached"))
                .isZero();
        assertThat(shell.printed()).contains("physics", "rigid body, mass", "script", "onOpenScript");
        assertThat(shell.json("facts", "Stores/Crate", "--library", library, "--json")
                        .get("attached"))
                .isNull();
    }

    @Test
    void ofAFileThatIsNoAssetItIsNotToldAndThatIsSaid() {
        assertThat(shell.run("facts", folder.resolve("crate.usda").toString(), "--attached"))
                .isEqualTo(2);
        assertThat(shell.said()).contains("--attached is of an asset");
    }
}
