package pantry.exchange.format;

import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import pantry.model.Texture;

/** Collects, while a file is written, what it will not hold. */
public final class ExportNotes {
    private final Set<String> lines = new LinkedHashSet<>();
    private final Optional<Path> source;

    /** @param source the file that the model was read from, beside which its images were looked for */
    public ExportNotes(Optional<Path> source) {
        this.source = source;
    }

    /** Takes note of something, once. */
    public void left(String line) {
        lines.add(line);
    }

    /** Takes note of an image that was not found, and of where it was looked for. */
    public void missing(Texture texture) {
        missing(texture.name());
    }

    /** As above, by the path by which the file names it. */
    public void missing(String name) {
        String where = source.map(file -> file.toAbsolutePath().normalize().getParent())
                .map(folder -> ", looked for in " + folder + " by its path and by its name")
                .orElse("");
        left("image " + name + " is missing" + where + "; nothing refers to it in the new file");
    }

    /** One line each, in the order in which they came up. */
    public List<String> lines() {
        return List.copyOf(lines);
    }
}
