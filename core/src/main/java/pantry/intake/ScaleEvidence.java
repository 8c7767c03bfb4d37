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
    /**
     * An asset of the same shape as an arrival: whoever has the thing already knows how large it is.
     *
     * @param height metres
     */
    public record Twin(String name, double height) {}

    public static ScaleEvidence of(Optional<Double> stated, Neighbours neighbours) {
        return new ScaleEvidence(stated, Optional.empty(), neighbours, Optional.empty());
    }
}
