package pantry.base;

import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.NotDirectoryException;
import java.nio.file.ReadOnlyFileSystemException;

/** Says in a person's words what a file system reported. */
public final class IoProblems {
    private IoProblems() {}

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
            default -> problem.getMessage() == null ? problem.getClass().getSimpleName() : problem.getMessage();
        };
    }
}
