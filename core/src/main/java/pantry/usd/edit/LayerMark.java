package pantry.usd.edit;

import org.jspecify.annotations.Nullable;

/** A moment in the history of a layer, to be told later which of its states was saved; of forks too. */
public final class LayerMark {
    /** The layer, by its number among those that are edited. */
    final int layer;

    /** The last change of it, or null where there is none. */
    final @Nullable Moment last;

    /** Tells a change from all others; in copies of a history it is the same. */
    static final class Moment {}

    LayerMark(int layer, @Nullable Moment last) {
        this.layer = layer;
        this.last = last;
    }
}
