package pantry.intake;

import pantry.base.math.Box3;
import pantry.base.math.Vec3;

/** Which point of an asset its placements hold it by: the origin of its layer. */
public enum Pivot {
    /** Where the file has it. */
    KEEP,
    /** In the middle of its footprint, on the ground. */
    BASE,
    /** In the middle of its box. */
    CENTRE;

    /** The point of the box that becomes the origin. */
    Vec3 of(Box3 box) {
        return switch (this) {
            case KEEP -> Vec3.ZERO;
            case BASE -> new Vec3(box.centre().x(), box.min().y(), box.centre().z());
            case CENTRE -> box.centre();
        };
    }
}
