package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.ReportFile;
import pantry.project.Credits;
import pantry.project.Reach;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "credits",
        description = {
            "Tell who must be named for what projects or scenes use, what may not be used commercially, and whose licence is"
                    + " missing.",
            "Where a licence leaves a choice, its strictest part is reckoned with."
        })
final class CreditsCommand extends ReachCommand<CreditsCommand.Result> {
    @Option(
            names = "--scene",
            paramLabel = "F",
            description = "Only for this file of the projects; may be given again.")
    private List<Path> scenes = new ArrayList<>();

    @Option(names = "--out", paramLabel = "F", description = "Write it as a page or a table as well: F.html or F.csv.")
    private Optional<Path> out = Optional.empty();

    /**
     * @param named whether who made it must be named
     * @param missing whether no licence is given
     */
    record Line(
            String id,
            String name,
            String credit,
            String licence,
            boolean named,
            boolean nonCommercial,
            boolean missing,
            List<String> files) {}

    record Result(List<Line> assets) {}

    CreditsCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Reach reach = reach();
        List<Path> files =
                scenes.stream().map(file -> file.toAbsolutePath().normalize()).toList();
        for (Path file : files) {
            if (!reach.files().contains(file)) {
                throw new PantryException(file, "is no file of the projects");
            }
        }
        List<Credits.Line> credits = Credits.of(reach, files);
        out.ifPresent(target -> ReportFile.write(
                target,
                () -> Credits.table(credits).csv(),
                () -> Credits.page(Names.stem(String.valueOf(target.getFileName())), credits)));
        return new Result(credits.stream()
                .map(line -> new Line(
                        line.asset().card().id(),
                        line.asset().card().name(),
                        line.asset().card().credit(),
                        line.asset().card().licence(),
                        line.mustBeNamed(),
                        line.nonCommercial(),
                        line.unknown(),
                        line.files().stream().map(Path::toString).toList()))
                .toList());
    }

    @Override
    void tell(Result result) {
        for (Line line : result.assets()) {
            output.line(
                    "%-32s %-16s %s%s",
                    line.name(),
                    line.missing() ? "no licence" : line.licence(),
                    line.credit(),
                    (line.named() ? "  (to be named)" : "") + (line.nonCommercial() ? "  (not commercially)" : ""));
        }
        output.line(
                "%,d assets: %,d to be named, %,d not for commercial use, %,d without a licence",
                result.assets().size(),
                result.assets().stream().filter(Line::named).count(),
                result.assets().stream().filter(Line::nonCommercial).count(),
                result.assets().stream().filter(Line::missing).count());
    }
}
