package pantry.usd;

/**
 * One variant of a variant set.
 *
 * @param contents what the variant says of the prim, its metadata included; live
 */
public record VariantSpec(String name, PrimSpec contents) {}
