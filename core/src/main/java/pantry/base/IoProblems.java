package pantry.base;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.ReadOnlyFileSystemException;
import org.jspecify.annotations.Nullable;

/** Says in a person's words what a file system reported. */
public final class IoProblems {
    private IoProblems() {}

    /** What is wrong with an image: what was said of it, where that says something. */
    public static String inImage(Exception problem) {
        String message = problem.getMessage();
        return problem instanceof IOException && message != null && message.startsWith("has ")
                ? message
                : "is a damaged image" + (saysSomething(message) ? ": " + message : "");
    }

    /**
     * Whether a message tells a person anything: it is there, is no bare class name or number, and does not end before
     * it comes to the point.
     */
    public static boolean saysSomething(@Nullable String message) {
        return message != null
                && !message.isBlank()
                && !message.strip().endsWith(":")
                && !message.strip().matches("null|-?\\d+|([a-z]+\\.)*[A-Za-z]*(Exception|Error)(: null)?")
                && !message.contains("cannot be cast")
                && !message.contains("because \"");
    }

    /** What happened, without the file's name. */
    public static String describe(Exception problem) {
        return switch (problem) {
            case NoSuchFileException e -> "there is no such file";
            case AccessDeniedException e -> "access is denied; check who may read and write there";
            case FileAlreadyExistsException e -> "it is already there";
            case NotDirectoryException e -> "it is not a folder";
            case ReadOnlyFileSystemException e -> "the place is read-only";
            case IOException e
            when e.getMessage() != null && e.getMessage().contains("No space left") -> "the disk is full";
            case IOException e
            when e.getMessage() != null && e.getMessage().contains("Read-only file system") -> "the place is read-only";
            default ->
                saysSomething(problem.getMessage())
                        ? String.valueOf(problem.getMessage())
                        : "its contents end early or are damaged";
        };
    }
}
