package pantry.base;

import java.nio.file.Path;

/** Where a user's own files belong. */
public final class UserFolders {
    private UserFolders() {}

    /** What can be made anew: {@code PANTRY_CACHE}, or {@code pantry} in the user's cache folder. */
    public static Path cache() {
        String told = System.getenv("PANTRY_CACHE");
        if (told != null && !told.isBlank()) {
            return Path.of(told).toAbsolutePath();
        }
        String cache = System.getenv("XDG_CACHE_HOME");
        return (cache != null && !cache.isBlank() ? Path.of(cache) : Path.of(System.getProperty("user.home"), ".cache"))
                .resolve("pantry")
                .toAbsolutePath();
    }
}
