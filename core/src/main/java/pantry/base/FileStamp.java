package pantry.base;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;

/** When a file was last written, and how many bytes it has: two that differ are of a file that was changed between. */
public record FileStamp(FileTime written, long size) {
    public static FileStamp of(Path file) throws IOException {
        return new FileStamp(Files.getLastModifiedTime(file), Files.size(file));
    }
}
