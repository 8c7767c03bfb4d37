package pantry.cli;

import java.util.List;

/** Adds commands to {@code pantry}; found through {@link java.util.ServiceLoader}, as the window's are. */
public interface CommandSource {
    /** Objects annotated with picocli's {@code Command}. */
    List<Object> commands();

    /**
     * Begins, beside the reading of the command line, what a command takes long to set up.
     *
     * @param arguments as they were given, not yet understood: there may be no such command, or it may be called wrongly
     */
    default void getReady(List<String> arguments) {}
}
