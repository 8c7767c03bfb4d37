package pantry.prep.inspect;

import java.util.function.Consumer;
import pantry.workpiece.Tidying;

/**
 * What puts a finding right.
 *
 * @param label what is done, for a button
 * @param keeps what must be the same afterwards; it is checked
 * @param within how far a drawn vertex or surface may be from where it was, metres; 0 for what numbers of the model's
 *     size can tell apart
 * @param work does it
 */
public record Fix(String label, Keeps keeps, double within, Consumer<Tidying> work) {
    /** What a fix leaves as it is. */
    public enum Keeps {
        /** Each drawn vertex stays where it is, and none is added. */
        EVERY_VERTEX,
        /** Some are taken away; the others stay where they are. */
        THE_REST,
        /** The drawn surface stays, within a distance; its vertices may be others. */
        THE_SURFACE,
        /** Things are meant to move. */
        NOTHING
    }

    /** A fix that changes nothing that is drawn. */
    public static Fix of(String label, Consumer<Tidying> work) {
        return new Fix(label, Keeps.EVERY_VERTEX, 0, work);
    }

    /** A fix that takes something away. */
    public static Fix removing(String label, Consumer<Tidying> work) {
        return new Fix(label, Keeps.THE_REST, 0, work);
    }

    /** A fix that moves things. */
    public static Fix moving(String label, Consumer<Tidying> work) {
        return new Fix(label, Keeps.NOTHING, 0, work);
    }
}
