package pantry.desktop.session;

import java.nio.file.Path;
import java.util.Optional;

/** A file or folder that has got another name or place, with all that refers to it. */
public record MovedFile(Path from, Path to) {
    /** Where a file is now that was moved by that; empty where it was not. */
    public Optional<Path> now(Path file) {
        if (file.equals(from)) {
            return Optional.of(to);
        }
        return file.startsWith(from)
                ? Optional.of(to.resolve(from.relativize(file).toString()))
                : Optional.empty();
    }

    /** The way back. */
    public MovedFile back() {
        return new MovedFile(to, from);
    }
}
