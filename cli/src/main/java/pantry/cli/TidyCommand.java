package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.Names;
import pantry.model.Weight;
import pantry.prep.fix.Tidy;
import pantry.prep.inspect.Finding;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.Rules;
import pantry.prep.tools.FoundImages;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "tidy", description = "Put findings right in a working copy, and save or publish it.")
final class TidyCommand extends PrepCommand<TidyCommand.Result> {
    @Parameters(paramLabel = "FILE|ASSET", description = "A file; or, with --library, an asset's id or Shelf/Name.")
    private String what = "";

    @ArgGroup(exclusive = true, multiplicity = "1")
    private Choice choice = new Choice();

    static final class Choice {
        @Option(names = "--fix", paramLabel = "ID", description = "A finding's id, or a rule's for all that it finds.")
        private List<String> fix = List.of();

        @Option(names = "--all", description = "All that can be put right.")
        private boolean all;
    }

    @Option(
            names = "--images",
            paramLabel = "FOLDER",
            description = "Look there, and below it, for images that are not where they are named; first of all.")
    private Optional<Path> images = Optional.empty();

    @Option(names = "--rules", paramLabel = "R", description = "A rule file; usually the library's prep-rules.json.")
    private Optional<Path> rules = Optional.empty();

    @Option(names = "--dry-run", description = "Say what would change and weigh, and save nothing.")
    private boolean dryRun;

    @Mixin
    private Target target = new Target();

    record Line(String id, String outcome, String detail) {}

    record Result(List<Line> done, Weight before, Weight after, Saved saved) {}

    TidyCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Workpiece piece = workpiece(what);
        if (!dryRun) {
            requireTarget(target, piece);
        }
        images.ifPresent(folder -> output.say("pantry: "
                + FoundImages.take(piece, List.of(folder), output.progress()).says()));
        RuleSet set = rules(rules);
        var surroundings = surroundings();
        Tidy.Result result;
        if (choice.all) {
            result = Tidy.all(piece, set, surroundings, finding -> true, output.progress());
        } else {
            List<Finding> found =
                    Inspection.of(piece, set, surroundings, output.progress()).findings();
            result = Tidy.apply(piece, set, surroundings, new Tidy.Choice(found, chosen(found)), output.progress());
        }
        List<Line> lines = result.done().stream()
                .map(done -> new Line(
                        done.finding().id(), done.outcome().name().toLowerCase(java.util.Locale.ROOT), done.detail()))
                .toList();
        long fixed = result.count(Tidy.Outcome.FIXED);
        Saved saved = dryRun ? Saved.NOTHING : save(piece, target, "tidied: " + Names.counted(fixed, "finding"));
        return new Result(lines, result.before(), result.after(), saved);
    }

    private List<Finding> chosen(List<Finding> found) {
        List<Finding> chosen = new ArrayList<>();
        for (String id : choice.fix) {
            List<Finding> these = found.stream()
                    .filter(finding ->
                            finding.id().equals(id) || finding.rule().id().equals(id))
                    .toList();
            if (these.isEmpty() && Rules.find(id).isEmpty()) {
                throw wrongCall("There is no finding and no rule " + id + "; see pantry inspect.");
            }
            List<Finding> fixable = these.stream().filter(Finding::fixable).toList();
            if (!these.isEmpty() && fixable.isEmpty()) {
                output.say("pantry: " + id + ": for this there is no fix; it is for a person to decide");
            }
            chosen.addAll(fixable);
        }
        return chosen;
    }

    @Override
    void tell(Result result) {
        for (Line line : result.done()) {
            output.line("  %-8s %s%s", line.outcome(), line.id(), line.detail().isEmpty() ? "" : ": " + line.detail());
        }
        tell(result.before(), result.after());
        tell(result.saved());
    }

    @Override
    boolean done(Result result) {
        return result.done().stream().noneMatch(line -> line.outcome().equals("refused"));
    }
}
