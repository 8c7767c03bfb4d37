package pantry.catalogue;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** The facts that a search can ask for, as {@code key:value}. */
enum Key {
    KIND,
    TAG,
    SHELF,
    NAME,
    STATUS,
    LICENCE,
    CREDIT,
    NOTES,
    MATERIAL,
    PART,
    FIELD,
    USES,
    COLOUR,
    MOTION,
    BLENDSHAPE,
    ID,
    TRIANGLES,
    VERSIONS,
    BONES,
    WIDTH,
    HEIGHT,
    DEPTH,
    SIZE,
    CHANGED;

    /** What is measured, where the fact is a number. */
    enum Measure {
        NONE,
        COUNT,
        LENGTH,
        DAY
    }

    String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    Measure measure() {
        return switch (this) {
            case TRIANGLES, VERSIONS, BONES -> Measure.COUNT;
            case WIDTH, HEIGHT, DEPTH, SIZE -> Measure.LENGTH;
            case CHANGED -> Measure.DAY;
            default -> Measure.NONE;
        };
    }

    static Optional<Key> of(String word) {
        return Arrays.stream(values()).filter(key -> key.word().equals(word)).findFirst();
    }

    /** All of them, for a person. */
    static String all() {
        return Arrays.stream(values()).map(Key::word).collect(Collectors.joining(", "));
    }
}
