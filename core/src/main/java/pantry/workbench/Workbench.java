package pantry.workbench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import pantry.base.AtomicFiles;
import pantry.base.Progress;
import pantry.base.Scratch;
import pantry.catalogue.Catalogue;
import pantry.exchange.FileReaders;
import pantry.exchange.usd.MeshCache;
import pantry.exchange.worker.ForeignReader;
import pantry.exchange.worker.WorkerLimits;
import pantry.intake.Intake;
import pantry.intake.Presets;
import pantry.intake.Round;
import pantry.intake.UnpackedArchives;
import pantry.library.Asset;
import pantry.library.Library;
import pantry.prep.inspect.KeptInspections;
import pantry.prep.inspect.RuleSet;
import pantry.prep.inspect.ShelfInspection;
import pantry.project.ChangeRuns;
import pantry.project.UseIndex;
import pantry.render.RenderCache;
import pantry.scene.ImportSource;
import pantry.scene.Scene;
import pantry.usd.compose.LayerCache;
import pantry.workpiece.Workpiece;

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
    private final UnpackedArchives archives = new UnpackedArchives(() -> scratch("unpacked"));
    private final FileAccess access = new FileAccess(archives);
    /** Held while the index is opened, for which nothing else has to wait. */
    private final Object opening = new Object();

    private @Nullable Path scratch;
    private @Nullable ForeignReader foreign;
    private @Nullable Catalogue catalogue;
    private @Nullable Personal personal;
    private volatile @Nullable Settings settings;

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

    /** Tells the time for all that is written down. */
    public Clock clock() {
        return clock;
    }

    public RenderCache renderCache() {
        return renderCache;
    }

    private synchronized ForeignReader foreign() {
        ForeignReader reader = foreign;
        if (reader == null) {
            reader = new ForeignReader(limits, scratch("worker"));
            foreign = reader;
        }
        return reader;
    }

    /** A new folder for what does not outlive this. */
    private synchronized Path scratch(String name) {
        try {
            Path folder = scratch;
            if (folder == null) {
                folder = Scratch.folder("workbench");
                scratch = folder;
            }
            return Files.createTempDirectory(folder, name + "-");
        } catch (IOException e) {
            throw new UncheckedIOException("no folder for scratch files can be made", e);
        }
    }

    /** The archives that were unpacked. */
    public UnpackedArchives archives() {
        return archives;
    }

    /** What files may name. */
    public FileAccess access() {
        return access;
    }

    /** The user's round of receiving, written down beside the index; one that was interrupted is taken up. */
    public Round round() {
        return Round.open(index.resolveSibling("receiving.jsonl"));
    }

    /** Pictures of scenes, kept beside the index. */
    public ScenePictures scenePictures() {
        return new ScenePictures(index.resolveSibling("scene-pictures"), renderCache);
    }

    /** The user's own kept choices, beside the index. */
    public Presets presets() {
        return new Presets(index.resolveSibling("presets"));
    }

    public Intake intake() {
        return new Intake(readers(), renderCache);
    }

    public FileReaders readers() {
        return new FileReaders(foreign(), access::gate);
    }

    /** The layers that a file may be made of. */
    public LayerCache layers(Path file) {
        return layerCache.through(access.gate(file));
    }

    /** The index: the user's own, or the team's where {@code PANTRY_INDEX} names a database. */
    public Catalogue catalogue() {
        synchronized (opening) {
            Catalogue open = catalogue;
            if (open == null) {
                String team = System.getenv("PANTRY_INDEX");
                open = team == null || team.isBlank() ? Catalogue.open(index) : Catalogue.open(team);
                catalogue = open;
            }
            return open;
        }
    }

    /** What the files of projects use, kept beside the index of assets. */
    public UseIndex useIndex() {
        return new UseIndex(catalogue().database());
    }

    /** Changes over many files; what files were before is kept beside the index. */
    public ChangeRuns changeRuns() {
        return new ChangeRuns(index.toAbsolutePath().resolveSibling("changes"), clock);
    }

    private Path settingsFile() {
        return index.resolveSibling("settings.json");
    }

    /** What the user has set, as it was read or changed last. */
    public Settings settings() {
        Settings known = settings;
        if (known == null) {
            known = Settings.read(settingsFile());
            settings = known;
        }
        return known;
    }

    /**
     * Changes what the user has set, as the file says it now: another window may have changed it meanwhile.
     *
     * @throws PantryException where the file cannot be read or written
     */
    public synchronized void changeSettings(UnaryOperator<Settings> change) {
        Settings changed = change.apply(Settings.read(settingsFile()));
        changed.write(settingsFile());
        settings = changed;
    }

    /** What the user keeps for themselves. */
    public synchronized Personal personal() {
        Personal known = personal;
        if (known == null) {
            known = new Personal(index.resolveSibling("personal.json"));
            personal = known;
        }
        return known;
    }

    /** How a version of an asset looks. */
    public AssetPreview preview(Asset asset, String version) {
        return new AssetPreview(asset, version, layers(asset.entryLayer(version)), meshCache);
    }

    public Library openLibrary(Path folder) {
        return Library.open(folder, who, clock);
    }

    public Library createLibrary(Path folder, String name) {
        return Library.create(folder, name, who, clock);
    }

    public Scene openScene(Path file) {
        return Scene.open(file, layers(file), meshCache);
    }

    public Scene createScene(Path file) {
        return Scene.create(file, layers(file), meshCache);
    }

    /** A working copy of a file, to be inspected and cleaned. */
    public Workpiece workpiece(Path file, Progress progress) {
        return workpiece(file, UnaryOperator.identity(), progress);
    }

    /** A working copy of a file, whose figures are understood as a person says. */
    public Workpiece workpiece(Path file, UnaryOperator<Workpiece.Reading> reading, Progress progress) {
        return Workpiece.of(file, reading, prepSources(), progress);
    }

    /** A working copy of a version of an asset. */
    public Workpiece workpiece(Library library, Asset asset, String version) {
        return Workpiece.of(new Workpiece.Shelved(library, asset, version), prepSources());
    }

    /** A file that things are brought into scenes from. */
    public ImportSource source(Path file, ImportSource.Links links, Progress progress) {
        return ImportSource.of(file, links, prepSources(), progress);
    }

    /** What workpieces are read with. */
    public Workpiece.Sources prepSources() {
        return new Workpiece.Sources(readers(), layerCache, meshCache);
    }

    /** Inspections of assets, those that were made before included. */
    public ShelfInspection shelfInspection(Library library, RuleSet rules) {
        Path folder = index.toAbsolutePath().resolveSibling("inspections");
        return new ShelfInspection(library, rules, new KeptInspections(folder), prepSources());
    }

    @Override
    public synchronized void close() {
        if (foreign != null) {
            foreign.close();
            foreign = null;
        }
        synchronized (opening) {
            if (catalogue != null) {
                catalogue.close();
                catalogue = null;
            }
        }
        Path folder = scratch;
        if (folder != null) {
            scratch = null;
            try {
                AtomicFiles.deleteTree(folder);
            } catch (IOException e) {
                throw new UncheckedIOException("scratch files stay in " + folder, e);
            }
        }
    }
}
