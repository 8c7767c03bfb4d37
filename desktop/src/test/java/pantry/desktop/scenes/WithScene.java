package pantry.desktop.scenes;

import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.io.TempDir;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.scene.Scene;

/** A desk with a mast of 9 m and a crate of 1 m on its shelves, and the open, empty scene <i>Yard</i>. */
abstract class WithScene {
    @TempDir
    Path folder;

    Desk desk;
    Asset mast;
    Asset crate;
    ScenesModel model;

    @BeforeEach
    void openScene() throws IOException {
        desk = new Desk(folder);
        mast = desk.shelve("Mast", "Masts", 9);
        crate = desk.shelve("Crate", "Stores", 1);
        model = new ScenesModel(desk.session());
        desk.open();
        model.create("Yard");
    }

    @AfterEach
    void closeDesk() {
        desk.close();
    }

    Scene scene() {
        return model.sceneProperty().get().orElseThrow();
    }
}
