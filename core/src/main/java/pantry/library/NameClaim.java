package pantry.library;

/**
 * A name that is taken for an asset that is being shelved, until that is done or given up.
 *
 * @param shelf the shelf's path
 */
public record NameClaim(String shelf, String name) {}
