package pantry.scene;

import java.nio.file.Files;
import org.junit.jupiter.api.BeforeEach;
import pantry.library.Asset;
import pantry.testing.WithWorkshop;

/** A test with an empty scene in a project, and a block and a mast on the shelves. */
abstract class WithYard extends WithWorkshop {
    protected Scene scene;
    protected Asset block;
    protected Asset mast;

    @BeforeEach
    void openYard() throws Exception {
        Files.createDirectories(folder.resolve("project"));
        block = workshop.block("Block", "Parts", 1);
        mast = workshop.block("Mast", "Parts", 9);
        scene = workshop.newScene(folder.resolve("project/yard.usda"));
    }
}
