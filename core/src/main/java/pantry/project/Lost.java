package pantry.project;

import java.nio.file.Path;
import java.util.List;
import pantry.usd.SdfPath;

/**
 * Something that a file says and that would lose what it is about.
 *
 * @param file the layer that says it
 * @param path the prim that would be gone, or of which a variant would be
 * @param detail the variant set and variant of a choice; empty otherwise
 * @param likely the prims that it may be about from then on, the likeliest first: those of the same shape, then those of
 *     the same name in the same placement
 */
public record Lost(Kind kind, Path file, SdfPath path, String detail, List<SdfPath> likely) {
    /** What says something about what would be gone. */
    public enum Kind {
        /** A prim that is overridden, and would not be there. */
        OVERRIDE,
        /** A variant that is chosen, and would not be there. */
        CHOICE
    }

    public Lost {
        likely = List.copyOf(likely);
    }
}
