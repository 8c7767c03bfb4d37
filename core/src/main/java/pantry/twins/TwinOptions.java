package pantry.twins;

/**
 * What counts as twins.
 *
 * @param tolerance how far a vertex may be from its like, in the unit of the meshes; 0 for a ten-thousandth of each
 *     mesh's own diagonal. It is never taken as less than what the meshes' numbers can tell apart where they stand.
 * @param mirrored whether left and right hands are twins
 * @param scaled whether large and small ones are
 */
public record TwinOptions(double tolerance, boolean mirrored, boolean scaled) {
    public static final TwinOptions USUAL = new TwinOptions(0, true, true);

    /** The usual tolerance, as a part of a mesh's diagonal. */
    static final double RELATIVE = 1e-4;

    public TwinOptions {
        if (!(tolerance >= 0) || Double.isInfinite(tolerance)) {
            throw new IllegalArgumentException("a tolerance is a length of 0 or more, not " + tolerance);
        }
    }

    public TwinOptions withTolerance(double newTolerance) {
        return new TwinOptions(newTolerance, mirrored, scaled);
    }
}
