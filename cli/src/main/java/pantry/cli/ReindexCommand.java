package pantry.cli;

import pantry.library.Library;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;

@Command(name = "reindex", description = "Make the index of a library anew from its folders.")
final class ReindexCommand extends LibraryCommand<ReindexCommand.Result> {
    record Result(String library, int assets, double seconds) {}

    ReindexCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        Library library = library();
        long start = System.nanoTime();
        workbench.catalogue().rebuild(library, output.progress());
        int assets =
                workbench.catalogue().finder(java.util.List.of(library)).items().size();
        return new Result(library.info().name(), assets, (System.nanoTime() - start) / 1e9);
    }

    @Override
    void tell(Result result) {
        output.line("%s: %d assets indexed in %.1f s", result.library(), result.assets(), result.seconds());
    }
}
