package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.project.Credits;
import pantry.project.HandOver;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "hand-over",
        description = {
            "Put the files of projects together with all that they use, for somebody who has neither them nor the libraries.",
            "All is there once, named by relative paths and pinned to the versions that are seen now; sealed as a bag"
                    + " (RFC 8493), with a page of credits and licences."
        })
final class HandOverCommand extends ReachCommand<HandOverCommand.Result> {
    @Option(names = "--out", required = true, paramLabel = "DIR", description = "A folder that is not there yet.")
    private Path folder = Path.of("");

    @Option(
            names = "--scene",
            paramLabel = "F",
            description = "Only this file of the projects, with what it uses; may be given again.")
    private List<Path> scenes = new ArrayList<>();

    @Option(names = "--packages", description = "Each scene as one package (.usdz).")
    private boolean packages;

    @Option(names = "--dry-run", description = "Only tell which files would be handed over.")
    private boolean dryRun;

    /**
     * @param scenes the files that were asked for, as they are in the folder
     * @param files how many there are in all, before they are packed
     * @param bytes how large these are together
     * @param missing what could not be taken along, and why
     * @param licencesMissing the assets of which no licence is given
     */
    record Result(
            String folder,
            List<String> scenes,
            int files,
            long bytes,
            List<String> missing,
            List<String> licencesMissing) {}

    HandOverCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        HandOver.Form form = packages ? HandOver.Form.PACKAGES : HandOver.Form.FOLDER;
        HandOver handOver = HandOver.plan(reach(), projects(), scenes, form, output.progress());
        List<Path> written = dryRun
                ? handOver.scenes()
                : handOver.write(folder, workbench.clock(), output.progress()).scenes();
        return new Result(
                folder.toString(),
                written.stream().map(Path::toString).toList(),
                handOver.files().size(),
                handOver.bytes(),
                handOver.missing().stream().map(HandOver.Missing::line).toList(),
                handOver.credits().stream()
                        .filter(Credits.Line::unknown)
                        .map(line -> line.asset().card().name())
                        .toList());
    }

    @Override
    void tell(Result result) {
        result.missing().forEach(line -> output.line("left out  %s", line));
        result.licencesMissing().forEach(name -> output.line("no licence  %s", name));
        output.line(
                "%,d scenes, %,d files of %,d bytes in all %s %s",
                result.scenes().size(), result.files(), result.bytes(), dryRun ? "would be in" : "in", result.folder());
    }
}
