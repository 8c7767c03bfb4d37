package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import pantry.base.Progress;
import pantry.catalogue.IndexDatabase;
import pantry.intake.Intake;
import pantry.library.Asset;
import pantry.library.VersionStatus;
import pantry.mesh.Shapes;
import pantry.scene.Scene;
import pantry.testing.WithWorkshop;
import pantry.testing.Workshop;
import pantry.usd.SdfPath;
import pantry.usd.schema.TransformComponents;

/**
 * A project with two scenes: the yard follows a mast, pins its first version and follows two frames that are made of it; the
 * field pins the mast's first version. The mast has three, of which the third is ready.
 */
abstract class WithProject extends WithWorkshop {
    private IndexDatabase database;
    UseIndex index;
    Asset mast;
    Asset frame;
    Path project;
    Path yard;
    Path field;

    @BeforeEach
    void build() throws IOException {
        database = IndexDatabase.open(folder.resolve("index.sqlite"));
        index = new UseIndex(database);
        mast = workshop.block("Mast", "Masts", 9);
        frame = workshop.prefab("Frame", "Frames", mast);
        project = Files.createDirectories(folder.resolve("Pröject “one”"));
        yard = project.resolve("yard.usda");
        field = Files.createDirectories(project.resolve("fields")).resolve("field 1.usda");
        scene(yard, scene -> {
            place(scene, mast, Optional.empty());
            place(scene, mast, Optional.of("v001"));
            place(scene, frame, Optional.empty());
            place(scene, frame, Optional.empty());
        });
        scene(field, scene -> place(scene, mast, Optional.of("v001")));
        for (int i = 0; i < 2; i++) {
            workshop.intake()
                    .publish(
                            Workshop.model("Mast", Shapes.block(1, 10 + i, 1)),
                            Workshop.slip("Mast", "Masts"),
                            new Intake.Next(current(mast), VersionStatus.READY, ""),
                            library,
                            Progress.NONE);
        }
    }

    @AfterEach
    void closeDatabase() {
        database.close();
    }

    Asset current(Asset asset) {
        return library.current(asset);
    }

    void scene(Path file, Consumer<Scene> change) {
        Scene scene = Files.exists(file) ? workshop.openScene(file) : workshop.newScene(file);
        change.accept(scene);
        scene.save();
    }

    static SdfPath place(Scene scene, Asset asset, Optional<String> version) {
        return scene.placements()
                .place(asset, version, asset.card().name(), TransformComponents.ORIGIN, Optional.empty());
    }

    Reach reach() {
        List<Project> projects = List.of(Project.open(project));
        index.refresh(projects, List.of(library), Progress.NONE);
        return new Reach(index, List.of(library), projects);
    }
}
