package pantry.desktop.scenes;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import pantry.base.Progress;
import pantry.desktop.session.Desk;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/** Pinned placements tell how far they are behind. */
class NewerVersionsTest {
    @TempDir
    private Path folder;

    private Desk desk;
    private Asset mast;

    @BeforeEach
    void open() throws java.io.IOException {
        desk = new Desk(folder);
        mast = desk.shelve("Lattice mast", "Masts", 9);
        desk.open();
    }

    @AfterEach
    void close() {
        desk.close();
    }

    private Placement placed(Optional<String> version) {
        Scene scene = desk.session()
                .workbench()
                .createScene(folder.resolve("project/" + version.orElse("following") + ".usda"));
        SdfPath path = scene.placements().place(mast, version, "Mast", TransformComponents.ORIGIN, Optional.empty());
        return scene.placements().at(path).orElseThrow();
    }

    private void refresh() {
        desk.session().shelving().refresh(desk.library());
    }

    @Test
    void versionsAreCountedUpToTheReadyOneAndDraftsAreNot() {
        NewerVersions newer = new NewerVersions(desk.session());
        Placement pinned = placed(Optional.of("v001"));
        assertThat(newer.behind(pinned)).isZero();
        desk.library().goBack(mast, "v001", "once more", Progress.NONE);
        desk.library().goBack(mast, "v001", "and again", Progress.NONE);
        refresh();
        assertThat(newer.behind(pinned)).isEqualTo(2);
        assertThat(newer.behind(placed(Optional.empty()))).as("it follows").isZero();
        desk.library().setStatus(mast, "v003", VersionStatus.DRAFT);
        refresh();
        assertThat(newer.behind(pinned)).isEqualTo(1);
    }
}
