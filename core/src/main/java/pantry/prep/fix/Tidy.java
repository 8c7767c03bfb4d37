package pantry.prep.fix;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.model.Model;
import pantry.model.Weight;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Fix;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.Rule;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.Rules;
import pantry.usd.SdfPath;
import pantry.workpiece.Subject;
import pantry.workpiece.Surroundings;
import pantry.workpiece.Tidying;
import pantry.workpiece.Workpiece;

/**
 * Puts findings right in a workpiece, rule by rule, each rule as a change that can be undone. After each the drawn
 * vertices are compared with those before; a fix that did not keep what it promised is taken back.
 */
public final class Tidy {
    /** A fix may bring to light what another rule finds, as an empty group does; rules that disagree are not followed on. */
    private static final int MOST_ROUNDS = 4;

    /** What became of a finding. */
    public enum Outcome {
        FIXED,
        /** It was no longer there: something else had put it right. */
        SETTLED,
        /** The fix was taken back. */
        REFUSED
    }

    /**
     * A finding that was chosen.
     *
     * @param detail why it was refused; else empty
     */
    public record Done(Finding finding, Outcome outcome, String detail) {}

    /** What was done. */
    public record Result(List<Done> done, Weight before, Weight after) {
        public Result {
            done = List.copyOf(done);
        }

        public long count(Outcome outcome) {
            return done.stream().filter(each -> each.outcome() == outcome).count();
        }
    }

    private final Workpiece piece;
    private final RuleSet rules;
    private final Optional<Surroundings> surroundings;
    private final Progress progress;
    private final List<Done> done = new ArrayList<>();

    /** Chosen findings that are still to be met: by rule and path, whose prims may meanwhile be elsewhere. */
    private final Map<Rule, List<Wanted>> wanted = new LinkedHashMap<>();

    private static final class Wanted {
        final Finding finding;
        SdfPath path;

        Wanted(Finding finding) {
            this.finding = finding;
            this.path = finding.path();
        }
    }

    private Tidy(Workpiece piece, RuleSet rules, Optional<Surroundings> surroundings, Progress progress) {
        this.piece = piece;
        this.rules = rules;
        this.surroundings = surroundings;
        this.progress = progress;
    }

    /**
     * Applies the fixes of findings.
     *
     * @param chosen of an inspection of this workpiece as it is; those without a fix are left out
     * @throws java.util.concurrent.CancellationException where no longer wanted; what was done until then stays, and
     *     can be undone
     */
    public static Result apply(
            Workpiece piece,
            RuleSet rules,
            Optional<Surroundings> surroundings,
            List<Finding> chosen,
            Progress progress) {
        return new Tidy(piece, rules, surroundings, progress).done(tidy -> tidy.round(chosen));
    }

    /**
     * Which findings were chosen of all that there are.
     *
     * @param found by an inspection of a workpiece as it is
     * @param chosen some of these
     */
    public record Choice(List<Finding> found, List<Finding> chosen) {
        public Choice {
            found = found.stream().filter(Finding::fixable).toList();
            chosen = chosen.stream().filter(Finding::fixable).toList();
        }

        /** The rules all of whose findings were chosen, or all rules where all findings were. */
        private Predicate<Finding> later() {
            Set<String> ids = chosen.stream().map(Finding::id).collect(Collectors.toSet());
            Set<Rule> left = found.stream()
                    .filter(finding -> !ids.contains(finding.id()))
                    .map(Finding::rule)
                    .collect(Collectors.toSet());
            Set<Rule> whole = chosen.stream()
                    .map(Finding::rule)
                    .filter(rule -> !left.contains(rule))
                    .collect(Collectors.toSet());
            return finding -> left.isEmpty() || whole.contains(finding.rule());
        }
    }

    /**
     * Applies the fixes of the chosen findings. Of rules all of whose findings were chosen, what only comes to light by that
     * is put right too, at most a few times over; of all rules where everything was chosen.
     *
     * @throws java.util.concurrent.CancellationException as above
     */
    public static Result apply(
            Workpiece piece, RuleSet rules, Optional<Surroundings> surroundings, Choice choice, Progress progress) {
        return new Tidy(piece, rules, surroundings, progress).done(tidy -> {
            tidy.round(choice.chosen());
            tidy.rounds(choice.later());
        });
    }

    /** Puts right all that can be, also what only then comes to light; at most a few times over. */
    public static Result all(
            Workpiece piece,
            RuleSet rules,
            Optional<Surroundings> surroundings,
            Predicate<Finding> wanted,
            Progress progress) {
        return new Tidy(piece, rules, surroundings, progress).done(tidy -> tidy.rounds(wanted));
    }

    /** What a workpiece would weigh with the chosen findings put right; it stays as it is. */
    public static Weight preview(
            Workpiece piece, RuleSet rules, Optional<Surroundings> surroundings, Choice choice, Progress progress) {
        return apply(piece.copy(), rules, surroundings, choice, progress).after();
    }

    private Result done(Consumer<Tidy> work) {
        Weight before = piece.weight();
        work.accept(this);
        return new Result(done, before, piece.weight());
    }

    private void round(List<Finding> chosen) {
        wanted.clear();
        chosen.stream().filter(Finding::fixable).forEach(finding -> wanted.computeIfAbsent(
                        finding.rule(), rule -> new ArrayList<>())
                .add(new Wanted(finding)));
        for (int i = 0; i < Rules.ALL.size(); i++) {
            Rule rule = Rules.ALL.get(i);
            if (wanted.containsKey(rule)) {
                progress.step(rule.title(), (double) i / Rules.ALL.size());
                settle(rule);
            }
        }
    }

    /** Looks for what is wanted, and puts it right, until there is nothing of it but what was refused. */
    private void rounds(Predicate<Finding> which) {
        for (int round = 0; round < MOST_ROUNDS; round++) {
            Set<String> refused = done.stream()
                    .filter(each -> each.outcome() == Outcome.REFUSED)
                    .map(each -> each.finding().id())
                    .collect(Collectors.toSet());
            List<Finding> found = Inspection.of(piece, rules, surroundings, progress).findings().stream()
                    .filter(finding -> finding.fixable() && which.test(finding) && !refused.contains(finding.id()))
                    .toList();
            if (found.isEmpty()) {
                return;
            }
            round(found);
        }
    }

    private void settle(Rule rule) {
        List<Wanted> left = new ArrayList<>(wanted.getOrDefault(rule, List.of()));
        Subject subject = new Subject(piece, surroundings, progress);
        List<Finding> found = new ArrayList<>();
        List<Finding> asked = new ArrayList<>();
        for (Finding finding : Inspection.ask(rule, subject, rules)) {
            Wanted match = left.stream()
                    .filter(each -> each.path.equals(finding.path()) && finding.fixable())
                    .findFirst()
                    .orElse(null);
            if (match != null) {
                left.remove(match);
                found.add(finding);
                asked.add(match.finding);
            }
        }
        left.forEach(each -> done.add(new Done(each.finding, Outcome.SETTLED, "")));
        if (found.isEmpty()) {
            return;
        }
        Check check = Check.of(subject);
        Optional<String> fault = tryAll(rule, found, check);
        if (fault.isEmpty()) {
            asked.forEach(finding -> done.add(new Done(finding, Outcome.FIXED, "")));
        } else if (found.size() == 1) {
            done.add(new Done(asked.getFirst(), Outcome.REFUSED, fault.get()));
        } else {
            oneByOne(rule, asked);
        }
    }

    /** Finds out which of several fixes is the one that cannot be. */
    private void oneByOne(Rule rule, List<Finding> asked) {
        for (Finding finding : asked) {
            Subject subject = new Subject(piece, surroundings, progress);
            Optional<Finding> now = Inspection.ask(rule, subject, rules).stream()
                    .filter(each -> each.path().equals(finding.path()) && each.fixable())
                    .findFirst();
            if (now.isEmpty()) {
                done.add(new Done(finding, Outcome.SETTLED, ""));
                continue;
            }
            Optional<String> fault = tryAll(rule, List.of(now.get()), Check.of(subject));
            done.add(new Done(finding, fault.isEmpty() ? Outcome.FIXED : Outcome.REFUSED, fault.orElse("")));
        }
    }

    /** Applies fixes as one change, and takes it back where something is not kept. */
    private Optional<String> tryAll(Rule rule, List<Finding> findings, Check check) {
        Fix.Keeps keeps = findings.getFirst().fix().orElseThrow().keeps();
        double within = 0;
        for (Finding finding : findings) {
            within = Math.max(within, finding.fix().orElseThrow().within());
        }
        String name = rule.title() + (findings.size() == 1 ? "" : ", " + findings.size() + " times");
        try {
            Tidying made = piece.editor().change(name, edits -> {
                Tidying tidying = new Tidying(edits, piece, progress);
                for (Finding finding : findings) {
                    progress.step(rule.title(), -1);
                    finding.fix().orElseThrow().work().accept(tidying);
                }
                return tidying;
            });
            Model after = piece.model();
            Optional<String> fault = check.fault(keeps, within, after);
            if (fault.isPresent()) {
                piece.editor().undo();
                return fault;
            }
            wanted.values().forEach(all -> all.forEach(each -> each.path = made.at(each.path)));
            return Optional.empty();
        } catch (PantryException e) {
            return Optional.of(e.line());
        }
    }
}
