package pantry.library;

/** An asset and the version of it that was just made. */
public record Published(Asset asset, String version) {}
