package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import pantry.library.Asset;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

@Command(name = "release", description = "Give reserved assets free again.")
final class ReleaseCommand extends LibraryCommand<ReleaseCommand.Result> {
    @Parameters(arity = "1..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    record Result(List<String> released) {}

    ReleaseCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        List<String> released = new ArrayList<>();
        for (Asset asset : assets(what)) {
            library().reservations().release(asset);
            released.add(asset.address());
        }
        return new Result(released);
    }

    @Override
    void tell(Result result) {
        output.line(
                "%s %s free",
                String.join(", ", result.released()), result.released().size() == 1 ? "is" : "are");
    }
}
