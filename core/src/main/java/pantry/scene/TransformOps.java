package pantry.scene;

import java.util.Optional;
import pantry.base.math.Matrix4;
import pantry.usd.PrimSpec;
import pantry.usd.schema.TransformComponents;
import pantry.usd.schema.Xforms;

/** Writes transforms as the usual move, turn and scale where they are such, and as one matrix otherwise. */
final class TransformOps {
    private TransformOps() {}

    /**
     * Gives a prim another transform. What stands behind the usual three ops, such as the correction of a foreign unit,
     * stays.
     *
     * @param before the prim's transform as it is
     */
    static void write(PrimSpec prim, Matrix4 before, Matrix4 after) {
        if (TransformComponents.isUsual(prim)) {
            Matrix4 further =
                    before.times(TransformComponents.read(prim).matrix().inverse());
            Optional<TransformComponents> usual =
                    TransformComponents.of(further.inverse().times(after));
            if (usual.isPresent()) {
                usual.get().write(prim);
                return;
            }
        }
        Xforms.clear(prim);
        Optional<TransformComponents> whole = TransformComponents.of(after);
        if (whole.isPresent()) {
            whole.get().write(prim);
        } else {
            Xforms.setMatrix(prim, after);
        }
    }
}
