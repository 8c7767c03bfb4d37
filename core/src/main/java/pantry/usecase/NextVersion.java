package pantry.usecase;

import pantry.library.Asset;
import pantry.library.VersionStatus;

/**
 * A version that is to be published.
 *
 * @param asset that gets it
 * @param note what is said of it; may be empty
 */
public record NextVersion(Asset asset, VersionStatus status, String note) {}
