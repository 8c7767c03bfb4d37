package pantry.scene;

import java.util.List;
import pantry.usd.SdfPath;

/**
 * What became of what was said of placements that show something else now.
 *
 * @param lost overrides of what is not there any more; they are kept
 * @param dropped variants that were chosen and are not offered any more, each with the placement's path; they are no longer
 *     chosen
 */
public record Replaced(List<SdfPath> lost, List<String> dropped) {
    public Replaced {
        lost = List.copyOf(lost);
        dropped = List.copyOf(dropped);
    }
}
