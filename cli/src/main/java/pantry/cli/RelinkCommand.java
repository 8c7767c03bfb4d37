package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import pantry.project.Relinking;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "relink",
        description = {
            "Find what the files of projects name and what is not there, and name what was found instead.",
            "Assets are looked for in the libraries; other files by name in the folders that are searched. What is not"
                    + " sure, or one of several that are as likely, is told and left as it is."
        })
final class RelinkCommand extends ChangeCommand<RelinkCommand.Relinked> {
    @Option(
            names = "--search",
            paramLabel = "DIR",
            description = "A folder to look in, with all below it; may be given again.")
    private List<Path> searched = new ArrayList<>();

    /** @param score 0 to 1, how likely it is */
    record Candidate(String path, String reason, double score) {}

    /** @param path the prim or property that names it; empty for a sublayer */
    record Missing(String file, String path, String target, List<Candidate> candidates) {}

    /** A folder whose move would explain what is missing. */
    record Move(String from, String to, int count) {}

    record Relinked(List<Missing> missing, List<Move> moves, String id, List<Line> changes, List<Failed> failed)
            implements Changed {}

    RelinkCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Relinked work() {
        List<Relinking.Missing> missing = new Relinking(reach(), searched, output.progress()).missing();
        Result result = carryOut(Relinking.plan(missing));
        return new Relinked(
                missing.stream().flatMap(RelinkCommand::lines).toList(),
                Relinking.moves(missing).stream()
                        .map(move -> new Move(move.from().toString(), move.to().toString(), move.count()))
                        .toList(),
                result.id(),
                result.changes(),
                result.failed());
    }

    private static Stream<Missing> lines(Relinking.Missing each) {
        List<Candidate> candidates = each.candidates().stream()
                .map(candidate -> new Candidate(candidate.path().toString(), candidate.reason(), candidate.score()))
                .toList();
        return each.placesOrLayer().stream()
                .map(place ->
                        new Missing(each.file().toString(), place, each.target().toString(), candidates));
    }

    @Override
    void tell(Relinked result) {
        for (Missing each : result.missing()) {
            output.line("%s  %s  is missing: %s", each.file(), each.path(), each.target());
            each.candidates()
                    .forEach(found ->
                            output.line("    %3.0f %%  %s %s", 100 * found.score(), found.path(), found.reason()));
        }
        result.moves()
                .forEach(move ->
                        output.line("%,d would be mended: %s stands in %s", move.count(), move.from(), move.to()));
        super.tell(result);
    }
}
