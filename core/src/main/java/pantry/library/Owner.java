package pantry.library;

import java.util.Optional;

/**
 * The asset that a file belongs to.
 *
 * @param version the sealed version it is in; empty where it is the layer that followers reference
 */
public record Owner(Asset asset, Optional<String> version) {}
