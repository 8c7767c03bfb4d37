package pantry.intake;

import java.util.Optional;

/**
 * What speaks for one unit of an arrival's figures or another; all of it is weighed.
 *
 * @param stated metres per unit, where the file says so
 * @param usual what files of its format most often mean, where they cannot say it (common practice)
 * @param neighbours what it would stand among
 * @param twin an asset of the same shape
 */
public record ScaleEvidence(
        Optional<Double> stated, Optional<LengthUnit> usual, Neighbours neighbours, Optional<Twin> twin) {
    /** Heights that differ by less are the same, in parts. */
    private static final double SAME_HEIGHT = 0.01;

    /**
     * An asset of the same shape as an arrival: whoever has the thing already knows how large it is.
     *
     * @param height metres
     */
    public record Twin(String name, double height) {}

    public static ScaleEvidence of(Optional<Double> stated, Neighbours neighbours) {
        return new ScaleEvidence(stated, Optional.empty(), neighbours, Optional.empty());
    }

    /** Whether a height is that of something on a shelf, but for rounding. */
    public static boolean isAsTall(double here, double there) {
        return Math.abs(here - there) <= SAME_HEIGHT * there;
    }
}
