package pantry.usd.binary;

/** The kinds of specs by their numbers in the format. */
final class SpecTypes {
    static final int ATTRIBUTE = 1;
    static final int PRIM = 6;
    static final int ROOT = 7;
    static final int RELATIONSHIP = 8;
    static final int VARIANT = 10;
    static final int VARIANT_SET = 11;

    private SpecTypes() {}
}
