package pantry.usd.compose;

import java.util.List;
import pantry.usd.SdfPath;

/**
 * Something that could not be composed as written.
 *
 * @param prim the prim of the stage at which it was noticed
 * @param asset the layer in question, as written; empty where none is
 * @param chain how composition got there: "layer path", outermost first
 */
public record CompositionProblem(Kind kind, SdfPath prim, String asset, String message, List<String> chain) {
    /** What is wrong. */
    public enum Kind {
        MISSING_LAYER,
        BROKEN_LAYER,
        MISSING_PRIM,
        CYCLE,
        WRONG_TYPE,
        OUTSIDE_TARGET,
        NOT_APPLIED;

        /** Whether something that a layer names is missing from the stage, rather than only a detail of it. */
        public boolean leavesOut() {
            return this == MISSING_LAYER || this == BROKEN_LAYER || this == MISSING_PRIM || this == CYCLE;
        }
    }

    public CompositionProblem {
        chain = List.copyOf(chain);
    }
}
