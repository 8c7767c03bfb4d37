package pantry.prep.inspect;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * All rules, in the order in which they are asked and fixed: what goes first is what others would otherwise find too.
 * docs/prep.md explains each.
 */
public final class Rules {
    public static final List<Rule> ALL = Stream.of(
                    LeftoverRules.ALL,
                    MeshRules.ALL,
                    MotionRules.ALL,
                    MaterialRules.ALL,
                    StructureRules.ALL,
                    TwinRules.ALL,
                    NameRules.ALL,
                    LibraryRules.ALL)
            .flatMap(List::stream)
            .toList();

    /** Rules whose answer depends on the other assets on the shelves. */
    static final List<String> OF_SHELVES = List.of("twin-asset", "odd-size");

    private Rules() {}

    /** The rule of an id. */
    public static Optional<Rule> find(String id) {
        return ALL.stream().filter(rule -> rule.id().equals(id)).findFirst();
    }
}
