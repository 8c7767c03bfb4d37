package pantry.library;

import java.util.Optional;

/**
 * An asset and the version of it that was just made.
 *
 * @param followed the version that was ready before; empty where none was
 */
public record Published(Asset asset, String version, Optional<String> followed) {}
