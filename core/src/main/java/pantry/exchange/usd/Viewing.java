package pantry.exchange.usd;

import java.util.Set;
import pantry.usd.SdfPath;

/**
 * What is chosen to be shown of a stage while it is worked on.
 *
 * @param hidden prims that are left out with all below them
 * @param alone the only ones that are shown, with all below them; empty where all are
 * @param proxies whether placements are shown by their proxies, where they have one
 * @param otherwise the placements that are shown by their proxies although the others are not, or the other way round
 */
public record Viewing(Set<SdfPath> hidden, Set<SdfPath> alone, boolean proxies, Set<SdfPath> otherwise) {
    /** All, as it is rendered. */
    public static final Viewing WHOLE = new Viewing(Set.of(), Set.of(), false, Set.of());

    public boolean isByProxy(SdfPath placement) {
        return proxies != otherwise.contains(placement);
    }

    public boolean isLeftOut(SdfPath prim) {
        return hidden.contains(prim)
                || !alone.isEmpty() && alone.stream().noneMatch(each -> prim.startsWith(each) || each.startsWith(prim));
    }
}
