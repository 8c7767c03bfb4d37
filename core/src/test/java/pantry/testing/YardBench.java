package pantry.testing;

import java.nio.file.Path;
import java.time.Clock;
import pantry.base.Progress;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Slip;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.model.Model;
import pantry.workbench.Workbench;

/** A workbench with a library of one asset, in a temporary folder: what use cases start from. */
public final class YardBench implements AutoCloseable {
    private final Workbench workbench;
    private final Library library;
    private final Asset asset;

    /** Makes all three; the library is called Yard. */
    public YardBench(Path folder, Model model, Slip slip) {
        workbench = new Workbench("tester", Clock.systemUTC(), folder.resolve("index.sqlite"), WorkerLimits.USUAL);
        library = workbench.createLibrary(folder.resolve("library"), "Yard");
        asset = workbench.intake().shelve(model, slip, library, Progress.NONE).asset();
    }

    public Workbench workbench() {
        return workbench;
    }

    public Library library() {
        return library;
    }

    /** What was shelved. */
    public Asset asset() {
        return asset;
    }

    @Override
    public void close() {
        workbench.close();
    }
}
