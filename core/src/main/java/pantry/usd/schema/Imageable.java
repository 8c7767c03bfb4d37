package pantry.usd.schema;

import java.util.Optional;
import pantry.usd.compose.Prim;

/**
 * What a prim inherits of whether it is seen (UsdGeomImageable): a prim below an invisible one is invisible; a purpose
 * holds for everything below that does not have one of its own.
 *
 * @param visible whether neither the prim nor one above it is invisible
 * @param purpose {@code default}, {@code render}, {@code proxy} or {@code guide}
 */
public record Imageable(boolean visible, String purpose) {
    /** What holds above all prims. */
    public static final Imageable ROOT = new Imageable(true, "default");

    /** What holds for a prim, by all those above it. Above a prototype nothing is known. */
    public static Imageable of(Prim prim) {
        return prim.parent().map(Imageable::of).orElse(ROOT).at(prim);
    }

    /** What holds for a prim below the one that this is of. */
    public Imageable at(Prim prim) {
        Optional<String> own = Values.token(prim, "purpose");
        boolean hidden =
                Values.token(prim, "visibility").filter("invisible"::equals).isPresent();
        return own.isEmpty() && !hidden ? this : new Imageable(visible && !hidden, own.orElse(purpose));
    }
}
