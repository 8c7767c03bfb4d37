package pantry.model;

import pantry.base.math.Matrix4;
import pantry.base.math.Vec3;

/** Which axis of a file points up. */
public enum Axis {
    Y(Matrix4.IDENTITY),
    Z(Matrix4.rotation(0, -90));

    private final Matrix4 toYUp;

    Axis(Matrix4 toYUp) {
        this.toYUp = toYUp;
    }

    /** Turns a file's space so that Y points up. */
    public Matrix4 toYUp() {
        return toYUp;
    }

    /** From this axis upwards and another unit into metres with Y up. */
    public Matrix4 toMetres(double metresPerUnit) {
        return toYUp.times(Matrix4.scale(new Vec3(metresPerUnit, metresPerUnit, metresPerUnit)));
    }
}
