package pantry.cli;

import java.util.List;

/** Adds commands to {@code pantry}; found through {@link java.util.ServiceLoader}, as the window's are. */
public interface CommandSource {
    /** Objects annotated with picocli's {@code Command}. */
    List<Object> commands();
}
