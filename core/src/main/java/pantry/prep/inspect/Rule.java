package pantry.prep.inspect;

import java.util.ArrayList;
import java.util.List;
import pantry.workpiece.Subject;

/**
 * Something that can be asked of an asset.
 *
 * @param id as rule files and commands write it
 * @param title what is found, for a list
 * @param why it matters
 * @param severity where the rule file says nothing else
 * @param limits the figures that it goes by
 * @param question finds it
 */
public record Rule(
        String id, Group group, String title, String why, Severity severity, List<Limit> limits, Question question) {
    /** What rules are about. */
    public enum Group {
        STRUCTURE("Structure"),
        NAMES("Names"),
        LEFTOVERS("Leftovers"),
        MESHES("Meshes"),
        MOTIONS("Skeletons and motions"),
        TWINS("Twins"),
        MATERIALS("Materials and textures"),
        LIBRARY("Library");

        private final String title;

        Group(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /** Looks for it. */
    @FunctionalInterface
    interface Question {
        void ask(Subject subject, Limits limits, Findings found);
    }

    /**
     * A figure or text that a rule goes by.
     *
     * @param usual a number, or a text
     * @param meaning with its unit
     */
    public record Limit(String name, Object usual, String meaning) {}

    public Rule {
        limits = List.copyOf(limits);
    }

    static Rule of(String id, Group group, Severity severity, String title, String why, Question question) {
        return new Rule(id, group, title, why, severity, List.of(), question);
    }

    /** This rule with one more limit. */
    Rule limit(String name, Object usual, String meaning) {
        List<Limit> more = new ArrayList<>(limits);
        more.add(new Limit(name, usual, meaning));
        return new Rule(id, group, title, why, severity, more, question);
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Rule rule && rule.id.equals(id);
    }

    @Override
    public int hashCode() {
        return id.hashCode();
    }
}
