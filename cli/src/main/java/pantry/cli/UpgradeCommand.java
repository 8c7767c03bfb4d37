package pantry.cli;

import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(name = "upgrade", description = "Bring a library of an older format to the newest.")
final class UpgradeCommand extends LibraryCommand<UpgradeCommand.Result> {
    @Option(names = "--back", description = "Take the upgrade back.")
    private boolean back;

    record Result(String library, int format) {}

    UpgradeCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Library now = back ? library().downgrade(output.progress()) : library().upgrade(output.progress());
        return new Result(now.info().name(), now.info().format());
    }

    @Override
    void tell(Result result) {
        output.line("%s has format %d", result.library(), result.format());
    }
}
