package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.PantryException;
import pantry.library.Library;
import pantry.prep.inspect.Brief;
import pantry.prep.inspect.Inspection;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;
import pantry.workbench.Workbench;
import pantry.workpiece.Workpiece;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(name = "inspect", description = "Find what is wrong with files or assets, or heavier than it need be.")
final class InspectCommand extends PrepCommand<InspectCommand.Result> {
    @Parameters(
            arity = "0..*",
            paramLabel = "FILE|ASSET",
            description = "Files; or, with --library, assets' ids or Shelf/Name. None for all of the library.")
    private List<String> what = List.of();

    @Option(names = "--rules", paramLabel = "R", description = "A rule file; usually the library's prep-rules.json.")
    private Optional<Path> rules = Optional.empty();

    @Option(
            names = "--write-rules",
            paramLabel = "F",
            description = "Write all rules with their limits as a file to begin with, and inspect nothing.")
    private Optional<Path> writeRules = Optional.empty();

    private int failed;

    /**
     * @param of as it was named
     * @param unanswered what could not be asked, and why
     */
    record Each(String of, List<Brief> findings, List<String> unanswered) {}

    /** @param findings of all; whose they are is told in {@code each} */
    record Result(List<Brief> findings, List<Each> each) {}

    InspectCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        RuleSet set = rules(rules);
        if (writeRules.isPresent()) {
            set.complete().write(writeRules.get());
            return new Result(List.of(), List.of());
        }
        List<Each> each = new ArrayList<>();
        if (what.isEmpty()) {
            Library library = library().orElseThrow(() -> wrongCall("Say what to inspect, or give a --library."));
            ShelfInspection inspection = workbench.shelfInspection(library, set);
            inspection.all(
                    (asset, found) -> each.add(new Each(asset.address(), found.findings(), found.unanswered())),
                    output.progress());
        } else {
            var surroundings = surroundings();
            for (String named : what) {
                try {
                    Workpiece piece = workpiece(named);
                    Inspection found = Inspection.of(piece, set, surroundings, output.progress());
                    each.add(new Each(named, found.brief(), found.unanswered()));
                } catch (PantryException e) {
                    if (what.size() == 1) {
                        throw e;
                    }
                    // The others are inspected all the same.
                    output.say("pantry inspect: " + e.line());
                    failed++;
                }
            }
        }
        return new Result(each.stream().flatMap(e -> e.findings().stream()).toList(), each);
    }

    @Override
    boolean done(Result result) {
        return failed == 0;
    }

    @Override
    void tell(Result result) {
        for (Each each : result.each()) {
            output.line("%s: %s", each.of(), each.findings().isEmpty() ? "nothing found" : "");
            for (Brief finding : each.findings()) {
                output.line(
                        "  %-11s %-20s %s%s",
                        finding.severity(), finding.rule(), finding.message(), finding.fixable() ? "" : "  (no fix)");
                output.line("              %s", finding.id());
            }
            each.unanswered().forEach(why -> output.line("  not asked   %s", why));
        }
        output.line("%s", Output.counted(result.findings().size(), "finding"));
    }
}
