package pantry.workbench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import org.jspecify.annotations.Nullable;
import pantry.catalogue.Catalogue;
import pantry.exchange.FileReaders;
import pantry.exchange.MeshCache;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.library.Library;
import pantry.render.RenderCache;
import pantry.scene.Scene;
import pantry.usd.compose.LayerCache;

/**
 * What a running Pantry works with: readers, caches and the index, each made when first needed. Safe for use by several
 * threads; {@link #close} ends the worker process.
 */
public final class Workbench implements AutoCloseable {
    private final String who;
    private final Clock clock;
    private final Path index;
    private final WorkerLimits limits;
    private final RenderCache renderCache = new RenderCache();
    private final MeshCache meshCache = new MeshCache();
    private final LayerCache layerCache = new LayerCache();
    private @Nullable ForeignReader foreign;
    private @Nullable Catalogue catalogue;

    /**
     * @param who the name that journals give for changes
     * @param index the catalogue's file
     */
    public Workbench(String who, Clock clock, Path index, WorkerLimits limits) {
        this.who = who;
        this.clock = clock;
        this.index = index;
        this.limits = limits;
    }

    /** For the user of this machine, with the usual index and limits. */
    public static Workbench usual() {
        return new Workbench(
                System.getProperty("user.name", "unknown"),
                Clock.systemUTC(),
                Catalogue.usualFile(),
                WorkerLimits.ofEnvironment(System.getenv()));
    }

    /** The name that journals give for changes. */
    public String who() {
        return who;
    }

    public RenderCache renderCache() {
        return renderCache;
    }

    private synchronized ForeignReader foreign() {
        ForeignReader reader = foreign;
        if (reader == null) {
            try {
                reader = new ForeignReader(limits, Files.createTempDirectory("pantry-"));
            } catch (IOException e) {
                throw new UncheckedIOException("no folder for scratch files can be made", e);
            }
            foreign = reader;
        }
        return reader;
    }

    public Intake intake() {
        return new Intake(readers(), renderCache);
    }

    public FileReaders readers() {
        return new FileReaders(foreign());
    }

    public synchronized Catalogue catalogue() {
        Catalogue open = catalogue;
        if (open == null) {
            open = Catalogue.open(index);
            catalogue = open;
        }
        return open;
    }

    public Library openLibrary(Path folder) {
        return Library.open(folder, who, clock);
    }

    public Library createLibrary(Path folder, String name) {
        return Library.create(folder, name, who, clock);
    }

    public Scene openScene(Path file) {
        return Scene.open(file, layerCache, meshCache);
    }

    public Scene createScene(Path file) {
        return Scene.create(file, layerCache, meshCache);
    }

    @Override
    public synchronized void close() {
        if (foreign != null) {
            foreign.close();
            foreign = null;
        }
    }
}
