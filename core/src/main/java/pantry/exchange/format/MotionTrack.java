package pantry.exchange.format;

import pantry.base.math.Vec3;
import pantry.motion.JointTransform;

/**
 * One component of an object's place over time.
 *
 * @param node the number of the object
 */
public record MotionTrack(int node, Part part, KeyCurve curve) {
    /** A component of a place. */
    public enum Part {
        MOVE(3),
        TURN(4),
        SCALE(3);

        private final int width;

        Part(int width) {
            this.width = width;
        }

        /** Numbers of a value. */
        public int width() {
            return width;
        }
    }

    /** The place of an object with this component as it is at a time; before the first key and after the last those hold. */
    JointTransform applied(JointTransform place, double time) {
        return applied(place, curve.at(time));
    }

    /** The place of an object with this component as it is at one of its keys. */
    JointTransform appliedKey(JointTransform place, int key) {
        return applied(place, curve.key(key));
    }

    private JointTransform applied(JointTransform place, double[] v) {
        return switch (part) {
            case MOVE ->
                new JointTransform(
                        new Vec3(v[0], v[1], v[2]), place.w(), place.x(), place.y(), place.z(), place.scale());
            case TURN -> new JointTransform(place.move(), v[3], v[0], v[1], v[2], place.scale());
            case SCALE ->
                new JointTransform(
                        place.move(), place.w(), place.x(), place.y(), place.z(), new Vec3(v[0], v[1], v[2]));
        };
    }
}
