package pantry.base;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Copies of files in a folder that may hold others: the same content once, different contents under free names. */
public final class CopiedFiles {
    private CopiedFiles() {}

    /**
     * Copies a file into a folder, which is made where it is missing; nothing is copied where the same content stands
     * there under the same name.
     *
     * @param name that the copy gets; where another file has it already, a number is added before its ending
     * @return the copy
     */
    public static Path into(Path folder, Path file, String name) throws IOException {
        Files.createDirectories(folder);
        String ending = Names.ending(name);
        String suffix = ending.isEmpty() ? "" : name.substring(name.length() - ending.length() - 1);
        String stem = name.substring(0, name.length() - suffix.length());
        String sum = Sha256.of(file);
        String free = Names.free(stem, "-", candidate -> isOther(folder.resolve(candidate + suffix), sum));
        Path target = folder.resolve(free + suffix);
        if (!Files.exists(target)) {
            AtomicFiles.write(target, Files.readAllBytes(file));
        }
        return target;
    }

    private static boolean isOther(Path there, String sum) {
        try {
            return Files.exists(there) && !Sha256.of(there).equals(sum);
        } catch (IOException e) {
            // It cannot be read, so it is not known to be the same.
            return true;
        }
    }
}
