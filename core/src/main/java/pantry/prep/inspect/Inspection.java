package pantry.prep.inspect;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.workpiece.Subject;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Workpiece;

/**
 * What was found in something.
 *
 * @param findings rule by rule, in the order of {@link Rules#ALL}
 * @param unanswered rules that could not be asked, each with the reason
 */
public record Inspection(List<Finding> findings, List<String> unanswered) {
    public Inspection {
        findings = List.copyOf(findings);
        unanswered = List.copyOf(unanswered);
    }

    /**
     * Asks all rules of a set.
     *
     * @param surroundings the library around it; without one, what is asked about the shelves is left out
     * @throws CancellationException where no longer wanted
     */
    public static Inspection of(
            Workpiece piece, RuleSet rules, Optional<Surroundings> surroundings, Progress progress) {
        Subject subject = new Subject(piece, surroundings, progress);
        List<Finding> findings = new ArrayList<>();
        List<String> unanswered = new ArrayList<>();
        for (int i = 0; i < Rules.ALL.size(); i++) {
            Rule rule = Rules.ALL.get(i);
            progress.step(rule.title(), (double) i / Rules.ALL.size());
            try {
                findings.addAll(ask(rule, subject, rules));
            } catch (PantryException e) {
                unanswered.add(rule.id() + ": " + e.line());
            }
        }
        return new Inspection(findings, unanswered);
    }

    /** What one rule finds. */
    public static List<Finding> ask(Rule rule, Subject subject, RuleSet rules) {
        Severity severity = rules.severity(rule, subject.workpiece().shelved());
        if (severity == Severity.OFF) {
            return List.of();
        }
        Findings found = new Findings(rule, severity);
        rule.question().ask(subject, new Limits(rule, rules.setting(rule).limits()), found);
        return found.all();
    }

    public List<Brief> brief() {
        return Brief.of(findings);
    }

    /** Those at least so severe. */
    public long count(Severity atLeast) {
        return findings.stream()
                .filter(finding -> finding.severity().compareTo(atLeast) >= 0)
                .count();
    }
}
