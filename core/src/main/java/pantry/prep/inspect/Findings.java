package pantry.prep.inspect;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.usd.SdfPath;

/** Collects what one rule finds. */
final class Findings {
    private final Rule rule;
    private final Severity severity;
    private final List<Finding> found = new ArrayList<>();
    private final Map<SdfPath, Integer> numbers = new HashMap<>();

    Findings(Rule rule, Severity severity) {
        this.rule = rule;
        this.severity = severity;
    }

    /** Something at a prim. */
    void add(SdfPath path, String message, @Nullable Fix fix) {
        add(path, message, List.of(path), fix);
    }

    /** Something at a prim that concerns others too. */
    void add(SdfPath path, String message, List<SdfPath> shown, @Nullable Fix fix) {
        int number = numbers.merge(path, 1, Integer::sum);
        String id = rule.id() + ":" + path + (number == 1 ? "" : "#" + number);
        found.add(new Finding(id, rule, severity, path, message, shown, Optional.ofNullable(fix)));
    }

    List<Finding> all() {
        return found;
    }
}
