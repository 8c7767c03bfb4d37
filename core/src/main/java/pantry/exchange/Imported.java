package pantry.exchange;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * A file as it was read, in its own unit and axes.
 *
 * @param unit metres per unit, where the file or its format says so
 * @param up the upward axis, where the file or its format says so
 * @param companions other files that belong to it, such as material libraries; textures are not among them
 */
public record Imported(Path file, Model model, Optional<Double> unit, Optional<Axis> up, List<Path> companions) {
    public Imported {
        companions = List.copyOf(companions);
    }
}
