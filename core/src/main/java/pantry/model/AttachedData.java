package pantry.model;

import java.util.Locale;

/**
 * Something that a version carries and that is not drawn: it is kept and goes along, is shown as text, and is never run.
 *
 * @param object the title of the prim that carries it
 * @param name of a property, or what the prim is
 * @param text its value, shortened where it is long
 */
public record AttachedData(Kind kind, String object, String name, String text) {
    /** What it is, in the order in which it is told. */
    public enum Kind {
        PHYSICS,
        SCRIPT,
        SOUND,
        DATA;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** The same, of something under another title. */
    public AttachedData of(String title) {
        return new AttachedData(kind, title, name, text);
    }
}
