package pantry.usecase;

import java.nio.file.Path;
import pantry.scene.Placement;
import pantry.scene.Scene;
import pantry.workbench.Workbench;

/** Makes a scene that begins with what another one has besides its placements: lights, cameras, drawers and focuses. */
public final class NewFromPattern {
    private final Workbench workbench;

    public NewFromPattern(Workbench workbench) {
        this.workbench = workbench;
    }

    /**
     * Makes the scene.
     *
     * @param pattern stays as it is
     * @param file where nothing may be yet
     * @throws pantry.base.PantryException where the pattern cannot be read or the file not be written
     */
    public Path run(Path pattern, Path file) {
        Scene scene = workbench.openScene(pattern);
        scene.structure()
                .remove(scene.placements().all().stream().map(Placement::path).toList());
        return scene.saveElsewhere(file);
    }
}
