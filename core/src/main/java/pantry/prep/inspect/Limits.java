package pantry.prep.inspect;

import java.util.Map;

/** The figures that a rule goes by, as a rule set gives them. */
final class Limits {
    private final Rule rule;
    private final Map<String, Object> given;

    Limits(Rule rule, Map<String, Object> given) {
        this.rule = rule;
        this.given = given;
    }

    double number(String name) {
        return ((Number) value(name)).doubleValue();
    }

    String text(String name) {
        return value(name).toString();
    }

    private Object value(String name) {
        Object usual = rule.limits().stream()
                .filter(limit -> limit.name().equals(name))
                .findFirst()
                .orElseThrow(() -> new IllegalArgumentException(rule.id() + " has no limit " + name))
                .usual();
        return given.getOrDefault(name, usual);
    }
}
