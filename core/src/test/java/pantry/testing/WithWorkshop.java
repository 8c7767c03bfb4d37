package pantry.testing;

import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import pantry.library.Library;

/** A test with a library of its own, in a folder that goes when it ends. */
public abstract class WithWorkshop {
    @TempDir
    protected Path folder;

    protected Workshop workshop;
    protected Library library;

    @BeforeEach
    void openWorkshop() {
        workshop = new Workshop(folder);
        library = workshop.library();
    }

    @AfterEach
    void closeWorkshop() {
        workshop.close();
    }
}
