package pantry.base;

import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.util.concurrent.CancellationException;

/**
 * The border of a unit of work: whatever goes wrong within it, with whatever kind of throwable, costs only what it was
 * about, and is told in one line.
 */
public final class Failures {
    private Failures() {}

    /** Cleaning up, which may fail itself. */
    @FunctionalInterface
    public interface CleanUp {
        void run() throws IOException;
    }

    /** Cleans up after a failure; where that fails too, it is added to the failure and hides nothing. */
    public static void cleanUp(Throwable failure, CleanUp cleaning) {
        try {
            cleaning.run();
        } catch (IOException | RuntimeException second) {
            failure.addSuppressed(second);
        }
    }

    /**
     * What is told of a failure that concerns a file.
     *
     * @return the failure itself, where it is one of Pantry's own and names a file already
     * @throws CancellationException where that is what happened: it concerns no file, but all that is done
     */
    public static PantryException of(Path file, Throwable failure) {
        return switch (failure) {
            case CancellationException e -> throw e;
            case PantryException e ->
                e.file().isPresent()
                        ? e
                        : new PantryException(file.toString(), e.place().orElse(null), e.getMessage(), e);
            case FileSystemException e
            when e.getFile() != null && !e.getFile().equals(file.toString()) ->
                new PantryException(file, "cannot be read: " + e.getFile() + ": " + IoProblems.describe(e), e);
            case IOException e -> new PantryException(file, "cannot be read: " + IoProblems.describe(e), e);
            case StackOverflowError e -> new PantryException(file, "is nested too deeply", e);
            case OutOfMemoryError e -> new PantryException(file, "needs more memory than there is", e);
            default ->
                new PantryException(
                        file,
                        "holds something that is not understood: "
                                + (IoProblems.saysSomething(failure.getMessage())
                                        ? failure.getMessage()
                                        : "it is damaged, or of another kind than it says ("
                                                + failure.getClass().getSimpleName() + ")"),
                        failure);
        };
    }
}
